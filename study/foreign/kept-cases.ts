// Making a foreign case takes ten times as long as measuring it: its scan, its master made ready and its truths are kept.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fromKept, type KeptMaster, keptOf } from '#core/master/kept.ts';
import { type Mesh, makeMesh } from '#core/mesh/mesh.ts';
import { packed, unpacked } from '../../src/files/packed.ts';
import type { ForeignCase, NamedCase, Truth } from './case.ts';

interface KeptCase extends Omit<ForeignCase, 'master' | 'truths' | 'abutment' | 'scan'> {
  readonly scan: Pick<Mesh, 'positions' | 'triangles'>;
  readonly master: KeptMaster;
  readonly truths: readonly Truth[];
  readonly abutment: { readonly kind: ForeignCase['kind']; readonly master: KeptMaster } | null;
}

/** The case out of a folder, where it was made before; made and written there otherwise. Take a new folder after a change to shapes, scans, truths or masters. */
export function caseIn(folder: string, entry: NamedCase): ForeignCase {
  const file = path.join(folder, `${createHash('sha256').update(entry.name).digest('hex').slice(0, 20)}.case`);
  if (existsSync(file)) return revived(unpacked(new Uint8Array(readFileSync(file))) as KeptCase);
  const made = entry.make();
  const truths = made.truths();
  const { scan, master, abutment = null, ...rest } = made;
  const kept: KeptCase = {
    ...rest,
    scan: { positions: scan.positions, triangles: scan.triangles },
    master: keptOf(master),
    truths,
    abutment: abutment && { kind: abutment.kind, master: keptOf(abutment.master) },
  };
  mkdirSync(folder, { recursive: true });
  writeFileSync(file, packed(kept));
  return { ...made, truths: () => truths };
}

const revived = ({ scan, master, truths, abutment, ...rest }: KeptCase): ForeignCase => ({
  ...rest,
  scan: makeMesh('scanner', scan.positions, scan.triangles),
  master: fromKept(master),
  truths: () => truths,
  ...(abutment && { abutment: { kind: abutment.kind, master: fromKept(abutment.master) } }),
});
