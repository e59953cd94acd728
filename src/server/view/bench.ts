import * as v from 'valibot';
import { basisOf, GradeFile } from '#contract/grade.ts';
import type { Neighbours } from '#contract/tray-list.ts';
import type { BenchView, RingChoice } from '#contract/views.ts';
import { isSizeOff } from '#core/align/size.ts';
import { CATALOGUE } from '#core/catalogue/catalogue.ts';
import { DIGITS, type StatEntry } from '#core/catalogue/entry.ts';
import { KINDS, type KindName } from '#core/kinds/kinds.ts';
import type { Reading } from '#core/result/reading.ts';
import type { Rubric } from '#core/score/rubric.ts';
import { scoreOf } from '#core/sign/basis.ts';
import { BENCH } from '#words/bench.ts';
import { UNIT_WORDS } from '#words/readings.ts';
import type { Person } from '../access/table.ts';
import { kitOf } from '../course/kit.ts';
import { type Queries, sql } from '../database/port.ts';
import { gradedOf } from '../grading/evidence.ts';
import { roundOf } from '../grading/rounds.ts';
import {
  type AttemptRow,
  attemptById,
  type GradeRow,
  gradesOf,
  type MeasurementRow,
  measurementById,
  newestOnTheWay,
  readingsOf,
  releasedGrade,
} from '../grading/rows.ts';
import { rememberShown } from '../grading/sign.ts';
import { photoOf } from '../photos/beside.ts';
import { bandsOf } from './bands.ts';
import { displayPlace, scoreView } from './score.ts';
import { stagesOf } from './stages.ts';

/** Degrees over which the margin's thinnest stretch is read, as its definition has it. */
const THINNEST = 10;
function thinnestOf(readings: readonly Reading[]): RingChoice['stretch'] {
  const r = readings.find((q) => q.name === 'margin.thinnest' && q.value !== null);
  const at = r?.at?.azimuth;
  if (r?.value == null || at === undefined) return null;
  return { from: at - THINNEST / 2, to: at + THINNEST / 2, words: BENCH.thinnest(r.value) };
}

/** Curves of the measurement that can be shown round the tooth, with the rubric's bands. */
function ringsOf(rubric: Rubric, readings: readonly Reading[], curves: BenchView['curves']): RingChoice[] {
  const targets = rubric.criteria.flatMap((c) => c.targets);
  const byCurve = new Map<string, (typeof CATALOGUE)[number][]>();
  for (const e of CATALOGUE) if (e.curve && curves[e.curve]?.length) byCurve.set(e.curve, [...(byCurve.get(e.curve) ?? []), e]);
  return [...byCurve].map(([curve, entries]): RingChoice => {
    const own = entries.find((e) => e.name === curve) ?? entries[0];
    // A convergence is shown on the ring of tapers; its band is not the ring's.
    const names = new Set(own.name === curve ? [curve] : entries.map((e) => e.name));
    const target = targets.find((t) => names.has(t.reading));
    const { unit } = Object.values(own.stats)[0] as StatEntry;
    const title = own.name === curve ? own.title : 'gap to the neighbour';
    return {
      id: curve,
      title: title[0].toUpperCase() + title.slice(1),
      unit: UNIT_WORDS[unit],
      digits: DIGITS[unit],
      band: [target?.band.lo ?? null, target?.band.hi ?? null],
      U: Math.max(0, ...readings.filter((r) => names.has(r.name)).map((r) => r.U ?? 0)),
      sign: own.sign,
      stretch: curve === 'margin.width' ? thinnestOf(readings) : null,
    };
  });
}

const Id = v.object({ id: v.number() });

const attemptView = (a: AttemptRow, released: GradeRow | null): BenchView['attempt'] => ({
  id: a.id,
  number: a.number,
  sitting_id: a.sitting_id,
  sitting_title: a.sitting_title,
  held_on: a.held_on,
  student_id: a.student_id,
  student_name: a.student_name,
  bench: a.bench,
  exercise_title: a.exercise_title,
  tooth: a.tooth,
  released: released?.version ?? null,
});

const measurementView = (attempt: number, m: MeasurementRow): NonNullable<BenchView['measurement']> => ({
  id: m.id,
  scan: m.scan_id,
  fileName: m.file_name,
  size:
    m.alignment.size && isSizeOff(m.alignment.size) ? { percent: 100 * (m.alignment.size.factor - 1), U: 200 * m.alignment.size.u } : null,
  correctedBy: m.alignment.corrected === 1 ? null : 100 * (m.alignment.corrected - 1),
  rms: m.alignment.rms,
  pointError: m.alignment.pointError,
  seconds: m.duration_ms / 1000,
  display: `/api/attempts/${attempt}/display?m=${m.id}`,
  profiles: `/api/attempts/${attempt}/profiles?m=${m.id}`,
});

const gradeView = (g: GradeRow): BenchView['grades'][number] => ({
  version: g.version,
  round: g.round,
  total: g.total,
  passed: g.passed,
  grader: g.grader_name,
  signedAt: g.signed_at,
  digest: g.digest,
  seen: typeof g.record.seen === 'string' ? g.record.seen : null,
});

const Measured = v.object({ id: v.number(), file_name: v.string(), measured_at: v.string() });

/** An attempt outside of any list. */
const ALONE: Neighbours = { previous: null, next: null, nextUnsigned: null };

