import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import type { APIContext, APIRoute } from 'astro';
import * as v from 'valibot';
import { unitOf } from '#core/catalogue/catalogue.ts';
import type { Stat } from '#core/catalogue/terms.ts';
import type { MasterDescription } from '#core/master/master.ts';
import { FILE_LIMITS } from '#core/scan/limits.ts';
import { decideAccess } from '#server/access/gate.ts';
import type { Person, Role } from '#server/access/table.ts';
import { hashPassword } from '#server/account/sign-in.ts';
import { SignInThrottle } from '#server/account/throttle.ts';
import type { App } from '#server/app.ts';
import { vouch } from '#server/audit/chain.ts';
import { Records } from '#server/audit/records.ts';
import { migrate } from '#server/database/migrate.ts';
import { PARSERS } from '#server/database/parsers.ts';
import { type Database, databaseOver, sql } from '#server/database/port.ts';
import { Refused } from '#server/errors.ts';
import { adoptMeasurement } from '#server/grading/measurement.ts';
import { checkOrigin, refusal } from '#server/http.ts';
import { Pulse } from '#server/pulse.ts';
import { FileStore } from '#server/scans/files.ts';
import { SQUARE_MARGIN } from './bench-cavity.ts';
import { RUBRIC } from './small-rubric.ts';

export { RUBRIC, SOUND } from './small-rubric.ts';

/** An empty database of its own, in memory; from the build's template when there is one. */
export async function memoryDatabase(): Promise<Database> {
  const template = 'dist/database-template.tar.gz';
  const pg = await PGlite.create({
    parsers: PARSERS,
    ...(existsSync(template) ? { loadDataDir: new Blob([readFileSync(template)]) } : {}),
  });
  return databaseOver(async (kind, text, parameters) => {
    if (kind === 'exec') await pg.exec(text);
    else if (kind === 'close') await pg.close();
    return kind === 'query' ? (await pg.query(text, parameters)).rows : [];
  });
}

const somebody = (id: string, name: string, role: Role) => ({ id, name, roles: { c1: [role] } }) as const;
export const PEOPLE = {
  maren: somebody('D1', 'Maren Holt', 'director'),
  ines: somebody('I2', 'Ines Caldera', 'instructor'),
  oke: somebody('I3', 'Oke Brandvik', 'instructor'),
  piet: somebody('A1', 'Piet Lorne', 'assistant'),
  greta: somebody('H07', 'Greta Pohl', 'student'),
  hugo: somebody('H08', 'Hugo Lind', 'student'),
} as const satisfies Record<string, Person>;

/** An instructor of another course, who has no part in this one. */
export const STRANGER: Person = { id: 'I9', name: 'Sten Marrow', roles: { c2: ['instructor'] } };

const Id = v.object({ id: v.number() });

export interface School {
  readonly app: App;
  /** Scans that were handed to the measuring queue. */
  readonly queued: number[];
  /** Calls an endpoint through the gate as a person (null: signed out) and returns status and answer. */
  call(
    address: string,
    who: Person | null,
    params: Record<string, string>,
    payload?: unknown,
    headers?: Record<string, string>,
    method?: string,
  ): Promise<{ status: number; answer: never; headers: Headers }>;
  /** A scan with that content in week 1's tray, in the given state. */
  arrived(
    student: Person,
    content: string,
    as?: { state?: string; step?: string; version?: number; sitting?: string },
  ): Promise<{ id: number; attempt: number; sha256: string }>;
  /** A scan with its readings, as if it had been measured. */
  measured(
    student: Person,
    readings: readonly { name: string; zone?: string; stat: string; value: number | null; U?: number; reason?: string }[],
    step?: string,
  ): Promise<number>;
  close(): Promise<void>;
}

