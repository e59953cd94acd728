import Module from 'manifold-3d';
import type { Vec3 } from '#core/linalg/vec.ts';
import { PART } from '#core/master/master.ts';
import type { Sheet } from './scanner.ts';

/** The solid kernel, once for all families of bodies. */
export const m3 = await Module();
m3.setup();
export const solids = m3.Manifold;
export type Solid = InstanceType<typeof m3.Manifold>;

/** A tooth between two neighbours on a gum, as bodies. */
export interface Arch {
  readonly target: Solid;
  readonly mesial: Solid;
  readonly distal: Solid;
  readonly gum: Solid;
}

/** Union surface of the bodies above `bottom` and within `half` of the middle, remeshed to `spacing` mm. */
export function seen(arch: Arch, spacing: number, bottom: number, half: number): Sheet {
  const own = [
    [arch.target, PART.target],
    [arch.mesial, PART.mesial],
    [arch.distal, PART.distal],
    [arch.gum, PART.gingiva],
  ] as const;
  const labels = new Map<number, number>();
  const bodies = own.map(([body, part]) => {
    const original = body.asOriginal();
    labels.set(original.originalID(), part);
    return original;
  });
  const mesh = solids.union(bodies).refineToLength(spacing).getMesh();
  const count = mesh.vertProperties.length / mesh.numProp;
  const at = (v: number): Vec3 => [0, 1, 2].map((k) => mesh.vertProperties[v * mesh.numProp + k]) as unknown as Vec3;
  const parts = new Uint8Array(count);
  const kept: number[] = [];
  // Gum first, teeth over it: a vertex on their common line belongs to the tooth.
  for (const teeth of [false, true])
    for (let r = 0; r < mesh.runOriginalID.length; r++) {
      const part = labels.get(mesh.runOriginalID[r]) ?? 0;
      if ((part !== PART.gingiva) !== teeth) continue;
      for (let i = mesh.runIndex[r]; i < mesh.runIndex[r + 1]; i += 3) {
        const corners = [mesh.triVerts[i], mesh.triVerts[i + 1], mesh.triVerts[i + 2]];
        for (const v of corners) parts[v] = part;
        if (corners.every((v) => at(v)[2] > bottom && Math.abs(at(v)[0]) < half)) kept.push(...corners);
      }
    }
  const map = new Map<number, number>();
  const sheet = { positions: [] as number[], triangles: [] as number[], parts: [] as number[] };
  for (const v of kept) {
    let q = map.get(v);
    if (q === undefined) {
      q = map.size;
      map.set(v, q);
      sheet.positions.push(...at(v));
      sheet.parts.push(parts[v]);
    }
    sheet.triangles.push(q);
  }
  return sheet;
}
