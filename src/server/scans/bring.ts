import * as v from 'valibot';
import type { FilePreview, UploadOutcome } from '#contract/tray-view.ts';
import { stepOf } from '#core/score/stage.ts';
import { isZip } from '../../files/archive.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { vouch } from '../audit/chain.ts';
import { ChildEnded, TaskFault, unreadable } from '../children/pool.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import type { Kept } from './files.ts';
import { matchesOf, matchStudent, type Student } from './match.ts';

const StudentRow = v.object({ id: v.string(), name: v.string(), bench: v.nullable(v.string()) });
const IdRow = v.object({ id: v.number() });
const Existing = v.object({ id: v.number(), file_name: v.string() });
const Next = v.object({ version: v.number() });

/** A course's students, where they sit in one sitting. Whose bench another one has that day sits at none. */
export const studentsOf = (q: Queries, course: string, sitting: string | null = null) =>
  q.any(
    StudentRow,
    sql`select p.id, p.name, case when s.bench is not null then s.bench when exists (select 1 from seat o where o.sitting_id = ${sitting} and o.bench = n.bench) then null else n.bench end as bench
        from enrolment n join person p on p.id = n.person_id left join seat s on s.sitting_id = ${sitting} and s.person_id = p.id
        where n.course_id = ${course} and n.role = 'student' order by p.name, p.id`,
  );

const Versions = v.object({ student_id: v.string(), step: v.string(), version: v.number() });

/** Previews files by name: their student, the word that named the student, and the attempt's version. */
export async function previewOf(a: Pick<App, 'db'>, sittingId: string, names: readonly string[]): Promise<FilePreview[]> {
  const subject = await SUBJECTS.sitting(a.db, sittingId);
  const students = await studentsOf(a.db, subject?.course ?? '', sittingId);
  const there = await a.db.any(
    Versions,
    sql`select t.student_id, s.step, max(s.version) as version from scan s join attempt t on t.id = s.attempt_id where s.sitting_id = ${sittingId} group by t.student_id, s.step`,
  );
  const versions = new Map(there.map((r) => [`${r.student_id} ${r.step}`, r.version]));
  return names.map((fileName) => {
    const match = matchStudent(fileName, students);
    const step = stepOf(fileName);
    if (!match) return { fileName, student: null, by: null, step, version: 1 };
    // A second file of the same student in one go is the version after the first.
    const key = `${match.student.id} ${step}`;
    const version = (versions.get(key) ?? 0) + 1;
    versions.set(key, version);
    return { fileName, student: match.student.id, by: match.by, step, version };
  });
}

/** A stored file with its name and, if one was chosen, its student. */
export interface Arrived {
  readonly name: string;
  readonly kept: Kept;
  readonly student?: string | null;
  readonly partOf?: string;
}

type Left = Pick<UploadOutcome, 'fileName' | 'message'>;

/** Brings files into a sitting's tray. Every file is kept; a bad file does not stop the others. */
export async function bringScans(a: App, sittingId: string, files: readonly Arrived[], who: Person | null): Promise<UploadOutcome[]> {
  const subject = await SUBJECTS.sitting(a.db, sittingId);
  permit(who, 'scan.bring', subject);
  const students = await studentsOf(a.db, subject?.course ?? '', sittingId);
  const out: UploadOutcome[] = [];
  const refused = (l: Left): void => void out.push({ ...l, scanId: null, student: null, outcome: 'refused' });
  for (const f of files) {
    if (!isZip(f.kept.head)) {
      out.push(await bringOne(a, sittingId, f, students, who));
      continue;
    }
    const { inside, left } = await takenOut(a, f);
    for (const one of inside) out.push(await bringOne(a, sittingId, one, students, who));
    for (const l of left) refused(l);
  }
  return out;
}

/** Unpacks an archive in a child process and stores each scan; entries that cannot be used are listed with the reason. */
async function takenOut(a: App, archive: Arrived): Promise<{ inside: Arrived[]; left: Left[] }> {
  const { sha256, size } = archive.kept;
  await a.db.run(sql`insert into stored_file (sha256, size_bytes) values (${sha256}, ${size}) on conflict do nothing`);
  return a.files.withFolder(async (outFolder) => {
    try {
      const { parts } = await a.children.run({ kind: 'unpack', archive: a.files.pathOf(sha256), name: archive.name, outFolder });
      const inside: Arrived[] = [];
      const left: Left[] = [];
      for (const p of parts) {
        if ('left' in p) left.push({ fileName: p.name, message: `${p.name} in ${archive.name} was left out. ${p.left}` });
        else inside.push({ name: p.name, kept: await a.files.keepFile(p.file), partOf: sha256 });
      }
      return { inside, left };
    } catch (e) {
      if (!(e instanceof TaskFault || e instanceof ChildEnded)) throw e;
      const message = e instanceof TaskFault ? e.message : unreadable(e.message).message;
      return { inside: [], left: [{ fileName: archive.name, message: `${archive.name}: ${message}` }] };
    }
  });
}

