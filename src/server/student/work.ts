import * as v from 'valibot';
import type { DrillItem } from '#contract/kit.ts';
import type { OwnAttempt, OwnDay, OwnQuestion, SelfView, WorkView } from '#contract/work.ts';
import { findEntry, titleOf, unitOf } from '#core/catalogue/catalogue.ts';
import type { HandMethod } from '#core/catalogue/terms.ts';
import { selfAssessment } from '#core/progress/self-assessment.ts';
import type { Rubric } from '#core/score/rubric.ts';
import { kitOf } from '../course/kit.ts';
import { type Queries, sql } from '../database/port.ts';
import { attemptById } from '../grading/rows.ts';
import { drillFor, progressView } from '../progress/progress.ts';
import { group, skillTitle } from '../progress/skills.ts';
import { reportOf } from '../report/model.ts';
import { ownJudgement } from './assess.ts';

const Row = v.object({
  id: v.number(),
  student: v.string(),
  exercise: v.string(),
  exercise_id: v.string(),
  sitting: v.string(),
  held_on: v.string(),
  tooth: v.string(),
  number: v.number(),
  total: v.nullable(v.number()),
  passed: v.nullable(v.boolean()),
  released: v.boolean(),
  judged: v.boolean(),
  scanned: v.boolean(),
  measuring: v.boolean(),
});

const toOwn = ({ released, judged, scanned, measuring, student: _, ...r }: v.InferOutput<typeof Row>): OwnAttempt => {
  const state = released ? (judged ? 'seen' : 'back') : measuring ? 'measuring' : scanned ? 'grading' : 'open';
  // Nothing of a result before its student has judged the work.
  return { ...r, state, total: state === 'seen' ? r.total : null, passed: state === 'seen' ? r.passed : null };
};

/** Attempts of a student, the newest first; or one attempt, whoever made it. */
const attemptsOf = (q: Queries, student: string | null, attempt: number | null) =>
  q.any(
    Row,
    sql`select a.id, a.student_id as student, e.title as exercise, e.id as exercise_id, t.title as sitting, t.held_on, e.tooth, a.number, g.total, g.passed,
          g.id is not null as released,
          exists (select 1 from self_assessment s where s.attempt_id = a.id) as judged,
          exists (select 1 from scan s where s.attempt_id = a.id and s.removed_at is null and s.step = 'final') or exists (select 1 from grade x where x.attempt_id = a.id) as scanned,
          exists (select 1 from scan s where s.attempt_id = a.id and s.removed_at is null and s.state in ('arrived', 'measuring')) as measuring
        from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id
          left join lateral (select grade_id from release where attempt_id = a.id order by id desc limit 1) r on true
          left join grade g on g.id = r.grade_id
        where (${student}::text is null or a.student_id = ${student}) and (${attempt}::int is null or a.id = ${attempt})
        order by t.held_on desc, a.id desc`,
  );

const INSTRUMENTS: ReadonlySet<HandMethod> = new Set(['probe', 'gauge', 'wax']);

/** What a student is asked of their own work: the rubric's lines, without a band that would tell the answer. */
function questionsOf(rubric: Rubric): OwnQuestion[] {
  return rubric.criteria.map((c): OwnQuestion => {
    // A figure is asked for only where a student at the bench can have one: in mm, by an instrument.
    const byHand = c.targets.find((t) => unitOf(t.reading, t.stat) === 'mm' && findEntry(t.reading)?.hand.some((m) => INSTRUMENTS.has(m)));
    return {
      id: c.id,
      title: c.title,
      why: c.why,
      words: [...(c.asks?.words ?? rubric.levels)].sort((a, b) => b.level - a.level),
      byHand: byHand ? { words: [titleOf(byHand.reading), byHand.zone].filter(Boolean).join(', '), unit: 'mm' } : null,
    };
  });
}

