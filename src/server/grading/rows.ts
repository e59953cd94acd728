import * as v from 'valibot';
import { CurvesFile, MeasuredReadingRow, ReadingRow, StatName } from '#contract/reading.ts';
import { RubricFile } from '#contract/rubric.ts';
import { HAND_METHODS, type HandMethod } from '#core/catalogue/terms.ts';
import { KIND_NAMES } from '#core/kinds/kinds.ts';
import type { Reading } from '#core/result/reading.ts';
import { type Queries, sql } from '../database/port.ts';

const Role = v.picklist(['functional', 'non-functional']);
const point = v.tuple([v.number(), v.number(), v.number()]);
/** A master's description as the database keeps it; the rest of it is passed through. */
export const Description = v.looseObject({
  name: v.string(),
  tooth: v.string(),
  axis: point,
  mesial: point,
  facial: point,
  gingivalMargin: v.array(point),
  cusps: v.array(v.looseObject({ name: v.string(), role: Role, at: v.optional(point) })),
  grooves: v.optional(v.array(v.looseObject({ name: v.string(), line: v.array(point) })), []),
});
export type Description = v.InferOutput<typeof Description>;

/** Whether an attempt has a signed grade: what happens at the bench after it is not taken. */
export const isSigned = async (q: Queries, attempt: number): Promise<boolean> =>
  (await q.any(v.object({ id: v.number() }), sql`select id from grade where attempt_id = ${attempt} limit 1`)).length > 0;

export const AttemptRow = v.object({
  id: v.number(),
  number: v.number(),
  course_id: v.string(),
  sitting_id: v.string(),
  sitting_title: v.string(),
  held_on: v.string(),
  exercise_id: v.string(),
  exercise_title: v.string(),
  tooth: v.string(),
  kind: v.picklist(KIND_NAMES as [(typeof KIND_NAMES)[number], ...(typeof KIND_NAMES)[number][]]),
  student_id: v.string(),
  student_name: v.string(),
  bench: v.nullable(v.string()),
  grader_id: v.nullable(v.string()),
  rubric_version_id: v.number(),
  rubric: RubricFile,
  master: Description,
  master_sha256: v.nullable(v.string()),
});
export type AttemptRow = v.InferOutput<typeof AttemptRow>;

export const attemptById = (q: Queries, id: number): Promise<AttemptRow | null> =>
  q.maybeOne(
    AttemptRow,
    sql`select a.id, a.number, e.course_id, a.sitting_id, t.title as sitting_title, t.held_on, e.id as exercise_id, e.title as exercise_title, e.tooth, e.kind,
          a.student_id, p.name as student_name, n.bench, a.grader_id, r.id as rubric_version_id, r.body as rubric, m.description as master, m.file_sha256 as master_sha256
        from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id join person p on p.id = a.student_id
          left join enrolment n on n.course_id = e.course_id and n.person_id = a.student_id and n.role = 'student'
          join rubric_version r on r.id = e.rubric_version_id
          -- An attempt keeps the master that it was measured on, whatever its exercise uses today.
          left join graded_now c on c.attempt_id = a.id left join measured_on o on o.measurement_id = c.measurement_id
          join master m on m.id = coalesce(o.master_id, e.master_id)
        where a.id = ${id}`,
  );

export const MeasurementRow = v.object({
  id: v.number(),
  scan_id: v.number(),
  step: v.string(),
  file_name: v.string(),
  scan_sha256: v.string(),
  master_sha256: v.nullable(v.string()),
  kind: v.string(),
  hand_pose: v.nullable(v.array(v.number())),
  core_version: v.string(),
  measured_at: v.string(),
  duration_ms: v.number(),
  alignment: v.looseObject({
    rms: v.number(),
    pointError: v.number(),
    // Older measurements lack it.
    size: v.optional(v.nullable(v.object({ factor: v.number(), u: v.number() })), null),
    corrected: v.optional(v.number(), 1),
  }),
  curves: CurvesFile,
  display_sha256: v.string(),
  profiles_sha256: v.string(),
  picture_sha256: v.string(),
});
export type MeasurementRow = v.InferOutput<typeof MeasurementRow>;

