import * as v from 'valibot';
import type { CohortView, ConcernView, HeatCell, HeatRow, ItemView, SpreadView, ToolView } from '#contract/cohort-view.ts';
import { competence } from '#core/progress/competence.ts';
import { driftOf } from '#core/progress/drift.ts';
import { alphaOf, itemsOf } from '#core/progress/items.ts';
import type { Limits } from '#core/progress/limits.ts';
import { levelTrend } from '#core/progress/mann-kendall.ts';
import { selfAssessment } from '#core/progress/self-assessment.ts';
import { SUCCESS } from '#core/progress/skill.ts';
import { median } from '#core/statistics/quantile.ts';
import { type Queries, sql } from '../database/port.ts';
import { type Column, courseSkills, exerciseColumns, ownJudgements, skillsOf } from './history.ts';
import { limitsOf } from './limits.ts';
import { remembered } from './remembered.ts';
import { group, skillTitle } from './skills.ts';

const Student = v.object({
  id: v.string(),
  name: v.string(),
  bench: v.nullable(v.string()),
  group_name: v.nullable(v.string()),
  last: v.nullable(v.string()),
});
const Exercise = v.object({ id: v.string(), title: v.string(), attempts: v.number() });
const Note = v.object({
  student: v.string(),
  what: v.string(),
  about: v.string(),
  attempt: v.nullable(v.number()),
  note: v.string(),
  by: v.string(),
});
const Day = v.object({ day: v.string(), rms: v.nullable(v.number()), neighbour: v.nullable(v.number()) });
const Grader = v.object({ id: v.string(), name: v.string() });

/** Days without an attempt from which a student is named, counted from the course's newest sitting. */
const AWAY_DAYS = 14;
/** Attempts at the end that all failed. */
const FAILING = 3;
/** Newest attempts of an exercise that its criteria are judged by. */
const NEWEST = 200;
/** Skills shown: those that most students have tried. */
const MOST_SKILLS = 16;

/** What of a course is looked at: all of it, one exercise, what one grader signed. */
export interface Which {
  readonly exercise: string | null;
  readonly grader: string | null;
}

/** How a course's students do: skills by students, who needs a word, which criteria tell strong from weak, whether a tool has drifted. */
export async function cohortView(q: Queries, course: string, { exercise, grader }: Which): Promise<CohortView> {
  const [limits, notes] = await Promise.all([
    limitsOf(q, course),
    q.any(
      Note,
      sql`select c.student_id as student, c.what, c.about, c.attempt_id as attempt, c.note, p.name as by from concern_note c join person p on p.id = c.said_by where c.course_id = ${course} order by c.id`,
    ),
  ]);
  const view = await remembered(q, `cohort ${course} ${exercise} ${grader} ${limits.p0} ${limits.p1}`, () =>
    makeView(q, course, { exercise, grader }, limits),
  );
  const said = new Map(notes.map((n) => [`${n.student}|${n.what}|${n.about}|${n.attempt}`, { note: n.note, by: n.by }]));
  return {
    ...view,
    limits,
    concerns: view.concerns.map((c) => ({ ...c, aside: said.get(`${c.student}|${c.what}|${c.about}|${c.attempt}`) ?? null })),
  };
}

