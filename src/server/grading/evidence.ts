import type { Reading } from '#core/result/reading.ts';
import type { Rubric } from '#core/score/rubric.ts';
import type { Judgements, Score } from '#core/score/score.ts';
import { type Basis, restsOn, scoreOf } from '#core/sign/basis.ts';
import { canonical } from '#core/sign/canonical.ts';
import { type GradedResult, resultOf } from '#core/sign/result.ts';
import { sha256 } from '../audit/chain.ts';
import type { Queries } from '../database/port.ts';
import type { Round } from './rounds.ts';
import {
  type AttemptRow,
  gradedOn,
  type HandRow,
  handReadingsOf,
  type JudgementRow,
  judgementsOf,
  type MeasurementRow,
  type PinRow,
  pinsOf,
  readingsOf,
  remarksOf,
} from './rows.ts';

/** Evidence of an attempt in one round, and the score computed from it. */
export interface Graded {
  readonly attempt: AttemptRow;
  readonly round: Round;
  readonly measurement: MeasurementRow | null;
  readonly readings: readonly Reading[];
  readonly hand: readonly (HandRow & { lo: number; hi: number })[];
  /** Judgements that still hold; one that rested on another state of its line is reopened. */
  readonly judgements: readonly JudgementRow[];
  readonly reopened: readonly JudgementRow[];
  readonly remarks: Awaited<ReturnType<typeof remarksOf>>;
  readonly pins: readonly PinRow[];
  readonly basis: Basis;
  readonly score: Score;
  readonly result: GradedResult;
  /** Digest of the score as shown: what a signature covers. */
  readonly seen: string;
}

/** Digest of what a line shows. A judgement holds while it stays the same. */
export const restDigest = (score: Score, line: string): string => sha256(canonical(restsOn(score, line)));

/** Splits judgements into those that still hold and those whose line has changed since. */
export function inForce(
  basis: Omit<Basis, 'judgements'>,
  words: readonly JudgementRow[],
): { holding: JudgementRow[]; reopened: JudgementRow[] } {
  const given = words.filter((w) => w.level !== null || w.made !== null);
  if (given.length === 0) return { holding: [], reopened: [] };
  const plain = scoreOf({ ...basis, judgements: {} });
  // Judgements of an older version do not record what they rested on; they are taken as still valid.
  const holds = (w: JudgementRow): boolean => w.rested_on === null || w.rested_on === restDigest(plain, w.line);
  return { holding: given.filter(holds), reopened: given.filter((w) => !holds(w)) };
}

export const asJudgements = (words: readonly JudgementRow[]): Judgements =>
  Object.fromEntries(words.map((w) => [w.line, { level: w.level, made: w.made }]));

/** Digest of a score as it is shown, with the measurement and the rubric that it rests on. */
export const seenDigest = (
  of: { attempt: number; round: Round; measurement: number | null; rubric: number },
  result: GradedResult,
): string => sha256(canonical({ ...of, result }));

export async function gradedOf(q: Queries, attempt: AttemptRow, round: Round): Promise<Graded> {
  const which = { attempt: attempt.id };
  const [measurement, hand, words, remarks, pins] = await Promise.all([
    gradedOn(q, attempt.id),
    handReadingsOf(q, which, round),
    judgementsOf(q, which, round),
    remarksOf(q, attempt.id, round),
    pinsOf(q, attempt.id, round),
  ]);
  const readings = measurement ? await readingsOf(q, measurement.id) : [];
  const plain = { rubric: attempt.rubric as Rubric, cusps: attempt.master.cusps, readings, curves: measurement?.curves ?? {}, hand };
  const { holding, reopened } = inForce(plain, words);
  const basis: Basis = { ...plain, judgements: asJudgements(holding) };
  const score = scoreOf(basis);
  const result = resultOf(score);
  const seen = seenDigest({ attempt: attempt.id, round, measurement: measurement?.id ?? null, rubric: attempt.rubric_version_id }, result);
  return { attempt, round, measurement, readings, hand, judgements: holding, reopened, remarks, pins, basis, score, result, seen };
}