/** The attempt of a student's scan: the newest unsigned one, otherwise a new one. */
async function attemptFor(q: Queries, sittingId: string, student: string): Promise<{ id: number; isNew: boolean }> {
  const open = await q.maybeOne(
    IdRow,
    sql`select a.id from attempt a where a.sitting_id = ${sittingId} and a.student_id = ${student} order by a.number desc limit 1`,
  );
  if (open) return { id: open.id, isNew: false };
  return {
    ...(await q.one(IdRow, sql`insert into attempt (sitting_id, student_id) values (${sittingId}, ${student}) returning id`)),
    isNew: true,
  };
}

const nextVersion = async (q: Queries, attempt: number, step: string): Promise<number> =>
  (await q.one(Next, sql`select coalesce(max(version), 0) + 1 as version from scan where attempt_id = ${attempt} and step = ${step}`))
    .version;

async function bringOne(a: App, sittingId: string, f: Arrived, students: readonly Student[], person: Person): Promise<UploadOutcome> {
  // The student chosen with the file counts; otherwise the file name decides.
  const student = students.find((s) => s.id === f.student) ?? matchStudent(f.name, students)?.student ?? null;
  const step = stepOf(f.name);
  const scan = await a.records.act(async (q, note) => {
    await q.run(
      sql`insert into stored_file (sha256, size_bytes, part_of) values (${f.kept.sha256}, ${f.kept.size}, ${f.partOf ?? null}) on conflict do nothing`,
    );
    const same = await q.any(
      Existing,
      sql`select id, file_name from scan where sitting_id = ${sittingId} and sha256 = ${f.kept.sha256} and removed_at is null limit 1`,
    );
    if (same.length) return { duplicate: same[0].file_name, id: same[0].id };
    const attempt = student ? await attemptFor(q, sittingId, student.id) : null;
    const version = attempt ? await nextVersion(q, attempt.id, step) : 1;
    const { id } = await q.one(
      IdRow,
      sql`insert into scan (sitting_id, attempt_id, file_name, sha256, version, brought_by, state, step) values (${sittingId}, ${attempt?.id ?? null}, ${f.name}, ${f.kept.sha256}, ${version}, ${person.id}, 'arrived', ${step}) returning id`,
    );
    const rows = [...(attempt?.isNew ? await vouch(q, 'attempt', attempt.id) : []), ...(await vouch(q, 'scan', id))];
    await note({ person: person.id, action: 'scan.bring', subject: `scan ${id}`, details: { attempt: attempt?.id ?? null }, rows });
    return { duplicate: null, id };
  });
  const outcomeOf = (outcome: UploadOutcome['outcome'], message: string): UploadOutcome => ({
    fileName: f.name,
    scanId: scan.id,
    student: student?.name ?? null,
    outcome,
    message,
  });
  if (scan.duplicate !== null) return outcomeOf('duplicate', `${f.name} is already here as ${scan.duplicate}; it was not added again.`);
  const named = student ? [] : matchesOf(f.name, students).map((m) => m.student.name);
  if (named.length > 1)
    return outcomeOf(
      'unmatched',
      `${f.name} names several students: ${named.join(' and ')}. Choose the right one in the list; the scan is kept.`,
    );
  if (!student)
    return outcomeOf(
      'unmatched',
      `${f.name} names no student: expected a number (H07), a bench (B2-04) or a full name in the file name. Choose the student in the list; the scan is kept.`,
    );
  a.jobs.add(scan.id);
  return outcomeOf('matched', `${f.name} goes to ${student.name}.`);
}

/** Brings one file held in memory, as the simulated scanner makes it. */
export const bringBytes = async (a: App, sitting: string, name: string, bytes: Uint8Array, who: Person | null): Promise<UploadOutcome[]> =>
  bringScans(a, sitting, [{ name, kept: await a.files.keep(bytes) }], who);

