import { randomBytes } from 'node:crypto';
import * as v from 'valibot';
import type { CopyForm, CourseForm, ExerciseChange, ExerciseForm, SittingForm } from '#contract/course.ts';
import { isUpper } from '#core/anatomy/anatomy.ts';
import { KIND_NAMES } from '#core/kinds/kinds.ts';
import { KINDS_WITH_PATH } from '#core/kinds/path.ts';
import { STEPS_OF } from '#core/kinds/steps.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import { coursesFor, type Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { vouch } from '../audit/chain.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { mastersFor } from '../masters/rows.ts';
import { kitOf } from './kit.ts';
import { shippedRubrics } from './shipped.ts';
import { kindOf } from './standards.ts';

const fresh = (what: string): string => `${what}-${randomBytes(6).toString('base64url')}`;

/** A director sets up another course; they direct it. */
export const makeCourse = (a: App, who: Person | null, f: CourseForm): Promise<string> =>
  a.records.act(async (q, note) => {
    if (!who || coursesFor(who, 'course.keep').length === 0)
      throw new Refused('not-allowed', 'Only a course director sets up another course.');
    const id = fresh('c');
    await q.run(
      sql`insert into course (id, name, term, starts_on, ends_on) values (${id}, ${f.name}, ${f.term}, ${f.startsOn}, ${f.endsOn})`,
    );
    await q.run(sql`insert into enrolment (course_id, person_id, role) values (${id}, ${who.id}, 'director')`);
    await note({ person: who.id, action: 'course.make', subject: `course ${id}` });
    return id;
  });

export const changeCourse = (a: App, who: Person | null, course: string, f: CourseForm): Promise<void> =>
  a.records.act(async (q, note) => {
    permit(who, 'course.keep', await SUBJECTS.course(q, course));
    if (f.startsOn && f.endsOn && f.endsOn < f.startsOn) throw new Refused('not-valid', 'The course has to end after it begins.');
    await q.run(
      sql`update course set name = ${f.name}, term = ${f.term}, starts_on = ${f.startsOn}, ends_on = ${f.endsOn} where id = ${course}`,
    );
    await note({ person: who.id, action: 'course.change', subject: `course ${course}` });
  });

const Version = v.object({ id: v.number(), body: v.looseObject({ standard: v.string() }) });

/** The newest version of a rubric; one that ships is taken in at its first use. */
async function rubricVersion(a: App, q: Queries, id: string): Promise<v.InferOutput<typeof Version>> {
  const newest = () => q.maybeOne(Version, sql`select id, body from rubric_version where rubric_id = ${id} order by version desc limit 1`);
  const known = await newest();
  if (known) return known;
  const body = shippedRubrics(a).get(id);
  if (!body) throw new Refused('not-there', 'There is no such rubric.');
  await q.run(sql`insert into rubric_version (rubric_id, version, body) values (${id}, 1, ${body})`);
  return (await newest()) as v.InferOutput<typeof Version>;
}

export const addExercise = (a: App, who: Person | null, course: string, f: ExerciseForm): Promise<string> =>
  a.records.act(async (q, note) => {
    permit(who, 'course.keep', await SUBJECTS.course(q, course));
    const master = (await mastersFor(q, course)).find((m) => m.id === f.master);
    if (!master) throw new Refused('not-there', 'There is no such master in this course.');
    const rubric = await rubricVersion(a, q, f.rubric);
    const kind = await kindOf(q, a, course, rubric.body.standard);
    if (!kind) throw new Refused('conflict', 'The standard of this rubric is not there, so its kind of preparation is not known.');
    const id = fresh('x');
    await q.run(
      sql`insert into exercise (id, course_id, title, tooth, kind, master_id, rubric_version_id, minutes, steps) values (${id}, ${course}, ${f.title}, ${master.tooth}, ${kind}, ${master.id}, ${rubric.id}, ${f.minutes}, ${JSON.stringify(STEPS_OF[kind])}::jsonb)`,
    );
    await note({ person: who.id, action: 'exercise.add', subject: `exercise ${id}`, rows: await vouch(q, 'rubric_version', rubric.id) });
    return id;
  });

const Shared = v.object({ course_id: v.string(), tooth: v.string(), kind: v.picklist(KIND_NAMES), abutment: v.nullable(v.string()) });

