import type { Solid } from '../anatomy/tessellate.ts';
import type { Vec3 } from '../linalg/vec.ts';
import { mean } from '../statistics/quantile.ts';

/**
 * A closed solid from loops one round the other, joined by triangles, with a point at each end. A loop may have a whole number of
 * times the points of the loop before it. Outside is outside when loops run counter-clockwise seen from the last point's end.
 * An end without a point is closed over its own loop, which must then run once out and once back along x: long bent loops
 * are not seen whole from any one point.
 */
export function ringSolid(first: Vec3 | null, rings: readonly (readonly Vec3[])[], last: Vec3 | null): Solid {
  const positions: number[] = [...(first ?? rings[0][0]), ...(last ?? rings[0][0])];
  const starts = rings.map((ring) => {
    const start = positions.length / 3;
    for (const p of ring) positions.push(...p);
    return start;
  });
  const id = (k: number, i: number): number => starts[k] + (i % rings[k].length);
  const triangles: number[] = [];
  const [n, m] = [rings[0].length, rings[rings.length - 1].length];
  if (first) for (let i = 0; i < n; i++) triangles.push(0, id(0, i + 1), id(0, i));
  else for (const [a, b, c] of zipped(rings[0])) triangles.push(id(0, a), id(0, c), id(0, b));
  for (let k = 0; k + 1 < rings.length; k++) {
    const times = rings[k + 1].length / rings[k].length;
    if (!Number.isInteger(times)) throw new RangeError(`a loop of ${rings[k + 1].length} points cannot follow one of ${rings[k].length}`);
    for (let i = 0; i < rings[k].length; i++) {
      // A fan from the inner point over the finer outer loop, closed by the inner loop's own side.
      for (let j = i * times; j < (i + 1) * times; j++) triangles.push(id(k, i), id(k + 1, j + 1), id(k + 1, j));
      triangles.push(id(k, i), id(k, i + 1), id(k + 1, (i + 1) * times));
    }
  }
  const end = rings.length - 1;
  if (last) for (let i = 0; i < m; i++) triangles.push(1, id(end, i), id(end, i + 1));
  else for (const t of zipped(rings[end])) triangles.push(...t.map((i) => id(end, i)));
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
}

/** Triangles over a counter-clockwise loop that runs once out along x and once back: the two runs closed like a zip. */
function zipped(ring: readonly Vec3[]): [number, number, number][] {
  const n = ring.length;
  const first = ring.reduce((best, p, i) => (p[0] < ring[best][0] ? i : best), 0);
  const last = ring.reduce((best, p, i) => (p[0] > ring[best][0] ? i : best), 0);
  const out: [number, number, number][] = [];
  let [low, high] = [first, first];
  while (low !== last || high !== last) {
    const [l, h] = [(low + 1) % n, (high + n - 1) % n];
    // The run that lags behind is carried on.
    if (high === last || (low !== last && ring[l][0] <= ring[h][0])) {
      if (low !== high && l !== high) out.push([low, l, high]);
      low = l;
    } else {
      if (low !== high && h !== low) out.push([low, h, high]);
      high = h;
    }
  }
  return out;
}

/** mm between neighbouring points of a loop under which every second one may be left out, and how many at most. */
const SPACING = 0.09;
const SPARSEST = 32;

/**
 * Leaves out points where loops draw together towards their middle, every second one again and again: all of them would meet
 * there in a star of slivers. Loops come from the middle outward and have the same number of points.
 */
export function thinned(rings: readonly (readonly Vec3[])[]): (readonly Vec3[])[] {
  const out: (readonly Vec3[])[] = [];
  let most = SPARSEST;
  for (const ring of rings) {
    const n = ring.length;
    const around = ring.reduce((s, p, i) => s + Math.hypot(...[0, 1, 2].map((k) => ring[(i + 1) % n][k] - p[k])), 0);
    let step = 1;
    while (step < most && n % (2 * step) === 0 && (2 * step * around) / n < SPACING) step *= 2;
    // Once fine, always fine: what the joining of loops knows.
    most = step;
    out.push(step === 1 ? ring : ring.filter((_, i) => i % step === 0));
  }
  return out;
}

/** The same solid with its outside outward, whichever way its loops ran. */
export function outward(s: Solid): Solid {
  const { positions: p, triangles } = s;
  let volume = 0;
  for (let f = 0; f < triangles.length; f += 3) {
    const [a, b, c] = [3 * triangles[f], 3 * triangles[f + 1], 3 * triangles[f + 2]];
    volume +=
      p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) -
      p[a + 1] * (p[b] * p[c + 2] - p[b + 2] * p[c]) +
      p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c]);
  }
  return volume >= 0 ? s : { positions: p, triangles: triangles.map((_, i) => triangles[i - (i % 3) + ((3 - (i % 3)) % 3)]) };
}

/** A closed solid between two heights, over the loop that each of them has. */
export const between = ([from, to]: readonly [number, number], ring: (z: number) => readonly Vec3[]): Solid => prism(ring(from), ring(to));

/** A closed solid between two loops of the same number of points, one over the other, whichever way they run. */
function prism(low: readonly Vec3[], high: readonly Vec3[]): Solid {
  const middle = (ring: readonly Vec3[]): Vec3 => [mean(ring.map((p) => p[0])), mean(ring.map((p) => p[1])), ring[0][2]];
  return outward(ringSolid(middle(low), [low, high], middle(high)));
}

/** A round or square cutter straight down the axis. */
export const shaft = (x: number, y: number, radius: number, from: number, to: number, corners = 48): Solid =>
  between([from, to], (z) =>
    Array.from({ length: corners }, (_, i) => {
      const a = (2 * Math.PI * (i + 0.5)) / corners;
      return [x + radius * Math.cos(a), y + radius * Math.sin(a), z];
    }),
  );

/** Everything on one side of a plane y = const: sign +1 facial of it. */
export function halfSpace(y: number, sign: 1 | -1): Solid {
  const far = y + sign * 30;
  return between([-20, 30], (z) => [
    [-30, y, z],
    [30, y, z],
    [30, far, z],
    [-30, far, z],
  ]);
}