export const measurementById = (q: Queries, id: number): Promise<MeasurementRow | null> =>
  q.maybeOne(
    MeasurementRow,
    sql`select m.id, m.scan_id, s.step, s.file_name, m.scan_sha256, m.master_sha256, m.kind, m.hand_pose, m.core_version, m.measured_at, m.duration_ms, m.alignment,
          coalesce(d.curves, '{}') || m.curves as curves, coalesce(d.display_sha256, m.display_sha256) as display_sha256,
          coalesce(d.profiles_sha256, m.profiles_sha256) as profiles_sha256, coalesce(d.picture_sha256, m.picture_sha256) as picture_sha256
        from measurement m join scan s on s.id = m.scan_id left join drawn d on d.measurement_id = m.id where m.id = ${id}`,
  );

const Id = v.object({ id: v.number() });

/** The measurement that an attempt is graded on. */
export async function gradedOn(q: Queries, attemptId: number): Promise<MeasurementRow | null> {
  const found = await q.maybeOne(Id, sql`select measurement_id as id from graded_now where attempt_id = ${attemptId}`);
  return found && measurementById(q, found.id);
}

/** The newest measurement of a step on the way: what there is to be looked at while nothing is finished. */
export async function newestOnTheWay(q: Queries, attemptId: number): Promise<MeasurementRow | null> {
  const found = await q.maybeOne(
    Id,
    sql`select m.id from measurement m join scan s on s.id = m.scan_id where s.attempt_id = ${attemptId} and s.removed_at is null and s.step <> 'final' order by s.version desc, m.id desc limit 1`,
  );
  return found && measurementById(q, found.id);
}

export const readingsOf = (q: Queries, measurementId: number): Promise<Reading[]> =>
  q.any(
    ReadingRow,
    sql`select name, zone, stat, unit, value, u, azimuth_deg, point, coverage_share, samples, reason from reading where measurement_id = ${measurementId}`,
  );

/** Readings of several measurements, for the given names. */
export const readingsOfAll = (q: Queries, measurements: readonly number[], names: readonly string[]) =>
  q.any(
    MeasuredReadingRow,
    sql`select measurement_id, name, zone, stat, unit, value, u, azimuth_deg, point, coverage_share, samples, reason
        from reading where measurement_id in (select (json_array_elements_text(${measurements}::json))::int) and name in (select json_array_elements_text(${names}::json))`,
  );

/** A judgement on one line. `rested_on` is the digest of what the line showed then. */
export const JudgementRow = v.object({
  attempt_id: v.number(),
  line: v.string(),
  level: v.nullable(v.picklist([0, 1, 2, 3])),
  made: v.nullable(v.boolean()),
  reason: v.nullable(v.string()),
  rested_on: v.nullable(v.string()),
  person_id: v.string(),
  made_at: v.string(),
});
export type JudgementRow = v.InferOutput<typeof JudgementRow>;

const Method = v.picklist(Object.keys(HAND_METHODS) as [HandMethod, ...HandMethod[]]);
export const HandRow = v.object({
  attempt_id: v.number(),
  name: v.string(),
  zone: v.nullable(v.string()),
  stat: StatName,
  method: Method,
  lo: v.nullable(v.number()),
  hi: v.nullable(v.number()),
  person_id: v.string(),
  made_at: v.string(),
});
export type HandRow = v.InferOutput<typeof HandRow>;

export const RemarkRow = v.object({
  attempt_id: v.number(),
  line: v.string(),
  body: v.nullable(v.string()),
  person_id: v.string(),
  made_at: v.string(),
});

