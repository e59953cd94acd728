import type { ToothPlan } from './plan.ts';
import { smoothstep } from './shape.ts';

/** Distance of a crown's side from its axis at azimuth `phi` (radians, 0 facial, π/2 mesial) and height z, mm. */
export const sideAt = (plan: ToothPlan, phi: number, z: number): number => outline(plan, phi) * swell(plan, phi, z) + lobes(plan, phi, z);

function outline(plan: ToothPlan, phi: number): number {
  const n = plan.squareness;
  const s = Math.abs(Math.sin(phi)) / (plan.md / 2);
  const c = Math.abs(Math.cos(phi)) / (plan.fl / 2);
  // Lingual is a little narrower than facial, as the embrasures show.
  const narrow = 1 - (plan.narrow ?? 0.05) * (1 - Math.cos(phi)) * Math.sin(phi) ** 2;
  return narrow / (s ** n + c ** n) ** (1 / n);
}

/** Value that changes smoothly round the tooth from facial over mesial and lingual to distal. */
function around(v: readonly [number, number, number, number], phi: number): number {
  const c = Math.cos(phi);
  const s = Math.sin(phi);
  return (c > 0 ? v[0] : v[2]) * c * c + (s > 0 ? v[1] : v[3]) * s * s;
}

function swell(plan: ToothPlan, phi: number, z: number): number {
  const zc = around(plan.contour, phi) * plan.height;
  const cervix = around(plan.cervix, phi);
  const top = around(plan.top, phi);
  if (z >= zc) return 1 - (1 - top) * ((z - zc) / (plan.height - zc)) ** 2;
  const t = (zc - z) / zc;
  // Below the cervix the root goes on nearly straight.
  const k = 1 - cervix;
  if (t <= 1) return 1 - k * t * t * (3 - 2 * t) ** 1;
  return cervix - 0.06 * (1 - Math.exp(-(t - 1)));
}

/** mm by which the facial face stands out over its outline: two shallow furrows between three lobes, or one ridge of a canine. */
function lobes(plan: ToothPlan, phi: number, z: number): number {
  const { blade } = plan;
  if (!blade || Math.cos(phi) <= 0.2) return 0;
  const fade = smoothstep((z / plan.height - 0.25) / 0.4) * Math.min(1, (Math.cos(phi) - 0.2) / 0.4);
  const u = (outline(plan, phi) * Math.sin(phi)) / (plan.md / 2);
  const shape = blade.tip ? Math.exp(-(((u - blade.tip.at) / 0.3) ** 2)) : -Math.exp(-(((Math.abs(u) - 0.3) / 0.14) ** 2));
  return blade.lobes * fade * shape;
}
