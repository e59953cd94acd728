import { byAxis, dot, sub, toDegrees, unit, type Vec3 } from '../../linalg/vec.ts';
import { smoothAround } from '../../segment/around.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { changes, OUTLINE_STEP, type OutlinePoint } from '../../segment/cavity/outline.ts';
import { median } from '../../statistics/quantile.ts';
import { blunting } from './blunting.ts';

/** Half window, in the outline's steps of 0.1 mm, of the course from which a place's scatter is taken: wider than noise, narrower than a dovetail. */
const COURSE = 6;
/** mm of the outline over which neighbouring places share what the edge is read from. */
const SHARED = 0.4;
/** Share of such an error that is still seen as distance from the course: the quadratic over ± 0.6 mm follows the rest (its own residual, with a correlation that falls to none over 0.4 mm). */
const SEEN = 0.566;
/** Steps on either side of a place at which the arms of a corner begin and end: beyond what the reading of the edge averages over. */
const ARM = [4, 9] as const;
const MIDDLE = 7;
/** Degrees that the outline must turn between the arms to be a corner. */
const TURN = 20;
/** mm: a place farther than this off the arms' corner was cut round; a scan's points and the averaging over them round a corner by less. */
const MOST_ROUNDING = 0.2;
/** Share of the corner's turn that its arms may bend themselves: on a wide arc they bend by a third of it and more. */
const BEND = 0.35;
/** Share of the distance to the arms' corner that counts as standard uncertainty: the arms of a rounded corner meet a little inside of it. */
const SHARE = 0.6;
/** Steps to either side of a place within which a corner makes it uncertain. */
const BESIDE = 3;

const scatters = new WeakMap<CavityAnatomy, number>();

/**
 * Standard uncertainty (mm) of one outline place across the outline's run, from the scan: how far the places lie off the outline's own course,
 * and how much of their error that course follows.
 * @formula 1.48 median |p − quadratic over ± 0.6 mm| ÷ 0.566, across the run and seen along the axis
 * @source own definition, docs/definitions.md
 */
export function outlineScatter(a: CavityAnatomy): number {
  const known = scatters.get(a);
  if (known !== undefined) return known;
  const axis = (k: 0 | 1): (number | null)[] =>
    smoothAround(
      a.outline.map((o) => o.p[k]),
      COURSE,
    );
  const [xs, ys] = [axis(0), axis(1)];
  const off = a.outline.flatMap((o, i) => {
    const [x, y] = [xs[i], ys[i]];
    const run = Math.hypot(o.tangent[0], o.tangent[1]);
    // Where the margin runs straight down, its plan says nothing.
    if (x === null || y === null || run < 0.5) return [];
    return [Math.abs((o.p[0] - x) * o.tangent[1] - (o.p[1] - y) * o.tangent[0]) / run];
  });
  const scatter = off.length ? (1.48 * median(off)) / SEEN : 0;
  scatters.set(a, scatter);
  return scatter;
}

/** Sine of how steep a surface must be to be a wall, and degrees that a bevel's cavosurface angle is larger than: where a bevel meets its wall, or a floor its own, points stand off a line without any waves. */
const STEEP = 0.7;
const BEVEL = 130;
const underWall = ({ inward, angle }: OutlinePoint): boolean =>
  inward !== null && Math.abs(inward[2]) > STEEP && angle !== null && angle < BEVEL;
/** Times their height (RMS) by which waves of about the strip's own length misplace the end of a line through them. */
const WAVES = 2;

/**
 * Standard uncertainty (mm) of the outline near its place `i`: scatter, how much the scan blunts the edge, how far the edge moves when it is read from half of the wall's strip, and waves
 * that the cutter left in that strip where it is a wall's. `i` null asks for the outline as a whole.
 * @source own definition, docs/definitions.md
 */
export function edgeError(a: CavityAnatomy, i: number | null): number {
  const n = a.outline.length;
  const near = i === null ? a.outline : [-3, -2, -1, 0, 1, 2, 3].map((j) => a.outline[(i + j + n) % n]);
  const strip = median(changes(near, a.outline, 'moved').map(Math.abs));
  return Math.hypot(outlineScatter(a), blunting(a.region), strip, WAVES * wavesOf(a, near));
}

