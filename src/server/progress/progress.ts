import * as v from 'valibot';
import type { DrillItem } from '#contract/kit.ts';
import type { AllRoundView, HabitView, PracticeView, ProgressView, SkillPointView, SkillView } from '#contract/progress-view.ts';
import { findEntry } from '#core/catalogue/catalogue.ts';
import { allRound, type ErrorCurve, frameOf, habitOf, holm, lessCohort } from '#core/progress/habit.ts';
import { nextPractice } from '#core/progress/next-practice.ts';
import { skillOf } from '#core/progress/skill.ts';
import { cohortPrior, type Prior } from '#core/progress/still-needed.ts';
import { kitOf } from '../course/kit.ts';
import { type Queries, sql } from '../database/port.ts';
import { cohortMeans, curvesOf, errorsOf, type LineRow, linesOf, outcomesIn, skillKey } from './history.ts';
import { limitsOf } from './limits.ts';
import { remembered } from './remembered.ts';
import { group, skillTitle } from './skills.ts';

/** Attempts of a cohort on an exercise from which its mean says something. */
const COHORT_FROM = 5;
/** Level under which an attempt counts as an error that returns. */
const WEAK = 1;
const LAST = 6;
/** Newest attempts in which a habit is looked for: one that is left behind is none. */
const NEWEST = 12;
/** Chance under which a habit is told. */
const TOLD = 0.05;

const pointOf = (l: LineRow): SkillPointView => ({
  attempt: l.attempt,
  value: l.value,
  U: l.u,
  lo: l.lo,
  hi: l.hi,
  level: l.level,
  points: l.points,
  of: l.out_of,
  heldOn: l.held_on,
  exercise: l.exercise,
  tooth: l.tooth,
  zone: l.zone,
  isRepeat: l.number > 1,
  minutes: l.minutes,
});

/** A line that an attempt holds twice for one skill (two criteria of one reading) counts once: as its weaker one. */
function oneEach(lines: readonly LineRow[]): LineRow[] {
  const by = new Map<number, LineRow>();
  for (const l of lines) {
    const known = by.get(l.attempt);
    if (!known || (l.level ?? 9) < (known.level ?? 9)) by.set(l.attempt, l);
  }
  return [...by.values()];
}

/** Prior of each skill from everybody's outcomes. */
async function makePriors(q: Queries, courses: readonly string[]): Promise<(skill: string) => Prior> {
  const bySkill = group(await outcomesIn(q, courses), (o) => o.skill);
  const known = new Map<string, Prior>();
  return (skill) => {
    const made = known.get(skill) ?? cohortPrior((bySkill.get(skill) ?? []).map((o) => o.outcomes));
    known.set(skill, made);
    return made;
  };
}

/** One grade more moves a cohort's prior little: the next one who asks sees it. */
const priorsOf = (q: Queries, courses: readonly string[]) => remembered(q, `priors ${courses.join()}`, () => makePriors(q, courses), true);

