import type { HandMethod, Stat, Step, Unit } from './terms.ts';
import type { ZoneSet } from './zones.ts';

/** What further cutting does to a reading: raises it, lowers it, neither, or turns a wall (more at its top, less at its foot). */
export type Cutting = 'up' | 'down' | 'neither' | 'lean';

/** Shape of the cutter that mends a finding; score/cutters.ts computes its size. */
export type CutterRule = 'margin' | 'wall' | 'opposite walls' | 'axial' | 'bulk' | 'floor' | 'slot' | 'trimmer' | 'finisher';

/** What the depth colours of a picture are judged by. */
export type ColourOf = 'occlusal' | 'axial';

export interface StatEntry {
  readonly unit: Unit;
  /** The field's words for a statistic of a reading; empty if the name includes it. */
  readonly words: string;
  /** Digits after the point on screens. */
  readonly digits: number;
}

/** One reading, described once: everything but how it is computed. */
export interface Entry {
  readonly name: string;
  /** The field's words for it. */
  readonly title: string;
  readonly stats: Readonly<Partial<Record<Stat, StatEntry>>>;
  readonly zones: ZoneSet;
  /** What + means, where a sign is read. */
  readonly sign: string | null;
  /** How it can be read without a scan, the likeliest first. */
  readonly hand: readonly HandMethod[];
  readonly cutting: Cutting;
  readonly cutter: CutterRule | null;
  /** What a cut for this reading takes from others: mm of it per mm cut (negative: adds). */
  readonly takes: readonly { readonly reading: string; readonly per: number }[];
  /** Steps on the way at which it exists already. */
  readonly steps: readonly Exclude<Step, 'final'>[];
  /** Curve of the measurement that shows it round the tooth or along the outline. */
  readonly curve: string | null;
  /** The curve may be judged along its length: share inside the band, and worst millimetre. */
  readonly along: boolean;
  readonly colours: ColourOf | null;
  /**
   * Standard uncertainty (k = 1) of the method itself, beyond what the scan tells of alignment and noise (LENGTHS, ANGLES), from the known-truth study
   * (docs/accuracy.md): `edge` for least, largest, 5 % and 95 %, `middle` for the others. Null where the measure states its own.
   */
  readonly method: { readonly middle: number; readonly edge: number } | null;
  /** The name carries a size in brackets, such as `gauge.pass(1.0)`. */
  readonly sized: boolean;
}

/** Statistics in the field's words, by kind of quantity. "Thinnest" and "deepest" apply to depths only. */
const WORDS = {
  depth: { p05: 'thinnest (5th percentile)', p95: 'deepest (95th percentile)', min: 'thinnest', max: 'deepest' },
  width: { p05: '5th percentile', p95: '95th percentile', min: 'narrowest', max: 'widest' },
  height: { p05: '5th percentile', p95: '95th percentile', min: 'lowest', max: 'highest' },
  angle: { p05: '5th percentile', p95: '95th percentile', min: 'smallest', max: 'largest' },
  gap: { p05: '5th percentile', p95: '95th percentile', min: 'smallest', max: 'largest' },
  damage: { p05: '5th percentile', p95: '95th percentile', min: 'least', max: 'deepest place' },
} as const satisfies Record<string, Partial<Record<Stat, string>>>;
export type Quantity = keyof typeof WORDS;

/** Digits after the point on screens. */
export const DIGITS: Readonly<Record<Unit, number>> = { mm: 2, deg: 1, mm2: 2, mm3: 2, ratio: 2, share: 2, count: 0, none: 0 };

export const statEntry = (unit: Unit, stat: Stat, quantity: Quantity = 'width'): StatEntry => ({
  unit,
  digits: DIGITS[unit],
  words: (WORDS[quantity] as Partial<Record<Stat, string>>)[stat] ?? (stat === 'median' || stat === 'mean' ? stat : ''),
});

type Loose = Partial<Omit<Entry, 'name' | 'title' | 'stats' | 'zones'>> & { readonly quantity?: Quantity };

/** An entry whose statistics share one unit. Defaults: read by eye, not changed by cutting, present in the finished work. */
export function entry(name: string, title: string, unit: Unit, stats: readonly Stat[], zones: ZoneSet, more: Loose = {}): Entry {
  const { quantity, ...given } = more;
  return {
    name,
    title,
    stats: Object.fromEntries(stats.map((s) => [s, statEntry(s === 'share' ? 'share' : s === 'count' ? 'count' : unit, s, quantity)])),
    zones,
    sign: null,
    hand: ['eye'],
    cutting: 'neither',
    cutter: null,
    takes: [],
    steps: [],
    curve: null,
    along: false,
    colours: null,
    method: null,
    sized: false,
    ...given,
  };
}

/** The same for the middle figures and the ends. */
export const method = (middle: number, edge = middle): Entry['method'] => ({ middle, edge });

/**
 * Standard uncertainty that a scan cannot show: effect of the definitions' free choices (windows, trims, τ) and of the
 * master's own scan on a length or an angle. One figure for all lengths and one for all angles, the same on every family of
 * shapes in the study (docs/accuracy.md); the rest of U comes from the scan.
 */
export const LENGTHS: Entry['method'] = method(0.012);
export const ANGLES: Entry['method'] = method(0.25);

/** What several families of readings share: statistics round the tooth, ways to read by hand, and the steps from which walls and the occlusal surface exist. */
export const AROUND: readonly Stat[] = ['min', 'p05', 'median', 'mean', 'p95', 'max'];
export const BY_PROBE: readonly HandMethod[] = ['probe', 'gauge', 'wax', 'explorer', 'eye'];
export const BY_EXPLORER: readonly HandMethod[] = ['explorer', 'eye', 'probe'];
export const FROM_AXIAL = ['axial'] as const;
export const FROM_OCCLUSAL = ['occlusal', 'axial'] as const;
