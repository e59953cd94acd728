import type { Reading } from '../result/reading.ts';
import type { Criterion, CriticalError, Rubric, Scoring, Target } from './rubric.ts';
import { type Verdict, verdict, within } from './verdict.ts';

export type LevelNumber = 0 | 1 | 2 | 3;

export interface JudgedTarget {
  readonly target: Target;
  readonly reading: Reading | null;
  readonly verdict: Verdict;
  readonly level: LevelNumber | null;
}

export interface JudgedCriterion {
  readonly criterion: Criterion;
  readonly targets: readonly JudgedTarget[];
  /** The target that decides: the lowest level, then the least sure. */
  readonly deciding: JudgedTarget | null;
  readonly verdict: Verdict;
  readonly computed: LevelNumber | null;
  /** The instructor's level where given, otherwise the computed one. */
  readonly level: LevelNumber | null;
  readonly overridden: boolean;
  readonly points: number | null;
  readonly of: number;
}

export interface JudgedError {
  readonly error: CriticalError;
  readonly reading: Reading | null;
  readonly verdict: Verdict;
  readonly made: boolean;
  /** The instructor struck it out. */
  readonly waived: boolean;
}

export interface Score {
  readonly criteria: readonly JudgedCriterion[];
  readonly critical: readonly JudgedError[];
  /** 0–100; null while a criterion has no level. */
  readonly total: number | null;
  readonly passed: boolean | null;
  /** "Why 78?": one line a step, with the points it gives or takes. */
  readonly lines: readonly { readonly text: string; readonly points: number }[];
  /** Criteria that want the instructor's eye before signing. */
  readonly open: readonly string[];
}

export interface Judgement {
  readonly level: LevelNumber | null;
}

const levelOf = (value: number, t: Target): LevelNumber =>
  within(value, t.band) ? 3 : within(value, t.fair) ? 2 : within(value, t.poor) ? 1 : 0;

const key = (name: string, zone: string | null, stat: string): string => `${name}|${zone ?? ''}|${stat}`;

/**
 * Readings to a score: each criterion takes the level of its worst reading, or the instructor's; points = weight × the
 * level's share, scaled to 100; then the critical errors fail, cap or deduct.
 */
export function score(
  rubric: Rubric,
  readings: readonly Reading[],
  judgements: Readonly<Record<string, Judgement>>,
  waived: ReadonlySet<string> = new Set(),
): Score {
  const byKey = new Map(readings.map((r) => [key(r.name, r.zone, r.stat), r]));
  const find = (q: { reading: string; zone: string | null; stat: string }): Reading | null =>
    byKey.get(key(q.reading, q.zone, q.stat)) ?? null;
  const scoring: Scoring = rubric.scoring ?? { kind: 'levels' };
  const weights = rubric.criteria.reduce((s, c) => s + c.weight, 0);
  const criteria = rubric.criteria.map((c) => judgeCriterion(c, find, judgements[c.id], rubric, weights));
  const critical = rubric.critical.map((error): JudgedError => {
    const reading = find(error);
    const v = reading ? verdict(reading, error.allowed) : 'none';
    return { error, reading, verdict: v, made: v === 'outside' && !waived.has(error.id), waived: waived.has(error.id) };
  });
  const lines: { text: string; points: number }[] = [];
  let total: number | null = scoring.kind === 'deduct' ? 100 : 0;
  if (scoring.kind === 'deduct') lines.push({ text: 'Every attempt begins with', points: 100 });
  for (const c of criteria) {
    if (c.points === null) total = null;
    else if (total !== null) total += c.points;
    if (scoring.kind !== 'levels') {
      lines.push({ text: `${c.criterion.title}: ${examined(c, rubric, scoring)}`, points: c.points ?? 0 });
      continue;
    }
    const word = rubric.levels.find((l) => l.level === c.level)?.word;
    lines.push({
      text: word
        ? `${c.criterion.title}: ${word}${c.overridden ? ' (instructor)' : ''}, ${c.points?.toFixed(1)} of ${c.of.toFixed(1)}`
        : `${c.criterion.title}: no level yet`,
      points: c.points ?? 0,
    });
  }
  if (total !== null) total = Math.max(0, total);
  let failed = false;
  if (scoring.kind === 'examination') {
    const made = (level: LevelNumber): number => criteria.filter((c) => c.level === level).length;
    const [minor, major, critical] = [made(2), made(1), made(0)];
    failed = minor > scoring.minor || major > scoring.major || critical > 0;
    lines.push({
      text: `${minor} minor of at most ${scoring.minor}, ${major} major of at most ${scoring.major}, ${critical} critical of none: ${failed ? 'not passed' : 'meets the standard'}`,
      points: 0,
    });
  }
  for (const e of critical) {
    if (!e.made) continue;
    const effect = e.error.effect;
    if (effect.kind === 'fail') {
      failed = true;
      lines.push({ text: `${e.error.title}: critical, the attempt is not passed`, points: 0 });
    } else if (effect.kind === 'cap') {
      if (total !== null && total > effect.at) {
        lines.push({ text: `${e.error.title}: critical, capped at ${effect.at}`, points: effect.at - total });
        total = effect.at;
      }
    } else {
      lines.push({ text: `${e.error.title}: critical, ${effect.points} points off`, points: -effect.points });
      if (total !== null) total = Math.max(0, total - effect.points);
    }
  }
  const open = [
    ...criteria
      .filter(
        (c) =>
          c.level === null ||
          ((c.verdict === 'close' || c.verdict === 'none') && !c.overridden && judgements[c.criterion.id] === undefined),
      )
      .map((c) => c.criterion.id),
    ...critical.filter((e) => (e.verdict === 'close' || e.verdict === 'none') && !e.waived).map((e) => e.error.id),
  ];
  return {
    criteria,
    critical,
    total: total === null ? null : Math.round(total),
    passed: total === null ? null : !failed && (scoring.kind === 'examination' || Math.round(total) >= rubric.passMark),
    lines,
    open,
  };
}

