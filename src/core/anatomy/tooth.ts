import { modDegrees, toRadians, type Vec3 } from '../linalg/vec.ts';
import type { Cusp } from '../master/master.ts';
import { planOf } from './anatomy.ts';
import { type Blade, bladeOf } from './blade.ts';
import { grooveHollow, grooveLandmarks, secondaryHollow } from './grooves.ts';
import { sideAt } from './outer.ts';
import type { ToothPlan } from './plan.ts';
import { smoothMin, smoothstep, surfaceZ, type ToothShape, type TopElement } from './shape.ts';

/** mm: how far the valleys between cusps are rounded. */
const VALLEY = 0.14;
/** mm: roundness of cusp tips and ridge crests. */
const CREST = 0.45;

export function makeTooth(tooth: string, vary: (spread: number) => number = () => 1): ToothShape {
  const base = planOf(tooth);
  const plan: ToothPlan = { ...base, md: base.md * vary(0.03), fl: base.fl * vary(0.03), height: base.height * vary(0.03) };
  const shape = plan.blade ? anterior(tooth, { ...plan, blade: plan.blade }) : posterior(tooth, plan);
  return { ...shape, ...landmarks(shape) };
}

type Form = Omit<ToothShape, 'cusps' | 'grooves' | 'ridges'>;

/** The rounding between sides and blade: mm at the edge, share of the faciolingual size at the cingulum. */
const ROUND = { edge: 0.35, cingulum: 0.16 };

function anterior(tooth: string, plan: Parameters<typeof bladeOf>[0]): Form {
  const blade: Blade = bladeOf(plan);
  const element: TopElement = { kind: 'ridge', name: 'blade', slope: 0, height: blade.height };
  const side = (phi: number, z: number): number => sideAt(plan, phi, z);
  const low = 0.05 * plan.height;
  const inside = (x: number, y: number, z: number): number => {
    const s = side(Math.atan2(x, y), z) - Math.hypot(x, y);
    const share = Math.min(1, Math.max(0, z / plan.height));
    const below = ROUND.cingulum * plan.fl;
    const k = (below + (ROUND.edge - below) * smoothstep((share - 0.35) / 0.5)) * smoothstep((z - low) / (0.12 * plan.height));
    if (z < low || s < -k) return s;
    const top = blade.height(x, y);
    const e = 0.02;
    const slope = Math.hypot(blade.height(x + e, y) - top, blade.height(x, y + e) - top) / e;
    return smoothMin(s, (top - z) / Math.sqrt(1 + slope * slope), k);
  };
  const top: ToothShape['top'] = (x, y, lower) => (lower ? blade.sunk(lower(element))(x, y) : blade.height(x, y));
  return { tooth, plan, inside, side, top, under: blade.sunk, elements: [element] };
}

/** Premolars and molars: the upper envelope of cusps and ridges over the sides. */
function posterior(tooth: string, plan: ToothPlan): Form {
  const a = plan.md / 2;
  const b = plan.fl / 2;
  const h = plan.height;
  const at = (p: readonly [number, number, number]): Vec3 => [p[0] * a, p[1] * b, p[2] * h];
  const elements: TopElement[] = [
    ...plan.cusps.map((c): TopElement => {
      const tip = at(c.at);
      const out = Math.hypot(tip[0], tip[1]) || 1;
      return {
        kind: 'cusp',
        name: c.name,
        slope: c.inner,
        height: (x, y) => {
          const dx = x - tip[0];
          const dy = y - tip[1];
          const d = Math.hypot(dx, dy);
          const outward = d > 0 ? (dx * tip[0] + dy * tip[1]) / (d * out) : 0;
          const t = smoothstep((outward + 0.2) / 1.2);
          return tip[2] - (c.inner + (c.outer - c.inner) * t) * (Math.sqrt(d * d + CREST * CREST) - CREST);
        },
      };
    }),
    ...plan.ridges.map((r): TopElement => {
      const line = r.line.map(at);
      return { kind: 'ridge', name: r.name, slope: r.slope, height: (x, y) => crest(line, x, y, r.slope) };
    }),
  ];
  const values = new Float64Array(elements.length);
  const hollow = grooveHollow(plan);
  // A cutter is wider than the furrow: what it leaves has the cusps' valley only.
  const cut = secondaryHollow(plan);
  const top = (x: number, y: number, lower?: (e: TopElement) => number): number => {
    let max = -Infinity;
    for (let i = 0; i < elements.length; i++) {
      const v = elements[i].height(x, y) - (lower ? lower(elements[i]) : 0);
      values[i] = v;
      if (v > max) max = v;
    }
    let s = 0;
    for (let i = 0; i < values.length; i++) if (values[i] > max - 12 * VALLEY) s += Math.exp((values[i] - max) / VALLEY);
    return max + VALLEY * Math.log(s) - (lower ? cut : hollow)(x, y);
  };
  const low = 0.35 * h;
  const side = (phi: number, z: number): number => sideAt(plan, phi, z);
  const inside = (x: number, y: number, z: number): number => {
    const r = Math.hypot(x, y);
    const s = side(Math.atan2(x, y), z) - r;
    // Far outside the side, or far under every top, the side alone decides: most of the work is saved there.
    if (s < -plan.edge || z < low) return s;
    return smoothMin(s, (top(x, y) - z) * 0.8, plan.edge);
  };
  return { tooth, plan, inside, side, top, elements };
}

