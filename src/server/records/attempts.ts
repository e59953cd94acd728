import * as v from 'valibot';
import { RubricFile } from '#contract/rubric.ts';
import type { Database, Queries } from '../database/database.ts';
import { sql } from '../database/database.ts';

const Role = v.picklist(['functional', 'non-functional']);
export const Description = v.looseObject({
  name: v.string(),
  tooth: v.string(),
  cusps: v.array(v.looseObject({ name: v.string(), role: Role })),
});

export const AttemptRow = v.object({
  id: v.number(),
  sitting_id: v.string(),
  sitting_title: v.string(),
  held_on: v.string(),
  student_id: v.string(),
  student_name: v.string(),
  bench: v.nullable(v.string()),
  exercise_title: v.string(),
  tooth: v.string(),
  kind: v.string(),
  rubric_version_id: v.number(),
  rubric: RubricFile,
  master: Description,
  released_at: v.nullable(v.string()),
});
export type AttemptRow = v.InferOutput<typeof AttemptRow>;

export const attemptById = (db: Queries, id: number): Promise<AttemptRow | null> =>
  db.maybeOne(
    AttemptRow,
    sql`select a.id, a.sitting_id, t.title as sitting_title, t.held_on, a.student_id, p.name as student_name, p.bench, e.title as exercise_title, e.tooth, e.kind,
          r.id as rubric_version_id, r.body as rubric, m.description as master, a.released_at
        from attempt a join sitting t on t.id = a.sitting_id join person p on p.id = a.student_id join exercise e on e.id = t.exercise_id
          join rubric_version r on r.id = e.rubric_version_id join master m on m.id = e.master_id
        where a.id = ${id}`,
  );

const Stat = v.picklist(['value', 'min', 'p05', 'median', 'mean', 'p95', 'max', 'count', 'share']);
export const ReadingRow = v.object({
  name: v.string(),
  zone: v.nullable(v.string()),
  stat: Stat,
  unit: v.string(),
  value: v.nullable(v.number()),
  U: v.nullable(v.number()),
  azimuth: v.nullable(v.number()),
  point: v.nullable(v.array(v.number())),
  coverage: v.nullable(v.number()),
  samples: v.number(),
  reason: v.nullable(v.string()),
});
export type ReadingRow = v.InferOutput<typeof ReadingRow>;

export const MeasurementRow = v.object({
  id: v.number(),
  scan_id: v.number(),
  file_name: v.string(),
  sha256: v.string(),
  measured_at: v.string(),
  duration_ms: v.number(),
  peak_mb: v.number(),
  alignment: v.looseObject({ rms: v.number(), stableArea: v.number(), pointError: v.number() }),
  curves: v.record(v.string(), v.array(v.array(v.number()))),
  display_sha256: v.string(),
  profiles_sha256: v.string(),
  picture_sha256: v.string(),
});

/** The measurement of the attempt's newest measured scan of the finished work: what is graded. */
export const latestMeasurement = (db: Queries, attemptId: number) =>
  db.maybeOne(
    MeasurementRow,
    sql`select m.id, m.scan_id, s.file_name, s.sha256, m.measured_at, m.duration_ms, m.peak_mb, m.alignment, m.curves, m.display_sha256, m.profiles_sha256, m.picture_sha256
        from measurement m join scan s on s.id = m.scan_id where s.attempt_id = ${attemptId} and s.state = 'measured' and s.step = 'final' order by s.version desc, s.id desc limit 1`,
  );

/** What there is to be looked at: the finished work, or the newest step on the way to it. */
export const shownMeasurement = (db: Queries, attemptId: number) =>
  db.maybeOne(
    MeasurementRow,
    sql`select m.id, m.scan_id, s.file_name, s.sha256, m.measured_at, m.duration_ms, m.peak_mb, m.alignment, m.curves, m.display_sha256, m.profiles_sha256, m.picture_sha256
        from measurement m join scan s on s.id = m.scan_id where s.attempt_id = ${attemptId} and s.state = 'measured' order by s.step = 'final' desc, s.version desc, s.id desc limit 1`,
  );

export const readingsOf = (db: Queries, measurementId: number): Promise<ReadingRow[]> =>
  db.any(
    ReadingRow,
    sql`select name, zone, stat, unit, value, u as "U", azimuth_deg as azimuth, point, coverage_share as coverage, samples, reason from reading where measurement_id = ${measurementId}`,
  );

export const JudgementRow = v.object({
  criterion_id: v.string(),
  level: v.nullable(v.picklist([0, 1, 2, 3])),
  waived: v.boolean(),
  reason: v.nullable(v.string()),
  comment: v.nullable(v.string()),
});
export type JudgementRow = v.InferOutput<typeof JudgementRow>;

export const judgementsOf = (db: Queries, attemptId: number): Promise<JudgementRow[]> =>
  db.any(JudgementRow, sql`select criterion_id, level, waived, reason, comment from judgement where attempt_id = ${attemptId}`);

export const GradeRow = v.object({
  id: v.number(),
  version: v.number(),
  total: v.nullable(v.number()),
  passed: v.boolean(),
  grader_name: v.string(),
  signed_at: v.string(),
  digest: v.string(),
  record: v.looseObject({}),
});

export const gradesOf = (db: Queries, attemptId: number) =>
  db.any(
    GradeRow,
    sql`select g.id, g.version, g.total, g.passed, p.name as grader_name, g.signed_at, g.digest, g.record from grade g join person p on p.id = g.grader_id where g.attempt_id = ${attemptId} order by g.version`,
  );

export const audit = (db: Queries, personId: string | null, action: string, subject: string): Promise<void> =>
  db.run(sql`insert into audit (person_id, action, subject) values (${personId}, ${action}, ${subject})`);

export type { Database };
