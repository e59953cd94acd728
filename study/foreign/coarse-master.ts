// The same preparations against masters of few, large triangles, as models come out of design programs.
import { MeshoptSimplifier } from 'meshoptimizer';
import type { Master } from '#core/master/master.ts';
import { makeMesh, vertexCount } from '#core/mesh/mesh.ts';
import type { NamedCase } from './case.ts';
import { masterOf, writtenMaster } from './otherwise.ts';

/** Share of the triangles that is left, and mm by which the surface may move. */
const LEFT = 0.2;
const WITHIN = 0.01;

/** A master with a fifth of its triangles, its surface where it was to a hundredth of a millimetre. */
export function coarser(m: Master): Master {
  const written = writtenMaster(m);
  const { mesh, parts } = written.arch;
  const [kept] = MeshoptSimplifier.simplify(
    Uint32Array.from(mesh.triangles),
    Float32Array.from(mesh.positions),
    3,
    3 * Math.floor((LEFT * mesh.triangles.length) / 3),
    WITHIN,
    ['ErrorAbsolute', 'LockBorder'],
  );
  const place = new Int32Array(vertexCount(mesh)).fill(-1);
  const positions: number[] = [];
  const labels: number[] = [];
  const triangles = kept.map((v) => {
    if (place[v] < 0) {
      place[v] = labels.length;
      positions.push(...mesh.positions.subarray(3 * v, 3 * v + 3));
      labels.push(parts[v]);
    }
    return place[v];
  });
  return masterOf({
    ...written,
    arch: { mesh: makeMesh('master', Float64Array.from(positions), Uint32Array.from(triangles)), parts: Uint8Array.from(labels) },
  });
}

/** One case of each construction and kind. */
const AGAIN = [
  'loft molar26 chamfer 0.8',
  'swept round end',
  'level set partial canine',
  'level set onlay molar',
  'implicit incisor21 crown, level cut',
  'implicit molar36 MOD',
];

export function againstCoarseMasters(cases: readonly NamedCase[]): NamedCase[] {
  return cases
    .filter((c) => AGAIN.includes(c.name))
    .map((c) => ({
      name: `${c.name}, coarse master`,
      make: () => {
        const made = c.make();
        return { ...made, name: `${c.name}, coarse master`, master: coarser(made.master) };
      },
    }));
}
