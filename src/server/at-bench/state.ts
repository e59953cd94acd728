import * as v from 'valibot';
import { type AtBench, type Entry, EVENT_KINDS } from '#contract/at-bench.ts';
import type { App } from '../app.ts';
import { sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { attemptById } from '../grading/rows.ts';
import { stepPhotos } from '../photos/steps.ts';
import { planned } from '../plan/view.ts';
import { stagesOf } from '../view/stages.ts';

const EventRow = v.object({
  kind: v.picklist(EVENT_KINDS),
  step: v.string(),
  at: v.string(),
  body: v.looseObject({ entry: v.optional(v.unknown()), why: v.optional(v.string(), '') }),
});
const WordRow = v.object({
  step: v.string(),
  word: v.picklist(['go-on', 'correct', 'new-tooth']),
  initials: v.string(),
  note: v.string(),
  at: v.string(),
});
const Coming = v.object({ step: v.string(), state: v.string(), fault: v.nullable(v.string()) });

/** Everything that happened at a bench. */
export async function happened(a: Pick<App, 'db'>, attempt: number) {
  const [events, words] = await Promise.all([
    a.db.any(EventRow, sql`select kind, step, at, body from bench_event where attempt_id = ${attempt} order by at, id`),
    a.db.any(WordRow, sql`select step, word, initials, note, given_at as at from bench_word where attempt_id = ${attempt} order by id`),
  ]);
  return { events, words };
}

/** What a student, or an instructor beside them, sees at the bench. */
export async function atBench(a: App, id: number, isOwn: boolean): Promise<AtBench> {
  const attempt = await attemptById(a.db, id);
  if (!attempt) throw new Refused('not-there', 'There is no such attempt.');
  const [{ plan, cutters, row }, { events, words }, stages, coming, photos] = await Promise.all([
    planned(a, attempt.exercise_id),
    happened(a, id),
    stagesOf(a.db, attempt),
    a.db.any(
      Coming,
      sql`select distinct on (step) step, state, fault_text as fault from scan where attempt_id = ${id} and removed_at is null and step <> 'final' order by step, version desc, id desc`,
    ),
    stepPhotos(a.db, id),
  ]);
  // A word is asked for at the step after which a scan is taken.
  const steps = plan.steps.map((s) => ({
    id: s.id,
    number: s.number,
    needsWord: s.scan !== null && (row.checks[s.scan]?.needsWord ?? false),
  }));
  return {
    attempt: {
      id,
      exercise: row.title,
      exerciseId: row.id,
      title: attempt.sitting_title,
      student: attempt.student_id,
      name: attempt.student_name,
      tooth: attempt.tooth,
      bench: attempt.bench,
    },
    plan: plan.steps,
    cutters,
    steps,
    events: events.map(({ body, ...e }) => ({ ...e, entry: (body.entry ?? null) as Entry | null, why: body.why })),
    words,
    stages,
    photos,
    coming: coming.filter((c) => c.state !== 'measured'),
    isOwn,
  };
}
