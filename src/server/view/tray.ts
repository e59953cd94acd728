import * as v from 'valibot';
import { CurvesFile } from '#contract/reading.ts';
import { RubricFile } from '#contract/rubric.ts';
import type { SittingView, TrayRow } from '#contract/tray-view.ts';
import { STEPS, type Step } from '#core/catalogue/terms.ts';
import { EDGE_LENGTH } from '#core/result/curves.ts';
import type { Reading } from '#core/result/reading.ts';
import type { Rubric } from '#core/score/rubric.ts';
import { scoreOf } from '#core/sign/basis.ts';
import { resultOf } from '#core/sign/result.ts';
import { may, type Person } from '../access/table.ts';
import { type Database, type Queries, sql } from '../database/port.ts';
import { asJudgements, inForce, seenDigest } from '../grading/evidence.ts';
import { Description, handReadingsOf, judgementsOf, readingsOfAll } from '../grading/rows.ts';
import { rememberShown } from '../grading/sign.ts';
import type { Progress } from '../scans/queue.ts';
import { UNDRAWN } from '../scans/undrawn.ts';

const Sitting = v.object({
  id: v.string(),
  course_id: v.string(),
  title: v.string(),
  held_on: v.string(),
  exercise_id: v.string(),
  exercise_title: v.string(),
  tooth: v.string(),
  minutes: v.nullable(v.number()),
  steps: v.array(v.picklist(Object.keys(STEPS) as [Step, ...Step[]])),
});

/** Sittings of a person's courses, newest first. */
export const sittingsOf = (q: Queries, courses: readonly string[]): Promise<SittingView[]> =>
  q.any(
    Sitting,
    sql`select t.id, e.course_id, t.title, t.held_on, e.id as exercise_id, e.title as exercise_title, e.tooth, e.minutes, e.steps from sitting t join exercise e on e.id = t.exercise_id
        where e.course_id in (select json_array_elements_text(${courses}::json)) order by t.held_on desc, t.id`,
  );

const Row = v.object({
  scan_id: v.number(),
  attempt_id: v.nullable(v.number()),
  number: v.nullable(v.number()),
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
  grade_seen: v.nullable(v.string()),
  released: v.boolean(),
});

const Exercise = v.object({ course_id: v.string(), rubric: RubricFile, master: Description, rubric_version_id: v.number() });

/** Data of one sitting's tray: a row for the newest scan of each attempt, and one for each scan without a student. */
async function trayRows(db: Database, sittingId: string): Promise<ScoredRow[]> {
  const exercise = await db.maybeOne(
    Exercise,
    sql`select e.course_id, r.body as rubric, m.description as master, r.id as rubric_version_id from sitting t join exercise e on e.id = t.exercise_id join rubric_version r on r.id = e.rubric_version_id join master m on m.id = e.master_id where t.id = ${sittingId}`,
  );
  if (!exercise) return [];
  // Sent together, so that the database never waits for the next query.
  const [rows, measured, elsewhere, judged, hand] = await Promise.all([
    rowsOf(db, sittingId, exercise.course_id),
    measuredOf(db, sittingId, exercise.rubric as Rubric),
    onOtherMasters(db, sittingId),
    judgementsOf(db, { sitting: sittingId }, 1),
    handReadingsOf(db, { sitting: sittingId }, 1),
  ]);
  const words = grouped(judged, (j) => j.attempt_id);
  const byHand = grouped(hand, (h) => h.attempt_id);
  const known = scored.get(db) ?? new Map<number, Scored>();
  scored.set(db, known);
  if (known.size > KEPT) known.clear();
  return rows
    .map((r): ScoredRow => {
      const isByHand = r.step === 'final' && ['no-scan', 'failed', 'cancelled'].includes(r.state);
      if (r.attempt_id === null || (r.measurement_id === null && !isByHand)) return { ...r, ...NOT_SCORED, changed: false };
      const own = { hand: byHand.get(r.attempt_id) ?? [], words: words.get(r.attempt_id) ?? [] };
      const key = JSON.stringify([exercise.rubric_version_id, r.measurement_id, own]);
      const before = known.get(r.attempt_id);
      const cusps = elsewhere.get(r.measurement_id ?? -1) ?? exercise.master.cusps;
      const summary =
        before?.key === key ? before.summary : summarise(r.attempt_id, r.measurement_id, { ...exercise, cusps }, measured, own);
      known.set(r.attempt_id, { key, summary });
      return { ...r, ...summary, changed: r.grade_seen !== null && r.grade_seen !== summary.seen };
    })
    .sort(
      (a, b) => BY_NAME.compare(a.student_name ?? '', b.student_name ?? '') || (a.number ?? 0) - (b.number ?? 0) || a.scan_id - b.scan_id,
    );
}