/** Data of the Bench for one grader, in their round; `beside` finds its neighbours in the list that it was opened from. */
export async function benchView(
  q: Queries,
  attemptId: number,
  who: Person,
  beside: (sitting: string) => Promise<Neighbours> = async () => ALONE,
): Promise<BenchView | null> {
  const attempt = await attemptById(q, attemptId);
  if (!attempt) return null;
  const round = await roundOf(q, attemptId, who.id);
  const graded = await gradedOf(q, attempt, round);
  rememberShown(graded);
  const measurement = graded.measurement ?? (await newestOnTheWay(q, attemptId));
  const [grades, released, measured, neighbours, stages, { kit }, photo] = await Promise.all([
    gradesOf(q, attemptId),
    releasedGrade(q, attemptId),
    q.any(
      Measured,
      sql`select m.id, s.file_name, m.measured_at from measurement m join scan s on s.id = m.scan_id where s.attempt_id = ${attemptId} and s.removed_at is null and s.step = 'final' order by m.id`,
    ),
    beside(attempt.sitting_id),
    stagesOf(q, attempt),
    kitOf(q, attempt.course_id),
    photoOf(q, attemptId),
  ]);
  return {
    attempt: attemptView(attempt, released),
    round,
    photo: photo?.id ?? null,
    stages,
    finished: graded.measurement !== null,
    measurements: measured.map((m) => ({
      id: m.id,
      fileName: m.file_name,
      measuredAt: m.measured_at,
      isGraded: m.id === graded.measurement?.id,
    })),
    score: scoreView({
      rubric: graded.basis.rubric,
      score: graded.score,
      seen: graded.seen,
      readings: graded.readings,
      hand: graded.hand,
      words: graded.judgements,
      reopened: graded.reopened,
      remarks: graded.remarks,
      pins: graded.pins,
      place: displayPlace(attempt.master),
    }),
    phrases: kit.phrases,
    measurement: measurement && measurementView(attemptId, measurement),
    bands: bandsOf(attempt.rubric),
    drawn: drawnOf(attempt.kind),
    // Before the finished work there is no margin to follow.
    rings: graded.measurement ? ringsOf(graded.basis.rubric, graded.readings, graded.measurement.curves) : [],
    curves: measurement?.curves ?? {},
    // A second grader does not see the first one's result before both have signed.
    grades: grades.filter((g) => g.round === round || round === 3).map(gradeView),
    ...neighbours,
  };
}

const drawnOf = (kind: KindName): BenchView['drawn'] => ({ hollow: KINDS[kind].hollow, colours: KINDS[kind].colours });

/** Data of the Bench for a student: the released version's record and measurement, nothing later. */
export async function releasedView(q: Queries, attemptId: number): Promise<BenchView | null> {
  const grade = await releasedGrade(q, attemptId);
  return grade && signedView(q, attemptId, grade);
}

/** What one signed grade says, from its own record and measurement. */
export async function signedView(q: Queries, attemptId: number, grade: GradeRow): Promise<BenchView | null> {
  const attempt = await attemptById(q, attemptId);
  if (!attempt) return null;
  const measurement = grade.measurement_id === null ? null : await measurementById(q, grade.measurement_id);
  const parsed = v.safeParse(GradeFile, grade.record);
  const place = displayPlace(attempt.master);
  // An older record does not hold its readings; they come from the measurement that it names.
  const record = parsed.success ? parsed.output : null;
  const readings = record?.readings ?? (measurement ? await readingsOf(q, measurement.id) : []);
  const rubric = (record?.rubric.body ?? attempt.rubric) as Rubric;
  const basis = record
    ? basisOf(record)
    : { rubric, cusps: attempt.master.cusps, readings, curves: measurement?.curves ?? {}, hand: [], judgements: {} };
  const score = scoreOf(basis);
  const shown = scoreView({
    rubric,
    score,
    seen: record?.seen ?? '',
    readings,
    hand: record?.hand ?? [],
    words: record?.judgements ?? [],
    reopened: [],
    remarks: record?.remarks ?? [],
    pins: (record?.pins ?? []).map((p, id) => ({ ...p, id })),
    place,
  });
  return {
    attempt: attemptView(attempt, grade),
    round: grade.round,
    photo: null,
    stages: [],
    finished: measurement !== null,
    measurements: [],
    // The signed figure, even if today's code would compute another one from an old record.
    score: { ...shown, total: grade.total, passed: grade.passed, undecided: [] },
    phrases: [],
    measurement: measurement && measurementView(attemptId, measurement),
    bands: bandsOf(rubric as AttemptRow['rubric']),
    drawn: drawnOf(attempt.kind),
    rings: measurement ? ringsOf(rubric, readings, measurement.curves) : [],
    curves: measurement?.curves ?? {},
    grades: [gradeView(grade)],
    ...ALONE,
  };
}

/** The measurement whose picture a person may load: any of the attempt's for graders, the released one for the student. */
export async function visibleMeasurement(
  q: Queries,
  attemptId: number,
  canGrade: boolean,
  wanted: number | null,
): Promise<MeasurementRow | null> {
  if (!canGrade) {
    const grade = await releasedGrade(q, attemptId);
    return grade?.measurement_id == null ? null : measurementById(q, grade.measurement_id);
  }
  const found = await q.maybeOne(
    Id,
    wanted === null
      ? sql`select coalesce((select measurement_id from graded_now where attempt_id = ${attemptId}),
              (select m.id from measurement m join scan s on s.id = m.scan_id where s.attempt_id = ${attemptId} order by m.id desc limit 1)) as id
            from attempt where id = ${attemptId} and exists (select 1 from measurement m join scan s on s.id = m.scan_id where s.attempt_id = ${attemptId})`
      : sql`select m.id from measurement m join scan s on s.id = m.scan_id where m.id = ${wanted} and s.attempt_id = ${attemptId}`,
  );
  return found && measurementById(q, found.id);
}
