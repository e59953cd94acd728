import type { ToothPlan } from './plan.ts';
import { smoothstep } from './shape.ts';

/** Distance of a crown's side from its axis at azimuth `phi` (radians, 0 facial, π/2 mesial) and height z, mm. */
export function sideAt(plan: ToothPlan, phi: number, z: number): number {
  const sin = Math.sin(phi);
  const cos = Math.cos(phi);
  return outline(plan, sin, cos) * swell(plan, sin, cos, z) + lobes(plan, sin, cos, z);
}

function outline(plan: ToothPlan, sin: number, cos: number): number {
  const n = plan.squareness;
  const s = Math.abs(sin) / (plan.md / 2);
  const c = Math.abs(cos) / (plan.fl / 2);
  // Lingual is a little narrower than facial, as the embrasures show.
  const narrow = 1 - (plan.narrow ?? 0.05) * (1 - cos) * sin ** 2;
  return narrow / (s ** n + c ** n) ** (1 / n);
}

/** Value that changes smoothly round the tooth from facial over mesial and lingual to distal. */
const around = (v: readonly [number, number, number, number], sin: number, cos: number): number =>
  (cos > 0 ? v[0] : v[2]) * cos * cos + (sin > 0 ? v[1] : v[3]) * sin * sin;

function swell(plan: ToothPlan, sin: number, cos: number, z: number): number {
  const zc = around(plan.contour, sin, cos) * plan.height;
  if (z >= zc) return 1 - (1 - around(plan.top, sin, cos)) * ((z - zc) / (plan.height - zc)) ** 2;
  const cervix = around(plan.cervix, sin, cos);
  const t = (zc - z) / zc;
  // Below the cervix the root goes on nearly straight.
  if (t <= 1) return 1 - (1 - cervix) * t * t * (3 - 2 * t);
  return cervix - 0.06 * (1 - Math.exp(-(t - 1)));
}

/** mm by which the facial face stands out over its outline: two shallow furrows between three lobes, or one ridge of a canine. */
function lobes(plan: ToothPlan, sin: number, cos: number, z: number): number {
  const { blade } = plan;
  if (!blade || cos <= 0.2) return 0;
  const fade = smoothstep((z / plan.height - 0.25) / 0.4) * Math.min(1, (cos - 0.2) / 0.4);
  const u = (outline(plan, sin, cos) * sin) / (plan.md / 2);
  const shape = blade.tip ? Math.exp(-(((u - blade.tip.at) / 0.3) ** 2)) : -Math.exp(-(((Math.abs(u) - 0.3) / 0.14) ** 2));
  return blade.lobes * fade * shape;
}
