import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { angleBetween, byAxis, dot, sub, type Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy, PartName } from '../../segment/cavity/cavity.ts';
import { changes, type OutlinePoint } from '../../segment/cavity/outline.ts';
import { mean, median } from '../../statistics/quantile.ts';
import { sideMargin } from './box-clearance.ts';
import { gingivalEdge } from './box-size.ts';

/** mm along the surface from the edge: steps in which its direction is taken, and the reach in which the floor or wall behind a bevel is looked for. */
const STEP = 0.1;
/** Steps at the edge that are left out. */
const ROUNDED = 2;
const REACH = 1.6;
/** mm from the edge within which a bevel ends. */
const WIDEST = 1.1;
/** mm to either side of an outline place from which points count. */
const BESIDE = 0.12;
/** Degrees by which a bevel turns off its floor or wall at the least, and mm that it is wide. */
const LEAST_TURN = 15;
const LEAST_WIDTH = 0.3;
/** Outline places, and points of a step, at the least. */
const PLACES = 5;
const POINTS = 5;

/**
 * Bevel of a box's gingival and of its facial margin: how wide it is, and how far it turns off the floor (the facial wall).
 * @formula over the points within 1.6 mm of the margin, in steps of 0.1 mm from it: median angle between the surface's normal and the uncut surface's; angle = its difference between the floor (wall), where it lies farthest off the uncut surface, and the bevel; width = distance from the margin at which it passes half way between both
 * @units mm along the bevel; degrees
 * @frame tooth
 * @fails no-outline, no-bevel
 * @source own definition, docs/definitions.md
 * @example a gingival margin bevelled over 0.5 mm at 40° to the floor reads 0.5 and 40
 */
export function boxBevel(a: CavityAnatomy): Reading[] {
  const partOf: Parts = new Map([...a.parts].flatMap(([name, list]) => list.map((v) => [v, name] as const)));
  return a.boxes.flatMap((b) =>
    (['gingival', 'facial'] as const).flatMap((which): Reading[] => {
      const zone = `box ${b.side}`;
      const [width, angle] = [`bevel.${which}.width`, `bevel.${which}.angle`];
      const refuse = (why: 'no-outline' | 'no-bevel'): Reading[] => [
        ...refusal(width, zone, ['value'], why),
        ...refusal(angle, zone, ['value'], why),
      ];
      const margin = which === 'gingival' ? gingivalEdge(a, b) : sideMargin(a, b, which);
      if (margin.length < PLACES) return refuse('no-outline');
      const found = bevelAlong(a, margin, which === 'gingival' ? `${b.side} floor` : `box ${b.side} facial`, partOf);
      if (!found) return refuse('no-bevel');
      const at = { point: margin[margin.length >> 1].p };
      const common = { zone, at, samples: margin.length };
      const moved = Math.abs(mean(changes(margin, a.outline, 'moved')));
      return [
        reading({ name: width, value: found.width, U: expanded(STEP / 2, moved, found.end, methodUncertainty(width, 'value')), ...common }),
        reading({ name: angle, value: found.angle, U: expanded(found.u, methodUncertainty(angle, 'value')), ...common }),
      ];
    }),
  );
}

/** The part of the cavity that a point belongs to. */
type Parts = ReadonlyMap<number, PartName>;

interface Found {
  readonly width: number;
  readonly angle: number;
  /** Standard uncertainty of the angle, degrees. */
  readonly u: number;
  /** mm to either side of the width within which the bevel turns into what lies behind it. */
  readonly end: number;
}

