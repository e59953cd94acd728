import { subMesh } from '../../mesh/mesh.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { castRay } from '../../spatial/ray.ts';
import { closestPoint, newClosest, pseudoNormal } from '../../spatial/surface.ts';
import { makeTree } from '../../spatial/tree.ts';

/** mm from the outline within which uncut enamel can stand over the cavity. */
const BESIDE = 2;
/** mm under the surface at which a look inward begins, so that it does not meet the surface itself. */
const UNDER = 0.08;
/** Looks inward at the most. */
const MOST_RAYS = 2000;
/** mm beyond which nothing is called enamel any more. */
const DEEPEST = 4;

/**
 * Undermined enamel: outer enamel beside the cavity under which no dentine is left, where the master carries a dentine surface.
 * @formula area of the uncut surface within 2 mm of the outline from which a ray straight inward meets the cavity before the dentine
 * @units mm²
 * @frame tooth
 * @fails no-dentine, no-outline, nothing-prepared
 * @source own definition, docs/definitions.md
 * @example walls square to the surface undermine 0; walls that run in under the edge at 20° through 1 mm of enamel undermine a strip 0.36 mm wide
 */
export function enamelUndermined(a: CavityAnatomy): Reading[] {
  const { dej, target } = a.master;
  const name = 'enamel.undermined';
  if (!dej) return refusal(name, null, ['value'], 'no-dentine');
  if (a.outline.length < 20) return refusal(name, null, ['value'], 'no-outline');
  const { mesh, prepared, depth, areas, tau } = a.region;
  const p = mesh.positions;
  // Inward rays can only meet the cavity, so only cut triangles are searched.
  const t = mesh.triangles;
  const cut = subMesh(mesh, (f) => prepared[t[3 * f]] === 1 || prepared[t[3 * f + 1]] === 1 || prepared[t[3 * f + 2]] === 1);
  if (cut.mesh.triangles.length === 0) return refusal(name, null, ['value'], 'nothing-prepared');
  const scan = { tree: makeTree(cut.mesh) };
  const cells = new Set<number>();
  const key = (x: number, y: number): number => Math.floor(x / BESIDE) * 4096 + Math.floor(y / BESIDE);
  for (const o of a.outline)
    for (const dx of [-BESIDE, 0, BESIDE]) for (const dy of [-BESIDE, 0, BESIDE]) cells.add(key(o.p[0] + dx, o.p[1] + dy));
  const hit = newClosest();
  const n: [number, number, number] = [0, 0, 0];
  // A sample of some hundred rays per square millimetre estimates the area as well as all candidates.
  const near: number[] = [];
  for (let v = 0; v < areas.length; v++)
    if (!prepared[v] && Math.abs(depth[v]) <= tau && cells.has(key(p[3 * v], p[3 * v + 1]))) near.push(v);
  const every = Math.max(1, Math.floor(near.length / MOST_RAYS));
  let area = 0;
  let samples = 0;
  let at: [number, number, number] | null = null;
  for (let i = 0; i < near.length; i += every) {
    const v = near[i];
    const q: [number, number, number] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    if (!a.outline.some((o) => (o.p[0] - q[0]) ** 2 + (o.p[1] - q[1]) ** 2 + (o.p[2] - q[2]) ** 2 < BESIDE * BESIDE)) continue;
    samples++;
    closestPoint(target, q[0], q[1], q[2], hit);
    pseudoNormal(target, hit, n);
    const inward = [-n[0], -n[1], -n[2]] as const;
    const air = castRay(scan, [q[0] + UNDER * inward[0], q[1] + UNDER * inward[1], q[2] + UNDER * inward[2]], inward, DEEPEST);
    if (air === null) continue;
    const dentine = castRay(dej, q, inward, DEEPEST);
    if (dentine !== null && air + UNDER >= dentine) continue;
    area += every * areas[v];
    at = q;
  }
  // Every millimetre of edge may be off by the scan's own blur of an edge.
  const length = a.outline.length * 0.1;
  const U = expanded(0.03 * Math.sqrt(length), 0.08 * area, a.alignment.pointError * length * 0.5);
  return [reading({ name, value: area, U, at: at && { point: at }, samples })];
}