const Elsewhere = v.object({ measurement: v.number(), master: Description });
/** Cusps of the masters of measurements that were read before the exercise went over to another master. */
async function onOtherMasters(q: Queries, sitting: string) {
  const rows = await q.any(
    Elsewhere,
    sql`select o.measurement_id as measurement, m.description as master from scan s join measurement x on x.scan_id = s.id join measured_on o on o.measurement_id = x.id
        join sitting t on t.id = s.sitting_id join exercise e on e.id = t.exercise_id join master m on m.id = o.master_id
        where s.sitting_id = ${sitting} and o.master_id <> e.master_id`,
  );
  return new Map(rows.map((r) => [r.measurement, r.master.cusps]));
}

/** A tray as a person may see it, with the state of each row and the progress of running measurements. */
export async function trayOf(
  a: { readonly db: Database; readonly jobs: { progressOf(scanId: number): Progress | null } },
  sittingId: string,
  who: Person,
  course: string,
): Promise<TrayRow[]> {
  const seesScores = may(who, 'score.see', { course });
  return (await trayRows(a.db, sittingId)).map(({ grade_seen: _, ...r }) => {
    const word = stateOf(r);
    const row = { ...r, word, progress: a.jobs.progressOf(r.scan_id) };
    // An assistant sees that an attempt is measured or signed, but no score, and so not whether anything is to be checked.
    const isMeasured = word === 'eye' || word === 'ready';
    return seesScores
      ? row
      : { ...row, ...NOT_SCORED, changed: false, grade_total: null, grade_passed: null, word: isMeasured ? 'measured' : word };
  });
}

const rowsOf = (q: Queries, sitting: string, course: string) =>
  q.any(
    Row,
    sql`with newest as (
          select distinct on (coalesce(s.attempt_id, -s.id)) s.* from scan s where s.sitting_id = ${sitting} and s.removed_at is null
          order by coalesce(s.attempt_id, -s.id), s.step = 'final' desc, s.version desc, s.id desc
        ), rows as (
          select s.id as scan_id, s.attempt_id, s.file_name, s.version, s.step, s.state, s.fault_text as fault, s.fault_code from newest s
          union all
          -- Attempts that never had a scan are graded by hand; they have a row all the same, under their own number turned round.
          select -a.id, a.id, '', 1, 'final', 'no-scan', null, null from attempt a where a.sitting_id = ${sitting} and not exists (select 1 from scan s where s.attempt_id = a.id and s.removed_at is null)
        )
        select r.*, a.number, a.student_id, p.name as student_name, n.bench, a.grader_id, w.name as grader_name, m.id as measurement_id,
          nullif(coalesce(d.picture_sha256, m.picture_sha256, (select x.picture_sha256 from measurement x where x.scan_id = r.scan_id order by x.id desc limit 1)), ${UNDRAWN}) as picture,
          g.total as grade_total, g.passed as grade_passed, g.seen as grade_seen, coalesce(l.is_released, false) as released
        from rows r left join attempt a on a.id = r.attempt_id left join person p on p.id = a.student_id
          left join enrolment n on n.person_id = a.student_id and n.course_id = ${course} and n.role = 'student' left join person w on w.id = a.grader_id
          left join graded_now c on c.attempt_id = a.id
          left join measurement m on m.id = c.measurement_id
          left join drawn d on d.measurement_id = m.id
          left join lateral (select total, passed, case when round = 1 then record->>'seen' end as seen from grade where attempt_id = a.id and round <> 2 order by version desc limit 1) g on true
          left join lateral (select grade_id is not null as is_released from release where attempt_id = a.id order by id desc limit 1) l on true`,
  );

type Summary = Pick<TrayRow, 'counts' | 'critical' | 'total' | 'passed' | 'range' | 'open' | 'failures' | 'seen'>;
type ScoredRow = Omit<TrayRow, 'word' | 'progress'> & { readonly grade_seen: string | null };
const NOT_SCORED: Summary = { counts: null, critical: 0, total: null, passed: null, range: null, open: 0, failures: [], seen: null };

/** Cache of the last score per attempt with the digest of its evidence. */
interface Scored {
  readonly key: string;
  readonly summary: Summary;
}
const scored = new WeakMap<Database, Map<number, Scored>>();
/** One collator for all comparisons: making one per comparison is slow. */
const BY_NAME = new Intl.Collator('en');

