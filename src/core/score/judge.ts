import { DOES_NOT_EXIST, type Reading } from '../result/reading.ts';
import { type Along, judgeAlong } from './along.ts';
import type { Evidence } from './evidence.ts';
import { keyOf } from './hand.ts';
import type { Criterion, CriticalError, IfNotRead, LevelNumber, Rubric, Target } from './rubric.ts';
import { type Verdict, verdict, within } from './verdict.ts';

/** A person's own word on a line: a level of a criterion, or whether a critical error was made. */
export interface Judgement {
  readonly level?: LevelNumber | null;
  readonly made?: boolean | null;
}

/** Who decided a line: the measurement, a person, or nobody yet. */
export type DecidedBy = 'measurement' | 'person' | null;
type Range = readonly [LevelNumber, LevelNumber];

export interface JudgedTarget {
  readonly target: Target;
  readonly reading: Reading | null;
  readonly along: Along | null;
  readonly verdict: Verdict;
  /** Level that the reading gives by its value; null where it was not read or does not apply. */
  readonly level: LevelNumber | null;
  /** Least and largest level that it may have. */
  readonly range: Range;
}

export interface JudgedCriterion {
  readonly criterion: Criterion;
  readonly targets: readonly JudgedTarget[];
  /** The target that decides: the lowest level, then the least sure. */
  readonly deciding: JudgedTarget | null;
  readonly verdict: Verdict;
  /** Level by the readings alone: provisional while too close to call, null while a target was not read. */
  readonly computed: LevelNumber | null;
  readonly range: Range;
  readonly decidedBy: DecidedBy;
  /** The person's level where given, otherwise the measurement's where it decides. */
  readonly level: LevelNumber | null;
  /** The person's level differs from what the measurement had decided. */
  readonly overridden: boolean;
}

export interface JudgedError {
  readonly error: CriticalError;
  readonly reading: Reading | null;
  readonly verdict: Verdict;
  readonly decidedBy: DecidedBy;
  /** Null: undecided, which is not "not made". */
  readonly made: boolean | null;
  /** A person decided that it does not count, against the measurement. */
  readonly waived: boolean;
}

const levelOf = (value: number, t: Target): LevelNumber =>
  within(value, t.band) ? 3 : within(value, t.fair) ? 2 : within(value, t.poor) ? 1 : 0;

/** Whether a place that was not read may be left out: only where the tooth has none, or a partial cover leaves a cusp alone. */
function mayBeSkipped(ifNotRead: IfNotRead | undefined, reason: string | null, partial: boolean): boolean {
  if (ifNotRead !== 'skip' || reason === null) return false;
  return DOES_NOT_EXIST.has(reason) || (partial && (reason === 'not-covered' || reason === 'nothing-prepared'));
}

export type Finder = (q: { reading: string; zone: string | null; stat: string }) => Reading | null;
export function finder(readings: readonly Reading[]): Finder {
  const byKey = new Map(readings.map((r) => [keyOf(r), r]));
  return (q) => byKey.get(keyOf({ name: q.reading, zone: q.zone, stat: q.stat })) ?? null;
}

function judgeTarget(target: Target, find: Finder, evidence: Evidence, partial: boolean): JudgedTarget {
  const reading = find(target);
  const unread = (v: Verdict, range: Range): JudgedTarget => ({ target, reading, along: null, verdict: v, level: null, range });
  const missing = (): JudgedTarget => {
    if (mayBeSkipped(target.ifNotRead, reading?.reason ?? null, partial)) return unread('skipped', [3, 3]);
    if (target.ifNotRead === 'fail') return { ...unread('outside', [0, 0]), level: 0 };
    return unread('none', [0, 3]);
  };
  const onlyByHand = target.evidence === 'hand' && !reading?.byHand;
  if (!reading || reading.value === null || onlyByHand) return missing();
  if (target.along && !reading.byHand) {
    const along = judgeAlong(target, evidence.curves, reading.U);
    if (!along) return missing();
    const [least, most] = along.range;
    const v: Verdict = least === 3 ? 'inside' : most < 3 ? 'outside' : 'close';
    return { target, reading, along, verdict: v, level: along.level, range: v === 'outside' ? [along.level, along.level] : along.range };
  }
  const v = verdict(reading, target.band);
  const level = levelOf(reading.value, target);
  const ends = [reading.value - reading.U, reading.value, reading.value + reading.U].map((x) => levelOf(x, target));
  // "Outside" is decided by U; the level outside follows the value, as with any instrument.
  const range: Range = v === 'close' ? [Math.min(...ends) as LevelNumber, 3] : [level, level];
  return { target, reading, along: null, verdict: v, level, range };
}

