import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { brotliDecompressSync } from 'node:zlib';
import * as v from 'valibot';
import type { LevelNumber } from '#core/score/rubric.ts';
import type { ScoredCriterion } from '#core/score/score.ts';
import { type Random, seeded } from '#core/statistics/random.ts';
import { digitsOf } from '#words/readings.ts';
import { EXERCISES } from '../../seed/cast.ts';
import { PAST_SITTINGS, type PastWork, pastWork } from '../../seed/cohort.ts';
import { type CohortFile, CohortHead, type Measured, unpacked } from '../../seed/cohort-file.ts';
import type { Person } from '../access/table.ts';
import { personById } from '../account/sign-in.ts';
import type { App } from '../app.ts';
import { vouch } from '../audit/chain.ts';
import { SHIPPED_KIT } from '../course/kit.ts';
import { type Queries, sql } from '../database/port.ts';
import { attemptFor, noteRow } from '../grading/act.ts';
import { type Graded, restDigest } from '../grading/evidence.ts';
import { adoptMeasurement, insertReadings } from '../grading/measurement.ts';
import { releaseAttempt } from '../grading/release.ts';
import { signAttempt } from '../grading/sign.ts';
import { keepNothing } from '../scans/undrawn.ts';
import { assess } from '../student/assess.ts';

const Id = v.object({ id: v.number() });
const There = v.object({ id: v.number(), sitting: v.string(), student: v.string(), number: v.number(), graded: v.boolean() });

/** The shipped weeks, or null where a build was made without them. */
export function cohortFile(root: string): CohortFile | null {
  const file = path.join(root, 'data/demo/cohort.json.br');
  if (!existsSync(file)) return null;
  const json = JSON.parse(brotliDecompressSync(readFileSync(file)).toString()) as CohortFile;
  return v.is(CohortHead, json) ? json : null;
}

/** Instructors by how they decide what the measurement leaves open: one level up, as measured, one level down. */
const SEVERITY: Readonly<Record<string, number>> = { I1: 1, I2: 0, I3: -1, I4: 0 };
const GRADERS = Object.keys(SEVERITY);
/** Every how manieth attempt is graded twice, and of those every second one is settled by the director. */
const TWICE = 17;
/** Share of weak lines that get a comment, and of attempts that wait for their release. */
const COMMENTED = 0.55;
const HELD_BACK = 0.03;

const keyOf = (w: Pick<PastWork, 'sitting' | 'student' | 'number'>): string => `${w.sitting} ${w.student} ${w.number}`;

/** Brings the weeks before into an empty school: attempts with the readings that were measured, then graded by its instructors. */
export async function seedPast(a: App, cohort: CohortFile, all: readonly PastWork[] = pastWork()): Promise<void> {
  // A start that was stopped goes on where it was.
  const there = await a.db.any(
    There,
    sql`select a.id, a.sitting_id as sitting, a.student_id as student, a.number, exists (select 1 from grade g where g.attempt_id = a.id) as graded from attempt a`,
  );
  const known = new Map(there.map((t) => [keyOf(t), t]));
  const measured = new Map(cohort.measured.map((m) => [keyOf(m.work), m]));
  const nothing = await keepNothing(a.files, a.db);
  // Newest week first: it is what people look for first.
  for (const s of [...PAST_SITTINGS].reverse())
    for (const [i, w] of all.entries()) {
      if (w.sitting !== s.id) continue;
      const before = known.get(keyOf(w));
      if (before?.graded) continue;
      const attempt = before?.id ?? (await bring(a, w, measured.get(keyOf(w)) ?? null, cohort, nothing, s.heldOn));
      await gradePast(a, attempt, w, i, s.heldOn);
    }
}

