import * as v from 'valibot';
import { STEPS, type Step } from '#core/catalogue/terms.ts';

const text = (least: number, most: number, what: string) =>
  v.pipe(
    v.string(),
    v.trim(),
    v.minLength(least, `Give ${what}.`),
    v.maxLength(most, `${what[0].toUpperCase()}${what.slice(1)} has at most ${most} letters.`),
  );
const day = v.pipe(
  v.string(),
  v.regex(/^\d{4}-\d{2}-\d{2}$/, 'Give a day as year-month-day.'),
  v.check((s) => !Number.isNaN(Date.parse(s)), 'There is no such day.'),
);
const optional = <S extends v.GenericSchema>(s: S) =>
  v.union([
    v.pipe(
      v.literal(''),
      v.transform(() => null),
    ),
    v.null(),
    s,
  ]);
const time = v.pipe(v.string(), v.regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'Give a time as hours:minutes.'));

export const CourseForm = v.object({
  name: text(1, 120, 'the course a name'),
  term: text(1, 60, 'the term'),
  startsOn: optional(day),
  endsOn: optional(day),
});
export type CourseForm = v.InferOutput<typeof CourseForm>;

export const ExerciseForm = v.object({
  title: text(1, 120, 'the exercise a title'),
  master: text(1, 100, 'a master'),
  rubric: text(1, 100, 'a rubric'),
  minutes: optional(v.pipe(v.number(), v.integer(), v.minValue(5), v.maxValue(600))),
});
export type ExerciseForm = v.InferOutput<typeof ExerciseForm>;

/** At a step of an exercise: what is looked at, and whether an instructor's word is needed to go on. */
export const StepCheck = v.object({
  step: v.picklist(Object.keys(STEPS) as [Step, ...Step[]]),
  check: v.pipe(v.string(), v.trim(), v.maxLength(200, 'At most 200 letters.')),
  needsWord: v.boolean(),
});
export type StepCheck = v.InferOutput<typeof StepCheck>;
/** What can be changed of an exercise that is in use: how it is done, never what it is graded by. */
export const ExerciseChange = v.object({
  title: ExerciseForm.entries.title,
  minutes: ExerciseForm.entries.minutes,
  steps: v.pipe(
    v.array(StepCheck),
    v.minLength(1, 'Leave at least one step.'),
    v.check((all) => all.some((s) => s.step === 'final'), 'The finished work is always handed in.'),
  ),
  cutters: v.pipe(v.array(v.string()), v.maxLength(60)),
  /** The exercise whose preparation shares its path of insertion; it is told so as well. */
  abutment: v.optional(v.nullable(v.string()), null),
});
export type ExerciseChange = v.InferOutput<typeof ExerciseChange>;

const seats = v.array(v.object({ person: v.string(), bench: v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(12)) }));
/** Who grades a sitting, who sits elsewhere than usual, who is not there. */
export const SittingPeople = v.object({
  graders: v.array(v.string()),
  seats: v.pipe(
    seats,
    v.check((all) => new Set(all.map((s) => s.bench)).size === all.length, 'Two students have the same bench.'),
  ),
  absences: v.array(v.object({ person: v.string(), reason: v.pipe(v.string(), v.trim(), v.maxLength(120, 'At most 120 letters.')) })),
});
export type SittingPeople = v.InferOutput<typeof SittingPeople>;

export const SittingForm = v.pipe(
  v.object({
    exercise: text(1, 100, 'an exercise'),
    title: text(1, 120, 'the sitting a title'),
    heldOn: day,
    startsAt: optional(time),
    endsAt: optional(time),
    room: optional(text(1, 60, 'a room')),
    isResit: v.boolean(),
  }),
  v.forward(
    v.check((s) => !s.startsAt || !s.endsAt || s.endsAt > s.startsAt, 'It has to end after it begins.'),
    ['endsAt'],
  ),
);
export type SittingForm = v.InferOutput<typeof SittingForm>;

export const FirstForm = v.object({
  school: text(1, 120, 'the school a name'),
  course: text(1, 120, 'the course a name'),
  term: text(1, 60, 'the term'),
  name: text(1, 120, 'your name'),
  signIn: v.pipe(
    text(2, 60, 'a sign-in name'),
    v.regex(/^[\p{Letter}\p{Number}._@-]+$/u, 'A sign-in name has letters, digits, dots and dashes only.'),
  ),
  password: v.pipe(v.string(), v.minLength(10, 'A password has at least 10 characters.'), v.maxLength(200)),
});
export type FirstForm = v.InferOutput<typeof FirstForm>;

/** Days by which everything of a term is shifted when it is copied. */
export const CopyForm = v.object({ ...CourseForm.entries, startsOn: day });
export type CopyForm = v.InferOutput<typeof CopyForm>;

const Named = v.object({ id: v.string(), name: v.string() });
export const MemberView = v.object({
  id: v.string(),
  name: v.string(),
  sign_in_name: v.string(),
  email: v.nullable(v.string()),
  role: v.string(),
  bench: v.nullable(v.string()),
  group_name: v.nullable(v.string()),
  has_password: v.boolean(),
  attempts: v.number(),
});
export type MemberView = v.InferOutput<typeof MemberView>;
export const SittingView = v.object({
  id: v.string(),
  exercise_id: v.string(),
  exercise_title: v.string(),
  title: v.string(),
  held_on: v.string(),
  starts_at: v.nullable(v.string()),
  ends_at: v.nullable(v.string()),
  room: v.nullable(v.string()),
  is_resit: v.boolean(),
  graders: v.array(v.string()),
  absent: v.number(),
  attempts: v.number(),
  signed: v.number(),
});
export type SittingView = v.InferOutput<typeof SittingView>;
export const ExerciseView = v.object({
  id: v.string(),
  title: v.string(),
  tooth: v.string(),
  kind: v.string(),
  master: v.string(),
  rubric: v.string(),
  rubric_id: v.string(),
  rubric_version: v.number(),
  minutes: v.nullable(v.number()),
  steps: v.array(StepCheck),
  cutters: v.array(v.string()),
  abutment: v.nullable(v.string()),
  sittings: v.number(),
});
export type ExerciseView = v.InferOutput<typeof ExerciseView>;
export const ImportView = v.object({
  id: v.string(),
  file_name: v.string(),
  made_at: v.string(),
  by: v.string(),
  written: v.number(),
  undone: v.boolean(),
});
export type ImportView = v.InferOutput<typeof ImportView>;

/** Everything that a course's page shows. */
export const CourseView = v.object({
  id: v.string(),
  name: v.string(),
  term: v.string(),
  starts_on: v.nullable(v.string()),
  ends_on: v.nullable(v.string()),
  people: v.array(MemberView),
  imports: v.array(ImportView),
  exercises: v.array(ExerciseView),
  sittings: v.array(SittingView),
  masters: v.array(v.object({ ...Named.entries, tooth: v.string() })),
  rubrics: v.array(v.object({ ...Named.entries, kind: v.string() })),
});
export type CourseView = v.InferOutput<typeof CourseView>;

/** A student's mark in one sitting. */
export const Mark = v.object({
  student_id: v.string(),
  sitting_id: v.string(),
  total: v.nullable(v.number()),
  passed: v.boolean(),
  released: v.boolean(),
  signed_at: v.string(),
});
export const Absence = v.object({ student_id: v.string(), sitting_id: v.string(), reason: v.string() });
export type Absence = v.InferOutput<typeof Absence>;
export type Mark = v.InferOutput<typeof Mark>;