const RANK: Readonly<Record<Verdict, number>> = { outside: 0, close: 1, inside: 2, none: 3, skipped: 4 };
const rank = (t: JudgedTarget): number => (t.level ?? 4) * 10 + RANK[t.verdict];

/**
 * A criterion takes the level of its worst target; it counts as read only when every target that applies was read. One that asks a
 * person is open until they have said their word.
 */
export function judgeCriterion(
  c: Criterion,
  find: Finder,
  evidence: Evidence,
  given: Judgement | undefined,
  rubric: Rubric,
): JudgedCriterion {
  const targets = c.targets.map((t) => judgeTarget(t, find, evidence, rubric.partial === true));
  const applying = targets.filter((t) => t.verdict !== 'skipped');
  const read = applying.filter((t) => t.level !== null);
  const deciding = read.length ? read.reduce((a, b) => (rank(b) < rank(a) ? b : a)) : null;
  const ends = (k: 0 | 1): LevelNumber => Math.min(3, ...applying.map((t) => t.range[k])) as LevelNumber;
  const words = c.asks?.words.map((w) => w.level);
  const range: Range = words ? [Math.min(...words) as LevelNumber, Math.max(...words) as LevelNumber] : [ends(0), ends(1)];
  // Once one target is surely at the lowest level, targets without a reading cannot change the criterion.
  const lowest = range[1] === 0;
  const has = (v: Verdict): boolean => applying.some((t) => t.verdict === v);
  const overall: Verdict = c.asks
    ? 'none'
    : applying.length === 0
      ? 'skipped'
      : lowest
        ? 'outside'
        : has('none')
          ? 'none'
          : has('close')
            ? 'close'
            : has('outside')
              ? 'outside'
              : 'inside';
  const computed = overall === 'none' || overall === 'skipped' ? null : (deciding?.level ?? null);
  const byMeasurement = overall === 'inside' || overall === 'outside';
  const own = overall === 'skipped' ? null : (given?.level ?? null);
  return {
    criterion: c,
    targets,
    deciding,
    verdict: overall,
    computed,
    range,
    decidedBy: own !== null ? 'person' : byMeasurement || overall === 'skipped' ? 'measurement' : null,
    level: own ?? (byMeasurement ? computed : null),
    overridden: own !== null && byMeasurement && own !== computed,
  };
}

/** A critical error is made, not made, or undecided: without a reading, or too close to call, a person decides. */
export function judgeError(error: CriticalError, find: Finder, given: Judgement | undefined, partial: boolean): JudgedError {
  const reading = find(error);
  const read = reading ? verdict(reading, error.allowed) : 'none';
  const skipped = read === 'none' && mayBeSkipped(error.ifNotRead, reading?.reason ?? null, partial);
  const v: Verdict = skipped ? 'skipped' : read === 'none' && error.ifNotRead === 'fail' ? 'outside' : read;
  const measured = v === 'outside' ? true : v === 'inside' || v === 'skipped' ? false : null;
  const own = skipped ? null : (given?.made ?? null);
  return {
    error,
    reading,
    verdict: v,
    decidedBy: own !== null ? 'person' : measured !== null ? 'measurement' : null,
    made: own ?? measured,
    waived: own === false && measured === true,
  };
}