/** mm (RMS): height of the waves that the cutter left in the strip that some places were read from; 0 where most of these lie over no wall. */
function wavesOf(a: CavityAnatomy, near: readonly OutlinePoint[]): number {
  const walls = near.filter(underWall).map((o) => o.off);
  return walls.length > near.length / 2 ? Math.sqrt(Math.max(0, median(walls) ** 2 - a.alignment.noise ** 2)) : 0;
}

/** mm: half of the strip from which an exit angle is read. */
const HALF_STRIP = 0.2;

/**
 * Standard uncertainty (degrees) of the exit angles of some places that a strip shares: half of what reading from its upper half changes, and waves,
 * whose slope at the edge is not the strip's.
 * @source own definition, docs/definitions.md
 */
export const exitError = (a: CavityAnatomy, places: readonly OutlinePoint[]): number =>
  Math.hypot(median(changes(places, a.outline, 'turned').map(Math.abs)) / 2, toDegrees(Math.atan(wavesOf(a, places) / HALF_STRIP)));

/** Standard uncertainty (mm) of a mean over so many places. */
export const meanError = (a: CavityAnatomy, places: number): number =>
  outlineScatter(a) / Math.sqrt(Math.max(1, (places * OUTLINE_STEP) / SHARED));

/**
 * Standard uncertainty (mm) of a distance from the outline's place `i` to another place, from a corner near it that the scan has rounded, or a bend
 * that averaging along the outline has flattened; 0 where the outline runs straight.
 * @formula along the distance, the larger of 0.6 of the way from the outline to where its arms (0.4 to 0.9 mm to either side) would meet, and a third of the bend's height over ± 0.4 mm
 * @source own definition, docs/definitions.md
 */
export function cornerError(a: CavityAnatomy, i: number, towards: Vec3): number {
  const way = unit(sub(towards, a.outline[i].p));
  let most = 0;
  const n = a.outline.length;
  for (let j = i - BESIDE; j <= i + BESIDE; j++) most = Math.max(most, Math.abs(dot(offCorner(a, (j + n) % n), way)));
  return Math.max(SHARE * most, Math.abs(dot(cutOff(a, i), way)));
}

/** Share of a bend's height over ± 0.4 mm that averaging over 0.8 mm takes off it: (0.8² ÷ 24) ÷ (0.4² ÷ 2). */
const AVERAGED = 1 / 3;

/** What averaging along the outline takes off a bend at a place, mm. */
function cutOff(a: CavityAnatomy, i: number): Vec3 {
  const n = a.outline.length;
  if (n < 3 * ARM[1]) return NONE;
  const [p, q] = [a.outline[(i - ARM[0] + n) % n].p, a.outline[(i + ARM[0]) % n].p];
  return byAxis((k) => AVERAGED * (a.outline[i].p[k] - (p[k] + q[k]) / 2));
}

const angleOf = (cosine: number): number => toDegrees(Math.acos(Math.max(-1, Math.min(1, cosine))));

const NONE: Vec3 = [0, 0, 0];

function offCorner(a: CavityAnatomy, i: number): Vec3 {
  const n = a.outline.length;
  if (n < 3 * ARM[1]) return NONE;
  const at = (j: number): Vec3 => a.outline[(i + j + n) % n].p;
  // The arms run towards each other: on a straight outline they are opposite.
  const [p, q] = [at(-ARM[0]), at(ARM[0])];
  const u = unit(sub(p, at(-ARM[1])));
  const v = unit(sub(q, at(ARM[1])));
  const cosine = dot(u, v);
  const turn = 180 - angleOf(cosine);
  if (turn < TURN || cosine > 0.99) return NONE;
  const bend = [-1, 1].reduce((sum, s) => {
    const [near, middle, far] = [at(s * ARM[0]), at(s * MIDDLE), at(s * ARM[1])];
    return sum + angleOf(dot(unit(sub(near, middle)), unit(sub(middle, far))));
  }, 0);
  if (bend > BEND * turn) return NONE;
  // Where both lines come nearest to each other.
  const between = sub(q, p);
  const [du, dv, square] = [dot(between, u), dot(between, v), 1 - cosine * cosine];
  const s = (du - cosine * dv) / square;
  const t = (cosine * du - dv) / square;
  const corner = byAxis((k) => (p[k] + s * u[k] + q[k] + t * v[k]) / 2);
  const off = sub(corner, at(0));
  return Math.hypot(...off) > MOST_ROUNDING ? NONE : off;
}
