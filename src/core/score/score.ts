import type { Evidence } from './evidence.ts';
import { finder, type JudgedCriterion, type JudgedError, type Judgement, judgeCriterion, judgeError } from './judge.ts';
import type { LevelNumber, Rubric, Scoring } from './rubric.ts';

export interface ScoredCriterion extends JudgedCriterion {
  /** Points given (with `deduct`: taken); null while undecided or not applicable. */
  readonly points: number | null;
  /** What it would give by its readings alone, while that is provisional. */
  readonly provisional: number | null;
  readonly of: number;
}

export interface Result {
  /** 0 to 100. */
  readonly total: number;
  readonly passed: boolean;
}

export interface ScoreLine {
  readonly text: string;
  readonly points: number;
}

export interface Score {
  readonly criteria: readonly ScoredCriterion[];
  readonly critical: readonly JudgedError[];
  /** Null while anything is undecided. */
  readonly total: number | null;
  readonly passed: boolean | null;
  /** What the total may become, whichever way the undecided lines go. */
  readonly range: { readonly least: Result; readonly most: Result };
  /** "Why 78?": one line per step, with the points it gives or takes; undecided lines say so. */
  readonly lines: readonly ScoreLine[];
  /** Critical errors that were made, and what else keeps it from passing, in words. */
  readonly failures: readonly string[];
  /** Ids of the lines that a person must decide before it can be signed. */
  readonly undecided: readonly string[];
}

/** Persons' words on the lines, by the id of the criterion or critical error. */
export type Judgements = Readonly<Record<string, Judgement>>;

/**
 * Evidence to a score: each criterion takes the level of its worst target, or the person's; points = weight × the level's share,
 * scaled to 100; then the critical errors fail, cap or deduct. Nothing passes because something is missing: while a line
 * is undecided there is no total, only the range in which it will lie.
 */
export function score(rubric: Rubric, evidence: Evidence, judgements: Judgements = {}): Score {
  const find = finder(evidence.readings);
  const judged = rubric.criteria.map((c) => judgeCriterion(c, find, evidence, judgements[c.id], rubric));
  const critical = rubric.critical.map((e) => judgeError(e, find, judgements[e.id], rubric.partial === true));
  const weights = judged.reduce((s, c) => s + (c.verdict === 'skipped' ? 0 : c.criterion.weight), 0);
  const criteria = judged.map((c): ScoredCriterion => {
    const of = maximum(c, weights, rubric);
    return {
      ...c,
      of,
      points: pointsOf(c, c.level, of, rubric),
      provisional: c.level === null ? pointsOf(c, c.computed, of, rubric) : null,
    };
  });
  const undecided = [
    ...criteria.filter((c) => c.decidedBy === null).map((c) => c.criterion.id),
    ...critical.filter((e) => e.made === null).map((e) => e.error.id),
  ];
  const settle = (level: (c: ScoredCriterion) => LevelNumber, made: (e: JudgedError) => boolean): Settled =>
    settled(rubric, criteria, critical, level, made);
  const least = settle(
    (c) => c.level ?? c.range[0],
    (e) => e.made ?? true,
  );
  const most = settle(
    (c) => c.level ?? c.range[1],
    (e) => e.made ?? false,
  );
  const isDecided = undecided.length === 0;
  return {
    criteria,
    critical,
    total: isDecided ? most.total : null,
    passed: isDecided ? most.passed : null,
    range: { least, most },
    lines: isDecided ? most.lines : linesWhileOpen(rubric, criteria, critical),
    failures: most.failures,
    undecided,
  };
}

interface Settled extends Result {
  readonly lines: readonly ScoreLine[];
  readonly failures: readonly string[];
}

