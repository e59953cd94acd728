import * as v from 'valibot';
import type { Asked, BenchEvent, BenchWord, EventsTaken } from '#contract/at-bench.ts';
import { STEPS, type Step } from '#core/catalogue/terms.ts';
import { type StepState, stepStates } from '#core/plan/bench-clock.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { vouch } from '../audit/chain.ts';
import { sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { isSigned } from '../grading/rows.ts';
import { studentsOf } from '../scans/bring.ts';
import type { Kept } from '../scans/files.ts';
import { atBench } from './state.ts';

const Id = v.object({ id: v.number() });
const Key = v.object({ key: v.string() });
const Next = v.object({ version: v.number() });

/** A student begins a sitting of theirs at the bench: the attempt that is open, or a new one. */
export const beginSitting = (a: Pick<App, 'records'>, who: Person | null, sitting: string): Promise<number> =>
  a.records.act(async (q, note) => {
    const subject = await SUBJECTS.sitting(q, sitting);
    permit(who, 'course.see', subject);
    if (!(await studentsOf(q, subject?.course ?? '')).some((s) => s.id === who.id))
      throw new Refused('not-there', 'You are no student of this course.');
    const open = await q.maybeOne(
      Id,
      sql`select id from attempt where sitting_id = ${sitting} and student_id = ${who.id} order by number desc limit 1`,
    );
    if (open) return open.id;
    const { id } = await q.one(Id, sql`insert into attempt (sitting_id, student_id) values (${sitting}, ${who.id}) returning id`);
    await note({ person: who.id, action: 'work.begin', subject: `attempt ${id}`, rows: await vouch(q, 'attempt', id) });
    return id;
  });

/** Happenings that one attempt may have: far more than a day at the bench makes. */
const HAPPENINGS_MOST = 5000;

/**
 * Takes what happened at a bench, in the order in which the device noted it. What was sent before is taken once; what contradicts what another
 * device or an instructor said meanwhile is refused with what stands.
 */
export async function takeEvents(a: App, who: Person | null, attempt: number, events: readonly BenchEvent[]): Promise<EventsTaken> {
  const taken: string[] = [];
  const refused: { key: string; why: string }[] = [];
  const before = await atBench(a, attempt, true);
  const steps = stepStates(before.steps, before.events, before.words);
  await a.records.act(async (q, note) => {
    permit(who, 'work.assess', await SUBJECTS.attempt(q, attempt));
    const known = new Set((await q.any(Key, sql`select key from bench_event where attempt_id = ${attempt}`)).map((r) => r.key));
    const isOver = await isSigned(q, attempt);
    if (known.size + events.length > HAPPENINGS_MOST)
      throw new Refused(
        'conflict',
        `More than ${HAPPENINGS_MOST} happenings at one attempt are not kept. Ask your instructor to open another attempt.`,
      );
    const done = new Set(steps.filter((s) => s.isDone).map((s) => s.id));
    for (const e of events) {
      if (known.has(e.key)) {
        taken.push(e.key);
        continue;
      }
      const why = refusalOf(e, steps, done, isOver);
      if (why) {
        refused.push({ key: e.key, why });
        continue;
      }
      await q.run(
        sql`insert into bench_event (attempt_id, key, kind, step, body, at, made_by) values (${attempt}, ${e.key}, ${e.kind}, ${e.step}, ${JSON.stringify({ entry: e.entry, why: e.why })}::jsonb, ${e.at}::timestamptz, ${who.id}) on conflict do nothing`,
      );
      if (e.kind === 'done') done.add(e.step);
      if (e.kind === 'begin') done.delete(e.step);
      if (e.kind === 'tooth') done.clear();
      known.add(e.key);
      taken.push(e.key);
    }
    await note({
      person: who.id,
      action: 'work.happened',
      subject: `attempt ${attempt}`,
      details: { taken: taken.length, refused: refused.length },
    });
  });
  a.pulse.bump();
  return { taken, refused, now: await atBench(a, attempt, true) };
}

/** Why a happening cannot stand beside what stands already; null where it can. */
function refusalOf(e: BenchEvent, steps: readonly StepState[], done: ReadonlySet<string>, isOver: boolean): string | null {
  const i = steps.findIndex((s) => s.id === e.step);
  if (i < 0 && e.kind !== 'tooth' && e.kind !== 'pause') return `There is no step “${e.step}” in the plan any more. Load the page again.`;
  if (isOver) return 'The grade is signed: what happens at the bench after it is not noted.';
  if (e.kind === 'entry' && !e.entry) return 'An own reading needs a figure or how it felt.';
  if (e.kind === 'done' && done.has(e.step)) return 'This step was finished already, from here or another device; that stays.';
  if (e.kind === 'begin') {
    const waits = steps.slice(0, i).find((s) => s.needsWord && !s.words.some((w) => w.word === 'go-on'));
    if (waits) return `An instructor’s word is needed after step ${waits.number} before this one begins. Ask for a look.`;
  }
  return null;
}

/** An instructor's word on a step, with initials; it answers whoever asked for a look. */
export const giveWord = (a: App, who: Person | null, attempt: number, w: BenchWord): Promise<void> =>
  a.records.act(async (q, note) => {
    permit(who, 'attempt.judge', await SUBJECTS.attempt(q, attempt));
    await q.run(
      sql`insert into bench_word (attempt_id, step, word, note, initials, given_by) values (${attempt}, ${w.step}, ${w.word}, ${w.note}, ${w.initials}, ${who.id})`,
    );
    await note({ person: who.id, action: 'bench.word', subject: `attempt ${attempt}`, details: { step: w.step, word: w.word } });
    a.pulse.bump();
  });

/** A scan of a step that a student brings of their own work; only what is finished goes by the tray. */
export async function bringStep(
  a: App,
  who: Person | null,
  attempt: number,
  step: string,
  file: { name: string; kept: Kept },
): Promise<void> {
  const known = Object.keys(STEPS).filter((s) => s !== 'final') as Exclude<Step, 'final'>[];
  if (!known.some((s) => s === step))
    throw new Refused('not-valid', `Expected one of the steps ${known.join(', ')}; got “${step}”. Finished work is brought to the tray.`);
  const scan = await a.records.act(async (q, note) => {
    const subject = await SUBJECTS.attempt(q, attempt);
    permit(who, 'work.assess', subject);
    if (await isSigned(q, attempt)) throw new Refused('conflict', 'The grade is signed: no scan of a step is taken any more.');
    const { sitting } = await q.one(
      v.object({ sitting: v.string() }),
      sql`select sitting_id as sitting from attempt where id = ${attempt}`,
    );
    await q.run(
      sql`insert into stored_file (sha256, size_bytes, part_of) values (${file.kept.sha256}, ${file.kept.size}, null) on conflict do nothing`,
    );
    const same = await q.any(
      Id,
      sql`select id from scan where sitting_id = ${sitting} and sha256 = ${file.kept.sha256} and removed_at is null limit 1`,
    );
    if (same.length) throw new Refused('conflict', `${file.name} is here already; it was not added again.`);
    const { version } = await q.one(
      Next,
      sql`select coalesce(max(version), 0) + 1 as version from scan where attempt_id = ${attempt} and step = ${step}`,
    );
    const { id } = await q.one(
      Id,
      sql`insert into scan (sitting_id, attempt_id, file_name, sha256, version, brought_by, state, step) values (${sitting}, ${attempt}, ${file.name}, ${file.kept.sha256}, ${version}, ${who.id}, 'arrived', ${step}) returning id`,
    );
    await note({
      person: who.id,
      action: 'work.step-scan',
      subject: `scan ${id}`,
      details: { attempt, step },
      rows: await vouch(q, 'scan', id),
    });
    return id;
  });
  a.jobs.add(scan);
}

const AskedRow = v.object({
  attempt: v.number(),
  student: v.string(),
  name: v.string(),
  bench: v.nullable(v.string()),
  exercise: v.string(),
  step: v.string(),
  since: v.string(),
  photos: v.array(v.number()),
});

/** Who asks for a look in the courses that somebody grades, the longest waiting first. */
export async function askedFor(a: Pick<App, 'db'>, courses: readonly string[]): Promise<Asked[]> {
  return a.db.any(
    AskedRow,
    sql`select b.attempt_id as attempt, p.id as student, p.name, coalesce(s.bench, n.bench) as bench, e.title as exercise, b.step, min(b.at) as since,
          coalesce((select jsonb_agg(f.id order by f.taken_at, f.id) from photo f where f.attempt_id = b.attempt_id and f.step = b.step and f.removed_at is null), '[]') as photos
        from bench_event b join attempt t on t.id = b.attempt_id join sitting i on i.id = t.sitting_id join exercise e on e.id = i.exercise_id
          join person p on p.id = t.student_id left join enrolment n on n.person_id = p.id and n.course_id = e.course_id and n.role = 'student'
          left join seat s on s.sitting_id = i.id and s.person_id = p.id
        where b.kind = 'ask' and e.course_id in (select jsonb_array_elements_text(${courses}::jsonb))
          and b.at > coalesce((select max(w.given_at) from bench_word w where w.attempt_id = b.attempt_id and w.step = b.step), '-infinity')
          and not exists (select 1 from grade g where g.attempt_id = b.attempt_id)
        group by b.attempt_id, p.id, p.name, s.bench, n.bench, e.title, b.step order by min(b.at)`,
  );
}
