import path from 'node:path';
import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import * as v from 'valibot';
import { RubricFile } from '#contract/rubric.ts';
import { KINDS } from '#core/pipeline.ts';
import { type Database, type Queries, sql } from '../database/database.ts';
import { bandsOf } from '../records/bands.ts';
import type { FileStore } from '../store/files.ts';
import type { MeasureResult, MeasureTask } from './worker.ts';

const Task = v.object({
  id: v.number(),
  sha256: v.string(),
  kind: v.picklist(KINDS),
  folder: v.string(),
  rubric: RubricFile,
  hand_pose: v.nullable(v.array(v.number())),
});
const Files = v.object({ sha256: v.string(), folder: v.string() });
const Id = v.object({ id: v.number() });

/** How far the measuring of a scan has come: its stage's name, and the share of the whole that is done. */
export interface Progress {
  readonly stage: string;
  readonly share: number;
}

/** Scans waiting to be measured: two at a time, in order of arrival; what was under way when the server stopped starts again. */
export class JobQueue {
  private readonly pool: Piscina;
  private readonly running = new Map<number, AbortController>();
  private readonly again = new Set<number>();
  /** Kept here and not in the database: it is of use while the scan is measured, and changes many times a second. */
  private readonly told = new Map<number, Progress>();

  constructor(
    private readonly db: Database,
    private readonly files: FileStore,
    private readonly dataFolder: string,
    workerFile: string,
  ) {
    this.pool = new Piscina({ filename: workerFile, minThreads: 0, maxThreads: 2, idleTimeout: 60_000 });
  }

  async resume(): Promise<void> {
    await this.db.run(sql`update scan set state = 'arrived' where state = 'measuring'`);
    for (const { id } of await this.db.any(Id, sql`select id from scan where state = 'arrived' and attempt_id is not null order by id`))
      this.add(id);
  }

  add(scanId: number): void {
    const before = this.running.get(scanId);
    if (before) {
      // Cancelled and tried again at once: its turn comes when the cancelled one has let go.
      if (before.signal.aborted) this.again.add(scanId);
      return;
    }
    const abort = new AbortController();
    this.running.set(scanId, abort);
    void this.measure(scanId, abort.signal).finally(() => {
      this.running.delete(scanId);
      if (this.again.delete(scanId)) this.add(scanId);
    });
  }

  async cancel(scanId: number): Promise<void> {
    this.again.delete(scanId);
    this.running.get(scanId)?.abort();
    await this.db.run(
      sql`update scan set state = 'cancelled', fault_text = 'Measuring was cancelled. Choose “Try again” to measure it after all.' where id = ${scanId} and state in ('arrived', 'measuring')`,
    );
  }

  /** Null while it waits, and when it is done. */
  progressOf(scanId: number): Progress | null {
    return this.told.get(scanId) ?? null;
  }

  get waiting(): number {
    return this.running.size;
  }

  async stop(): Promise<void> {
    this.again.clear();
    for (const a of this.running.values()) a.abort();
    await this.pool.destroy();
  }

  /** Scan and master for setting points by hand, or null when there is no such scan. */
  async pair(scanId: number): Promise<Uint8Array | null> {
    const f = await this.db.maybeOne(
      Files,
      sql`select s.sha256, m.folder from scan s join sitting t on t.id = s.sitting_id join exercise e on e.id = t.exercise_id join master m on m.id = e.master_id where s.id = ${scanId}`,
    );
    if (!f) return null;
    const task = { scanFile: this.files.pathOf(f.sha256), masterFolder: path.resolve(this.dataFolder, f.folder) };
    return (await this.pool.run(task, { name: 'pairMeshes' })) as Uint8Array;
  }