/** How an exercise is done: title, time, steps with their checks, cutters. What it is graded by stays. */
export const changeExercise = (a: App, who: Person | null, id: string, f: ExerciseChange): Promise<void> =>
  a.records.act(async (q, note) => {
    const subject = await SUBJECTS.exercise(q, id);
    permit(who, 'course.keep', subject);
    const { kit } = await kitOf(q, subject?.course ?? '');
    const unknown = f.cutters.find((c) => !kit.cutters.some((k) => k.id === c));
    if (unknown) throw new Refused('not-valid', `“${unknown}” is not in the course’s list of cutters.`);
    const before = await q.one(Shared, sql`select course_id, tooth, kind, abutment from exercise where id = ${id}`);
    const other =
      f.abutment === null
        ? null
        : await q.maybeOne(Shared, sql`select course_id, tooth, kind, abutment from exercise where id = ${f.abutment}`);
    if (f.abutment !== null) {
      if (!other || other.course_id !== before.course_id || f.abutment === id)
        throw new Refused('not-valid', 'The other abutment has to be another exercise of this course.');
      if (!KINDS_WITH_PATH.includes(other.kind) || !KINDS_WITH_PATH.includes(before.kind))
        throw new Refused('not-valid', 'Only crowns, onlays and partial crowns have a path of insertion that two abutments can share.');
      if (isUpper(other.tooth) !== isUpper(before.tooth) || other.tooth === before.tooth)
        throw new Refused(
          'not-valid',
          'Two abutments are different teeth of one jaw: choose an exercise on another tooth of the same jaw.',
        );
    }
    const checks = Object.fromEntries(f.steps.map(({ step, check, needsWord }) => [step, { check, needsWord }]));
    await q.run(
      sql`update exercise set title = ${f.title}, minutes = ${f.minutes}, steps = ${JSON.stringify(f.steps.map((s) => s.step))}::jsonb, checks = ${JSON.stringify(checks)}::jsonb, cutters = ${JSON.stringify(f.cutters)}::jsonb, abutment = ${f.abutment} where id = ${id}`,
    );
    // Each names the other: whoever shared a path with one of the two before no longer does.
    await q.run(sql`update exercise set abutment = null where id <> ${id} and abutment in (${id}, ${f.abutment})`);
    await q.run(sql`update exercise set abutment = ${id} where id = ${f.abutment}`);
    await note({
      person: who.id,
      action: 'exercise.change',
      subject: `exercise ${id}`,
      details: { steps: f.steps.length, cutters: f.cutters.length, abutment: f.abutment },
    });
  });

const Known = v.object({ id: v.string() });

export const addSitting = (a: App, who: Person | null, course: string, f: SittingForm): Promise<string> =>
  a.records.act(async (q, note) => {
    permit(who, 'course.keep', await SUBJECTS.course(q, course));
    if (!(await q.maybeOne(Known, sql`select id from exercise where id = ${f.exercise} and course_id = ${course}`)))
      throw new Refused('not-there', 'There is no such exercise in this course.');
    const id = fresh('s');
    await q.run(
      sql`insert into sitting (id, exercise_id, title, held_on, starts_at, ends_at, room, is_resit) values (${id}, ${f.exercise}, ${f.title}, ${f.heldOn}, ${f.startsAt}, ${f.endsAt}, ${f.room}, ${f.isResit})`,
    );
    await note({ person: who.id, action: 'sitting.add', subject: `sitting ${id}` });
    return id;
  });

/** Day, time and room of a sitting; which exercise it is of stays. */
export const changeSitting = (a: App, who: Person | null, id: string, f: SittingForm): Promise<void> =>
  a.records.act(async (q, note) => {
    permit(who, 'course.keep', await SUBJECTS.sitting(q, id));
    await q.run(
      sql`update sitting set title = ${f.title}, held_on = ${f.heldOn}, starts_at = ${f.startsAt}, ends_at = ${f.endsAt}, room = ${f.room}, is_resit = ${f.isResit} where id = ${id}`,
    );
    await note({ person: who.id, action: 'sitting.change', subject: `sitting ${id}`, details: { held_on: f.heldOn } });
  });

const Course = v.object({ starts_on: v.nullable(v.string()), first: v.nullable(v.string()) });
const OldExercise = v.object({
  id: v.string(),
  title: v.string(),
  tooth: v.string(),
  kind: v.string(),
  master_id: v.string(),
  rubric_version_id: v.number(),
  minutes: v.nullable(v.number()),
  steps: v.unknown(),
  checks: v.unknown(),
  cutters: v.unknown(),
  abutment: v.nullable(v.string()),
});
const OldSitting = v.object({
  exercise_id: v.string(),
  title: v.string(),
  held_on: v.string(),
  starts_at: v.nullable(v.string()),
  ends_at: v.nullable(v.string()),
  room: v.nullable(v.string()),
  is_resit: v.boolean(),
});