/** A small school on a database in memory: people, one exercise, two sittings. Endpoints find it as the application. */
export async function openSchool(): Promise<School> {
  const db = await memoryDatabase();
  await migrate(db, 'src/migrations');
  const folder = mkdtempSync(path.join(tmpdir(), 'veritor-school-'));
  const files = new FileStore(path.join(folder, 'files'));
  const hash = await hashPassword('harbour-lane');
  await db.run(sql`insert into course (id, name, term) values ('c1', 'Practice 2', 'autumn'), ('c2', 'Another course', 'autumn')`);
  for (const [name, p] of [...Object.entries<Person>(PEOPLE), ['sten', STRANGER] as const]) {
    await db.run(sql`insert into person (id, name, sign_in_name, password_hash) values (${p.id}, ${p.name}, ${name}, ${hash})`);
    for (const [course, roles] of Object.entries(p.roles))
      for (const role of roles)
        await db.run(
          sql`insert into enrolment (course_id, person_id, role, bench) values (${course}, ${p.id}, ${role}, ${role === 'student' ? `B1-${p.id.slice(1)}` : null})`,
        );
  }
  const description: MasterDescription = {
    name: 'Tooth 16',
    tooth: '16',
    axis: [0, 0, 1],
    mesial: [1, 0, 0],
    facial: [0, -1, 0],
    cusps: [{ name: 'ML', role: 'functional', at: [2, 2, 7] }],
    grooves: [],
    ridges: { mesial: [], distal: [], oblique: [] },
    contacts: { mesial: null, distal: null },
    gingivalMargin: SQUARE_MARGIN,
  };
  await db.run(sql`insert into master (id, name, tooth, folder, description) values ('m', 'Tooth 16', '16', 'nowhere', ${description})`);
  await db.run(sql`insert into rubric_version (rubric_id, version, body) values ('small', 1, ${RUBRIC})`);
  await db.run(
    sql`insert into exercise (id, course_id, title, tooth, kind, master_id, rubric_version_id) values ('crown-16', 'c1', 'Crown on 16', '16', 'crown', 'm', 1)`,
  );
  await db.run(
    sql`insert into sitting (id, exercise_id, title, held_on) values ('w1', 'crown-16', 'Week 1', '2026-10-19'), ('w2', 'crown-16', 'Week 2', '2026-10-26')`,
  );
  const queued: number[] = [];
  const jobs = {
    add: (id: number) => queued.push(id),
    cancel: async () => undefined,
    waiting: 0,
    pair: async () => null,
    masterPicture: async () => null,
    progressOf: () => null,
  };
  const pulse = new Pulse();
  const records = await Records.open(db, folder, () => pulse.bump());
  const scanner = { onTheWay: () => 0, start: async () => null };
  const children = { limits: FILE_LIMITS, run: () => Promise.reject(new Error('this school has no processes')) };
  const app: App = {
    db,
    records,
    files,
    children,
    jobs,
    scanner,
    redraw: null,
    throttle: new SignInThrottle(),
    pulse,
    dataFolder: folder,
    standardsFolder: 'data/standards',
  };
  (globalThis as { veritor?: Promise<App> }).veritor = Promise.resolve(app);
  let scans = 0;
  const arrived: School['arrived'] = async (student, content, { state = 'arrived', step = 'final', version = 1, sitting = 'w1' } = {}) => {
    const kept = await files.keep(new TextEncoder().encode(content));
    await db.run(sql`insert into stored_file (sha256, size_bytes) values (${kept.sha256}, ${kept.size}) on conflict do nothing`);
    return records.act(async (q, note) => {
      const there = await q.maybeOne(
        Id,
        sql`select id from attempt where sitting_id = ${sitting} and student_id = ${student.id} and number = 1`,
      );
      const attempt =
        there ?? (await q.one(Id, sql`insert into attempt (sitting_id, student_id) values (${sitting}, ${student.id}) returning id`));
      const { id } = await q.one(
        Id,
        sql`insert into scan (sitting_id, attempt_id, file_name, sha256, version, brought_by, state, step) values (${sitting}, ${attempt.id}, ${`${student.id}.stl`}, ${kept.sha256}, ${version}, 'A1', ${state}, ${step}) returning id`,
      );
      const rows = [...(there ? [] : await vouch(q, 'attempt', attempt.id)), ...(await vouch(q, 'scan', id))];
      await note({ person: 'A1', action: 'scan.bring', subject: `scan ${id}`, rows });
      return { id, attempt: attempt.id, sha256: kept.sha256 };
    });
  };
  return {
    app,
    queued,
    async call(address, who, params, payload, headers = {}, method = payload === undefined ? 'GET' : 'POST') {
      const modules = import.meta.glob<Record<string, APIRoute>>('../../src/pages/api/**/*.ts');
      const form = payload instanceof FormData;
      const request = new Request('http://school.test/api', {
        method,
        headers: { host: 'school.test', ...(form || payload === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
        ...(payload === undefined ? {} : { body: form ? payload : JSON.stringify(payload) }),
      });
      const locals = { person: who, subject: null as Awaited<ReturnType<typeof decideAccess>> };
      let response: Response;
      try {
        checkOrigin(request);
        locals.subject = await decideAccess(db, who, address, request.method, params);
        const module = await modules[`../../src/pages${address}.ts`]();
        const context = { params, request, locals, url: new URL(request.url), routePattern: address, clientAddress: '127.0.0.1' };
        response = await module[request.method](context as unknown as APIContext);
      } catch (e) {
        if (!(e instanceof Refused)) throw e;
        response = refusal(e);
      }
      const text = await response.text();
      return { status: response.status, answer: (text.startsWith('{') ? JSON.parse(text) : text) as never, headers: response.headers };
    },
    arrived,
    async measured(student, readings, step = 'final') {
      scans++;
      const scan = await arrived(student, `scan ${scans}`, { state: 'measured', step, version: scans });
      const alignment = { rms: 0.02, stableArea: 400, pointError: 0.004 };
      await records.act(async (q, note) => {
        const m = await q.one(
          Id,
          sql`insert into measurement (scan_id, scan_sha256, kind, duration_ms, peak_mb, alignment, curves, display_sha256, profiles_sha256, picture_sha256) values (${scan.id}, ${scan.sha256}, 'crown', 1, 1, ${alignment}, '{}', ${scan.sha256}, ${scan.sha256}, ${scan.sha256}) returning id`,
        );
        for (const r of readings)
          await q.run(
            sql`insert into reading (measurement_id, name, zone, stat, unit, value, u, samples, reason) values (${m.id}, ${r.name}, ${r.zone ?? null}, ${r.stat}, ${unitOf(r.name, r.stat as Stat)}, ${r.value}, ${r.value === null ? null : (r.U ?? 0.03)}, 10, ${r.value === null ? (r.reason ?? 'no-wall') : null})`,
          );
        await note({ person: null, action: 'scan.measured', subject: `scan ${scan.id}`, rows: await vouch(q, 'measurement', m.id) });
        if (step === 'final') await adoptMeasurement(q, note, scan.attempt, m.id);
      });
      return scan.attempt;
    },
    async close() {
      await db.close();
      rmSync(folder, { recursive: true, force: true });
      (globalThis as { veritor?: Promise<App> }).veritor = undefined;
    },
  };
}
