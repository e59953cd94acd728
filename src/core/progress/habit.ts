import { tChance } from '../statistics/beta.ts';
import { median, quantile } from '../statistics/quantile.ts';
import { seeded } from '../statistics/random.ts';
import { type Told, tooFew } from './told.ts';

/** Bins of 5° round the tooth, from facial over mesial. */
export const BINS = 72;
/** What lies outside the band in each bin, signed; 0 inside, null where nothing was read. */
export type ErrorCurve = readonly (number | null)[];

export interface HabitAttempt {
  readonly curve: ErrorCurve;
  /** The tooth, in two digits: says where the hand was. */
  readonly tooth: string;
}

export interface Habit {
  readonly p: number;
  /** Weighted mean of the curves, by bin. */
  readonly mean: readonly number[];
  /** |mean| beyond which chance reaches nowhere in 95 of 100. */
  readonly limit: number;
  /** Bin of the largest |mean|, and the stretch round it that lies beyond the limit. */
  readonly at: number;
  readonly from: number;
  readonly to: number;
  /** Signed error there. */
  readonly size: number;
  /** Attempts that are outside there on the same side. */
  readonly times: number;
  readonly of: number;
}

const LEAST = 4;
const TURNS = 4999;
/** Turns as large as what was seen from which it is clear that chance does it. */
const ENOUGH = 100;

/** The weighted mean of curves, each turned by so many bins; where nothing was read counts as no error. */
function meanOf(curves: readonly Float64Array[], weights: readonly number[], turns: readonly number[] | null, out: Float64Array): void {
  out.fill(0);
  curves.forEach((c, i) => {
    const turn = turns ? turns[i] : 0;
    const w = weights[i];
    for (let b = 0; b < BINS - turn; b++) out[b + turn] += w * c[b];
    for (let b = BINS - turn; b < BINS; b++) out[b + turn - BINS] += w * c[b];
  });
}

/**
 * Weights that sum to 1: an attempt that errs everywhere says little of one place. Turning a curve does not change its weight, so chance is reckoned as before.
 * @formula w ∝ 1 ÷ (m + r), r the root mean square of an attempt's errors round the ring, m the median of r over the attempts
 */
function weightsOf(curves: readonly Float64Array[]): number[] {
  const sizes = curves.map((c) => Math.sqrt(c.reduce((s, v) => s + v * v, 0) / c.length));
  const usual = median(sizes);
  const own = sizes.map((r) => (usual + r > 0 ? 1 / (usual + r) : 1));
  const all = own.reduce((s, w) => s + w, 0);
  return own.map((w) => w / all);
}
function largest(m: Float64Array): number {
  let best = 0;
  for (let b = 0; b < m.length; b++) {
    const v = m[b] < 0 ? -m[b] : m[b];
    if (v > best) best = v;
  }
  return best;
}
const filled = (curve: ErrorCurve): Float64Array => Float64Array.from(curve, (v) => v ?? 0);

/**
 * Where round the tooth the same error returns, and how likely chance would make it return as clearly anywhere.
 * @formula statistic = largest |weighted mean of the error curves| over 72 bins, weights 1 ÷ (m + r), r an attempt's root mean square error round the ring and m their median; null: each attempt's curve turned by an angle of its own, which keeps its smoothness; p = (1 + number as large) ÷ (1 + B), B =
 *   4,999 seeded turns, or fewer once 100 were as large: then p = 100 ÷ their number. The largest over all places controls for having looked everywhere
 * @units as the curves; p
 * @fails fewer than four attempts
 * @source Phipson and Smyth 2010 for p; Besag and Clifford 1991 for stopping; Nichols and Holmes 2002 for the largest
 */
export function habitOf(attempts: readonly Pick<HabitAttempt, 'curve'>[], seed = 1, turns = TURNS): Told<Habit> {
  const n = attempts.length;
  if (n < LEAST) return tooFew(n, LEAST);
  const curves = attempts.map((a) => filled(a.curve));
  const mean = new Float64Array(BINS);
  const weights = weightsOf(curves);
  meanOf(curves, weights, null, mean);
  const seen = largest(mean);
  if (seen === 0) return { given: { p: 1, mean: [...mean], limit: 0, at: 0, from: 0, to: 0, size: 0, times: 0, of: n } };
  const random = seeded(seed);
  const null_: number[] = [];
  const turned = new Float64Array(BINS);
  let asLarge = 0;
  const by = new Array<number>(n).fill(0);
  let done = 0;
  for (; done < turns && asLarge < ENOUGH; done++) {
    for (let i = 0; i < n; i++) by[i] = Math.floor(random.next() * BINS);
    meanOf(curves, weights, by, turned);
    const l = largest(turned);
    if (l >= seen - 1e-12) asLarge++;
    null_.push(l);
  }
  const limit = quantile(null_, 0.95);
  let at = 0;
  for (let b = 0; b < BINS; b++) if (Math.abs(mean[b]) > Math.abs(mean[at])) at = b;
  const side = Math.sign(mean[at]);
  const beyond = (b: number): boolean => side * mean[(b + BINS) % BINS] > limit;
  let [from, to] = [at, at];
  while (beyond(from - 1) && at - from < BINS) from--;
  while (beyond(to + 1) && to - from < BINS - 1) to++;
  return {
    given: {
      p: asLarge >= ENOUGH ? asLarge / done : (1 + asLarge) / (1 + done),
      mean: [...mean],
      limit,
      at,
      from: (from + BINS) % BINS,
      to: to % BINS,
      size: mean[at],
      times: curves.filter((c) => side * c[at] > 0).length,
      of: n,
    },
  };
}