/** One attempt as its student sees it: what is asked of them, and, once it is released and they judged it, the result. */
export async function workView(q: Queries, id: number): Promise<WorkView | null> {
  const [[row], attempt, own] = await Promise.all([attemptsOf(q, null, id), attemptById(q, id), ownJudgement(q, id)]);
  if (!row || !attempt) return null;
  const { course_id: course, student_id: student } = attempt;
  const shown = toOwn(row);
  const reported = shown.state === 'seen' ? await reportOf(q, id, true) : null;
  const result = reported?.view ?? null;
  const [progress, { kit }] = await Promise.all([result ? progressView(q, student, [course], true) : null, kitOf(q, course)]);
  const drills: Record<string, DrillItem> = {};
  for (const c of result?.score.criteria ?? []) {
    const drill = drillFor(kit.drills, c.targets.find((t) => t.deciding)?.reading ?? null);
    if (drill) drills[c.id] = drill;
  }
  return {
    attempt: shown,
    course,
    student,
    questions: questionsOf(attempt.rubric as Rubric),
    own,
    report: reported?.report ?? null,
    result,
    practice: progress?.practice ?? [],
    drills,
  };
}

const Coming = v.object({
  id: v.string(),
  title: v.string(),
  held_on: v.string(),
  starts_at: v.nullable(v.string()),
  room: v.nullable(v.string()),
  course: v.string(),
  exercise: v.string(),
  now: v.boolean(),
});

/** Days after which a sitting that a student did not begin is over for them. */
const RECENT = 3;

/** A student's first page: their attempts, and the sittings to come of their courses. */
export async function ownDay(q: Queries, student: string, courses: readonly string[], today: string): Promise<OwnDay> {
  const [attempts, coming] = await Promise.all([
    attemptsOf(q, student, null),
    q.any(
      Coming,
      sql`select t.id, e.title || ': ' || t.title as title, t.held_on::text as held_on, t.starts_at::text as starts_at, t.room, e.course_id as course, e.id as exercise,
            t.held_on <= ${today}::date as now
          from sitting t join exercise e on e.id = t.exercise_id
          where e.course_id in (select jsonb_array_elements_text(${courses}::jsonb)) and t.held_on >= ${today}::date - ${RECENT}::int
            and (t.held_on > ${today}::date or not exists (select 1 from attempt b where b.sitting_id = t.id and b.student_id = ${student}))
            and not exists (select 1 from absence x where x.sitting_id = t.id and x.person_id = ${student}) order by t.held_on, t.starts_at limit 6`,
    ),
  ]);
  return { attempts: attempts.map(toOwn), coming };
}

const Pair = v.object({
  skill: v.string(),
  title: v.string(),
  unit: v.nullable(v.string()),
  level: v.nullable(v.number()),
  own_level: v.nullable(v.number()),
  value: v.nullable(v.number()),
  own_figure: v.nullable(v.number()),
});

/** How a student judges their own work, against the grades that whoever asks may see. */
export async function selfView(q: Queries, student: string, courses: readonly string[], isOwn: boolean): Promise<SelfView> {
  const pairs = await q.any(
    Pair,
    sql`select coalesce(l.reading, l.title) as skill, l.title, l.unit, l.level, l.value, (o.line->>'level')::int as own_level, (o.line->>'figure')::float8 as own_figure
        from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id
          left join lateral (select grade_id from shown_release where attempt_id = a.id order by id desc limit 1) r on true
          join lateral (select id from grade x where x.attempt_id = a.id and x.round <> 2 and (not ${isOwn}::boolean or x.id = r.grade_id) order by x.version desc limit 1) g on true
          join lateral (select lines from self_assessment where attempt_id = a.id order by id desc limit 1) s on true
          cross join lateral jsonb_array_elements(s.lines) as o(line)
          join graded_line l on l.grade_id = g.id and l.line = o.line->>'line'
        where a.student_id = ${student} and e.course_id in (select jsonb_array_elements_text(${courses}::jsonb)) order by t.held_on, a.id`,
  );
  const levels = pairs.flatMap((p) => (p.level === null || p.own_level === null ? [] : [{ own: p.own_level, measured: p.level }]));
  const measured = pairs.filter((p) => p.value !== null && p.own_figure !== null && p.unit !== null);
  return {
    levels: selfAssessment(levels).given,
    judged: levels.length,
    figures: [...group(measured, (p) => p.skill)].flatMap(([key, all]) => {
      const judged = selfAssessment(all.map((p) => ({ own: p.own_figure as number, measured: p.value as number }))).given;
      return judged ? [{ title: skillTitle(key, all[0].title), unit: all[0].unit as string, judged }] : [];
    }),
  };
}