/** The result when every line is taken as decided in a given way. */
function settled(
  rubric: Rubric,
  criteria: readonly ScoredCriterion[],
  critical: readonly JudgedError[],
  level: (c: ScoredCriterion) => LevelNumber,
  made: (e: JudgedError) => boolean,
): Settled {
  const scoring: Scoring = rubric.scoring ?? { kind: 'levels' };
  const applying = criteria.filter((c) => c.verdict !== 'skipped');
  const lines: ScoreLine[] = scoring.kind === 'deduct' ? [{ text: 'Every attempt begins with', points: 100 }] : [];
  let sum = scoring.kind === 'deduct' ? 100 : 0;
  for (const c of applying) {
    const points = pointsOf(c, level(c), c.of, rubric) ?? 0;
    sum += points;
    lines.push({ text: criterionLine(c, level(c), points, rubric, scoring), points });
  }
  for (const c of criteria)
    if (c.verdict === 'skipped') lines.push({ text: `${c.criterion.title}: does not apply to this tooth`, points: 0 });
  let total = Math.max(0, sum);
  const failures: string[] = [];
  if (scoring.kind === 'examination') {
    const count = (l: LevelNumber): number => applying.filter((c) => level(c) === l).length;
    const [minor, major, grave] = [count(2), count(1), count(0)];
    const meets = minor <= scoring.minor && major <= scoring.major && grave === 0;
    const text = `${minor} minor of at most ${scoring.minor}, ${major} major of at most ${scoring.major}, ${grave} critical of none`;
    lines.push({ text: `${text}: ${meets ? 'meets the standard' : 'not passed'}`, points: 0 });
    if (!meets) failures.push(text);
  }
  for (const e of critical) {
    if (!made(e)) continue;
    const { title, effect } = e.error;
    if (effect.kind === 'fail') {
      failures.push(title);
      lines.push({ text: `${title}: critical, the attempt is not passed`, points: 0 });
    } else if (effect.kind === 'cap') {
      if (total > effect.at) lines.push({ text: `${title}: critical, capped at ${effect.at}`, points: effect.at - total });
      total = Math.min(total, effect.at);
    } else {
      lines.push({ text: `${title}: critical, ${effect.points} points off`, points: -effect.points });
      total = Math.max(0, total - effect.points);
    }
  }
  const rounded = Math.round(total);
  if (rounded < rubric.passMark) failures.push(`${rounded} of 100, the pass mark is ${rubric.passMark}`);
  return { total: rounded, passed: failures.length === 0, lines, failures };
}

function linesWhileOpen(rubric: Rubric, criteria: readonly ScoredCriterion[], critical: readonly JudgedError[]): ScoreLine[] {
  const scoring: Scoring = rubric.scoring ?? { kind: 'levels' };
  return [
    ...criteria.map((c): ScoreLine => {
      if (c.verdict === 'skipped') return { text: `${c.criterion.title}: does not apply to this tooth`, points: 0 };
      if (c.level === null) return { text: `${c.criterion.title}: waits for a decision`, points: 0 };
      return { text: criterionLine(c, c.level, c.points ?? 0, rubric, scoring), points: c.points ?? 0 };
    }),
    ...critical
      .filter((e) => e.made !== false)
      .map((e): ScoreLine => ({ text: `${e.error.title}: ${e.made ? 'critical' : 'waits for a decision'}`, points: 0 })),
  ];
}

/** The most a criterion gives; with `deduct` the most it takes. */
function maximum(c: JudgedCriterion, weights: number, rubric: Rubric): number {
  if (c.verdict === 'skipped') return 0;
  if (rubric.scoring?.kind === 'deduct') return c.criterion.weight * rubric.scoring.off.notYet;
  return weights > 0 ? (100 * c.criterion.weight) / weights : 0;
}

/** What a level gives, or with `deduct` takes. */
function pointsOf(c: JudgedCriterion, level: LevelNumber | null, of: number, rubric: Rubric): number | null {
  if (level === null || c.verdict === 'skipped') return null;
  if (rubric.scoring?.kind !== 'deduct') return (rubric.levels.find((l) => l.level === level)?.share ?? 0) * of;
  const { off } = rubric.scoring;
  return level === 3 ? 0 : -c.criterion.weight * (level === 2 ? off.sound : level === 1 ? off.marginal : off.notYet);
}

const EXAMINED = ['critical', 'major', 'minor', 'meets'] as const;

function criterionLine(c: ScoredCriterion, level: LevelNumber, points: number, rubric: Rubric, scoring: Scoring): string {
  const by = c.overridden ? ' (instructor)' : '';
  if (scoring.kind === 'examination') return `${c.criterion.title}: ${EXAMINED[level]}${by}`;
  const word = rubric.levels.find((l) => l.level === level)?.word ?? '';
  if (scoring.kind === 'levels') return `${c.criterion.title}: ${word}${by}, ${points.toFixed(1)} of ${c.of.toFixed(1)}`;
  return `${c.criterion.title}: ${word}${by}${points ? `, ${(-points).toFixed(1)} off` : ''}`;
}
