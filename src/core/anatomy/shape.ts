import type { Vec3 } from '../linalg/vec.ts';
import type { Cusp, Groove } from '../master/master.ts';
import type { ToothPlan } from './plan.ts';

/**
 * A tooth as an implicit solid in its own tooth frame (x mesial, y facial, z occlusal, mm; z = 0 near the gingival
 * margin): inside where `inside` > 0. Sides are an outline that swells to the height of contour; the top is the upper
 * envelope of cusps and ridges; both meet in a rounded edge.
 */
export interface ToothShape {
  readonly tooth: string;
  readonly plan: ToothPlan;
  inside(x: number, y: number, z: number): number;
  /** Distance of the side from the axis at azimuth `phi` (radians, 0 facial, π/2 mesial) and height z. */
  side(phi: number, z: number): number;
  /** Height of the top over (x, y), each element lowered by what `lower` says. */
  top(x: number, y: number, lower?: (element: TopElement) => number): number;
  /** Anterior teeth: height over (x, y) at which a point lies `depth` mm from edge and lingual face. */
  readonly under?: (depth: number) => (x: number, y: number) => number;
  readonly elements: readonly TopElement[];
  readonly cusps: readonly Cusp[];
  readonly grooves: readonly Groove[];
  readonly ridges: { mesial: Vec3[]; distal: Vec3[]; oblique: Vec3[] };
}

export interface TopElement {
  readonly kind: 'cusp' | 'ridge';
  readonly name: string;
  readonly slope: number;
  readonly height: (x: number, y: number) => number;
}

/** Height of the tooth's surface over (x, y), found from above. */
export function surfaceZ(shape: Pick<ToothShape, 'plan' | 'inside' | 'top'>, x: number, y: number): number {
  let hi = Math.min(shape.plan.height + 1, shape.top(x, y) + 0.01);
  let lo = -3;
  for (let z = hi; z > lo; z -= 0.15)
    if (shape.inside(x, y, z) > 0) {
      lo = z;
      hi = z + 0.15;
      break;
    }
  for (let i = 0; i < 22; i++) {
    const m = (lo + hi) / 2;
    if (shape.inside(x, y, m) > 0) lo = m;
    else hi = m;
  }
  return lo;
}

/** The lesser of two heights, the corner between them rounded within k of it. */
export function smoothMin(a: number, b: number, k: number): number {
  if (k <= 0) return Math.min(a, b);
  const d = Math.max(k - Math.abs(a - b), 0) / k;
  return Math.min(a, b) - (d * d * k) / 4;
}

/** 0 up to 0, 1 from 1 on, without a corner between. */
export function smoothstep(value: number): number {
  const t = Math.min(1, Math.max(0, value));
  return t * t * (3 - 2 * t);
}