  private async measure(scanId: number, signal: AbortSignal): Promise<void> {
    const { port1, port2 } = new MessageChannel();
    try {
      const task = await this.db.one(
        Task,
        sql`select s.id, s.sha256, e.kind, m.folder, r.body as rubric, s.hand_pose from scan s join sitting t on t.id = s.sitting_id join exercise e on e.id = t.exercise_id
            join master m on m.id = e.master_id join rubric_version r on r.id = e.rubric_version_id where s.id = ${scanId}`,
      );
      port1.on('message', ({ stage, share }: { stage: string; share: number }) => {
        if (signal.aborted) return;
        if (!this.told.has(scanId))
          void this.db.run(sql`update scan set state = 'measuring' where id = ${scanId} and state = 'arrived'`).catch(() => undefined);
        this.told.set(scanId, { stage, share: shareOfAll(stage, share) });
      });
      const message: MeasureTask = {
        scanFile: this.files.pathOf(task.sha256),
        masterFolder: path.resolve(this.dataFolder, task.folder),
        kind: task.kind,
        bands: bandsOf(task.rubric),
        handPose: task.hand_pose,
        progress: port2,
      };
      const result = (await this.pool.run(message, { transferList: [port2], signal })) as MeasureResult;
      if (signal.aborted) return;
      if (!result.ok)
        await this.db.run(
          sql`update scan set state = 'failed', fault_code = ${result.code}, fault_text = ${result.message} where id = ${scanId}`,
        );
      else await keepResult(this.db, this.files, scanId, result);
    } catch (e) {
      if (signal.aborted || (e as Error).name === 'AbortError') return;
      const text = `Measuring stopped unexpectedly (${(e as Error).message}). The scan is kept: choose “Try again”.`;
      await this.db
        .run(sql`update scan set state = 'failed', fault_code = 'internal', fault_text = ${text} where id = ${scanId}`)
        .catch(() => undefined);
    } finally {
      port1.close();
      this.told.delete(scanId);
    }
  }
}

const ORDER = ['scan', 'align', 'segment', 'measure'];
const shareOfAll = (stage: string, share: number): number => Math.min(1, (Math.max(0, ORDER.indexOf(stage)) + share) / ORDER.length);

type Done = Extract<MeasureResult, { ok: true }>;

/** Readings written at one go: others' questions to the database wait no longer than for these. */
const AT_ONCE = 60;

/** Nothing of it is shown before the scan counts as measured, at the end; cut off in the middle it is measured again. */
async function keepResult(db: Database, files: FileStore, scanId: number, r: Done): Promise<void> {
  const kept = await Promise.all([r.display, r.profiles, r.picture].map((b) => files.keep(b)));
  const { id } = await db.transaction(async (q) => {
    for (const k of kept)
      await q.run(sql`insert into stored_file (sha256, size_bytes) values (${k.sha256}, ${k.size}) on conflict do nothing`);
    await q.run(sql`delete from reading where measurement_id in (select id from measurement where scan_id = ${scanId})`);
    return q.one(
      Id,
      sql`insert into measurement (scan_id, duration_ms, peak_mb, alignment, curves, display_sha256, profiles_sha256, picture_sha256)
          values (${scanId}, ${r.durationMs}, ${r.peakMb}, ${r.alignment}, ${r.curves}, ${kept[0].sha256}, ${kept[1].sha256}, ${kept[2].sha256})
          on conflict (scan_id) do update set duration_ms = excluded.duration_ms, peak_mb = excluded.peak_mb, alignment = excluded.alignment,
            curves = excluded.curves, display_sha256 = excluded.display_sha256, profiles_sha256 = excluded.profiles_sha256, picture_sha256 = excluded.picture_sha256
          returning id`,
    );
  });
  for (let i = 0; i < r.readings.length; i += AT_ONCE) await insertReadings(db, id, r.readings.slice(i, i + AT_ONCE));
  await db.transaction(async (q) => {
    await q.run(sql`update measurement set measured_at = now() where id = ${id}`);
    await q.run(
      sql`update scan set state = 'measured', fault_code = null, fault_text = null where id = ${scanId} and state in ('arrived', 'measuring')`,
    );
  });
}

async function insertReadings(q: Queries, measurementId: number, readings: Done['readings']): Promise<void> {
  const rows = readings.map((x) => ({
    ...x,
    u: x.U,
    azimuth_deg: x.at?.azimuth ?? null,
    point: x.at?.point ?? null,
    coverage_share: x.coverage,
  }));
  await q.run(
    sql`insert into reading (measurement_id, name, zone, stat, unit, value, u, azimuth_deg, point, coverage_share, samples, reason)
        select ${measurementId}, name, zone, stat, unit, value, u, azimuth_deg, point, coverage_share, samples, reason
        from json_to_recordset(${rows}::json) as x(name text, zone text, stat text, unit text, value float8, u float8, azimuth_deg float8, point jsonb, coverage_share float8, samples int, reason text)`,
  );
}