/** One attempt with its scan's readings; the scan's file is cut again when somebody opens it. */
async function bring(a: App, w: PastWork, m: Measured | null, cohort: CohortFile, nothing: string, heldOn: string): Promise<number> {
  return a.records.act(async (q, note) => {
    const { id } = await q.one(
      Id,
      sql`insert into attempt (sitting_id, student_id, number, grader_id) values (${w.sitting}, ${w.student}, ${w.number}, ${graderOf(w)}) returning id`,
    );
    const rows = await vouch(q, 'attempt', id);
    if (!m) {
      await note({ person: 'A1', action: 'attempt.open', subject: `attempt ${id}`, rows });
      return id;
    }
    await q.run(sql`insert into stored_file (sha256, size_bytes) values (${m.scanSha256}, ${m.scanBytes}) on conflict do nothing`);
    const scan = await q.one(
      Id,
      sql`insert into scan (sitting_id, attempt_id, file_name, sha256, brought_by, arrived_at, state, step, recipe)
          values (${w.sitting}, ${id}, ${`${w.student}_${w.number}.stl`}, ${m.scanSha256}, 'A1', ${at(heldOn, 15)}, 'measured', 'final', ${w}) returning id`,
    );
    const kind = EXERCISES.find((e) => e.id === w.exercise)?.kind ?? 'crown';
    const measurement = await q.one(
      Id,
      sql`insert into measurement (scan_id, scan_sha256, kind, core_version, measured_at, duration_ms, peak_mb, alignment, curves, display_sha256, profiles_sha256, picture_sha256)
          values (${scan.id}, ${m.scanSha256}, ${kind}, ${m.coreVersion ?? cohort.coreVersion}, ${at(heldOn, 15)}, ${m.durationMs}, ${m.peakMb}, ${m.alignment}, ${m.curves}, ${nothing}, ${nothing}, ${nothing}) returning id`,
    );
    await insertReadings(q, measurement.id, unpacked(m.rows, cohort.names));
    rows.push(...(await vouch(q, 'scan', scan.id)), ...(await vouch(q, 'measurement', measurement.id)));
    await note({ person: 'A1', action: 'scan.bring', subject: `scan ${scan.id}`, details: { demo: true }, rows });
    await adoptMeasurement(q, note, id, measurement.id);
    return id;
  });
}

const at = (heldOn: string, hour: number): string => new Date(`${heldOn}T${String(hour).padStart(2, '0')}:00:00Z`).toISOString();
const graderOf = (w: PastWork): string => GRADERS[(Number(w.student.slice(1)) + w.sitting.length) % GRADERS.length];

async function gradePast(a: App, attempt: number, w: PastWork, i: number, heldOn: string): Promise<void> {
  const r = seeded(7 * i + 3);
  const first = graderOf(w);
  await markBy(a, attempt, first, w, heldOn, r);
  if (i % TWICE === 0) {
    const second = GRADERS[(GRADERS.indexOf(first) + 2) % GRADERS.length];
    await a.db.run(sql`insert into marking (attempt_id, round, grader_id, given_by) values (${attempt}, 2, ${second}, 'D1')`);
    await markBy(a, attempt, second, w, heldOn, r);
    if (i % (2 * TWICE) !== 0) return;
    await a.db.run(sql`insert into marking (attempt_id, round, grader_id, given_by) values (${attempt}, 3, 'D1', 'D1')`);
    await markBy(a, attempt, 'D1', w, heldOn, r);
  } else if (r.next() < HELD_BACK) return;
  // What was graded last week has come back, and waits for some to look at it.
  if (!(w.sitting.endsWith('-w5') && i % 3 === 0)) await judgeOwn(a, attempt, w, r);
  await releaseAttempt(a.records, await personOf(a, first), attempt);
}

/** Students by how far they judge their own work off, in levels; most are a little kind to themselves. */
const KINDNESS: Readonly<Record<string, number>> = { H05: 1.4, H09: -0.9, H14: 1.1 };
const OwnLineRow = v.object({ line: v.string(), level: v.nullable(v.number()), value: v.nullable(v.number()), by_hand: v.boolean() });

/** What the student thought of it: as it was graded, give or take, and shifted by their own way. */
async function judgeOwn(a: App, attempt: number, w: PastWork, r: Random): Promise<void> {
  const lines = await a.db.any(
    OwnLineRow,
    sql`select line, level, value, coalesce(reading = 'margin.width', false) as by_hand from graded_line where grade_id = (select id from grade where attempt_id = ${attempt} order by round <> 1, version desc limit 1) and level is not null`,
  );
  const shift = KINDNESS[w.student] ?? 0.15;
  const own = lines.map(({ line, level, value, by_hand }) => {
    const felt = Math.round((level ?? 0) + shift + 0.7 * r.normal());
    return {
      line,
      level: Math.min(3, Math.max(0, felt)) as LevelNumber,
      figure: by_hand && value !== null ? Math.round(20 * Math.max(0.05, value + 0.1 * shift + 0.08 * r.normal())) / 20 : null,
    };
  });
  const minutes = Math.round(62 - 2 * w.earlier + 9 * r.normal());
  await assess(a, await personOf(a, w.student), attempt, { lines: own, minutes: Math.max(15, minutes) });
}

