import { leastSquares } from '../../linalg/least-squares.ts';
import { mean } from '../../statistics/quantile.ts';

/** Along the wall and out of it, mm. */
export type Place = readonly [number, number];

/** A straight line through places, and how far they lie off it (RMS, mm). */
export interface Line {
  readonly at: (x: number) => number;
  readonly slope: number;
  readonly off: number;
}

export function lineThrough(places: readonly Place[]): Line {
  const x0 = mean(places.map((q) => q[0]));
  const y0 = mean(places.map((q) => q[1]));
  const slope = places.reduce((s, q) => s + (q[0] - x0) * (q[1] - y0), 0) / (places.reduce((s, q) => s + (q[0] - x0) ** 2, 0) || 1);
  const at = (x: number): number => y0 + slope * (x - x0);
  return { at, slope, off: Math.sqrt(mean(places.map((q) => (q[1] - at(q[0])) ** 2))) / Math.hypot(1, slope) };
}

/** The parabola v = a + bu + cu² through places on both sides of a notch; null where they are no one curved wall. */
export function wallAcross(places: readonly Place[], off: number): ((u: number) => number) | null {
  const fit = leastSquares(places.map(([u, v]) => ({ f: [1, u, u * u], x: v, w: 1 })));
  if (!fit) return null;
  const at = (u: number): number => fit[0] + fit[1] * u + fit[2] * u * u;
  return Math.sqrt(mean(places.map(([u, v]) => (v - at(u)) ** 2))) < off ? at : null;
}

/** A rotating cutter's section: round at its bottom, its sides straight out from there. */
export interface RoundCutter {
  readonly middle: Place;
  readonly radius: number;
  /** Radians by which its sides lean against the frame's way out: + to where u is less. */
  readonly turn: number;
}

/** mm: radii that grooves are cut with, and RMS within which places are those of one round cutter. */
const RADII = [0.2, 0.9] as const;
const ROUND = 0.035;
const LEAST = 6;
const ROUNDS = 10;
/** mm: scatter of a place about the section, and radians by which a frame may stand askew: together they say how far short sides can turn it. */
const SCATTER = 0.02;
const ASKEW = 0.3;

/**
 * The round cutter that left a notch's deep places; null where they are not one's: a box has a level bottom.
 * @formula Gauss–Newton on the distance from the cutter's section, √(x² + y²) − R under its middle and |x| − R over it, with (x, y) from the middle along and out of its own frame; that frame's turn is held to the given one by 0.3 rad at 0.02 mm of scatter
 */
export function roundCutter(places: readonly Place[], noise: number): RoundCutter | null {
  if (places.length < LEAST) return null;
  const us = places.map((q) => q[0]);
  let radius = (Math.max(...us) - Math.min(...us)) / 2;
  let [a, b] = [(Math.max(...us) + Math.min(...us)) / 2, Math.min(...places.map((q) => q[1])) + radius];
  let [turn, off] = [0, Infinity];
  const held = (Math.max(SCATTER, noise) / ASKEW) ** 2;
  for (let round = 0; round < ROUNDS; round++) {
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    const rows = places.map(([u, v]) => {
      const [x, up] = [(u - a) * c + (v - b) * s, (v - b) * c - (u - a) * s];
      const y = Math.min(0, up);
      const d = Math.hypot(x, y) || 1e-9;
      // Only sides tell a turn: about its middle the bottom is the same from everywhere.
      return { f: [(x * c - y * s) / d, (x * s + y * c) / d, 1, up > 0 ? -Math.sign(x) * up : 0], x: d - radius, w: 1 };
    });
    off = Math.sqrt(mean(rows.map((q) => q.x ** 2)));
    const step = leastSquares([...rows, { f: [0, 0, 0, 1], x: -turn, w: held }]);
    if (!step) return null;
    a += step[0];
    b += step[1];
    radius += step[2];
    turn += step[3];
  }
  if (!(radius > RADII[0] && radius < RADII[1]) || !(Math.abs(turn) < 1) || off > Math.hypot(ROUND, noise)) return null;
  return { middle: [a, b], radius, turn };
}

/** How far out of the notch a place lies, from the cutter's middle along its sides. */
export const heightOver = ({ middle: [a, b], turn }: RoundCutter, [u, v]: Place): number =>
  (v - b) * Math.cos(turn) - (u - a) * Math.sin(turn);

/** Width of the cutter's section at a height over its middle; its whole width from there on. */
export const widthAt = ({ radius }: RoundCutter, up: number): number => 2 * Math.sqrt(Math.max(0, radius ** 2 - Math.min(0, up) ** 2));

/** Where the cutter's side on one hand, or its round bottom, meets the wall: the corner that it left. */
export function cornerOfRound(c: RoundCutter, hand: 1 | -1, wall: (u: number) => number): Place {
  const [cos, sin] = [Math.cos(c.turn), Math.sin(c.turn)];
  let [u, up] = [0, 0];
  for (let i = 0; i < 30; i++) {
    const x = (hand * widthAt(c, up)) / 2;
    u = c.middle[0] + x * cos - up * sin;
    up += (wall(u) - (c.middle[1] + x * sin + up * cos)) / cos;
  }
  return [u, wall(u)];
}

/** mm under the wall between which a box's side is taken as straight. */
const SIDE = [0.1, 0.4] as const;
/** Least steepness of a side: mm out per mm along. */
const STEEP = 0.45;
/** Where a straight side on one hand meets the wall; `found` where too little of the side is seen. */
export function cornerOfSide(places: readonly Place[], hand: 1 | -1, wall: (u: number) => number, found: Place): Place {
  const side = places.filter(([u, v]) => hand * u > 0 && wall(u) - v > SIDE[0] && wall(u) - v < SIDE[1]);
  if (side.length < 3) return found;
  const edge = lineThrough(side.map(([u, v]): Place => [v, u]));
  if (Math.abs(edge.slope) > 1 / STEEP) return found;
  let u = found[0];
  for (let i = 0; i < 4; i++) u = edge.at(wall(u));
  return [u, wall(u)];
}
