import * as v from 'valibot';
import { basisOf, GradeFile, OldGrade } from '#contract/grade.ts';
import { type RubricFile, rubricFrom } from '#contract/rubric.ts';
import type { Past, RubricPreview, RubricView } from '#contract/rubric-view.ts';
import { Fault } from '#core/result/fault.ts';
import { concerns, isGrave, placeKey } from '#core/score/concerns.ts';
import { zonesOf } from '#core/score/expand.ts';
import { scoreOf } from '#core/sign/basis.ts';
import { resultOf } from '#core/sign/result.ts';
import { median } from '#core/statistics/quantile.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { vouch } from '../audit/chain.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { shippedRubrics } from './shipped.ts';
import { kindOf } from './standards.ts';

/** Signed attempts that a rubric is tried on. */
const MOST = 200;

const Stored = v.object({ version: v.number(), body: v.unknown(), signed: v.number() });
const Used = v.object({ id: v.string(), title: v.string(), version: v.number() });
const Signed = v.object({
  attempt: v.number(),
  student: v.string(),
  total: v.nullable(v.number()),
  passed: v.boolean(),
  record: v.union([GradeFile, OldGrade]),
});

/** The newest signed records of a course that were graded by a rubric, whatever its version. */
const signedWith = (q: Queries, course: string, rubric: string) =>
  q.any(
    Signed,
    sql`select a.id as attempt, p.name as student, g.total, g.passed, g.record from attempt a join person p on p.id = a.student_id
          join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id
          join lateral (select * from grade x where x.attempt_id = a.id and x.round <> 2 order by x.version desc limit 1) g on true
          join rubric_version r on r.id = g.rubric_version_id
        where e.course_id = ${course} and r.rubric_id = ${rubric} order by g.signed_at desc limit ${MOST}`,
  );

const grades = (rows: readonly v.InferOutput<typeof Signed>[]) =>
  rows.flatMap((r) => (r.record.format === 'veritor-grade/2' ? [{ ...r, record: r.record as GradeFile }] : []));

const Body = v.object({ body: v.unknown() });

/** A rubric by its newest version, or as it is shipped; null where there is neither. */
const asKept = (a: App, id: string, newest: v.InferOutput<typeof Body> | null | undefined): RubricFile | null =>
  newest ? rubricFrom(newest.body, id) : (shippedRubrics(a).get(id) ?? null);

/** A rubric by itself, whether or not an exercise uses it. */
export const newestRubric = async (a: App, id: string): Promise<RubricFile | null> =>
  asKept(a, id, await a.db.maybeOne(Body, sql`select body from rubric_version where rubric_id = ${id} order by version desc limit 1`));

/** A rubric with its versions, who uses it, and what past attempts read at each of its targets. */
export async function rubricView(a: App, course: string, id: string): Promise<RubricView> {
  const versions = await a.db.any(
    Stored,
    sql`select r.version, r.body, (select count(*)::int from grade g where g.rubric_version_id = r.id) as signed from rubric_version r where r.rubric_id = ${id} order by r.version desc`,
  );
  const body = asKept(a, id, versions[0]);
  if (!body) throw new Refused('not-there', 'There is no such rubric.');
  const exercises = await a.db.any(
    Used,
    sql`select e.id, e.title, r.version from exercise e join rubric_version r on r.id = e.rubric_version_id where e.course_id = ${course} and r.rubric_id = ${id} order by e.title`,
  );
  const signed = grades(await signedWith(a.db, course, id));
  return {
    id,
    kind: await kindOf(a.db, a, course, body.standard),
    body,
    version: versions[0]?.version ?? 1,
    versions: versions.map(({ version, signed: n }) => ({ version, signed: n })),
    exercises,
    past: pastOf(
      body,
      signed.map((s) => s.record),
    ),
    attempts: signed.length,
  };
}

/** The rubric as a course's exercises use it now; null where none does. */
export async function usedRubric(a: App, course: string, id: string): Promise<RubricFile | null> {
  const used = await a.db.maybeOne(
    Body,
    sql`select r.body from rubric_version r join exercise e on e.rubric_version_id = r.id where e.course_id = ${course} and r.rubric_id = ${id} order by r.version desc limit 1`,
  );
  return used && rubricFrom(used.body, id);
}