const personOf = async (a: App, id: string): Promise<Person> => {
  const person = await personById(a.db, id);
  if (!person) throw new Error(`the demo has no person ${id}`);
  return person;
};

/** One grader's own round: what is open is decided, weak lines get a comment, the grade is signed. */
async function markBy(a: App, attempt: number, grader: string, w: PastWork, heldOn: string, r: Random): Promise<void> {
  const person = await personOf(a, grader);
  const when = at(heldOn, 17);
  await a.records.act(async (q, note) => {
    const { graded } = await attemptFor(q, person, 'attempt.judge', attempt);
    const add = async (table: 'judgement' | 'remark', id: number, line: string): Promise<void> =>
      noteRow(
        q,
        note,
        { person, action: table === 'judgement' ? 'attempt.judge' : 'attempt.remark', subject: `attempt ${attempt}`, details: { line } },
        table,
        id,
      );
    for (const c of graded.score.criteria) {
      const id = c.criterion.id;
      const level = c.decidedBy === null ? opened(c, SEVERITY[grader] ?? 0, w, r) : c.level;
      if (c.decidedBy === null) await add('judgement', await judged(q, graded, person, id, level, null, when), id);
      const body = level !== null && level <= 1 && r.next() < COMMENTED ? commentOn(c) : null;
      if (body)
        await add(
          'remark',
          (
            await q.one(
              Id,
              sql`insert into remark (attempt_id, round, line, body, person_id, made_at) values (${attempt}, ${graded.round}, ${id}, ${body}, ${person.id}, ${when}) returning id`,
            )
          ).id,
          id,
        );
    }
    for (const e of graded.score.critical.filter((c) => c.made === null))
      await add('judgement', await judged(q, graded, person, e.error.id, null, false, when), e.error.id);
  });
  const seen = await a.db.transaction(async (q) => (await attemptFor(q, person, 'attempt.sign', attempt)).graded.seen);
  await signAttempt(a.records, person, attempt, seen, a.standardsFolder, new Date(when));
}

const judged = async (
  q: Queries,
  g: Graded,
  person: Person,
  line: string,
  level: LevelNumber | null,
  made: boolean | null,
  when: string,
): Promise<number> =>
  (
    await q.one(
      Id,
      sql`insert into judgement (attempt_id, round, line, level, made, reason, rested_on, person_id, made_at)
          values (${g.attempt.id}, ${g.round}, ${line}, ${level}, ${made}, ${made === false ? 'looked at, none found' : null}, ${restDigest(g.score, line)}, ${person.id}, ${when}) returning id`,
    )
  ).id;

/** Level that a grader gives to an open line: the measured one, moved by their severity within what the readings allow; by eye, as good as the student is by then. */
function opened(c: ScoredCriterion, severity: number, w: PastWork, r: Random): LevelNumber {
  const [least, most] = c.range;
  const words = c.criterion.asks?.words.map((q) => q.level);
  const byEye = (): number => {
    const x = r.next() + 0.04 * w.earlier + 0.1 * severity;
    return x > 0.45 ? 3 : x > 0.2 ? 2 : x > 0.07 ? 1 : 0;
  };
  const wanted = Math.min(most, Math.max(least, c.computed === null ? byEye() : c.computed + severity)) as LevelNumber;
  if (!words || words.includes(wanted)) return wanted;
  return [...words].sort((a, b) => Math.abs(a - wanted) - Math.abs(b - wanted))[0];
}

/** A sentence of the course's bank for the place that decided the line. */
function commentOn(c: ScoredCriterion): string | null {
  const t = c.deciding;
  if (!t?.reading || t.reading.value === null) return null;
  const { zone, name } = t.reading;
  // The figure that the line is told by: along an edge its worst stretch.
  const value = t.along?.worst ?? t.reading.value;
  const side = t.target.band.lo !== null && value < t.target.band.lo ? 'under' : 'over';
  const fitting = SHIPPED_KIT.phrases
    .filter((p) => p.about && name.startsWith(p.about) && (p.side === '' || p.side === side))
    .sort((a, b) => b.about.length - a.about.length)[0];
  if (!fitting) return null;
  const placed = zone ? fitting.body.replace('{place}', zone) : fitting.body.replace(' at {place}', '').replace('{place}', 'whole');
  return placed.replace('{value}', `${value.toFixed(digitsOf(t.reading.unit))}${t.reading.unit === 'deg' ? '°' : ` ${t.reading.unit}`}`);
}