/** What is the same whichever exercise or grader is looked at: what judgements of own work say, students, exercises, days of the tools, graders. */
const ofCourse = (q: Queries, course: string) =>
  Promise.all([
    ownJudgements(q, course).then(
      (own) => new Map([...group(own, (o) => o.student)].map(([student, said]) => [student, ownConcerns(said)])),
    ),
    q.any(
      Student,
      sql`select p.id, p.name, n.bench, n.group_name,
            (select max(t.held_on)::text from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id where a.student_id = p.id and e.course_id = ${course}) as last
          from enrolment n join person p on p.id = n.person_id where n.course_id = ${course} and n.role = 'student' order by n.bench nulls last, p.name`,
    ),
    q.any(
      Exercise,
      sql`select e.id, e.title, count(distinct a.id)::int as attempts from exercise e join sitting t on t.exercise_id = e.id join attempt a on a.sitting_id = t.id join grade g on g.attempt_id = a.id
          where e.course_id = ${course} group by e.id order by e.title`,
    ),
    q.any(
      Day,
      sql`select t.held_on::text as day, percentile_cont(0.5) within group (order by (m.alignment->>'rms')::float8) as rms,
            percentile_cont(0.5) within group (order by n.least) as neighbour
          from measurement m join scan s on s.id = m.scan_id join sitting t on t.id = s.sitting_id join exercise e on e.id = t.exercise_id
            left join lateral (select min(r.value) as least from reading r where r.measurement_id = m.id and r.name in ('neighbour.mesial', 'neighbour.distal') and r.stat = 'max') n on true
          where e.course_id = ${course} group by t.held_on order by t.held_on`,
    ),
    q.any(
      Grader,
      sql`select distinct p.id, p.name from grade g join person p on p.id = g.grader_id join attempt a on a.id = g.attempt_id join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id
          where e.course_id = ${course} order by p.name`,
    ),
  ]);

async function makeView(q: Queries, course: string, { exercise, grader }: Which, limits: Limits): Promise<CohortView> {
  const [allSkills, lines, [own, students, exercises, days, graders]] = await Promise.all([
    exercise ? null : courseSkills(q, course, grader),
    exercise ? exerciseColumns(q, course, exercise, grader) : [],
    remembered(q, `cohort course ${course}`, () => ofCourse(q, course)),
  ]);
  const skillRows = allSkills ?? skillsOf(lines);
  const skills = [...group(skillRows, (r) => r.skill)]
    .map(([key, own]) => ({ key, title: skillTitle(key, own[0].title), students: own.length }))
    .sort((a, b) => b.students - a.students || a.title.localeCompare(b.title))
    .slice(0, MOST_SKILLS);
  const byStudent = group(skillRows, (r) => r.student);
  const concerns: Omit<ConcernView, 'aside'>[] = [];
  const newest = students.reduce<string>((m, s) => (s.last && s.last > m ? s.last : m), '');
  const rows = students.map((s): HeatRow => {
    const who = { student: s.id, name: s.name };
    if (newest && (!s.last || Date.parse(newest) - Date.parse(s.last) > AWAY_DAYS * 86_400_000))
      concerns.push({ ...who, what: 'absent', about: s.last ?? '', attempt: null });
    concerns.push(...(own.get(s.id) ?? []).map((c) => ({ ...who, ...c })));
    const cells = (byStudent.get(s.id) ?? []).map(({ skill, title: own, levels, attempt }): HeatCell => {
      const c = competence(
        levels.map((l) => l >= SUCCESS),
        limits,
      );
      const title = skillTitle(skill, own);
      if (c.lost !== null && !c.isCompetent) concerns.push({ ...who, what: 'lost', about: title, attempt });
      if (levelTrend(levels).given?.goes === 'down') concerns.push({ ...who, what: 'falling', about: title, attempt });
      if (levels.length >= FAILING && levels.slice(-FAILING).every((l) => l < SUCCESS))
        concerns.push({ ...who, what: 'failing', about: title, attempt });
      const three = levels.slice(-3);
      return {
        skill,
        last: levels[levels.length - 1] ?? null,
        mean: three.reduce((a, b) => a + b, 0) / three.length,
        isMastered: c.isCompetent,
        attempts: levels.length,
        attempt,
      };
    });
    return { student: s.id, name: s.name, bench: s.bench, group: s.group_name, cells };
  });
  return {
    skills,
    rows,
    exercises,
    groups: [...new Set(students.flatMap((s) => (s.group_name ? [s.group_name] : [])))].sort(),
    limits,
    concerns: concerns.map((c) => ({ ...c, aside: null })),
    spread: exercise ? spreadOf(lines) : [],
    ...(exercise ? itemsView(lines) : { items: null, alpha: null }),
    drift: [toolOf('alignment', days, (d) => d.rms), toolOf('neighbour', days, (d) => d.neighbour)],
    graders,
  };
}