function crest(line: readonly Vec3[], x: number, y: number, slope: number): number {
  let best = -Infinity;
  for (let i = 0; i + 1 < line.length; i++) {
    const p = line[i];
    const q = line[i + 1];
    if (Math.max(p[2], q[2]) < best) continue;
    const ux = q[0] - p[0];
    const uy = q[1] - p[1];
    const t = Math.min(1, Math.max(0, ((x - p[0]) * ux + (y - p[1]) * uy) / (ux * ux + uy * uy)));
    const d = Math.hypot(x - p[0] - t * ux, y - p[1] - t * uy);
    const z = p[2] + t * (q[2] - p[2]) - slope * (Math.sqrt(d * d + CREST * CREST) - CREST);
    if (z > best) best = z;
  }
  return best;
}

function landmarks(shape: Pick<ToothShape, 'plan' | 'top' | 'inside'>): Pick<ToothShape, 'cusps' | 'grooves' | 'ridges'> {
  const { plan } = shape;
  const a = plan.md / 2;
  const b = plan.fl / 2;
  const onTop = (x: number, y: number): Vec3 => [x, y, surfaceZ(shape, x, y)];
  const cusps: Cusp[] = plan.cusps.map((c) => ({
    name: c.name,
    role: c.functional ? 'functional' : 'non-functional',
    at: highestNear(shape, c.at[0] * a, c.at[1] * b),
  }));
  if (plan.kind === 'incisor')
    cusps.push({ name: 'edge', role: plan.upper ? 'non-functional' : 'functional', at: highestNear(shape, 0, 0.2 * b) });
  const line = (name: string): Vec3[] => (plan.ridges.find((r) => r.name === name)?.line ?? []).map((p) => onTop(p[0] * a, p[1] * b));
  const inner = (l: Vec3[]) => (l.length === 5 ? l.slice(1, 4) : l);
  return {
    cusps,
    grooves: grooveLandmarks(shape),
    ridges: { mesial: inner(line('mesial')), distal: inner(line('distal')), oblique: line('oblique') },
  };
}

function highestNear(shape: Pick<ToothShape, 'plan' | 'inside' | 'top'>, x: number, y: number): Vec3 {
  let best: Vec3 = [x, y, surfaceZ(shape, x, y)];
  for (let step = 0.4; step > 0.01; step /= 2)
    for (let again = true; again; ) {
      again = false;
      for (const [dx, dy] of [
        [step, 0],
        [-step, 0],
        [0, step],
        [0, -step],
      ]) {
        const z = surfaceZ(shape, best[0] + dx, best[1] + dy);
        if (z > best[2] + 1e-9) {
          best = [best[0] + dx, best[1] + dy, z];
          again = true;
        }
      }
    }
  return best;
}

/** Direction in the occlusal plane at azimuth φ (degrees, 0 facial, 90 mesial). */
export const azimuthDirection = (degrees: number): [number, number] => {
  const r = toRadians(modDegrees(degrees));
  return [Math.sin(r), Math.cos(r)];
};