function summarise(
  attempt: number,
  measurement: number | null,
  exercise: Pick<v.InferOutput<typeof Exercise>, 'rubric' | 'rubric_version_id'> & { cusps: v.InferOutput<typeof Description>['cusps'] },
  measured: Awaited<ReturnType<typeof measuredOf>>,
  own: { hand: Awaited<ReturnType<typeof handReadingsOf>>; words: Awaited<ReturnType<typeof judgementsOf>> },
): Summary {
  const evidence = measurement === null ? null : (measured.get(measurement) ?? null);
  const plain = {
    rubric: exercise.rubric as Rubric,
    cusps: exercise.cusps,
    readings: evidence?.readings ?? [],
    curves: evidence?.curves ?? {},
    hand: own.hand,
  };
  const s = scoreOf({ ...plain, judgements: asJudgements(inForce(plain, own.words).holding) });
  const counts = { inside: 0, close: 0, outside: 0, none: 0 };
  for (const c of s.criteria) if (c.verdict !== 'skipped') counts[c.verdict]++;
  const result = resultOf(s);
  const seen = seenDigest({ attempt, round: 1, measurement, rubric: exercise.rubric_version_id }, result);
  rememberShown({ seen, result });
  return {
    counts,
    critical: s.critical.filter((e) => e.made === true).length,
    total: s.total,
    passed: s.passed,
    range: s.total === null ? [s.range.least.total, s.range.most.total] : null,
    open: s.undecided.length,
    failures: s.failures,
    seen,
  };
}

interface MeasuredEvidence {
  readonly readings: readonly Reading[];
  readonly curves: Readonly<Record<string, readonly (readonly number[])[]>>;
}
/** Cache of evidence by database, measurement and rubric; measurements never change. */
const fetched = new WeakMap<Database, Map<string, MeasuredEvidence>>();
const KEPT = 4000;
const Measured = v.object({ id: v.number() });
const WithCurves = v.object({ id: v.number(), curves: CurvesFile });

/** Cached readings by measurement: the tray is polled each second while a queue runs, so only new measurements are loaded. */
async function measuredOf(db: Database, sittingId: string, rubric: Rubric): Promise<Map<number, MeasuredEvidence>> {
  const targets = rubric.criteria.flatMap((c) => c.targets);
  const names = [...new Set([...targets, ...rubric.critical].map((t) => t.reading))];
  const alongs = [...new Set(targets.flatMap((t) => (t.along ? [t.reading] : [])))];
  const known = fetched.get(db) ?? new Map<string, MeasuredEvidence>();
  fetched.set(db, known);
  if (known.size > KEPT) known.clear();
  const key = (id: number): string => `${id} ${names.join(' ')}`;
  const there = await db.any(
    Measured,
    sql`select distinct c.measurement_id as id from graded_on c join attempt a on a.id = c.attempt_id where a.sitting_id = ${sittingId}`,
  );
  const fresh = there.map((m) => m.id).filter((id) => !known.has(key(id)));
  if (fresh.length) {
    const curves = [...alongs, ...(alongs.length ? [EDGE_LENGTH] : [])];
    const [rows, drawn] = await Promise.all([
      readingsOfAll(db, fresh, names),
      db.any(
        WithCurves,
        sql`select m.id, coalesce((select jsonb_object_agg(c.key, c.value) from jsonb_each(m.curves) c where c.key in (select json_array_elements_text(${curves}::json))), '{}') as curves
            from measurement m where m.id in (select (json_array_elements_text(${fresh}::json))::int)`,
      ),
    ]);
    const by = grouped(rows, (r) => r.measurement);
    for (const m of drawn) known.set(key(m.id), { readings: (by.get(m.id) ?? []).map((r) => r.reading), curves: m.curves });
  }
  return new Map(there.flatMap((m) => (known.has(key(m.id)) ? [[m.id, known.get(key(m.id)) as MeasuredEvidence]] : [])));
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

/** A row's state as the screen calls it. */
export function stateOf(r: Pick<TrayRow, 'state' | 'step' | 'attempt_id' | 'released' | 'grade_total' | 'open' | 'critical'>): string {
  if (r.attempt_id === null) return 'unmatched';
  // A signed attempt stays signed while its scan is measured again.
  if (r.released) return 'released';
  if (r.grade_total !== null) return 'signed';
  if (r.state === 'arrived' || r.state === 'measuring') return r.state;
  // An unusable scan does not block a grade by hand.
  if (r.state !== 'measured' && r.state !== 'no-scan') return r.state;
  if (r.state === 'no-scan') return 'no-scan';
  if (r.step !== 'final') return 'stage';
  return r.open > 0 || r.critical > 0 ? 'eye' : 'ready';
}