/** Levels by which somebody judges themselves too kindly or too hard from which they need a word. */
const FAR_OFF = 0.75;
/** Times the own median from which an attempt took long, or short; and attempts before it that a median is made of. */
const LONG = 1.6;
const SHORT = 0.5;
const USUAL_FROM = 4;

/** What a student's own judgements and minutes say: judging far off, or a last attempt that took far longer or shorter than usual. */
export function ownConcerns(
  own: readonly { readonly attempt: number; readonly minutes: number | null; readonly levels: readonly (readonly [number, number])[] }[],
): Pick<ConcernView, 'what' | 'about' | 'attempt'>[] {
  const out: Pick<ConcernView, 'what' | 'about' | 'attempt'>[] = [];
  const last = own[own.length - 1];
  if (!last) return out;
  const judged = selfAssessment(own.flatMap((o) => o.levels.map(([given, measured]) => ({ own: given, measured })))).given;
  if (judged?.isBiased && Math.abs(judged.bias) >= FAR_OFF)
    out.push({ what: 'misjudges', about: `${judged.bias > 0 ? '+' : '−'}${Math.abs(judged.bias).toFixed(1)}`, attempt: last.attempt });
  const before = own.slice(0, -1).flatMap((o) => (o.minutes === null ? [] : [o.minutes]));
  if (last.minutes !== null && before.length >= USUAL_FROM) {
    const usual = median(before);
    if (last.minutes >= LONG * usual || last.minutes <= SHORT * usual)
      out.push({ what: 'time', about: `${last.minutes}, ${Math.round(usual)}`, attempt: last.attempt });
  }
  return out;
}

/** One tool's daily medians: a neighbour that nobody touched reads the same distance whoever prepared beside it. */
function toolOf(
  tool: ToolView['tool'],
  days: readonly v.InferOutput<typeof Day>[],
  of: (d: v.InferOutput<typeof Day>) => number | null,
): ToolView {
  const read = days.flatMap((d) => {
    const value = of(d);
    return value === null ? [] : [{ day: d.day, value }];
  });
  return { tool, days: read.map((d) => d.day), chart: driftOf(read.map((d) => d.value)).given };
}

/** What decided each criterion of an exercise, in all attempts, over the newest band. */
const spreadOf = (lines: readonly Column[]): SpreadView[] =>
  lines.flatMap(({ line, title, unit, lo, hi, rows }): SpreadView[] => {
    const read = rows.flatMap((r) => (r.value === null ? [] : [r.value]));
    return read.length === 0 || (lo === null && hi === null) ? [] : [{ line, title, unit, values: read, lo, hi }];
  });

/** Criteria of one exercise over the attempts in which every one of them has its points. */
function itemsView(lines: readonly Column[]): { items: ItemView[] | null; alpha: CohortView['alpha'] } {
  const by = lines.map((l) => new Map(l.rows.map((r) => [r.attempt, r])));
  const attempts = (lines[0]?.rows ?? [])
    .map((r) => r.attempt)
    .filter((a) => by.every((m) => m.get(a)?.points != null))
    .slice(-NEWEST);
  const points = attempts.map((a) => by.map((m) => m.get(a)?.points as number));
  const most = (a: number): number[] => by.map((m) => m.get(a)?.of as number);
  const shares = attempts.map((a, k) => most(a).map((of, i) => (of > 0 ? points[k][i] / of : 1)));
  const items = itemsOf(
    lines.map((l) => l.line),
    shares,
    attempts.length ? most(attempts[0]) : [],
  ).given;
  return {
    items:
      items?.map((i, k) => ({
        ...i,
        title: lines[k].title,
        never: median(shares.map((s) => Math.abs(s[k] - shares[0][k]))) === 0 && i.difficulty.hi - i.difficulty.lo === 0 ? 'varies' : null,
      })) ?? null,
    alpha: alphaOf(points).given,
  };
}
