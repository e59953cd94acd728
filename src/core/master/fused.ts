import { heightAt } from '../linalg/curve.ts';
import { azimuthOf } from '../linalg/sectors.ts';
import type { Vec3 } from '../linalg/vec.ts';
import { type Mesh, vertexAdjacency } from '../mesh/mesh.ts';

/** mm beside a bridge between two teeth within which a scan's surface is the bridge's and neither tooth's. */
const BESIDE = 0.6;
/** mm above the gingival margin up to which a triangle from tooth to tooth is gum that a coarse mesh has no vertex in. */
const AT_MARGIN = 0.4;

/**
 * Vertices on or beside bridges between the target and its neighbours. A scanner closes the narrow gap beside a contact with surface that is no tooth: once the
 * contact is cut, the neighbour's true side lies behind it and would count as lost.
 */
export function bridged(
  arch: Mesh<'tooth'>,
  parts: ArrayLike<number>,
  target: number,
  neighbours: readonly number[],
  gingivalMargin: readonly Vec3[],
): Uint8Array {
  const t = arch.triangles;
  const p = arch.positions;
  const near = new Uint8Array(p.length / 3);
  const seeds: number[] = [];
  const isAtMargin = (v: number): boolean =>
    p[3 * v + 2] < (heightAt(gingivalMargin, azimuthOf(p[3 * v], p[3 * v + 1])) ?? -Infinity) + AT_MARGIN;
  for (let f = 0; f < t.length; f += 3) {
    const own = [parts[t[f]], parts[t[f + 1]], parts[t[f + 2]]];
    if (!own.includes(target) || !own.some((q) => neighbours.includes(q))) continue;
    if ([0, 1, 2].some((k) => own[k] === target && isAtMargin(t[f + k]))) continue;
    for (let k = 0; k < 3; k++)
      if (!near[t[f + k]]) {
        near[t[f + k]] = 1;
        seeds.push(t[f + k]);
      }
  }
  if (seeds.length === 0) return near;
  const { start, list } = vertexAdjacency(arch);
  for (const s of [...seeds]) {
    const reached = [s];
    const seen = new Set(reached);
    for (const v of reached)
      for (let i = start[v]; i < start[v + 1]; i++) {
        const w = list[i];
        if (seen.has(w) || Math.hypot(p[3 * w] - p[3 * s], p[3 * w + 1] - p[3 * s + 1], p[3 * w + 2] - p[3 * s + 2]) > BESIDE) continue;
        seen.add(w);
        near[w] = 1;
        reached.push(w);
      }
  }
  return near;
}
