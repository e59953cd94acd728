import { createHash } from 'node:crypto';
import * as v from 'valibot';
import type { Reading } from '#core/result/reading.ts';
import { forTooth } from '#core/score/expand.ts';
import type { Rubric } from '#core/score/rubric.ts';
import { type Score, score } from '#core/score/score.ts';
import { canonical } from '#core/sign/canonical.ts';
import type { Person } from '../access/sign-in.ts';
import { type Database, type Queries, sql } from '../database/database.ts';
import { Refused } from '../http.ts';
import { type AttemptRow, attemptById, audit, type JudgementRow, judgementsOf, type ReadingRow } from './attempts.ts';
import { evidenceOf } from './evidence.ts';

/** The score of an attempt as it stands now: its newest readings, its rubric, the instructor's word. */
export function scoreOf(attempt: AttemptRow, readings: readonly ReadingRow[], judgements: readonly JudgementRow[]): Score {
  const rubric = forTooth(attempt.rubric as Rubric, attempt.master.cusps, readings as unknown as Reading[]);
  const levels = Object.fromEntries(judgements.filter((j) => j.level !== null).map((j) => [j.criterion_id, { level: j.level }]));
  const waived = new Set(judgements.filter((j) => j.waived).map((j) => j.criterion_id));
  return score(rubric, readings as unknown as Reading[], levels, waived);
}

const Version = v.object({ version: v.number() });

/** Makes the grade final: a new version with everything it rests on and a digest over it. Earlier versions stay. */
export async function signAttempt(
  db: Database,
  attemptId: number,
  grader: Person,
): Promise<{ version: number; total: number; passed: boolean }> {
  return db.transaction(async (q: Queries) => {
    const attempt = await attemptById(q, attemptId);
    if (!attempt) throw new Refused(404, 'There is no such attempt.');
    const { measurement, readings, hand, pins } = await evidenceOf(q, attemptId);
    const judgements = await judgementsOf(q, attemptId);
    const s = scoreOf(attempt, readings, judgements);
    if (s.total === null || s.passed === null)
      throw new Refused(
        409,
        `Give a level to “${s.criteria.find((c) => c.level === null)?.criterion.title}” first: no reading decides it.`,
      );
    const { version } = await q.one(
      Version,
      sql`select coalesce(max(version), 0) + 1 as version from grade where attempt_id = ${attemptId}`,
    );
    const signedAt = new Date();
    const record = {
      format: 'veritor-grade/1',
      attempt: attemptId,
      version,
      student: attempt.student_id,
      sitting: attempt.sitting_id,
      grader: grader.id,
      signedAt: signedAt.toISOString(),
      rubricVersion: attempt.rubric_version_id,
      scan: measurement?.sha256 ?? null,
      byHand: hand.map((h) => ({ ...h })),
      total: s.total,
      passed: s.passed,
      lines: s.lines.map((l) => ({ ...l })),
      criteria: s.criteria.map((c) => ({
        id: c.criterion.id,
        title: c.criterion.title,
        computed: c.computed,
        level: c.level,
        points: c.points,
        of: c.of,
        verdict: c.verdict,
        value: c.deciding?.reading?.value ?? null,
        U: c.deciding?.reading?.U ?? null,
        unit: c.deciding?.reading?.unit ?? null,
        zone: c.deciding?.target.zone ?? null,
        lo: c.deciding?.target.band.lo ?? null,
        hi: c.deciding?.target.band.hi ?? null,
        reason: judgements.find((j) => j.criterion_id === c.criterion.id)?.reason ?? null,
        comment: judgements.find((j) => j.criterion_id === c.criterion.id)?.comment ?? null,
        pins: pins.filter((p) => p.criterion_id === c.criterion.id).map(({ x, y, z, note }) => ({ x, y, z, note })),
      })),
      critical: s.critical.map((e) => ({
        id: e.error.id,
        title: e.error.title,
        made: e.made,
        waived: e.waived,
        value: e.reading?.value ?? null,
      })),
    };
    const digest = createHash('sha256').update(canonical(record)).digest('hex');
    await q.run(
      sql`insert into grade (attempt_id, version, measurement_id, rubric_version_id, grader_id, total, passed, record, digest, signed_at)
          values (${attemptId}, ${version}, ${measurement?.id ?? null}, ${attempt.rubric_version_id}, ${grader.id}, ${s.total}, ${s.passed}, ${record}, ${digest}, ${signedAt})`,
    );
    await q.run(sql`update rubric_version set frozen_at = coalesce(frozen_at, now()) where id = ${attempt.rubric_version_id}`);
    await audit(q, grader.id, 'attempt.sign', `attempt ${attemptId}, version ${version}`);
    return { version, total: s.total, passed: s.passed };
  });
}
