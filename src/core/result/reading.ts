import type { Vec3 } from '../linalg/vec.ts';

export type Unit = 'mm' | 'deg' | 'mm2' | 'mm3' | 'ratio' | 'share' | 'count' | 'none';
export type Stat = 'value' | 'min' | 'p05' | 'median' | 'mean' | 'p95' | 'max' | 'count' | 'share';

/** Where a reading was taken: azimuth (degrees, 0 facial, 90 mesial) and a point in the tooth frame. */
export interface Place {
  readonly azimuth?: number;
  readonly point?: Vec3;
}

/** Why a value cannot be given. The list is closed: words/ has the sentence for each. */
export const REFUSALS = {
  'not-seen': 'less than half of this place was scanned',
  'not-on-tooth': 'this tooth has no such place',
  'no-landmark': 'the master carries no landmark for it',
  'no-opposing': 'the master has no opposing arch',
  'no-neighbour': 'the master has no neighbour on that side',
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
  'ridge-cut': 'the marginal ridge was cut through',
  'no-bevel': 'no bevel was found there',
  'single-plane': 'the surface was cut in a single plane',
  'far-apart': 'the opposing surface lies farther away than 6 mm',
  'no-number': 'the scan gives no number here; the other readings are not affected',
  'outside-scan': 'the place lies outside the scan',
} as const;
export type Refusal = keyof typeof REFUSALS;

interface ReadingBase {
  readonly name: string;
  readonly zone: string | null;
  readonly stat: Stat;
  readonly unit: Unit;
  /** Share of the zone that was seen, 0 to 1. */
  readonly coverage: number | null;
  readonly samples: number;
  readonly at: Place | null;
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
  readonly unit: Unit;
  readonly value: number;
  readonly U: number;
  readonly at?: Place | null;
  readonly coverage?: number | null;
  readonly samples?: number;
}

/** A reading from its value and U. What did not come out as a number is refused by itself: it must not take the other readings with it. */
export function reading(g: Given): Reading {
  if (!Number.isFinite(g.value) || !Number.isFinite(g.U))
    return refusal(g.name, g.zone ?? null, [g.stat ?? 'value'], g.unit, 'no-number', g.coverage ?? null)[0];
  return {
    name: g.name,
    zone: g.zone ?? null,
    stat: g.stat ?? 'value',
    unit: g.unit,
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
  unit: Unit,
  reason: Refusal,
  coverage: number | null = null,
): RefusedReading[] => stats.map((stat) => ({ name, zone, stat, unit, value: null, U: null, reason, at: null, coverage, samples: 0 }));

/** Root sum of squares of standard uncertainties, times the coverage factor 2. */
export const expanded = (...standard: number[]): number => 2 * Math.sqrt(standard.reduce((s, u) => s + u * u, 0));