function bevelAlong(a: CavityAnatomy, margin: readonly OutlinePoint[], own: PartName, partOf: Parts): Found | null {
  const { bins, behind } = directionsFrom(a, margin, own, partOf);
  if (steepest(behind).length === 0) return null;
  // The first steps hold what the scan rounded at the edge itself.
  const steps = bins.slice(ROUNDED, Math.round(WIDEST / STEP)).map((list) => (list.length >= POINTS ? median(list) : null));
  const first = steps.find((v) => v !== null);
  if (first === undefined || first === null) return null;
  let direction = first;
  let beyond = median(steepest(behind));
  let end = 0;
  let bevel: number[] = [];
  let floor: number[] = [];
  // Where the bevel ends depends on both directions, and those on where it ends.
  for (let round = 0; round < 4; round++) {
    const half = (direction + beyond) / 2;
    if (beyond - direction < LEAST_TURN) return null;
    end = steps.findIndex((v) => v !== null && v > half);
    if (end < 0) return null;
    // The last step before the turn is blunted by the scan, and so is the first beyond it.
    bevel = steps.slice(0, Math.max(1, end - 1)).filter((v) => v !== null);
    floor = steepest(behind.filter((q) => q.d > (end + ROUNDED) * STEP));
    if (bevel.length === 0 || floor.length < POINTS) return null;
    direction = median(bevel);
    beyond = median(floor);
  }
  const angle = beyond - direction;
  const width = passed(steps, direction, direction + angle / 2);
  if (width === null) return null;
  // A turn that takes its time leaves open where the bevel ends.
  const [sooner, later] = [0.3, 0.7].map((share) => passed(steps, direction, direction + share * angle) ?? width);
  if (width < LEAST_WIDTH || angle < LEAST_TURN) return null;
  const spread = (list: readonly number[], middle: number): number =>
    (1.48 * median(list.map((v) => Math.abs(v - middle)))) / Math.sqrt(Math.max(1, list.length));
  const u = Math.hypot(
    bevel.length > 2 ? (Math.max(...bevel) - Math.min(...bevel)) / 4 : angle / 10,
    spread(floor, beyond) * Math.sqrt(Math.min(floor.length, SHARING)),
  );
  return { width, angle, u, end: (later - sooner) / 2 };
}

/** mm from the margin at which the steps' angles pass a level for the first time; null where they never do. */
function passed(steps: readonly (number | null)[], first: number, level: number): number | null {
  const end = steps.findIndex((v) => v !== null && v > level);
  if (end < 0) return null;
  const [before, after] = [end > 0 ? (steps[end - 1] ?? first) : first, steps[end] as number];
  // Steps are known at their middles.
  return (end + ROUNDED - 0.5 + (after > before ? (level - before) / (after - before) : 0.5)) * STEP;
}

/**
 * Angles of a floor or wall where it lies the farthest off the uncut surface, over two steps: nearer to the margin the bevel turns into it, farther away it
 * turns up into the next wall.
 */
function steepest(behind: readonly { readonly angle: number; readonly d: number }[]): number[] {
  let best: number[] = [];
  for (let from = 0; from < REACH; from += STEP) {
    const here = behind.flatMap((q) => (q.d >= from && q.d < from + 2 * STEP ? [q.angle] : []));
    if (here.length >= 2 * POINTS && (best.length === 0 || median(here) > median(best))) best = here;
  }
  return best;
}

/** Points of a floor or wall that share their noise. */
const SHARING = 20;

/** Angle of the prepared surface to the uncut surface's outside: by distance from the margin, and of the floor or wall behind it by itself. */
function directionsFrom(
  a: CavityAnatomy,
  margin: readonly OutlinePoint[],
  own: PartName,
  partOf: Parts,
): { bins: number[][]; behind: { angle: number; d: number }[] } {
  const { mesh, prepared, normals } = a.region;
  const p = mesh.positions;
  const bins: number[][] = Array.from({ length: Math.round(REACH / STEP) }, () => []);
  const behind: { angle: number; d: number }[] = [];
  const [low, high] = [Math.min, Math.max].map((f, end) => byAxis((k) => f(...margin.map((o) => o.p[k])) + (end ? REACH : -REACH)));
  for (let v = 0; v < prepared.length; v++) {
    const part = partOf.get(v);
    if (!prepared[v] || (part !== undefined && part !== own)) continue;
    const at: Vec3 = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    if (at.some((x, k) => x < low[k] || x > high[k])) continue;
    let best: OutlinePoint | null = null;
    let least = REACH;
    for (const o of margin) {
      const [dx, dy, dz] = [at[0] - o.p[0], at[1] - o.p[1], at[2] - o.p[2]];
      const d = Math.sqrt(dx * dx + dy * dy + dz * dz);
      if (d >= least || Math.abs(dot(sub(at, o.p), o.tangent)) > BESIDE) continue;
      least = d;
      best = o;
    }
    if (!best) continue;
    const angle = angleBetween([normals[3 * v], normals[3 * v + 1], normals[3 * v + 2]], best.normal);
    bins[Math.floor(least / STEP)].push(angle);
    if (part === own) behind.push({ angle, d: least });
  }
  return { bins, behind };
}
