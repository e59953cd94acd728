import type { Vec3 } from '../linalg/vec.ts';
import type { Groove } from '../master/master.ts';
import type { GroovePlan, ToothPlan } from './plan.ts';
import { surfaceZ, type ToothShape } from './shape.ts';

type Shape = Pick<ToothShape, 'plan' | 'inside' | 'top'>;

/** mm: how deep a secondary groove is, and how wide (the standard deviation of its hollow). */
const DEPTH = 0.16;
const WIDTH = 0.2;
/** mm between the points of a groove's line. */
const STEP = 0.25;

interface Segment {
  readonly x: number;
  readonly y: number;
  readonly ux: number;
  readonly uy: number;
  readonly squared: number;
}

/** How far the grooves sink the top over (x, y): a rounded hollow along each secondary one, and along a central furrow. */
export function grooveHollow(plan: ToothPlan): (x: number, y: number) => number {
  const secondary = secondaryHollow(plan);
  if (!plan.furrow) return secondary;
  const primary = hollowAlong(
    plan.groove.slice(1).map((q, i) => segment(plan, plan.groove[i], q)),
    plan.furrow,
  );
  // Where they meet the deeper one counts: sums would leave pits.
  return (x, y) => Math.max(primary(x, y), secondary(x, y));
}

export const secondaryHollow = (plan: ToothPlan): ((x: number, y: number) => number) =>
  hollowAlong(
    plan.secondary.map(({ line: [p, q] }) => segment(plan, p, q)),
    DEPTH,
  );

type Share = readonly [x: number, y: number, ...rest: number[]];

function segment(plan: ToothPlan, p: Share, q: Share): Segment {
  const [x, y] = inMm(plan, p);
  const [ux, uy] = [inMm(plan, q)[0] - x, inMm(plan, q)[1] - y];
  return { x, y, ux, uy, squared: ux * ux + uy * uy };
}

function hollowAlong(segments: readonly Segment[], depth: number): (x: number, y: number) => number {
  const far = 9 * WIDTH * WIDTH;
  return (x, y) => {
    let least = far;
    for (const s of segments) {
      const dx = x - s.x;
      const dy = y - s.y;
      const t = Math.min(1, Math.max(0, (dx * s.ux + dy * s.uy) / s.squared));
      const d = (dx - t * s.ux) ** 2 + (dy - t * s.uy) ** 2;
      if (d < least) least = d;
    }
    return least < far ? depth * Math.exp(-least / (2 * WIDTH * WIDTH)) : 0;
  };
}

/** The primary groove between facial and lingual cusps, and the secondary ones that run from it, as lines on the surface. */
export function grooveLandmarks(shape: Shape): Groove[] {
  const { plan } = shape;
  if (!plan.groove.length) return [];
  const secondary = plan.secondary.map((g): Groove => ({ name: g.name, rank: 'secondary', line: onSurface(shape, g) }));
  return [{ name: 'central', rank: 'primary', line: centralGroove(shape) }, ...secondary];
}

const inMm = (plan: ToothPlan, p: Share): [number, number] => [(p[0] * plan.md) / 2, (p[1] * plan.fl) / 2];

function onSurface(shape: Shape, g: GroovePlan): Vec3[] {
  const [a, b] = g.line.map((p) => inMm(shape.plan, p));
  const n = Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) / STEP);
  return Array.from({ length: n + 1 }, (_, i): Vec3 => {
    const [x, y] = [a[0] + ((b[0] - a[0]) * i) / n, a[1] + ((b[1] - a[1]) * i) / n];
    return [x, y, surfaceZ(shape, x, y)];
  });
}

/** The valley between the facial and the lingual cusps: for each x along the planned groove the lowest y near it. */
function centralGroove(shape: Shape): Vec3[] {
  const { plan } = shape;
  const hollow = secondaryHollow(plan);
  const a = plan.md / 2;
  const b = plan.fl / 2;
  const first = plan.groove[0][0];
  const last = plan.groove[plan.groove.length - 1][0];
  return Array.from({ length: 15 }, (_, i) => {
    const x = first + ((last - first) * i) / 14;
    let j = 0;
    while (j + 2 < plan.groove.length && x < plan.groove[j + 1][0]) j++;
    const p = plan.groove[j];
    const q = plan.groove[j + 1];
    const guess = p[1] + ((x - p[0]) / (q[0] - p[0])) * (q[1] - p[1]);
    let best: Vec3 = [x * a, guess * b, Infinity];
    for (let dy = -0.9; dy <= 0.9; dy += 0.06) {
      const y = guess * b + dy;
      // The hollows of the grooves that run from it are no part of its own valley.
      const z = surfaceZ(shape, x * a, y) + hollow(x * a, y);
      if (z < best[2]) best = [x * a, y, z];
    }
    return [best[0], best[1], surfaceZ(shape, best[0], best[1])];
  });
}