export const PinRow = v.object({
  id: v.number(),
  line: v.string(),
  x: v.number(),
  y: v.number(),
  z: v.number(),
  note: v.string(),
  person_id: v.string(),
  made_at: v.string(),
});
export type PinRow = v.InferOutput<typeof PinRow>;

/** Selects one attempt, or all of a sitting. */
export type Which = { readonly attempt: number } | { readonly sitting: string };
const attempts = (w: Which) =>
  'attempt' in w
    ? { text: 'in ($1::int)', parameter: w.attempt }
    : { text: 'in (select id from attempt where sitting_id = $1::text)', parameter: w.sitting };

/** The newest judgement of each line in one round. */
export const judgementsOf = (q: Queries, w: Which, round: number): Promise<JudgementRow[]> => {
  const { text, parameter } = attempts(w);
  return q.any(JudgementRow, {
    text: `select distinct on (attempt_id, line) attempt_id, line, level, made, reason, rested_on, person_id, made_at from judgement
      where attempt_id ${text} and round = $2 order by attempt_id, line, id desc`,
    parameters: [parameter, round],
  });
};

/** The newest reading by hand at each place in one round, without withdrawn ones. */
export const handReadingsOf = async (q: Queries, w: Which, round: number): Promise<(HandRow & { lo: number; hi: number })[]> => {
  const { text, parameter } = attempts(w);
  const rows = await q.any(HandRow, {
    text: `select distinct on (attempt_id, name, zone, stat) attempt_id, name, zone, stat, method, lo, hi, person_id, made_at from hand_reading
      where attempt_id ${text} and round = $2 order by attempt_id, name, zone, stat, id desc`,
    parameters: [parameter, round],
  });
  return rows.flatMap((r) => (r.lo === null || r.hi === null ? [] : [{ ...r, lo: r.lo, hi: r.hi }]));
};

export const remarksOf = async (q: Queries, attemptId: number, round: number) =>
  (
    await q.any(
      RemarkRow,
      sql`select distinct on (line) attempt_id, line, body, person_id, made_at from remark where attempt_id = ${attemptId} and round = ${round} order by line, id desc`,
    )
  ).flatMap((r) => (r.body === null ? [] : [{ ...r, body: r.body }]));

/** Places marked on the tooth, in the master file's frame. */
export const pinsOf = (q: Queries, attemptId: number, round: number): Promise<PinRow[]> =>
  q.any(
    PinRow,
    sql`select id, line, x_mm as x, y_mm as y, z_mm as z, note, person_id, made_at from pin p
        where attempt_id = ${attemptId} and round = ${round} and not exists (select 1 from pin_removal r where r.pin_id = p.id) order by id`,
  );

export const GradeRow = v.object({
  id: v.number(),
  version: v.number(),
  round: v.picklist([1, 2, 3]),
  total: v.nullable(v.number()),
  passed: v.boolean(),
  grader_id: v.string(),
  grader_name: v.string(),
  signed_at: v.string(),
  digest: v.string(),
  measurement_id: v.nullable(v.number()),
  record: v.looseObject({ format: v.string() }),
});
export type GradeRow = v.InferOutput<typeof GradeRow>;

export const gradesOf = (q: Queries, attemptId: number): Promise<GradeRow[]> =>
  q.any(
    GradeRow,
    sql`select g.id, g.version, g.round, g.total, g.passed, g.grader_id, p.name as grader_name, g.signed_at, g.digest, g.measurement_id, g.record
        from grade g join person p on p.id = g.grader_id where g.attempt_id = ${attemptId} order by g.version`,
  );

const Release = v.object({ grade_id: v.nullable(v.number()) });
/** The grade that the student sees; null while none is released. */
export async function releasedGrade(q: Queries, attemptId: number): Promise<GradeRow | null> {
  const release = await q.maybeOne(Release, sql`select grade_id from release where attempt_id = ${attemptId} order by id desc limit 1`);
  if (!release || release.grade_id === null) return null;
  return (await gradesOf(q, attemptId)).find((g) => g.id === release.grade_id) ?? null;
}