/** A course's own lists and standards go along, as the first versions of the new one. */
async function copyLists(q: Queries, what: 'kit' | 'standard', from: string, to: string, who: string): Promise<void> {
  if (what === 'kit')
    await q.run(
      sql`insert into kit_version (course_id, list, version, items, made_by) select distinct on (list) ${to}, list, 1, items, ${who} from kit_version where course_id = ${from} order by list, version desc`,
    );
  else
    await q.run(
      sql`insert into standard_version (course_id, standard_id, version, body, made_by) select distinct on (standard_id) ${to}, standard_id, 1, body, ${who} from standard_version where course_id = ${from} order by standard_id, version desc`,
    );
}

/** Days from one to another, both as year-month-day. */
export const daysBetween = (from: string, to: string): number =>
  Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / 86_400_000);
export const shifted = (day: string, days: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

/**
 * The next term: exercises with their newest rubric versions, masters and sittings, all days shifted by whole weeks so that a Monday stays one, and the staff. Students, attempts and
 * marks stay where they are.
 */
export const copyCourse = (
  a: App,
  who: Person | null,
  course: string,
  f: CopyForm,
): Promise<{ id: string; exercises: number; sittings: number }> =>
  a.records.act(async (q, note) => {
    permit(who, 'course.keep', await SUBJECTS.course(q, course));
    const old = await q.one(
      Course,
      sql`select c.starts_on, (select min(t.held_on) from sitting t join exercise e on e.id = t.exercise_id where e.course_id = c.id) as first from course c where c.id = ${course}`,
    );
    const from = old.starts_on ?? old.first ?? f.startsOn;
    const days = 7 * Math.round(daysBetween(from, f.startsOn) / 7);
    const id = fresh('c');
    await q.run(
      sql`insert into course (id, name, term, starts_on, ends_on, copied_from) values (${id}, ${f.name}, ${f.term}, ${f.startsOn}, ${f.endsOn}, ${course})`,
    );
    await q.run(
      sql`insert into enrolment (course_id, person_id, role) select ${id}, person_id, role from enrolment where course_id = ${course} and role <> 'student'`,
    );
    for (const table of ['kit', 'standard'] as const) await copyLists(q, table, course, id, who.id);
    const exercises = await q.any(
      OldExercise,
      sql`select e.id, e.title, e.tooth, e.kind, e.master_id, e.minutes, e.steps, e.checks, e.cutters, e.abutment,
            (select n.id from rubric_version n where n.rubric_id = r.rubric_id order by n.version desc limit 1) as rubric_version_id
          from exercise e join rubric_version r on r.id = e.rubric_version_id where e.course_id = ${course} order by e.id`,
    );
    const ids = new Map<string, string>();
    for (const e of exercises) {
      const own = fresh('x');
      ids.set(e.id, own);
      await q.run(
        sql`insert into exercise (id, course_id, title, tooth, kind, master_id, rubric_version_id, minutes, steps, checks, cutters) values (${own}, ${id}, ${e.title}, ${e.tooth}, ${e.kind}, ${e.master_id}, ${e.rubric_version_id}, ${e.minutes}, ${JSON.stringify(e.steps)}::jsonb, ${JSON.stringify(e.checks)}::jsonb, ${JSON.stringify(e.cutters)}::jsonb)`,
      );
    }
    for (const e of exercises)
      if (e.abutment) await q.run(sql`update exercise set abutment = ${ids.get(e.abutment) ?? null} where id = ${ids.get(e.id) as string}`);
    const sittings = await q.any(
      OldSitting,
      sql`select t.exercise_id, t.title, t.held_on, t.starts_at, t.ends_at, t.room, t.is_resit from sitting t join exercise e on e.id = t.exercise_id where e.course_id = ${course} order by t.held_on`,
    );
    for (const t of sittings)
      await q.run(
        sql`insert into sitting (id, exercise_id, title, held_on, starts_at, ends_at, room, is_resit) values (${fresh('s')}, ${ids.get(t.exercise_id) as string}, ${t.title}, ${shifted(t.held_on, days)}, ${t.starts_at}, ${t.ends_at}, ${t.room}, ${t.is_resit})`,
      );
    await note({ person: who.id, action: 'course.copy', subject: `course ${id}`, details: { from: course, days } });
    return { id, exercises: exercises.length, sittings: sittings.length };
  });
