import { unitOf } from '../catalogue/catalogue.ts';
import type { Stat, Unit } from '../catalogue/terms.ts';
import type { Vec3 } from '../linalg/vec.ts';

/** Where a reading was taken: azimuth (degrees, 0 facial, 90 mesial) and a point in the tooth frame. */
export interface Place {
  readonly azimuth?: number;
  readonly point?: Vec3;
}

/** Why a value cannot be given. The list is closed; each sentence follows the words "not read:". */
export const REFUSALS = {
  'not-seen': 'less than half of this place was scanned',
  'not-on-tooth': 'this tooth has no such place',
  'no-landmark': 'the master carries no landmark for it',
  'no-opposing': 'the master has no opposing arch',
  'no-neighbour': 'the master has no neighbour on that side',
  'no-gingiva': 'the master has no gingiva',
  'no-pulp': 'the master has no pulp inside',
  'no-caries': 'the master has no caries inside',
  'no-dentine': 'the master has no dentine surface inside',
  'no-cej': 'the master carries no cemento-enamel junction: draw it where the master’s landmarks are set',
  'no-neighbour-cusps': 'the master carries no cusp tips of both neighbours: set them where the master’s landmarks are set',
  'nothing-prepared': 'no preparation was found on the target tooth',
  'no-finish-line': 'no finish line could be followed here',
  'no-wall': 'no wall steep enough was found here',
  'walls-merge': 'the walls run into one another without a corner: only the whole of them has an angle',
  'too-shallow-edge': 'the edge runs out too flat to be placed',
  'no-groove': 'the master carries no primary central groove',
  'no-outline': 'no closed outline of the cavity could be followed',
  'not-covered': 'the preparation leaves this part of the tooth uncovered',
  'no-groove-cut': 'no groove was found in the prepared walls',
  'no-reverse-curve': 'the outline runs into the box without a reverse curve',
  'no-pinhole': 'no pinhole was found',
  'no-pair': 'there are no two of them to compare',
  'no-pulpal-floor': 'no pulpal floor was found',
  'no-gingival-floor': 'no gingival floor was found',
  'no-box': 'no box was found on that side',
  'ridge-cut': 'the marginal ridge was cut through',
  'no-opposing-axis': 'the master carries no long axis of the opposing tooth: set it where the master’s landmarks are set',
  'no-plane': 'no plane was found there: the edge is rounded or comes to a line',
  'no-corner': 'the outline runs on without a corner',
  'no-closed-end': 'the outline runs into a box at both ends',
  passes: 'the gauge goes through without touching',
  'no-bevel': 'no bevel was found there',
  'single-plane': 'the surface was cut in a single plane',
  'far-apart': 'the opposing surface lies farther away than 6 mm',
  'no-number': 'the scan gives no number here; the other readings are not affected',
  'no-abutment': 'no second abutment is named: name its master where the exercise is set up',
  'abutment-not-read': 'no path of insertion of the other abutment could be read in this scan',
  'is-abutment': 'this neighbour is the other abutment and was prepared as well',
  'outside-scan': 'the place lies outside the scan',
} as const;
export type Refusal = keyof typeof REFUSALS;

/**
 * Refusals that mean "this tooth has no such place", known from the master alone. Only these let a rubric skip a place; all
 * other missing readings are asked for, because a student's fault may be the reason.
 */
export const DOES_NOT_EXIST: ReadonlySet<string> = new Set<Refusal>([
  'not-on-tooth',
  'no-opposing',
  'no-neighbour',
  'no-gingiva',
  'no-pulp',
  'no-caries',
  'no-dentine',
  'no-abutment',
  'is-abutment',
]);

interface ReadingBase {
  readonly name: string;
  readonly zone: string | null;
  readonly stat: Stat;
  readonly unit: Unit;
  /** Share of the zone that was seen, 0 to 1. */
  readonly coverage: number | null;
  readonly samples: number;
  readonly at: Place | null;
  /** An instructor's own reading, not the scan's. */
  readonly byHand?: true;
}
export interface ValueReading extends ReadingBase {
  readonly value: number;
  /** Expanded uncertainty, k = 2, in the reading's unit. */
  readonly U: number;
  readonly reason: null;
}
export interface RefusedReading extends ReadingBase {
  readonly value: null;
  readonly U: null;
  readonly reason: Refusal;
}
/** A measured value with unit, uncertainty, place and coverage, or a refusal with its reason. Never NaN, 0 or a guess. */
export type Reading = ValueReading | RefusedReading;

interface Given {
  readonly name: string;
  readonly zone?: string | null;
  readonly stat?: Stat;
  readonly value: number;
  readonly U: number;
  readonly at?: Place | null;
  readonly coverage?: number | null;
  readonly samples?: number;
}

/**
 * A reading from its value and U, with the catalogue's unit. A value that is not a number becomes a refusal, without
 * affecting other readings.
 */
export function reading(g: Given): Reading {
  const stat = g.stat ?? 'value';
  if (!Number.isFinite(g.value) || !Number.isFinite(g.U))
    return refusal(g.name, g.zone ?? null, [stat], 'no-number', g.coverage ?? null)[0];
  return {
    name: g.name,
    zone: g.zone ?? null,
    stat,
    unit: unitOf(g.name, stat),
    value: g.value,
    U: g.U,
    at: g.at ?? null,
    coverage: g.coverage ?? null,
    samples: g.samples ?? 1,
    reason: null,
  };
}

export const refusal = (
  name: string,
  zone: string | null,
  stats: readonly Stat[],
  reason: Refusal,
  coverage: number | null = null,
): RefusedReading[] =>
  stats.map((stat) => ({ name, zone, stat, unit: unitOf(name, stat), value: null, U: null, reason, at: null, coverage, samples: 0 }));

/** Root sum of squares of standard uncertainties, times the coverage factor 2. */
export const expanded = (...standard: number[]): number => 2 * Math.sqrt(standard.reduce((s, u) => s + u * u, 0));
