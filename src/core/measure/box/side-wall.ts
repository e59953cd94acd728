import { leastSquares } from '../../linalg/least-squares.ts';
import { axialX, type Box, type CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { isScrap } from '../../segment/target.ts';
import { median } from '../../statistics/quantile.ts';
import { wallProper } from '../cavity/wall-angle.ts';
import { independent } from '../uncertainty/fit-error.ts';

/** mm along the arch beside the box's middle in which its facial and lingual walls are read, and mm kept clear of the rounding into the axial wall. */
const SLICE = 0.8;
const OFF_AXIAL = 0.35;
/** mm per mm: a plane that leans more than 35° from upright, or runs more than 45° off the arch, is a rounding's and no wall's. */
const STEEPEST = 0.7;
const FLARED = 1;
/** Times the points' own scatter beyond which a point belongs to a rounding and not to the wall. */
const ASTRAY = 2.5;

/** The plane of a box's facial or lingual wall. */
export interface SideWall {
  readonly y: (x: number, z: number) => number;
  /** mm of y per mm along the arch, and per mm of height. */
  readonly alongX: number;
  readonly alongZ: number;
  /** Standard uncertainty (mm) of the wall's place, and of both slopes (mm per mm). */
  readonly u: (x: number, z: number) => number;
  readonly uAlongX: number;
  readonly uAlongZ: number;
}

/** A box's facial or lingual wall beside its middle: y = a + bx + cz through its points; null when the wall was not found. */
export function sideWall(a: CavityAnatomy, b: Box, side: 'facial' | 'lingual'): SideWall | null {
  const p = a.region.mesh.positions;
  const { areas } = a.region;
  const x0 = b.floor.centre[0];
  const clear = (v: number): boolean => b.sign * (p[3 * v] - (axialX(b, p[3 * v + 1]) ?? Number.NEGATIVE_INFINITY * b.sign)) > OFF_AXIAL;
  const every = wallProper(a, `box ${b.side} ${side}`).filter(clear);
  const beside = every.filter((v) => Math.abs(p[3 * v] - x0) < SLICE);
  // A low box of an onlay has hardly more wall than its roundings: then all of it is taken, and its scatter says how sure that is.
  let own = [beside, every, wallProper(a, `box ${b.side} ${side}`)].find((list) => !isScrap(a.region, list)) ?? [];
  if (isScrap(a.region, own)) return null;
  for (let round = 0; ; round++) {
    const fit = leastSquares(own.map((v) => ({ f: [1, p[3 * v], p[3 * v + 2]], x: p[3 * v + 1], w: areas[v] })));
    if (!fit) return null;
    const y = (x: number, z: number): number => fit[0] + fit[1] * x + fit[2] * z;
    const off = own.map((v) => p[3 * v + 1] - y(p[3 * v], p[3 * v + 2]));
    const scatter = 1.48 * median(off.map(Math.abs));
    const kept = own.filter((_, i) => Math.abs(off[i]) <= ASTRAY * scatter);
    if (round < 2 && kept.length < own.length && !isScrap(a.region, kept)) {
      own = kept;
      continue;
    }
    if (Math.abs(fit[1]) > FLARED || Math.abs(fit[2]) > STEEPEST) return null;
    const area = own.reduce((s, v) => s + areas[v], 0);
    const middle = own.reduce((s, v) => s + areas[v] * p[3 * v + 2], 0) / area;
    const spread = own.reduce((s, v) => s + areas[v] * (p[3 * v + 2] - middle) ** 2, 0) / area;
    const x1 = own.reduce((s, v) => s + areas[v] * p[3 * v], 0) / area;
    const length = own.reduce((s, v) => s + areas[v] * (p[3 * v] - x1) ** 2, 0) / area;
    const n = independent(area, a.region);
    const bend = bendOf(
      own.map((v) => ({ x: p[3 * v] - x1, z: p[3 * v + 2] - middle, y: p[3 * v + 1], w: areas[v] })),
      scatter / Math.sqrt(n),
    );
    return {
      y,
      alongX: fit[1],
      alongZ: fit[2],
      u: (x, z) =>
        Math.hypot(scatter * Math.sqrt((1 + (x - x1) ** 2 / (length || 1) + (z - middle) ** 2 / (spread || 1)) / n), bend * length),
      uAlongX: Math.hypot(scatter / Math.sqrt(n * (length || 1)), bend * Math.sqrt(BEND_ENDS * length)),
      uAlongZ: scatter / Math.sqrt(n * (spread || 1)),
    };
  }
}

/** Squared half length of a wall over the variance of its places, 3 where they lie evenly; more, since a wall that breaks turns faster at its ends than its parabola. */
const BEND_ENDS = 5;
/** Standard errors by which a wall must bend for it to be said. */
const SAID = 2;

/** How much a wall bends on its way out of the tooth, as one that is bevelled at its margin does: mm per mm², 0 where noise could have done it. */
function bendOf(places: readonly { x: number; z: number; y: number; w: number }[], error: number): number {
  const fit = leastSquares(places.map(({ x, z, y, w }) => ({ f: [1, x, z, x * x], x: y, w })));
  if (!fit) return 0;
  const weight = places.reduce((s, q) => s + q.w, 0);
  const [second, fourth] = [2, 4].map((power) => places.reduce((s, q) => s + q.w * q.x ** power, 0) / weight);
  const spread = Math.sqrt(Math.max(1e-9, fourth - second ** 2));
  return Math.max(0, Math.abs(fit[3]) - (SAID * error) / spread);
}