/** Values that past attempts read at each target, groups of cusps taken apart, and how sure they usually were. */
export function pastOf(rubric: RubricFile, records: readonly Pick<GradeFile, 'readings' | 'cusps'>[]): Past[] {
  const targets = new Map(rubric.criteria.flatMap((c) => c.targets.map((t) => [placeKey(t), t] as const)));
  return [...targets].map(([place, t]) => {
    const found = records.flatMap(({ readings, cusps }) => {
      const zones = new Set<string | null>(zonesOf(t, cusps, readings) ?? [t.zone]);
      return readings.filter((r) => r.name === t.reading && r.stat === t.stat && zones.has(r.zone) && r.value !== null && r.U !== null);
    });
    return { place, values: found.map((r) => r.value as number), U: found.length ? median(found.map((r) => r.U as number)) : null };
  });
}

const usualU = (past: readonly Past[]): Map<string, number> => new Map(past.flatMap((p) => (p.U === null ? [] : [[p.place, p.U]])));

function checkedRubric(id: string, body: unknown): RubricFile {
  try {
    const r = rubricFrom(body, 'this rubric');
    if (r.id !== id) throw new Refused('not-valid', `This rubric calls itself “${r.id}”, not “${id}”.`);
    return r;
  } catch (e) {
    if (e instanceof Fault) throw new Refused('not-valid', e.message);
    throw e;
  }
}

/** Whose marks a changed rubric would have moved; nothing is written. */
export async function previewRubric(a: App, course: string, id: string, body: unknown): Promise<RubricPreview> {
  const rubric = checkedRubric(id, body);
  const rows = grades(await signedWith(a.db, course, id)).map((s) => {
    const after = resultOf(scoreOf({ ...basisOf(s.record), rubric }));
    return {
      attempt: s.attempt,
      student: s.student,
      before: s.total,
      after: after.total,
      passedBefore: s.passed,
      passedAfter: after.passed,
    };
  });
  return {
    attempts: rows.length,
    passedBefore: rows.filter((r) => r.passedBefore).length,
    passedAfter: rows.filter((r) => r.passedAfter === true).length,
    moved: rows.filter((r) => r.before !== r.after || r.passedBefore !== r.passedAfter),
  };
}

const Version = v.object({ id: v.number(), version: v.number() });

/** A changed rubric becomes its next version, on which the course's exercises go on; what was signed keeps the version it was signed with. */
export const keepRubric = (a: App, who: Person | null, course: string, id: string, body: unknown, seen: number): Promise<number> =>
  a.records.act(async (q, note) => {
    permit(who, 'course.keep', await SUBJECTS.course(q, course));
    const rubric = checkedRubric(id, body);
    const newest = await q.maybeOne(
      Version,
      sql`select id, version from rubric_version where rubric_id = ${id} order by version desc limit 1`,
    );
    if ((newest?.version ?? 1) !== seen)
      throw new Refused('conflict', 'Somebody else made a new version meanwhile. Load it and make your changes again.');
    const past = pastOf(
      rubric,
      grades(await signedWith(q, course, id)).map((s) => s.record),
    );
    const grave = concerns(rubric, usualU(past)).filter(isGrave);
    if (grave.length)
      throw new Refused(
        'not-valid',
        'This rubric cannot be kept: a band is narrower than its reading is sure, or bands do not lie in one another. The lines say which.',
      );
    const version = (newest?.version ?? 0) + 1;
    await q.run(sql`insert into rubric_version (rubric_id, version, body) values (${id}, ${version}, ${rubric})`);
    const made = await q.one(Version, sql`select id, version from rubric_version where rubric_id = ${id} and version = ${version}`);
    await q.run(
      sql`update exercise set rubric_version_id = ${made.id} where course_id = ${course} and rubric_version_id in (select id from rubric_version where rubric_id = ${id})`,
    );
    await note({
      person: who.id,
      action: 'rubric.change',
      subject: `rubric ${id}`,
      details: { version, course },
      rows: await vouch(q, 'rubric_version', made.id),
    });
    return version;
  });
