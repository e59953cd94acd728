import * as v from 'valibot';
import { StepCheck } from '#contract/course.ts';
import { ownCutter, PlanChoices, type PlanView } from '#contract/plan.ts';
import { rubricFrom } from '#contract/rubric.ts';
import { stopsOf } from '#core/dry/cut.ts';
import { KIND_NAMES, type KindName } from '#core/kinds/kinds.ts';
import type { Guide } from '#core/plan/guide.ts';
import { type BoxSide, planFor } from '#core/plan/plan.ts';
import { USUAL_CHOICES } from '#core/plan/steps.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import { may, type Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { kitOf } from '../course/kit.ts';
import { standardIn } from '../course/standards.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { bandsOf } from '../view/bands.ts';

const Row = v.object({
  id: v.string(),
  title: v.string(),
  tooth: v.string(),
  kind: v.picklist(KIND_NAMES as [KindName, ...KindName[]]),
  course_id: v.string(),
  rubric: v.unknown(),
  rubric_id: v.string(),
  master: v.nullable(v.string()),
  steps: v.array(StepCheck.entries.step),
  checks: v.record(v.string(), v.omit(StepCheck, ['step'])),
  cutters: v.array(v.string()),
  choices: v.partial(PlanChoices),
});

const exerciseRow = (q: Queries, id: string) =>
  q.maybeOne(
    Row,
    sql`select e.id, e.title, e.tooth, e.kind, e.course_id, r.body as rubric, r.rubric_id, m.file_sha256 as master, e.steps, e.checks, e.cutters, e.plan_choices as choices
        from exercise e join rubric_version r on r.id = e.rubric_version_id join master m on m.id = e.master_id where e.id = ${id}`,
  );

/** Sides with a box, as the standard or the exercise's title names them; null where neither does. */
function boxesOf(title: string, zones: readonly (string | null)[]): BoxSide[] | null {
  const named = (['mesial', 'distal'] as const).filter((side) => zones.some((z) => z?.startsWith(`box ${side}`)));
  if (named.length) return named;
  if (/\bMOD\b/.test(title)) return ['mesial', 'distal'];
  const side = /\b(MO|mesial)\b/i.test(title) ? 'mesial' : /\b(DO|distal)\b/i.test(title) ? 'distal' : null;
  return side && [side];
}

/** Guides by master and standard: made by a child, and the same until either changes. */
const guides = new Map<string, Promise<Guide>>();
const GUIDES_MOST = 60;

/** What an exercise's plan is made from. */
export async function planned(a: App, id: string) {
  const row = await exerciseRow(a.db, id);
  if (!row) throw new Refused('not-there', 'There is no such exercise.');
  const rubric = rubricFrom(row.rubric, row.rubric_id);
  const [standard, { kit }] = await Promise.all([standardIn(a.db, a, row.course_id, rubric.standard), kitOf(a.db, row.course_id)]);
  if (!standard)
    throw new Refused(
      'conflict',
      'The standard of this exercise is not there, so that nothing can be planned. Choose another rubric for it.',
    );
  // The demo makes its masters when they are first asked for.
  const master = row.master ?? (await a.redraw?.master(id)) ?? null;
  if (!master) throw new Refused('conflict', 'The master of this exercise has no file, so that nothing can be planned on it.');
  const masterFile = a.files.pathOf(master);
  const key = `${master} ${JSON.stringify(standard.body.lines)}`;
  let guide = guides.get(key);
  if (!guide) {
    guide = a.children.run({ kind: 'guide', masterFile, standard: { lines: standard.body.lines } }, { soon: true });
    guides.set(key, guide);
    guide.catch(() => guides.delete(key));
    if (guides.size > GUIDES_MOST) guides.delete(guides.keys().next().value as string);
  }
  // An exercise without cutters of its own uses the whole list.
  const cutters = row.cutters.length ? kit.cutters.filter((c) => row.cutters.includes(c.id)) : kit.cutters;
  const choices = { ...USUAL_CHOICES, ...row.choices };
  const drawn = await guide;
  const over = standard.body.lines.flatMap((l) => l.fields).find((f) => f.reading === 'box.clearance.gingival')?.band;
  const boxes = boxesOf(
    row.title,
    standard.body.lines.flatMap((l) => l.fields.map((f) => f.zone)),
  );
  const plan = planFor({
    kind: row.kind,
    tooth: row.tooth,
    standard: standard.body,
    cutters: cutters.map(ownCutter),
    gauges_mm: kit.gauges.filter((g) => g.method === 'gauge').flatMap((g) => g.steps_mm),
    choices,
    ...(boxes ? { boxes } : {}),
    ridgeToFloor: drawn.ridgeToMargin === null ? null : drawn.ridgeToMargin - (over?.lo ?? 0.5),
  });
  return { row, rubric, standard: standard.body, kit, cutters, plan, guide: drawn, masterFile };
}

/** What a plan's page says at once; the plan itself only where its tooth need not be made first, which takes a while. */
export async function planPage(a: App, who: Person | null, id: string): Promise<{ title: string; course: string; view: PlanView | null }> {
  permit(who, 'course.see', await SUBJECTS.exercise(a.db, id));
  const row = await exerciseRow(a.db, id);
  if (!row) throw new Refused('not-there', 'There is no such exercise.');
  return { title: row.title, course: row.course_id, view: row.master ? await planView(a, who, id) : null };
}

/** The plan of an exercise as everybody of its course sees it. */
export async function planView(a: App, who: Person | null, id: string): Promise<PlanView> {
  const subject = await SUBJECTS.exercise(a.db, id);
  permit(who, 'course.see', subject);
  const { row, rubric, standard, kit, plan, cutters, guide } = await planned(a, id);
  const used = new Set([...cutters.map((c) => c.id), ...plan.steps.map((s) => s.cutter)]);
  return {
    exercise: { id: row.id, title: row.title, tooth: row.tooth, kind: row.kind, course: row.course_id },
    standard: standard.name,
    plan,
    cutters: kit.cutters.filter((c) => used.has(c.id)),
    guide,
    checks: row.steps.map((step) => ({ step, check: row.checks[step]?.check ?? '', needsWord: row.checks[step]?.needsWord ?? false })),
    bands: bandsOf(rubric),
    stops: stopsOf(plan, kit.cutters.map(ownCutter)),
    mayChoose: may(who, 'course.keep', { course: row.course_id }),
  };
}

/** How a course plans an exercise where schools differ. */
export const choosePlan = (a: App, who: Person | null, id: string, choices: PlanChoices): Promise<void> =>
  a.records.act(async (q, note) => {
    permit(who, 'course.keep', await SUBJECTS.exercise(q, id));
    await q.run(sql`update exercise set plan_choices = ${JSON.stringify(choices)}::jsonb where id = ${id}`);
    await note({ person: who.id, action: 'exercise.plan', subject: `exercise ${id}`, details: { ...choices } });
  });
