import * as v from 'valibot';
import { RubricFile } from '#contract/rubric.ts';
import type { SittingView, TrayRow } from '#contract/views.ts';
import { STEPS, type Step } from '#core/score/stage.ts';
import type { App } from '../app.ts';
import type { Database } from '../database/database.ts';
import { sql } from '../database/database.ts';
import { type AttemptRow, Description, JudgementRow, ReadingRow } from '../records/attempts.ts';
import { evidence, handReadingsOfSitting } from '../records/evidence.ts';
import { scoreOf } from '../records/sign.ts';

const Sitting = v.object({
  id: v.string(),
  title: v.string(),
  held_on: v.string(),
  exercise_id: v.string(),
  exercise_title: v.string(),
  tooth: v.string(),
});

export const sittings = (db: Database): Promise<SittingView[]> =>
  db.any(
    Sitting,
    sql`select t.id, t.title, t.held_on, e.id as exercise_id, e.title as exercise_title, e.tooth from sitting t join exercise e on e.id = t.exercise_id order by t.held_on desc, t.id`,
  );

const Row = v.object({
  scan_id: v.number(),
  attempt_id: v.nullable(v.number()),
  student_id: v.nullable(v.string()),
  student_name: v.nullable(v.string()),
  bench: v.nullable(v.string()),
  file_name: v.string(),
  version: v.number(),
  step: v.picklist(Object.keys(STEPS) as [Step, ...Step[]]),
  state: v.string(),
  fault: v.nullable(v.string()),
  fault_code: v.nullable(v.string()),
  measurement_id: v.nullable(v.number()),
  picture: v.nullable(v.string()),
  grader_id: v.nullable(v.string()),
  grader_name: v.nullable(v.string()),
  grade_total: v.nullable(v.number()),
  grade_passed: v.nullable(v.boolean()),
  released: v.boolean(),
});

const Rubric = v.object({ rubric: RubricFile, master: Description, rubric_version_id: v.number() });
const Reading = v.object({ measurement_id: v.number(), ...ReadingRow.entries });
const Judgement = v.object({ attempt_id: v.number(), ...JudgementRow.entries });

/** Everything one sitting's tray shows: a row for the newest scan of each attempt, and one for each scan without a student. */
export async function trayRows(db: Database, sittingId: string): Promise<ScoredRow[]> {
  const exercise = await db.maybeOne(
    Rubric,
    sql`select r.body as rubric, m.description as master, r.id as rubric_version_id from sitting t join exercise e on e.id = t.exercise_id join rubric_version r on r.id = e.rubric_version_id join master m on m.id = e.master_id where t.id = ${sittingId}`,
  );
  if (!exercise) return [];
  const names = [
    ...new Set([
      ...exercise.rubric.criteria.flatMap((c) => c.targets.map((t) => t.reading)),
      ...exercise.rubric.critical.map((c) => c.reading),
    ]),
  ];
  // Sent together, so that no answer waits for this thread to ask the next question.
  const [scanned, unscanned, byMeasurement, judged, hand] = await Promise.all([
    db.any(
      Row,
      sql`select distinct on (coalesce(s.attempt_id, -s.id)) s.id as scan_id, s.attempt_id, a.student_id, p.name as student_name, p.bench, s.file_name, s.version, s.step, s.state,
            s.fault_text as fault, s.fault_code, m.id as measurement_id, m.picture_sha256 as picture, a.grader_id, w.name as grader_name, g.total as grade_total, g.passed as grade_passed, a.released_at is not null as released
          from scan s left join attempt a on a.id = s.attempt_id left join person p on p.id = a.student_id left join person w on w.id = a.grader_id left join measurement m on m.scan_id = s.id
            left join lateral (select total, passed from grade where attempt_id = a.id order by version desc limit 1) g on true
          where s.sitting_id = ${sittingId} order by coalesce(s.attempt_id, -s.id), s.step = 'final' desc, s.version desc, s.id desc`,
    ),
    // Attempts that never had a scan are graded by hand; they have a row all the same, under their own number turned round.
    db.any(
      Row,
      sql`select -a.id as scan_id, a.id as attempt_id, a.student_id, p.name as student_name, p.bench, '' as file_name, 1 as version, 'final' as step, 'no-scan' as state, null as fault, null as fault_code,
            null::integer as measurement_id, null as picture, a.grader_id, w.name as grader_name, g.total as grade_total, g.passed as grade_passed, a.released_at is not null as released
          from attempt a join person p on p.id = a.student_id left join person w on w.id = a.grader_id left join lateral (select total, passed from grade where attempt_id = a.id order by version desc limit 1) g on true
          where a.sitting_id = ${sittingId} and not exists (select 1 from scan s where s.attempt_id = a.id)`,
    ),
    readingsOfSitting(db, sittingId, names),
    db.any(
      Judgement,
      sql`select j.attempt_id, j.criterion_id, j.level, j.waived, j.reason, j.comment from judgement j join attempt a on a.id = j.attempt_id where a.sitting_id = ${sittingId}`,
    ),
    handReadingsOfSitting(db, sittingId),
  ]);
  const judgements = grouped(judged, (j) => j.attempt_id);
  const known = scored.get(db) ?? new Map<number, Scored>();
  scored.set(db, known);
  if (known.size > KEPT) known.clear();
  return [...scanned, ...unscanned]
    .map((r): ScoredRow => {
      if (r.attempt_id === null || r.step !== 'final' || !['measured', 'no-scan', 'failed', 'cancelled'].includes(r.state))
        return { ...r, counts: null, critical: 0, total: null, passed: null, open: 0 };
      const readings = r.measurement_id === null ? NOTHING_READ : (byMeasurement.get(r.measurement_id) ?? NOTHING_READ);
      const own = { hand: hand.get(r.attempt_id) ?? [], judgements: judgements.get(r.attempt_id) ?? [] };
      const key = JSON.stringify([exercise.rubric_version_id, own]);
      const before = known.get(r.attempt_id);
      if (before?.key === key && before.readings === readings) return { ...r, ...before.summary };
      const s = scoreOf(exercise as unknown as AttemptRow, evidence(readings, own.hand), own.judgements);
      const counts = { inside: 0, close: 0, outside: 0, none: 0 };
      for (const c of s.criteria) counts[c.verdict]++;
      const summary = { counts, critical: s.critical.filter((e) => e.made).length, total: s.total, passed: s.passed, open: s.open.length };
      known.set(r.attempt_id, { key, readings, summary });
      return { ...r, ...summary };
    })
    .sort((a, b) => BY_NAME.compare(a.student_name ?? '', b.student_name ?? '') || a.scan_id - b.scan_id);
}

