import { expect, it } from 'vitest';
import { hostileFile, outcome } from '../helpers/fuzz.ts';

// The long run is `npm run fuzz`, its figures are in docs/reliability.md.
it('a thousand broken files of every format are read or refused by a fault, and nothing else', async () => {
  const faults = new Map<string, number>();
  for (let seed = 1; seed <= 1000; seed++) {
    const what = await outcome(hostileFile(seed)).catch((e: Error) => {
      throw new Error(`seed ${seed}: ${e.message}`);
    });
    faults.set(what, (faults.get(what) ?? 0) + 1);
  }
  // All ways out are met: what breaks nothing is read, and the faults are not all of one kind.
  expect([...faults.keys()]).toEqual(
    expect.arrayContaining(['read', 'file.syntax', 'file.truncated', 'file.archive', 'file.unknown', 'scan.nan', 'scan.scale']),
  );
});