const addDays = (day: string, days: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

/** The drill whose subject fits a reading most closely. */
export function drillFor(drills: readonly DrillItem[], reading: string | null): DrillItem | null {
  if (reading === null) return null;
  const fitting = drills.filter((d) => d.about !== '' && reading.startsWith(d.about));
  return fitting.sort((a, b) => b.about.length - a.about.length)[0] ?? null;
}

const Done = v.object({ skill: v.string(), done_on: v.string() });
/** What a student says they practised. */
const practisedBy = (q: Queries, student: string, courses: readonly string[]) =>
  q.any(
    Done,
    sql`select skill, done_on::text as done_on from practised where student_id = ${student} and course_id in (select jsonb_array_elements_text(${courses}::jsonb)) order by done_on`,
  );

/** A student's progress, from the grades that whoever asks may see. */
export async function progressView(q: Queries, student: string, courses: readonly string[], isOwn: boolean): Promise<ProgressView> {
  const [limits, lines, errors, curves, priorOf, practised, kits] = await Promise.all([
    limitsOf(q, courses[0]),
    linesOf(q, student, courses, isOwn),
    errorsOf(q, student, courses, isOwn),
    curvesOf(q, student, courses, isOwn),
    priorsOf(q, courses),
    practisedBy(q, student, courses),
    Promise.all(courses.slice(0, 1).map((c) => kitOf(q, c))),
  ]);
  const skills = [...group(lines, skillKey)].map(([key, own]): SkillView => {
    const once = oneEach(own);
    const points = once.map(pointOf);
    return {
      key,
      title: once[0].reading ? skillTitle(key) : once[0].title,
      unit: once.find((l) => l.unit !== null)?.unit ?? null,
      points,
      skill: skillOf(points, limits, priorOf(key)),
    };
  });
  const attempts = new Set(lines.map((l) => l.attempt)).size;
  const drills = kits[0]?.kit.drills ?? [];
  const practice = nextPractice(
    skills.map((s) => ({
      id: s.key,
      title: s.title,
      reading: findEntry(s.key) ? s.key : null,
      lost: s.points.flatMap((p) => (p.points === null || p.of === 0 ? [] : [1 - p.points / p.of])),
      points: s.points.reduce((sum, p) => sum + p.of, 0) / Math.max(1, s.points.length),
      isCompetent: s.skill.competence.isCompetent,
      exercises: s.points.map((p) => p.exercise),
    })),
  ).map((p): PracticeView => {
    const last = skills.find((s) => s.key === p.id)?.points.at(-1)?.heldOn ?? '';
    const done = practised.filter((d) => d.skill === p.id && d.done_on > last).map((d) => d.done_on);
    return { ...p, drill: drillFor(drills, p.reading), on: addDays(last, p.inDays), done };
  });
  const repeated = skills
    .map((s) => {
      const last = s.points.slice(-LAST);
      const weak = last.filter((p) => p.level !== null && p.level <= WEAK);
      return { title: s.title, times: weak.length, of: last.length, zone: weak.at(-1)?.zone ?? null, attempt: weak.at(-1)?.attempt ?? 0 };
    })
    .filter((r) => r.times > 1)
    .sort((a, b) => b.times / b.of - a.times / a.of || b.times - a.times);
  const made = [...group(errors, (e) => e.title)]
    .map(([title, all]) => {
      const own = all.filter((e) => e.made);
      return { title, times: own.length, of: all.length, last: own.at(-1)?.held_on ?? '', attempt: own.at(-1)?.attempt ?? 0 };
    })
    .filter((e) => e.times > 0)
    .sort((a, b) => b.times - a.times);
  return {
    attempts,
    errors: made,
    repeated,
    practice,
    skills: skills.sort((a, b) => b.points.length - a.points.length || a.title.localeCompare(b.title)),
    ...(await habitsOf(q, courses, curves)),
    limits,
  };
}

type Curve = Awaited<ReturnType<typeof curvesOf>>[number];

/** The bin at which this student and the cohort err alike: outside in most attempts, and the cohort's mean at least half as far; null where there is none. */
function whereAll(own: readonly Curve[], cohort: ErrorCurve): number | null {
  const mean = cohort.map((_, b) => own.reduce((s, c) => s + (c.bins[b] ?? 0), 0) / own.length);
  const at = mean.reduce((best, v, b) => (Math.abs(v) > Math.abs(mean[best]) ? b : best), 0);
  const side = Math.sign(mean[at]);
  const times = own.filter((c) => side * (c.bins[at] ?? 0) > 0).length;
  return side !== 0 && times > own.length / 2 && side * (cohort[at] ?? 0) >= Math.abs(mean[at]) / 2 ? at : null;
}

/** Where round the tooth this student errs again and again: against the cohort, with the chance of it corrected for all readings. */
async function habitsOf(
  q: Queries,
  courses: readonly string[],
  curves: readonly Curve[],
): Promise<Pick<ProgressView, 'habits' | 'allRound'>> {
  const cohort = curves.length ? await remembered(q, `means ${courses.join()}`, () => cohortMeans(q, courses), true) : [];
  const means = new Map<string, ErrorCurve>(
    cohort.flatMap((m) => (m.attempts < COHORT_FROM ? [] : [[`${m.exercise_id}|${m.reading}`, m.bins]])),
  );
  const found = [...group(curves, (c) => c.reading)].flatMap(([reading, every]) => {
    const all = every.slice(-NEWEST);
    const own = all.map((c) => ({ curve: lessCohort(c.bins, means.get(`${c.exercise_id}|${reading}`) ?? null), tooth: c.tooth }));
    const habit = habitOf(own).given;
    const round = allRound(own).given;
    return habit && round ? [{ reading, unit: all[0].unit, own, raw: all, habit, round }] : [];
  });
  const corrected = holm(found.map((f) => f.habit.p));
  const correctedRound = holm(found.map((f) => f.round.p));
  const allRoundTold = found.flatMap(({ reading, unit, raw, round }, i): AllRoundView[] => {
    const side = Math.sign(round.size);
    // Most of the ring lies outside on that side.
    const times = raw.filter(
      (c) => c.bins.filter((b) => b !== null && side * b > 0).length > c.bins.filter((b) => b !== null).length / 2,
    ).length;
    if (correctedRound[i] >= TOLD || times < raw.length / 2) return [];
    return [{ reading, title: skillTitle(reading), unit, size: round.size, p: correctedRound[i], times, of: raw.length }];
  });
  const habits = found
    .map(({ reading, unit, own, raw, habit }, i): HabitView => {
      // What differs from others but lies inside its band is no error.
      const side = Math.sign(habit.size);
      const times = raw.filter((c) => side * (c.bins[habit.at] ?? 0) > 0).length;
      const isTold = corrected[i] < TOLD && times >= habit.of / 2;
      const everyone = means.get(`${raw[raw.length - 1].exercise_id}|${reading}`) ?? null;
      return {
        reading,
        title: skillTitle(reading),
        unit,
        own: { ...habit, times },
        p: corrected[i],
        isTold,
        frame: isTold ? frameOf(own) : null,
        everyones: isTold || everyone === null ? null : whereAll(raw, everyone),
      };
    })
    .sort((a, b) => a.p - b.p);
  return { habits, allRound: allRoundTold };
}
