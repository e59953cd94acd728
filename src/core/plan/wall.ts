import { toRadians } from '../linalg/vec.ts';
import type { Band } from '../score/verdict.ts';
import { type Cutter, halfTaper_deg } from './cutter.ts';
import { targetOf } from './depth.ts';

type Sides = Pick<Cutter, 'shank_mm' | 'tip_mm' | 'length_mm'>;

/**
 * Tilt of the handpiece towards the tooth's middle at which two opposite walls come out as a band of convergence asks.
 * @formula convergence ÷ 2 − half taper
 * @units °
 * @source docs/plan.md
 * @example 6° to 14° with a half taper of 2.1°: 10 ÷ 2 − 2.1 = 2.9
 */
export function tiltFor(convergence: Band, cutter: Sides): number | null {
  const target = targetOf(convergence, 1);
  return target === null ? null : target / 2 - halfTaper_deg(cutter);
}

/** How far the hand may err at one wall, °: outward until it is undercut, inward until the convergence is over its limit. */
export interface TiltRoom {
  readonly toUndercut: number;
  /** Null where the band has no upper end. */
  readonly toOver: number | null;
}

/**
 * How far the handpiece may tilt from where the plan has it before one wall is undercut, or leans more than half the convergence allowed.
 * `lean` is what the tooth's own lean in its arch adds at that wall when the handpiece is held by the arch and not by the tooth.
 * @formula to undercut: half taper + tilt + lean; to over-taper: hi ÷ 2 − (half taper + tilt + lean)
 * @units °
 * @source docs/plan.md
 * @example half taper 2.1, tilt 2.9, upright tooth, up to 14°: 5 to undercut, 2 to over-taper; at a wall to which the tooth leans by 6°: 11 and −4
 */
export function tiltRoom(cutter: Sides, tilt_deg: number, hi_deg: number | null, lean_deg = 0): TiltRoom {
  const wall = halfTaper_deg(cutter) + tilt_deg + lean_deg;
  return { toUndercut: wall, toOver: hi_deg === null ? null : hi_deg / 2 - wall };
}

/**
 * What a tooth's lean adds to the lean of its wall at an azimuth when the handpiece follows the arch: on the side to which it leans the wall
 * is cut over more, on the other side less.
 * @formula mesial · sin φ + facial · cos φ, φ from facial over mesial
 * @units °
 * @source docs/plan.md
 * @example a lower molar that leans 7° to mesial: +7 at its mesial wall, −7 at its distal one, 0 facially
 */
export const leanAt = ([mesial_deg, facial_deg]: readonly [number, number], azimuth_deg: number): number =>
  mesial_deg * Math.sin(toRadians(azimuth_deg)) + facial_deg * Math.cos(toRadians(azimuth_deg));
