import * as v from 'valibot';
import { GradeFile } from '#contract/grade.ts';
import { usedBy } from '#core/sign/basis.ts';
import { canonical } from '#core/sign/canonical.ts';
import { differences, type GradedResult } from '#core/sign/result.ts';
import type { Person } from '../access/table.ts';
import { sha256 } from '../audit/chain.ts';
import type { Records } from '../audit/records.ts';
import { standardText } from '../course/standards.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { keepLines } from '../progress/lines.ts';
import { attemptFor, noteRow } from './act.ts';
import type { Graded } from './evidence.ts';

const Version = v.object({ version: v.number() });
const Id = v.object({ id: v.number() });

export interface Signed {
  readonly version: number;
  readonly total: number;
  readonly passed: boolean;
  readonly digest: string;
}

/** Scores shown, by digest, so that a refused signature can say what changed since. */
const shown = new Map<string, GradedResult>();
const SHOWN_MOST = 4000;
export function rememberShown(g: Pick<Graded, 'seen' | 'result'>): void {
  if (shown.size >= SHOWN_MOST) shown.delete(shown.keys().next().value as string);
  shown.set(g.seen, g.result);
}

/**
 * Signs the grade: a new version with all its evidence and a digest. The signer must have seen this very score; undecided
 * lines are refused with their list. Returns after the audit entry is on the disk.
 */
export function signAttempt(
  records: Records,
  who: Person | null,
  attempt: number,
  seen: string,
  standards: string,
  now = new Date(),
): Promise<Signed> {
  return records.act(
    async (q, note) => {
      const { graded, person } = await attemptFor(q, who, 'attempt.sign', attempt);
      refuseChanged(graded, seen);
      refuseUndecided(graded);
      const { version } = await q.one(
        Version,
        sql`select coalesce(max(version), 0) + 1 as version from grade where attempt_id = ${attempt}`,
      );
      const signedAt = now.toISOString();
      const standard = await standardText(q, standards, graded.attempt.course_id, graded.attempt.rubric.standard);
      const record = v.parse(GradeFile, recordOf(graded, { version, grader: person.id, signedAt, standard }));
      const { total, passed } = record.result as { total: number; passed: boolean };
      const digest = sha256(canonical(record));
      const { id } = await q.one(
        Id,
        sql`insert into grade (attempt_id, round, version, measurement_id, rubric_version_id, grader_id, total, passed, record, digest, signed_at)
            values (${attempt}, ${graded.round}, ${version}, ${graded.measurement?.id ?? null}, ${graded.attempt.rubric_version_id}, ${person.id}, ${total}, ${passed}, ${record}, ${digest}, ${signedAt}) returning id`,
      );
      await keepLines(q, id, record);
      await freeze(q, graded.attempt.rubric_version_id);
      const details = { version, round: graded.round, digest, total, passed };
      await noteRow(q, note, { person, action: 'attempt.sign', subject: `attempt ${attempt}`, details }, 'grade', id);
      return { version, total, passed, digest };
    },
    { isDurable: true },
  );
}

const freeze = (q: Queries, rubric: number): Promise<void> =>
  q.run(sql`update rubric_version set frozen_at = coalesce(frozen_at, now()) where id = ${rubric}`);

function refuseChanged(g: Graded, seen: string): void {
  if (seen === g.seen) return;
  const before = shown.get(seen);
  const changed = before ? differences(before, g.result) : [];
  throw new Refused(
    'conflict',
    `The score has changed since it was shown${changed.length ? `: ${changed.join('; ')}` : ''}. Look at it again, then sign.`,
    { changed, seen: g.seen },
  );
}

function refuseUndecided(g: Graded): void {
  const open = g.score.undecided;
  if (open.length === 0) return;
  const titles = [...g.attempt.rubric.criteria, ...g.attempt.rubric.critical].filter((l) => open.includes(l.id));
  throw new Refused(
    'conflict',
    `Decide ${open.length === 1 ? 'this line' : `these ${open.length} lines`} first: ${titles.map((l) => l.title).join(', ')}.`,
    { undecided: titles.map((l) => ({ id: l.id, title: l.title })) },
  );
}

function recordOf(g: Graded, by: { version: number; grader: string; signedAt: string; standard: unknown }) {
  const { attempt: a, measurement: m } = g;
  const used = usedBy(g.basis.rubric, g.readings, g.basis.curves);
  return {
    format: 'veritor-grade/2',
    attempt: { id: a.id, number: a.number, student: a.student_id, sitting: a.sitting_id, exercise: a.exercise_id, course: a.course_id },
    round: g.round,
    version: by.version,
    grader: by.grader,
    signedAt: by.signedAt,
    seen: g.seen,
    measurement: m && {
      id: m.id,
      scan_sha256: m.scan_sha256,
      master_sha256: m.master_sha256,
      kind: m.kind,
      hand_pose: m.hand_pose,
      core_version: m.core_version,
      alignment: m.alignment,
    },
    rubric: { sha256: sha256(canonical(a.rubric)), body: a.rubric },
    standard: by.standard === null ? null : { sha256: sha256(canonical(by.standard)), body: by.standard },
    cusps: a.master.cusps.map(({ name, role }) => ({ name, role })),
    ...used,
    hand: g.hand.map(({ name, zone, stat, method, lo, hi, person_id: person, made_at: at }) => ({
      name,
      zone,
      stat,
      method,
      lo,
      hi,
      person,
      at,
    })),
    judgements: g.judgements.map(({ line, level, made, reason, person_id: person, made_at: at }) => ({
      line,
      level,
      made,
      reason,
      person,
      at,
    })),
    remarks: g.remarks.map(({ line, body, person_id: person, made_at: at }) => ({ line, body, person, at })),
    pins: g.pins.map(({ line, x, y, z, note, person_id: person, made_at: at }) => ({ line, x, y, z, note, person, at })),
    result: g.result,
  };
}
