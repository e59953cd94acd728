import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import type { APIContext, APIRoute } from 'astro';
import * as v from 'valibot';
import type { MasterDescription } from '#core/master/master.ts';
import type { Rubric } from '#core/score/rubric.ts';
import { hashPassword, type Person } from '#server/access/sign-in.ts';
import type { App } from '#server/app.ts';
import { type Database, databaseOver, sql } from '#server/database/database.ts';
import { migrate } from '#server/database/migrate.ts';
import { PARSERS } from '#server/database/parsers.ts';
import { FileStore } from '#server/store/files.ts';
import { SQUARE_MARGIN } from './bench-cavity.ts';

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

export const PEOPLE = {
  maren: { id: 'D1', role: 'director', name: 'Maren Holt' },
  ines: { id: 'I2', role: 'instructor', name: 'Ines Caldera' },
  piet: { id: 'A1', role: 'assistant', name: 'Piet Lorne' },
  greta: { id: 'H07', role: 'student', name: 'Greta Pohl' },
  hugo: { id: 'H08', role: 'student', name: 'Hugo Lind' },
} as const satisfies Record<string, Person>;

const Id = v.object({ id: v.number() });

/** Two criteria and a critical error: enough to grade by. */
export const RUBRIC: Rubric = {
  format: 'veritor-rubric/1',
  id: 'small',
  name: 'Small rubric',
  standard: 'zirconia-posterior',
  levels: [
    { level: 3, word: 'secure', share: 1 },
    { level: 2, word: 'sound', share: 0.8 },
    { level: 1, word: 'marginal', share: 0.5 },
    { level: 0, word: 'not yet', share: 0 },
  ],
  passMark: 60,
  criteria: [
    {
      id: 'width',
      title: 'Margin width',
      weight: 1,
      why: 'Porcelain needs its room.',
      targets: [
        {
          reading: 'margin.width',
          zone: 'facial',
          stat: 'median',
          band: { lo: 0.4, hi: 0.8 },
          fair: { lo: 0.3, hi: 1 },
          poor: { lo: 0.2, hi: 1.2 },
        },
      ],
    },
    {
      id: 'taper',
      title: 'Convergence',
      weight: 3,
      why: 'Holds the crown.',
      targets: [
        {
          reading: 'toc.mean',
          zone: null,
          stat: 'mean',
          band: { lo: 6, hi: 12 },
          fair: { lo: 4, hi: 16 },
          poor: { lo: 2, hi: 20 },
        },
      ],
    },
  ],
  critical: [
    {
      id: 'neighbour',
      title: 'Neighbour damaged',
      reading: 'neighbour.mesial',
      zone: null,
      stat: 'max',
      allowed: { lo: null, hi: 0.2 },
      effect: { kind: 'fail' },
    },
  ],
} as unknown as Rubric;

export interface School {
  readonly app: App;
  /** Scans that were handed to the measuring queue. */
  readonly queued: number[];
  /** Calls an endpoint as somebody (null: signed out) would, and gives status and answer. */
  call(
    route: APIRoute,
    who: Person | null,
    params: Record<string, string>,
    payload?: unknown,
    headers?: Record<string, string>,
  ): Promise<{ status: number; answer: never }>;
  /** A scan with that content in week 1's tray, in whatever state. */
  arrived(
    student: Person,
    content: string,
    as?: { state?: string; step?: string; version?: number },
  ): Promise<{ id: number; attempt: number; sha256: string }>;
  /** A scan with its readings, as if it had been measured. */
  measured(
    student: Person,
    readings: readonly { name: string; zone?: string; stat: string; value: number | null; U?: number }[],
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
  for (const [name, p] of Object.entries(PEOPLE))
    await db.run(
      sql`insert into person (id, role, name, sign_in_name, password_hash, bench) values (${p.id}, ${p.role}, ${p.name}, ${name}, ${hash}, ${p.role === 'student' ? `B1-${p.id.slice(1)}` : null})`,
    );
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
    sql`insert into exercise (id, title, tooth, kind, master_id, rubric_version_id) values ('crown-16', 'Crown on 16', '16', 'crown', 'm', 1)`,
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
    progressOf: () => null,
  };
  const scanner = { onTheWay: () => 0, start: async () => null };
  const app = { db, files, jobs, scanner, dataFolder: folder } as unknown as App;
  (globalThis as { veritor?: Promise<App> }).veritor = Promise.resolve(app);
  let scans = 0;
  const arrived: School['arrived'] = async (student, content, { state = 'arrived', step = 'final', version = 1 } = {}) => {
    const kept = await files.keep(new TextEncoder().encode(content));
    await db.run(sql`insert into stored_file (sha256, size_bytes) values (${kept.sha256}, ${kept.size}) on conflict do nothing`);
    const attempt = await db.one(
      Id,
      sql`insert into attempt (sitting_id, student_id) values ('w1', ${student.id}) on conflict (sitting_id, student_id) do update set student_id = excluded.student_id returning id`,
    );
    const { id } = await db.one(
      Id,
      sql`insert into scan (sitting_id, attempt_id, file_name, sha256, version, brought_by, state, step) values ('w1', ${attempt.id}, ${`${student.id}.stl`}, ${kept.sha256}, ${version}, 'A1', ${state}, ${step}) returning id`,
    );
    return { id, attempt: attempt.id, sha256: kept.sha256 };
  };
  return {
    app,
    queued,
    async call(route, who, params, payload, headers = {}) {
      const form = payload instanceof FormData;
      const request = new Request('http://school.test/api', {
        method: payload === undefined ? 'GET' : 'POST',
        headers: { host: 'school.test', ...(form || payload === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
        ...(payload === undefined ? {} : { body: form ? payload : JSON.stringify(payload) }),
      });
      const response = await route({ params, request, locals: { person: who }, url: new URL(request.url) } as unknown as APIContext);
      const text = await response.text();
      return { status: response.status, answer: (text.startsWith('{') ? JSON.parse(text) : text) as never };
    },
    arrived,
    async measured(student, readings, step = 'final') {
      scans++;
      const scan = await arrived(student, `scan ${scans}`, { state: 'measured', step, version: scans });
      const alignment = { rms: 0.02, stableArea: 400, pointError: 0.004 };
      const m = await db.one(
        Id,
        sql`insert into measurement (scan_id, duration_ms, peak_mb, alignment, curves, display_sha256, profiles_sha256, picture_sha256) values (${scan.id}, 1, 1, ${alignment}, '{}', ${scan.sha256}, ${scan.sha256}, ${scan.sha256}) returning id`,
      );
      for (const r of readings)
        await db.run(
          sql`insert into reading (measurement_id, name, zone, stat, unit, value, u, samples, reason) values (${m.id}, ${r.name}, ${r.zone ?? null}, ${r.stat}, 'mm', ${r.value}, ${r.value === null ? null : (r.U ?? 0.03)}, 10, ${r.value === null ? 'no-wall' : null})`,
        );
      return scan.attempt;
    },
    async close() {
      await db.close();
      rmSync(folder, { recursive: true, force: true });
      (globalThis as { veritor?: Promise<App> }).veritor = undefined;
    },
  };
}
