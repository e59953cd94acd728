import type { Vec3 } from '../linalg/vec.ts';
import { isPrimary } from './anatomy.ts';
import { smoothstep, surfaceZ, type ToothShape } from './shape.ts';
import { type Solid, tessellateStar } from './tessellate.ts';

/** A body inside a tooth, in the tooth's own frame: positive within. */
export type Within = (x: number, y: number, z: number) => number;

/** Where decay sits and how far it has gone. */
export interface CariesRecipe {
  readonly site: 'occlusal' | 'mesial' | 'distal';
  /** mm from the tooth's surface to its deepest point, and across at the surface. */
  readonly depth: number;
  readonly width: number;
}

/** mm of enamel over the cusps and on the sides at their fullest; it runs out towards the cervix. */
const ENAMEL = { permanent: { top: 1.7, side: 1.1 }, primary: { top: 0.9, side: 0.7 } } as const;
/** The pulp chamber's share of the crown's cross-section: it is narrow mesiodistally. And mm of dentine over its horns. */
const CHAMBER = { posterior: 0.33, anterior: 0.24, mesiodistal: 0.2 } as const;
const ROOF = { permanent: 2.6, primary: 1.8 } as const;
/** mm between the lingual face of an anterior tooth and its pulp. */
const BEHIND = { permanent: 2.1, primary: 1.5 } as const;
/** mm: the narrowest the pulp is. */
const LEAST_PULP = 0.45;

const age = (t: ToothShape): 'permanent' | 'primary' => (isPrimary(t.tooth) ? 'primary' : 'permanent');

/** Everything under the enamel. Enamel is thickest towards the cusps and runs out at the cervix. */
export function dentine(t: ToothShape): Within {
  const { top, side } = ENAMEL[age(t)];
  return (x, y, z) => {
    const thin = side * smoothstep(z / (0.6 * t.plan.height));
    return Math.min(t.side(Math.atan2(x, y), z) - thin - Math.hypot(x, y), t.top(x, y) - top - z);
  };
}

/** The pulp chamber with its horns under the cusps, and the beginning of the root canal. */
export function pulp(t: ToothShape): Within {
  const roof = ENAMEL[age(t)].top + ROOF[age(t)];
  // Under a blade the chamber is thin: everywhere as far from the lingual face as its sides are from theirs.
  const under = t.under?.(BEHIND[age(t)]);
  const deep = under ? CHAMBER.anterior : CHAMBER.posterior;
  return (x, y, z) => {
    const phi = Math.atan2(x, y);
    const share = CHAMBER.mesiodistal + (deep - CHAMBER.mesiodistal) * Math.cos(phi) ** 2;
    const r = Math.max(LEAST_PULP, share * t.side(phi, Math.min(z, 0.5)));
    // Towards the crown's end it tapers with the tooth; an incisor's chamber ends in an edge, not in a wall.
    const taper = 1 - 0.35 * smoothstep(z / t.plan.height);
    const over = under ? Math.min(under(x, y), t.plan.height - roof) : t.top(x, y) - roof;
    return Math.min(r * taper - Math.hypot(x, y), over - z, z + 3);
  };
}

/** Decay from a pit or a contact inward, kept within the tooth: half an ellipsoid about its place on the surface. */
export function caries(t: ToothShape, c: CariesRecipe, at: Vec3): { within: Within; centre: Vec3 } {
  const inward: Vec3 = c.site === 'occlusal' ? [0, 0, -1] : [c.site === 'mesial' ? -1 : 1, 0, 0];
  const half = c.width / 2;
  const within: Within = (x, y, z) => {
    const d: Vec3 = [x - at[0], y - at[1], z - at[2]];
    const deep = d[0] * inward[0] + d[1] * inward[1] + d[2] * inward[2];
    const across = Math.sqrt(Math.max(0, d[0] ** 2 + d[1] ** 2 + d[2] ** 2 - deep * deep));
    return Math.min((1 - Math.hypot(deep / c.depth, across / half)) * Math.min(half, c.depth), t.inside(x, y, z));
  };
  const into = 0.4 * c.depth;
  return { within, centre: [at[0] + into * inward[0], at[1] + into * inward[1], at[2] + into * inward[2]] };
}

/** Where decay begins: in the pit at the groove's middle, or a little under the contact. */
export function cariesPlace(t: ToothShape, c: CariesRecipe, contact: Vec3 | null): Vec3 {
  if (c.site === 'occlusal') {
    const groove = t.grooves.find((g) => g.name === 'central')?.line;
    if (!groove) throw new RangeError(`tooth ${t.tooth} has no central groove for occlusal caries to begin in`);
    const [x, y] = groove[groove.length >> 1];
    return [x, y, surfaceZ(t, x, y)];
  }
  const s = c.site === 'mesial' ? 1 : -1;
  const z = (contact?.[2] ?? 0.6 * t.plan.height) - 0.5;
  const y = contact?.[1] ?? 0;
  return [t.side(Math.atan2(s * t.plan.md, y), z) * s, y, z];
}

/** Closed meshes of the inner bodies, fine enough for distances to 0.01 mm. */
export const dentineSolid = (t: ToothShape): Solid => tessellateStar(withRoot(dentine(t)), [0, 0, 0.15 * t.plan.height], 40);
export const pulpSolid = (t: ToothShape): Solid => tessellateStar(pulp(t), [0, 0, -0.5], 32);
export function cariesSolid(t: ToothShape, c: CariesRecipe, at: Vec3): Solid {
  const { within, centre } = caries(t, c, at);
  return tessellateStar(within, centre, 24);
}

const withRoot =
  (f: Within): Within =>
  (x, y, z) =>
    Math.min(f(x, y, z), z + 4);
