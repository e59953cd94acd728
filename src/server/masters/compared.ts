import type { Compared } from '#contract/master-draft.ts';
import type { Master } from '#core/master/master.ts';
import type { Mesh } from '#core/mesh/mesh.ts';
import { measure } from '#core/pipeline.ts';
import { Fault } from '#core/result/fault.ts';
import type { Reading } from '#core/result/reading.ts';
import type { ComparedScan } from '../children/tasks.ts';

type Result = Compared['scans'][number];

/** One attempt's scan measured on the old and on the new version of its master. */
export async function comparedScan(s: ComparedScan, read: () => Promise<Mesh<'scanner'>>, before: Master, after: Master): Promise<Result> {
  try {
    const scan = await read();
    const [a, b] = [before, after].map((m) => measure(s.preparation, scan, m, { tooLargeBy: s.tooLargeBy }).readings);
    return { name: s.name, fault: null, ...differences(a, b) };
  } catch (e) {
    if (!(e instanceof Fault)) throw e;
    return { name: s.name, fault: e.message, readings: 0, differ: [], lost: 0, gained: 0 };
  }
}

/** Readings of both that differ by more than their uncertainties together, and those that only one of the two could give. */
export function differences(before: readonly Reading[], after: readonly Reading[]): Omit<Result, 'name' | 'fault'> {
  const key = (r: Reading): string => `${r.name}|${r.zone}|${r.stat}`;
  const later = new Map(after.map((r) => [key(r), r]));
  const differ: Result['differ'] = [];
  let [readings, lost, gained] = [0, 0, 0];
  for (const a of before) {
    const b = later.get(key(a));
    if (a.value !== null && b?.value !== undefined && b.value !== null) {
      readings++;
      const U = Math.hypot(a.U, b.U);
      if (Math.abs(b.value - a.value) > U)
        differ.push({ name: a.name, zone: a.zone, stat: a.stat, unit: a.unit, before: a.value, after: b.value, U });
    } else if (a.value !== null) lost++;
    else if (b?.value !== undefined && b.value !== null) gained++;
  }
  differ.sort((p, q) => Math.abs(q.after - q.before) / q.U - Math.abs(p.after - p.before) / p.U);
  return { readings, differ, lost, gained };
}