/** A tray's answer: its rows with the word for each and how far the measuring of what is under way has come. */
export async function trayOf(a: Pick<App, 'db' | 'jobs'>, sittingId: string): Promise<TrayRow[]> {
  const rows = await trayRows(a.db, sittingId);
  return rows.map((r) => ({ ...r, word: stateOf(r), progress: a.jobs.progressOf(r.scan_id) }));
}

type ScoredRow = Omit<TrayRow, 'word' | 'progress'>;
type Summary = Pick<TrayRow, 'counts' | 'critical' | 'total' | 'passed' | 'open'>;
/** An attempt's score as it was worked out last, and what from: the same readings, judgements and hand readings score the same. */
interface Scored {
  readonly key: string;
  readonly readings: readonly ReadingRow[];
  readonly summary: Summary;
}
const scored = new WeakMap<Database, Map<number, Scored>>();
/** Made once: comparing names without it looks the language up each time. */
const BY_NAME = new Intl.Collator('en');
const NOTHING_READ: readonly ReadingRow[] = [];

const Measured = v.object({ id: v.number(), measured_at: v.string() });
/** Readings that were fetched before, by database and measurement: a measurement does not change without a new time. */
const fetched = new WeakMap<Database, Map<number, { at: string; names: string; readings: ReadingRow[] }>>();
const KEPT = 4000;

/** What a tray is scored from, by measurement. It is asked for every second while a queue runs: only what is new is read. */
async function readingsOfSitting(db: Database, sittingId: string, names: readonly string[]): Promise<Map<number, ReadingRow[]>> {
  const known = fetched.get(db) ?? new Map<number, { at: string; names: string; readings: ReadingRow[] }>();
  fetched.set(db, known);
  if (known.size > KEPT) known.clear();
  const asked = names.join(' ');
  const there = await db.any(
    Measured,
    sql`select m.id, m.measured_at from measurement m join scan s on s.id = m.scan_id where s.sitting_id = ${sittingId} and s.state = 'measured'`,
  );
  const fresh = there.filter((m) => {
    const k = known.get(m.id);
    return !k || k.at !== m.measured_at || k.names !== asked;
  });
  if (fresh.length) {
    const rows = await db.any(
      Reading,
      sql`select measurement_id, name, zone, stat, unit, value, u as "U", azimuth_deg as azimuth, point, coverage_share as coverage, samples, reason
          from reading where measurement_id in (select (json_array_elements_text(${fresh.map((m) => m.id)}::json))::int) and name in (select json_array_elements_text(${names}::json))`,
    );
    const by = grouped(rows, (r) => r.measurement_id);
    for (const m of fresh) known.set(m.id, { at: m.measured_at, names: asked, readings: by.get(m.id) ?? [] });
  }
  return new Map(there.map((m) => [m.id, known.get(m.id)?.readings ?? []]));
}

function grouped<T, K>(items: readonly T[], key: (t: T) => K): Map<K, T[]> {
  const out = new Map<K, T[]>();
  for (const i of items) {
    const list = out.get(key(i));
    if (list) list.push(i);
    else out.set(key(i), [i]);
  }
  return out;
}

/** What a row is called on the screen. */
export function stateOf(r: Pick<TrayRow, 'state' | 'step' | 'attempt_id' | 'released' | 'grade_total' | 'open' | 'critical'>): string {
  if (r.attempt_id === null) return 'unmatched';
  if (r.state === 'arrived' || r.state === 'measuring') return r.state;
  // A scan that could not be used does not stand in the way of a grade by hand.
  if (r.released) return 'released';
  if (r.grade_total !== null) return 'signed';
  if (r.state !== 'measured' && r.state !== 'no-scan') return r.state;
  if (r.state === 'no-scan') return 'no-scan';
  if (r.step !== 'final') return 'stage';
  return r.open > 0 || r.critical > 0 ? 'eye' : 'ready';
}