export interface AllRound {
  /** Mean over attempts and ring. */
  readonly size: number;
  readonly p: number;
}

/**
 * Whether the same error is made all round: turning the curves, as the habit map does, would not change it.
 * @formula mean over the ring of each attempt; two-sided p by Student's t with n − 1 degrees of freedom
 * @fails fewer than four attempts
 * @source Student 1908
 */
export function allRound(attempts: readonly { readonly curve: ErrorCurve }[]): Told<AllRound> {
  const means = attempts.flatMap(({ curve }) => {
    const read = curve.filter((v): v is number => v !== null);
    return read.length ? [read.reduce((a, b) => a + b, 0) / read.length] : [];
  });
  const n = means.length;
  if (n < LEAST) return tooFew(n, LEAST);
  const size = means.reduce((a, b) => a + b, 0) / n;
  const sd = Math.sqrt(means.reduce((s, m) => s + (m - size) ** 2, 0) / (n - 1));
  // All alike and not 0 is as sure as it can be; all 0 is nothing.
  if (sd < 1e-9) return { given: { size, p: Math.abs(size) < 1e-9 ? 1 : 0 } };
  return { given: { size, p: 2 * (1 - tChance((Math.abs(size) * Math.sqrt(n)) / sd, n - 1)) } };
}

/**
 * What only this student does: own curves less the cohort's mean on the same exercise. Where everyone does it, that is another message.
 */
export const lessCohort = (own: ErrorCurve, cohort: ErrorCurve | null): ErrorCurve =>
  own.map((v, b) => (v === null ? null : v - (cohort?.[b] ?? 0)));

/** Degrees by which a tooth's facial direction is turned from the patient's side to the front: 0 for molars, 90 at the midline. */
const FORWARD: readonly number[] = [85, 75, 45, 20, 10, 0, 0, 0];

/**
 * Bin of the mouth, as the hand saw it (patient's right 0, front 90, left 180, back 270), of a bin of the tooth (facial 0, mesial 90, lingual 180, distal 270). A habit of the hand stands still in
 * the mouth and mirrors on the tooth from one side to the other.
 * @units bins of 5°
 * @example facial of 16 and lingual of 26 are both the patient's right
 */
export function benchBin(tooth: string, bin: number): number {
  const quadrant = ((Number(tooth[0]) - 1) % 4) + 1;
  const isRight = quadrant === 1 || quadrant === 4;
  const forward = FORWARD[Number(tooth[1]) - 1] ?? 0;
  const azimuth = (bin + 0.5) * 5;
  const bench = isRight ? azimuth + forward : 180 - azimuth - forward;
  return Math.floor((((bench % 360) + 360) % 360) / 5);
}

/** A curve in the mouth's frame. */
export function inBench({ curve, tooth }: HabitAttempt): ErrorCurve {
  const out = new Array<number | null>(BINS).fill(null);
  curve.forEach((v, b) => {
    out[benchBin(tooth, b)] = v;
  });
  return out;
}

const RESAMPLES = 999;
/**
 * Whether the same error returns on the tooth or in the mouth; told only where there is a habit and one frame shows it more clearly than the other, on teeth of both sides.
 * @formula largest |mean| in the mouth less largest |mean| on the tooth, over 999 seeded resamples of the attempts; told where 95 of 100 have the same sign and p in that frame is under 0.05
 * @source Efron 1979
 * @example a margin too narrow on the patient's right, on 16 and 26 by turns, is a habit of the hand
 */
export function frameOf(attempts: readonly HabitAttempt[], seed = 1): 'tooth' | 'bench' | null {
  const sides = new Set(attempts.map((a) => ['1', '4', '5', '8'].includes(a.tooth[0])));
  if (sides.size < 2 || attempts.length < LEAST) return null;
  const onTooth = attempts.map((a) => filled(a.curve));
  const inMouth = attempts.map((a) => filled(inBench(a)));
  const random = seeded(seed);
  const mean = new Float64Array(BINS);
  let bench = 0;
  for (let r = 0; r < RESAMPLES; r++) {
    const pick = attempts.map(() => Math.floor(random.next() * attempts.length));
    const size = (curves: readonly Float64Array[]): number => {
      const own = pick.map((i) => curves[i]);
      meanOf(own, weightsOf(own), null, mean);
      return largest(mean);
    };
    if (size(inMouth) > size(onTooth)) bench++;
  }
  const share = bench / RESAMPLES;
  const isHabit = (curves: readonly Float64Array[]): boolean =>
    (habitOf(
      curves.map((c) => ({ curve: [...c] })),
      seed,
    ).given?.p ?? 1) < 0.05;
  if (share >= 0.95 && isHabit(inMouth)) return 'bench';
  return share <= 0.05 && isHabit(onTooth) ? 'tooth' : null;
}

/** Chances of several tests on one person, corrected so that one false finding among all stays as likely as said. @source Holm 1979 */
export function holm(p: readonly number[]): number[] {
  const order = p.map((v, i) => [v, i] as const).sort((a, b) => a[0] - b[0]);
  const out = new Array<number>(p.length).fill(1);
  let least = 0;
  order.forEach(([v, i], rank) => {
    least = Math.max(least, Math.min(1, v * (p.length - rank)));
    out[i] = least;
  });
  return out;
}
