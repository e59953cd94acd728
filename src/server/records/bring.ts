import path from 'node:path';
import * as v from 'valibot';
import type { Brought, FilePreview } from '#contract/views.ts';
import { Fault } from '#core/result/fault.ts';
import { stepOf } from '#core/score/stage.ts';
import { unzippedAside } from '../../files/read-file.ts';
import type { Person } from '../access/sign-in.ts';
import type { App } from '../app.ts';
import { type Queries, sql } from '../database/database.ts';
import type { Kept } from '../store/files.ts';
import { audit } from './attempts.ts';

const StudentRow = v.object({ id: v.string(), name: v.string(), bench: v.nullable(v.string()) });
type Student = v.InferOutput<typeof StudentRow>;
const IdRow = v.object({ id: v.number() });
const Existing = v.object({ id: v.number(), file_name: v.string() });
const Next = v.object({ version: v.number() });

/** Student meant by a file name and the word that says so. */
export interface Match {
  readonly student: Student;
  readonly by: 'number' | 'bench' | 'name';
}

/** Student meant by a file name: number (H07), bench (B2-04) or full name, each as a word of its own. Several different hits are none. */
export function matchStudent(fileName: string, students: readonly Student[]): Match | null {
  const words = path
    .basename(fileName)
    .toLowerCase()
    .replace(/(\.[a-z0-9]+)?\.[a-z0-9]+$/, '');
  const has = (token: string): boolean => new RegExp(`(^|[^a-z0-9])${token.replace(/[^a-z0-9]+/g, '[^a-z0-9]*')}([^a-z0-9]|$)`).test(words);
  const hits = students.flatMap((student): Match[] => {
    if (has(student.id.toLowerCase())) return [{ student, by: 'number' }];
    if (student.bench !== null && has(student.bench.toLowerCase())) return [{ student, by: 'bench' }];
    const names = student.name.toLowerCase().split(' ');
    return names.every((n) => has(n)) ? [{ student, by: 'name' }] : [];
  });
  return hits.length === 1 ? hits[0] : null;
}

const Versions = v.object({ student_id: v.string(), step: v.string(), version: v.number() });

/** What would become of files of these names: whose they are, by which word, and which version of the attempt they would be. */
export async function previewOf(a: App, sittingId: string, names: readonly string[]): Promise<FilePreview[]> {
  const students = await a.db.any(StudentRow, sql`select id, name, bench from person where role = 'student'`);
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

/** A file that is in the store, under its own name; perhaps with the student that was chosen for it. */
interface Arrived {
  readonly name: string;
  readonly kept: Kept;
  readonly student?: string | null;
}

const isArchive = (head: Uint8Array): boolean => head[0] === 0x50 && head[1] === 0x4b;

/** Takes files into a sitting's tray: each is kept whatever becomes of it, one bad file does not stop the others. */
export async function bringScans(a: App, sittingId: string, files: readonly Arrived[], person: Person): Promise<Brought[]> {
  const students = await a.db.any(StudentRow, sql`select id, name, bench from person where role = 'student'`);
  const out: Brought[] = [];
  for (const f of files) {
    try {
      for (const one of isArchive(f.kept.head) ? await takenOut(a, f) : [f]) out.push(await bringOne(a, sittingId, one, students, person));
    } catch (e) {
      if (!(e instanceof Fault)) throw e;
      out.push({ fileName: f.name, scanId: null, student: null, outcome: 'refused', message: e.message });
    }
  }
  return out;
}

/** What is in an archive, each file kept by itself; the archive is not. */
async function takenOut(a: App, archive: Arrived): Promise<Arrived[]> {
  try {
    const inside = await unzippedAside(a.files.read(archive.kept.sha256), archive.name);
    const out: Arrived[] = [];
    for (const [name, bytes] of Object.entries(inside)) out.push({ name: path.basename(name), kept: await a.files.keep(bytes) });
    return out;
  } finally {
    await a.files.discard(archive.kept.sha256);
  }
}

async function bringOne(a: App, sittingId: string, f: Arrived, students: readonly Student[], person: Person): Promise<Brought> {
  // Whoever brings the file may have said whose it is; else its name says it.
  const student = students.find((s) => s.id === f.student) ?? matchStudent(f.name, students)?.student ?? null;
  const step = stepOf(f.name);
  const scan = await a.db.transaction(async (q: Queries) => {
    await q.run(sql`insert into stored_file (sha256, size_bytes) values (${f.kept.sha256}, ${f.kept.size}) on conflict do nothing`);
    const same = await q.any(
      Existing,
      sql`select id, file_name from scan where sitting_id = ${sittingId} and sha256 = ${f.kept.sha256} limit 1`,
    );
    if (same.length) return { duplicate: same[0].file_name, id: same[0].id };
    let attemptId: number | null = null;
    let version = 1;
    if (student) {
      attemptId = (
        await q.one(
          IdRow,
          sql`insert into attempt (sitting_id, student_id) values (${sittingId}, ${student.id}) on conflict (sitting_id, student_id) do update set student_id = excluded.student_id returning id`,
        )
      ).id;
      version = (
        await q.one(Next, sql`select coalesce(max(version), 0) + 1 as version from scan where attempt_id = ${attemptId} and step = ${step}`)
      ).version;
    }
    const { id } = await q.one(
      IdRow,
      sql`insert into scan (sitting_id, attempt_id, file_name, sha256, version, brought_by, state, step) values (${sittingId}, ${attemptId}, ${f.name}, ${f.kept.sha256}, ${version}, ${person.id}, 'arrived', ${step}) returning id`,
    );
    await audit(q, person.id, 'scan.bring', `scan ${id}`);
    return { duplicate: null, id };
  });
  if (scan.duplicate !== null)
    return {
      fileName: f.name,
      scanId: scan.id,
      student: student?.name ?? null,
      outcome: 'duplicate',
      message: `${f.name} is already here as ${scan.duplicate}; it was not added again.`,
    };
  if (!student)
    return {
      fileName: f.name,
      scanId: scan.id,
      student: null,
      outcome: 'unmatched',
      message: `${f.name} names no student: expected a number (H07), a bench (B2-04) or a full name in the file name. Choose the student in the list; the scan is kept.`,
    };
  a.jobs.add(scan.id);
  return { fileName: f.name, scanId: scan.id, student: student.name, outcome: 'matched', message: `${f.name} goes to ${student.name}.` };
}

/** Gives a scan that matched no one to a student and starts measuring. */
export async function assignScan(a: App, scanId: number, studentId: string, person: Person): Promise<void> {
  await a.db.transaction(async (q: Queries) => {
    const { id } = await q.one(
      IdRow,
      sql`insert into attempt (sitting_id, student_id) select sitting_id, ${studentId} from scan where id = ${scanId} and attempt_id is null on conflict (sitting_id, student_id) do update set student_id = excluded.student_id returning id`,
    );
    const { version } = await q.one(
      Next,
      sql`select coalesce(max(version), 0) + 1 as version from scan where attempt_id = ${id} and step = (select step from scan where id = ${scanId})`,
    );
    await q.run(sql`update scan set attempt_id = ${id}, version = ${version}, state = 'arrived' where id = ${scanId}`);
    await audit(q, person.id, 'scan.assign', `scan ${scanId} to ${studentId}`);
  });
  a.jobs.add(scanId);
}
