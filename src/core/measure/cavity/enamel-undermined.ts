import { byAxis, cross, dot, sub, type Vec3 } from '../../linalg/vec.ts';
import { PART } from '../../master/master.ts';
import { subMesh } from '../../mesh/mesh.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { OUTLINE_STEP } from '../../segment/cavity/outline.ts';
import { ownersOf } from '../../segment/owners.ts';
import { castRay } from '../../spatial/ray.ts';
import { closestPoint, newClosest, pseudoNormal, type Surface } from '../../spatial/surface.ts';
import { makeTree } from '../../spatial/tree.ts';

/** mm from the outline within which uncut enamel can stand over the cavity. */
const BESIDE = 2;
/** mm from the outline up to which enamel is looked at step by step, since scanned points beside an edge belong to neither side; and its steps. */
const STRIP = 0.5;
const STEP = 0.05;
/** mm under the surface at which a look inward begins, so that it does not meet the surface itself. */
const UNDER = 0.08;
/** Looks inward at the most beyond the strip. */
const MOST_RAYS = 2000;
/** mm beyond which nothing is called enamel any more. */
const DEEPEST = 4;
/** mm: how well the outline's place is known (standard uncertainty), and the share of an area that scanned points give. */
const EDGE_KNOWN = 0.02;
const AREA_SHARE = 0.08;

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
  const { dej } = a.master;
  const name = 'enamel.undermined';
  if (!dej) return refusal(name, null, ['value'], 'no-dentine');
  if (a.outline.length < 20) return refusal(name, null, ['value'], 'no-outline');
  const { mesh, prepared } = a.region;
  // Inward rays can only meet the cavity, so only cut triangles are searched.
  const t = mesh.triangles;
  const cut = subMesh(mesh, (f) => prepared[t[3 * f]] === 1 || prepared[t[3 * f + 1]] === 1 || prepared[t[3 * f + 2]] === 1);
  if (cut.mesh.triangles.length === 0) return refusal(name, null, ['value'], 'nothing-prepared');
  const looks = looksInward(a.master.target, dej, { tree: makeTree(cut.mesh) });
  const strip = besideOutline(a, looks);
  const beyond = fartherOff(a, looks);
  const area = strip.area + beyond.area;
  const at = beyond.area > strip.area ? beyond.at : strip.at;
  const U = expanded(EDGE_KNOWN * strip.length, AREA_SHARE * area, a.alignment.pointError * strip.length);
  return [reading({ name, value: area, U, at: at && { point: at }, samples: strip.samples + beyond.samples })];
}

type Looks = (place: Vec3) => boolean;

/** Whether the way straight inward from a place of the master's surface comes into the cavity before it comes into dentine. */
function looksInward(target: Surface<'tooth'>, dej: Surface<'tooth'>, cut: Parameters<typeof castRay>[0]): Looks {
  const hit = newClosest();
  const n: [number, number, number] = [0, 0, 0];
  return (q) => {
    closestPoint(target, q[0], q[1], q[2], hit);
    pseudoNormal(target, hit, n);
    const inward = [-n[0], -n[1], -n[2]] as const;
    const from: Vec3 = [hit.x, hit.y, hit.z];
    const air = castRay(cut, [from[0] + UNDER * inward[0], from[1] + UNDER * inward[1], from[2] + UNDER * inward[2]], inward, DEEPEST);
    if (air === null) return false;
    const dentine = castRay(dej, from, inward, DEEPEST);
    return dentine === null || air + UNDER < dentine;
  };
}

/** Undermined area and the place that is farthest from the outline, and how much of it was looked at. */
interface Undermined {
  readonly area: number;
  readonly at: Vec3 | null;
  readonly samples: number;
}

/** The strip beside the outline, and the length of outline that is undermined. */
function besideOutline(a: CavityAnatomy, looks: Looks): Undermined & { readonly length: number } {
  const n = a.outline.length;
  const away = a.outline.map((o) => cross(o.tangent, o.normal));
  const at = (i: number, d: number): Vec3 => byAxis((k) => a.outline[i].p[k] + d * away[i][k]);
  /** How much of a line so far from the outline is this place's: more about an outer corner, none where it folds over. */
  const share = (i: number, d: number): number =>
    Math.max(0, dot(a.outline[i].tangent, sub(at((i + 1) % n, d), at((i + n - 1) % n, d))) / 2);
  let [area, samples, length] = [0, 0, 0];
  let widest: { readonly area: number; readonly at: Vec3 } | null = null;
  for (let i = 0; i < n; i++) {
    let own = 0;
    let under = looks(at(i, STEP / 4));
    for (let d = 0; d < STRIP; d += STEP) {
      const next = looks(at(i, d + STEP));
      const part = under === next ? 1 : changeBetween((q) => looks(at(i, q)) === under, d, d + STEP);
      own += (under ? part : 1 - part) * STEP * share(i, d + STEP / 2);
      samples++;
      under = next;
    }
    if (own === 0) continue;
    area += own;
    length += OUTLINE_STEP;
    if (!widest || own > widest.area) widest = { area: own, at: a.outline[i].p };
  }
  return { area, at: widest?.at ?? null, samples, length };
}

/** Share of a step after which it is no longer so. */
function changeBetween(isSo: (d: number) => boolean, from: number, to: number): number {
  let [lo, hi] = [from, to];
  for (let k = 0; k < 3; k++) {
    const m = (lo + hi) / 2;
    if (isSo(m)) lo = m;
    else hi = m;
  }
  return ((lo + hi) / 2 - from) / (to - from);
}

/** Scanned points of the tooth's own uncut surface beyond the strip. */
function fartherOff(a: CavityAnatomy, looks: Looks): Undermined {
  const { mesh, prepared, from, depth, areas, tau } = a.region;
  // A neighbour in contact and the gum lie as near to the outline as the tooth's own enamel does.
  const { part } = ownersOf(a.alignment.scan, a.master);
  const p = mesh.positions;
  const cells = new Set<number>();
  const key = (x: number, y: number): number => Math.floor(x / BESIDE) * 4096 + Math.floor(y / BESIDE);
  for (const o of a.outline)
    for (const dx of [-BESIDE, 0, BESIDE]) for (const dy of [-BESIDE, 0, BESIDE]) cells.add(key(o.p[0] + dx, o.p[1] + dy));
  // A sample of some hundred rays per square millimetre estimates the area as well as all candidates.
  const near: number[] = [];
  for (let v = 0; v < areas.length; v++)
    if (!prepared[v] && part[from[v]] === PART.target && Math.abs(depth[v]) <= tau && cells.has(key(p[3 * v], p[3 * v + 1]))) near.push(v);
  const every = Math.max(1, Math.floor(near.length / MOST_RAYS));
  let [area, samples] = [0, 0];
  let at: Vec3 | null = null;
  for (let i = 0; i < near.length; i += every) {
    const v = near[i];
    const q: Vec3 = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    let nearest = Infinity;
    for (const o of a.outline) nearest = Math.min(nearest, (o.p[0] - q[0]) ** 2 + (o.p[1] - q[1]) ** 2 + (o.p[2] - q[2]) ** 2);
    if (nearest < STRIP * STRIP || nearest > BESIDE * BESIDE) continue;
    samples++;
    if (!looks(q)) continue;
    area += every * areas[v];
    at = q;
  }
  return { area, at, samples };
}