function judgeCriterion(
  c: Criterion,
  find: (t: Target) => Reading | null,
  given: Judgement | undefined,
  rubric: Rubric,
  weights: number,
): JudgedCriterion {
  const targets = c.targets.map((target): JudgedTarget => {
    const reading = find(target);
    if (!reading || reading.value === null) return { target, reading, verdict: 'none', level: null };
    return { target, reading, verdict: verdict(reading, target.band), level: levelOf(reading.value, target) };
  });
  const read = targets.filter((t) => t.level !== null);
  const deciding = read.length ? read.reduce((a, b) => (rank(b) < rank(a) ? b : a)) : null;
  const computed = deciding?.level ?? null;
  const level = given?.level ?? computed;
  const share = rubric.levels.find((l) => l.level === level)?.share ?? null;
  const of = rubric.scoring?.kind === 'deduct' ? c.weight * rubric.scoring.off.notYet : (100 * c.weight) / weights;
  const overridden = given?.level !== undefined && given.level !== null && given.level !== computed;
  const overall: Verdict =
    !deciding || read.length < targets.length / 2
      ? 'none'
      : targets.some((t) => t.verdict === 'outside')
        ? 'outside'
        : targets.some((t) => t.verdict === 'close')
          ? 'close'
          : 'inside';
  return {
    criterion: c,
    targets,
    deciding,
    verdict: overall,
    computed,
    level,
    overridden,
    points: pointsOf(level, share, of, c.weight, rubric),
    of,
  };
}

/** What a level gives, or with `deduct` takes. */
function pointsOf(level: LevelNumber | null, share: number | null, of: number, weight: number, rubric: Rubric): number | null {
  if (level === null || share === null) return null;
  if (rubric.scoring?.kind !== 'deduct') return share * of;
  const { off } = rubric.scoring;
  return level === 3 ? 0 : -weight * (level === 2 ? off.sound : level === 1 ? off.marginal : off.notYet);
}

const EXAMINED = ['critical', 'major', 'minor', 'meets'] as const;

function examined(c: JudgedCriterion, rubric: Rubric, scoring: Scoring): string {
  if (c.level === null) return 'no level yet';
  const by = c.overridden ? ' (instructor)' : '';
  if (scoring.kind === 'examination') return `${EXAMINED[c.level]}${by}`;
  return `${rubric.levels.find((l) => l.level === c.level)?.word}${by}${c.points ? `, ${(-c.points).toFixed(1)} off` : ''}`;
}

const rank = (t: JudgedTarget): number => (t.level ?? 4) * 10 + (t.verdict === 'outside' ? 0 : t.verdict === 'close' ? 1 : 2);
