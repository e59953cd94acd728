import { SIDES, type Side } from '../../linalg/sectors.ts';
import { dot, scale, sub, toDegrees, unit, type Vec3, wrapDegrees } from '../../linalg/vec.ts';
import { type OutlinePoint, outlineOf } from '../../segment/cavity/outline.ts';
import type { CrownAnatomy } from '../../segment/crown/crown.ts';
import { withoutMixedEnds } from '../../segment/crown/mixed-ends.ts';
import { type Groove, groovesOf } from '../../segment/partial/grooves.ts';
import { type Pinhole, pinholesOf } from '../../segment/partial/pinholes.ts';
import { type CrownContext, crownContext } from '../crown/context.ts';

/** What a partial crown has beyond a crown, each guide with the zone name of its side. */
export interface PartialContext {
  readonly crown: CrownContext;
  readonly grooves: readonly { readonly zone: string; readonly groove: Groove }[];
  readonly pins: readonly { readonly zone: string; readonly pin: Pinhole }[];
  readonly outline: readonly OutlinePoint[];
}

export function partialContext(anatomy: CrownAnatomy): PartialContext {
  const grooves = groovesOf(anatomy);
  const pins = pinholesOf(anatomy.region);
  const along = [...grooves.map((g) => g.direction), ...pins.flatMap((p) => (p.axis ? [p.axis] : []))];
  const crown = crownContext(besideGrooves(anatomy, grooves), along.flatMap(wallsAlong));
  return {
    crown,
    grooves: named(grooves, (g) => sideOf(g.azimuth)).map(([zone, groove]) => ({ zone, groove })),
    pins: named(pins, () => 'pin').map(([zone, pin]) => ({ zone, pin })),
    outline: outlineOf(anatomy.region, anatomy.master.target),
  };
}

/** mm beyond a groove's lips within which a half plane still reads the groove. */
const BESIDE = 0.3;

/** The wall without its grooves: half planes through one would take its bottom for the wall. */
function besideGrooves(a: CrownAnatomy, grooves: readonly Groove[]): CrownAnatomy {
  const n = a.covered.length;
  const outside = (k: number): boolean =>
    grooves.every((g) => {
      const radius = Math.hypot(g.from[0], g.from[1]) + g.depth;
      return Math.abs(wrapDegrees((360 * k) / n - g.azimuth)) > toDegrees(Math.atan((g.width / 2 + BESIDE) / radius));
    });
  const covered = withoutMixedEnds(
    a.covered.map((c, k) => c && outside(k)),
    a.profiles,
  );
  return { ...a, profiles: a.profiles.map((p, k) => (covered[k] || (!a.covered[k] && outside(k)) ? p : null)), covered };
}

/** Normals all round a guide's line: its own walls run along it and let nothing lean either way. */
const wallsAlong = (d: Vec3): Vec3[] =>
  Array.from({ length: 8 }, (_, k) => {
    const a = (k * Math.PI) / 4;
    const across: Vec3 = [Math.sin(a), Math.cos(a), 0];
    return unit(sub(across, scale(d, dot(across, d))));
  });

const sideOf = (azimuth: number): Side => SIDES[Math.round(azimuth / 90) % 4];

/** The second of the same name gets its number. */
function named<T>(things: readonly T[], nameOf: (t: T) => string): [string, T][] {
  const used = new Map<string, number>();
  return things.map((t) => {
    const name = nameOf(t);
    const n = (used.get(name) ?? 0) + 1;
    used.set(name, n);
    return [n === 1 ? name : `${name} ${n}`, t];
  });
}