const ScanRow = v.object({ sitting_id: v.string(), attempt_id: v.nullable(v.number()), step: v.string(), state: v.string() });
const Count = v.object({ n: v.number() });

async function refuseSigned(q: Queries, scanId: number, so: string): Promise<void> {
  const { n } = await q.one(
    Count,
    sql`select count(*) as n from grade g join measurement m on m.id = g.measurement_id where m.scan_id = ${scanId}`,
  );
  if (n > 0) throw new Refused('conflict', `A signed grade rests on this scan; ${so}`);
}

/** Gives a scan to a student of the course, for the first time or instead of another; a scan that a signed grade rests on stays. */
export async function assignScan(a: App, who: Person | null, scanId: number, studentId: string): Promise<void> {
  await a.records.act(async (q, note) => {
    const subject = await SUBJECTS.scan(q, scanId);
    permit(who, 'scan.steer', subject);
    const student = (await studentsOf(q, subject?.course ?? '')).find((s) => s.id === studentId);
    if (!student) throw new Refused('not-there', 'There is no such student in this course. Choose one from the list.');
    const scan = await q.one(ScanRow, sql`select sitting_id, attempt_id, step, state from scan where id = ${scanId}`);
    await refuseSigned(q, scanId, 'it stays where it is. Bring it again for the other student.');
    const attempt = await attemptFor(q, scan.sitting_id, studentId);
    const version = await nextVersion(q, attempt.id, scan.step);
    await q.run(
      sql`update scan set attempt_id = ${attempt.id}, version = ${version}, state = 'arrived', tries = 0, is_quarantined = false, fault_code = null, fault_text = null where id = ${scanId}`,
    );
    const rows = [...(attempt.isNew ? await vouch(q, 'attempt', attempt.id) : []), ...(await vouch(q, 'scan', scanId))];
    const details = { before: scan.attempt_id, after: attempt.id, student: studentId };
    await note({ person: who.id, action: 'scan.assign', subject: `scan ${scanId}`, details, rows });
  });
  a.jobs.add(scanId);
}

/**
 * Takes a scan out of its sitting, because it came to the wrong place. Row, file and measurements stay; a scan that a signed grade rests on stays in.
 */
export async function removeScan(a: App, who: Person | null, scanId: number): Promise<void> {
  permit(who, 'scan.steer', await SUBJECTS.scan(a.db, scanId));
  await a.jobs.cancel(scanId);
  await a.records.act(async (q, note) => {
    permit(who, 'scan.steer', await SUBJECTS.scan(q, scanId));
    await refuseSigned(q, scanId, 'it cannot be taken out.');
    const scan = await q.one(ScanRow, sql`select sitting_id, attempt_id, step, state from scan where id = ${scanId}`);
    await q.run(sql`update scan set removed_at = now(), removed_by = ${who.id} where id = ${scanId} and removed_at is null`);
    await note({ person: who.id, action: 'scan.remove', subject: `scan ${scanId}`, details: { attempt: scan.attempt_id } });
  });
}

/** Opens an attempt that has no scan, to be graded by hand; `again` opens another one beside those that are there. */
export const openAttempt = (a: App, who: Person | null, sitting: string, studentId: string, again: boolean): Promise<number> =>
  a.records.act(async (q, note) => {
    const subject = await SUBJECTS.sitting(q, sitting);
    permit(who, 'attempt.open', subject);
    const student = (await studentsOf(q, subject?.course ?? '')).find((s) => s.id === studentId);
    if (!student) throw new Refused('not-there', 'There is no such student in this course.');
    if (!again) {
      const there = await attemptFor(q, sitting, studentId);
      if (!there.isNew) return there.id;
      const rows = await vouch(q, 'attempt', there.id);
      await note({ person: who.id, action: 'attempt.open', subject: `attempt ${there.id}`, details: { student: studentId }, rows });
      return there.id;
    }
    const { id } = await q.one(
      IdRow,
      sql`insert into attempt (sitting_id, student_id, number) values (${sitting}, ${studentId},
            (select coalesce(max(number), 0) + 1 from attempt where sitting_id = ${sitting} and student_id = ${studentId})) returning id`,
    );
    await note({
      person: who.id,
      action: 'attempt.open',
      subject: `attempt ${id}`,
      details: { student: studentId },
      rows: await vouch(q, 'attempt', id),
    });
    return id;
  });
