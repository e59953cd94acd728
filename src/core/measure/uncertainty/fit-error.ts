import { leastSquares } from '../../linalg/least-squares.ts';
import { axialX, type Box, type CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { floorProper, properPlane } from '../../segment/cavity/floor-proper.ts';
import { type Floor, floorAt } from '../../segment/cavity/floors.ts';
import type { TargetRegion } from '../../segment/target.ts';
import { mean, median, quantile } from '../../statistics/quantile.ts';

/** mm² over which neighbouring points share their noise: a circle of about 0.3 mm. */
const SHARED = 0.09;

/** Times the distance between a scan's points within which they share noise, where they stand far apart. */
const REACH = 1.7;

/** How many points of a surface's area are independent of one another; on a coarse scan fewer. */
export const independent = (area: number, { spacing }: Pick<TargetRegion, 'spacing'>): number =>
  Math.max(1, area / Math.max(SHARED, (REACH * spacing) ** 2));

/** Standard error of a fit to scattered points, with as many of them independent as patches of shared noise go into their area. */
const standardError = (off: readonly number[], area: number, region: Pick<TargetRegion, 'spacing'>): number =>
  off.length === 0 ? 0 : (1.48 * median(off.map(Math.abs))) / Math.sqrt(independent(area, region));

const areaOf = (a: CavityAnatomy, points: readonly number[]): number => points.reduce((s, v) => s + a.region.areas[v], 0);

/**
 * Standard uncertainty of a floor's plane: mm of its level at a place, and slope (mm per mm) along x and y.
 * @formula level s √((1 + Δx² ÷ var x + Δy² ÷ var y) ÷ n), slopes s ÷ √(n var x), s ÷ √(n var y); s = 1.48 median |z − plane|, n = area ÷ 0.09 mm², or ÷ (1.7 times the distance of the scan's points)² where that is more
 * @source propagation of a least-squares plane's errors; own definition of n, docs/definitions.md
 */
export function floorError(
  a: CavityAnatomy,
  f: Floor,
  x = f.centre[0],
  y = f.centre[1],
): { level: number; alongX: number; alongY: number } {
  const p = a.region.mesh.positions;
  const own = floorProper(a, f);
  const plane = properPlane(a, f);
  const u = standardError(
    own.map((v) => p[3 * v + 2] - floorAt(plane, p[3 * v], p[3 * v + 1])),
    areaOf(a, own),
    a.region,
  );
  const [vx, vy] = [0, 1].map((k) => {
    const middle = mean(own.map((v) => p[3 * v + k]));
    return Math.max(0.01, mean(own.map((v) => (p[3 * v + k] - middle) ** 2)));
  });
  const level = u * Math.sqrt(1 + (x - f.centre[0]) ** 2 / vx + (y - f.centre[1]) ** 2 / vy);
  return { level, alongX: u / Math.sqrt(vx), alongY: u / Math.sqrt(vy) };
}

/** mm by which an axial wall is shortened at both ends to see how much its foot depends on where the wall is taken to end. */
const SHORTENED = 0.15;

/**
 * Standard uncertainty (mm) of an axial wall's foot: scatter of its points about the fitted surface, and what the foot moves when the wall is
 * fitted without its ends.
 * @source own definition, docs/definitions.md
 */
export function axialError(a: CavityAnatomy, b: Box): number {
  if (!b.axial) return 0;
  const p = a.region.mesh.positions;
  const { fitted: vertices, z } = b.axial;
  const offOf = (v: number): number => p[3 * v] - (axialX(b, p[3 * v + 1], p[3 * v + 2]) as number);
  const heights = vertices.map((v) => p[3 * v + 2]);
  const [lo, hi] = [quantile(heights, 0.02) + SHORTENED, quantile(heights, 0.98) - SHORTENED];
  const inner = vertices.filter((v) => p[3 * v + 2] > lo && p[3 * v + 2] < hi);
  // Residuals of the inner points as a line of their height: its value at the foot is how far the foot moves.
  const line = inner.length > 8 ? leastSquares(inner.map((v) => ({ f: [1, p[3 * v + 2] - z], x: offOf(v), w: a.region.areas[v] }))) : null;
  return Math.hypot(standardError(vertices.map(offOf), areaOf(a, vertices), a.region), line ? line[0] : 0);
}
