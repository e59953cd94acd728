// Family "implicit", crowns with a functional bevel under the cusps of an opposing tooth, as functions of place.
import { dot, scale, unit, type Vec3 } from '#core/linalg/vec.ts';
import type { NamedCase, Truth } from './case.ts';
import { type Bite, occlusalBite, opposingOf, opposingSheet } from './implicit-bite.ts';
import { bevelPlane, crown, crownTruths, type ImplicitCrown, mean, prepared, sides } from './implicit-crown.ts';
import { type Body, gradient } from './implicit-mesh.ts';
import { type ImplicitTooth, landmarks } from './implicit-tooth.ts';
import { scansOf } from './implicit-work.ts';

const RAD = Math.PI / 180;

/** Degrees round a cusp within which the bevel is its own, and mm between the places that stand for it. */
const ARC = 18;
const STEP = 0.08;
/** mm by which everything else must be out of the way where the bevel's plane is the surface. */
const CLEAR = 0.03;

/** Places of the bevel about one azimuth, in half planes through the axis. */
function placesAbout(body: Body, c: ImplicitCrown, azimuth: number): Vec3[] {
  if (!c.bevel) return [];
  const plane = bevelPlane(c.bevel);
  const out: Vec3[] = [];
  for (let phi = azimuth - ARC; phi <= azimuth + ARC; phi += 2)
    for (let z = 1; z < 9; z += STEP) {
      const [s, k] = [Math.sin(phi * RAD), Math.cos(phi * RAD)];
      // Where the plane stands at this height, straight out of the axis.
      const r = -plane(0, 0, z) / (c.bevel.side * k * Math.cos(c.bevel.angle * RAD));
      if (!(r > 0.5 && r < 8)) continue;
      const p: Vec3 = [r * s, r * k, z];
      // The solid a little inside is bounded by this plane and by nothing else.
      if (Math.abs(body(...p)) < 1e-6 && body(p[0], p[1] - c.bevel.side * CLEAR, z - CLEAR) < -CLEAR) out.push(p);
    }
  return out;
}

/** Mean angle between the bevel and the mean direction of what it faces at the places nearest to it, over the functional cusps. */
function opposingTruth(t: ImplicitTooth, c: ImplicitCrown, b: Bite): Truth[] {
  const [body, opposing] = [prepared(t, c), opposingOf(b)];
  const fine = opposingSheet(b, 0.06).positions;
  const facing = (p: Vec3): Vec3 => {
    let [best, at] = [Infinity, 0];
    for (let i = 0; i < fine.length; i += 3) {
      const d = (fine[i] - p[0]) ** 2 + (fine[i + 1] - p[1]) ** 2 + (fine[i + 2] - p[2]) ** 2;
      if (d < best) [best, at] = [d, i];
    }
    return unit(gradient(opposing, [fine[at], fine[at + 1], fine[at + 2]]));
  };
  const { angle = 0, side = 1 } = c.bevel ?? {};
  const normal: Vec3 = [0, side * Math.cos(angle * RAD), Math.sin(angle * RAD)];
  const angles = landmarks(t)
    .cusps.filter((q) => q.role === 'functional')
    .flatMap(({ at }): number[] => {
      const faced = placesAbout(body, c, Math.atan2(at[0], at[1]) / RAD).map(facing);
      if (faced.length === 0) return [];
      const direction = unit(faced.reduce<Vec3>((s, n) => [s[0] + n[0], s[1] + n[1], s[2] + n[2]], [0, 0, 0]));
      return [Math.acos(Math.min(1, dot(normal, scale(direction, -1)))) / RAD];
    });
  return [{ name: 'bevel.opposing', zone: null, stat: 'value', value: mean(angles) }];
}

const WORKS: readonly (readonly [string, string, ImplicitCrown, Bite])[] = [
  [
    'bevel under a facial cusp',
    'molar36',
    { ...crown(0.5, sides(0.8), sides(6), 1.2, 0.2, 0.15), bevel: { angle: 45, side: 1, y: 3, z: 5.2 } },
    { form: 'molar17', facial: 1.9, over: 12.7 },
  ],
  [
    'steep bevel under a facial cusp',
    'molar36',
    { ...crown(0.6, sides(0.9, 0.7), sides(7, 5), 1, 0.3, 0.2), bevel: { angle: 37, side: 1, y: 3.1, z: 4.9 } },
    { form: 'molar17', facial: 1.3, over: 12.6 },
  ],
  [
    'bevel under lingual cusps',
    'molar17',
    { ...crown(0.6, sides(0.7), sides(5, 4, 6), 1.2, 0.25, 0.15), bevel: { angle: 45, side: -1, y: 3, z: 4.5 } },
    { form: 'molar36', facial: -1.6, over: 12.8 },
  ],
];

export const IMPLICIT_BEVELS: readonly NamedCase[] = scansOf(
  WORKS.map(([words, form, cut, bite]) => ({
    kind: 'crown',
    name: `${form} crown, ${words}`,
    form,
    body: (t) => prepared(t, cut),
    truths: (t) => [...crownTruths(t, cut), ...opposingTruth(t, cut, bite), ...occlusalBite(t, prepared(t, cut), bite)],
    beside: () => ({ opposing: opposingSheet(bite, 0.15) }),
  })),
  1080,
);
