import { readFile } from 'node:fs/promises';
import * as v from 'valibot';
import { RubricFile } from '#contract/rubric.ts';
import { KIND_NAMES, type KindName } from '#core/kinds/kinds.ts';
import { CORE_VERSION } from '#core/version.ts';
import { vouch } from '../audit/chain.ts';
import type { Records } from '../audit/records.ts';
import { ChildEnded, type ChildPool, TaskFault, unreadable } from '../children/pool.ts';
import type { Measurement } from '../children/tasks.ts';
import { type Database, sql } from '../database/port.ts';
import { adoptMeasurement, insertReadings } from '../grading/measurement.ts';
import { bandsOf } from '../view/bands.ts';
import type { FileStore } from './files.ts';

const Task = v.object({
  id: v.number(),
  sha256: v.string(),
  attempt_id: v.nullable(v.number()),
  step: v.string(),
  kind: v.picklist(KIND_NAMES as [KindName, ...KindName[]]),
  master_sha256: v.nullable(v.string()),
  rubric: RubricFile,
  hand_pose: v.nullable(v.array(v.number())),
  too_large_by: v.nullable(v.number()),
  exercise: v.string(),
  beside: v.nullable(
    v.object({ exercise: v.string(), kind: v.picklist(KIND_NAMES as [KindName, ...KindName[]]), master_sha256: v.nullable(v.string()) }),
  ),
});
type Task = v.InferOutput<typeof Task>;
/** The other abutment's master, by its content, and its kind of preparation. */
interface Beside {
  readonly master: string;
  readonly kind: KindName;
}
const MasterFile = v.object({ exercise: v.string(), master_sha256: v.nullable(v.string()) });
const Files = v.object({ sha256: v.string(), master_sha256: v.nullable(v.string()) });
const Id = v.object({ id: v.number() });
const Tries = v.object({ tries: v.number() });

/** Progress of measuring a scan: the stage's name and the share done of the whole. */
export interface Progress {
  readonly stage: string;
  readonly share: number;
}

/** Times that a file may bring a child process down before it is put aside. */
const TRIES_MOST = 2;

/** Queue of scans to be measured, in order of arrival. Scans that were being measured when the server stopped start again. */
export class JobQueue {
  private readonly running = new Map<number, AbortController>();
  private readonly again = new Set<number>();
  /** Progress stays out of the database, since it changes many times per second and matters only while measuring. */
  private readonly progress = new Map<number, Progress>();

  constructor(
    private readonly db: Database,
    private readonly records: Records,
    private readonly files: FileStore,
    private readonly children: ChildPool,
    private readonly onProgress: () => void = () => undefined,
    /** Makes a master that has no files yet, where that is possible. */
    private readonly makeMaster: (exercise: string) => Promise<string | null> = async () => null,
  ) {}

  async resume(): Promise<void> {
    await this.db.run(sql`update scan set state = 'arrived' where state = 'measuring'`);
    for (const { id } of await this.db.any(
      Id,
      sql`select id from scan where state = 'arrived' and attempt_id is not null and removed_at is null order by id`,
    ))
      this.add(id);
  }

  add(scanId: number): void {
    const before = this.running.get(scanId);
    if (before) {
      // A scan cancelled and retried at once waits until the cancelled task has ended.
      if (before.signal.aborted) this.again.add(scanId);
      return;
    }
    const abort = new AbortController();
    this.running.set(scanId, abort);
    void this.measure(scanId, abort.signal).finally(() => {
      this.running.delete(scanId);
      this.onProgress();
      if (this.again.delete(scanId)) this.add(scanId);
    });
  }

  async cancel(scanId: number): Promise<void> {
    this.again.delete(scanId);
    this.running.get(scanId)?.abort();
    await this.db.run(
      sql`update scan set state = 'cancelled', fault_text = 'Measuring was cancelled. Choose “Try again” to measure it after all.' where id = ${scanId} and state in ('arrived', 'measuring')`,
    );
    this.onProgress();
  }

  /** Null while it waits, and when it is done. */
  progressOf(scanId: number): Progress | null {
    return this.progress.get(scanId) ?? null;
  }

  get waiting(): number {
    return this.running.size;
  }

  stop(): void {
    this.again.clear();
    for (const a of this.running.values()) a.abort();
  }

  /** Scan and master for setting points by hand, or null when there is no such scan. */
  async pair(scanId: number): Promise<Uint8Array | null> {
    const f = await this.db.maybeOne(
      Files,
      sql`select s.sha256, m.file_sha256 as master_sha256 from scan s join sitting t on t.id = s.sitting_id join exercise e on e.id = t.exercise_id join master m on m.id = e.master_id where s.id = ${scanId}`,
    );
    const master = f?.master_sha256;
    if (!f || !master) return null;
    return this.files.withFolder(async (outFolder) => {
      const { file } = await this.children.run({
        kind: 'pair',
        scanFile: this.files.pathOf(f.sha256),
        masterFile: this.files.pathOf(master),
        outFolder,
      });
      return readFile(file);
    });
  }

  /** The master of an attempt's exercise as a picture, or null when its files are gone. */
  async masterPicture(attempt: number): Promise<Uint8Array | null> {
    const f = await this.db.maybeOne(
      MasterFile,
      sql`select e.id as exercise, m.file_sha256 as master_sha256 from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id join master m on m.id = e.master_id where a.id = ${attempt}`,
    );
    const master = f && (f.master_sha256 ?? (await this.makeMaster(f.exercise)));
    if (!master) return null;
    return this.files.withFolder(async (outFolder) => {
      const { file } = await this.children.run({ kind: 'master', masterFile: this.files.pathOf(master), outFolder });
      return readFile(file);
    });
  }

  private async measure(scanId: number, signal: AbortSignal): Promise<void> {
    try {
      const task = await this.db.one(
        Task,
        sql`select s.id, s.sha256, s.attempt_id, s.step, e.kind, m.file_sha256 as master_sha256, r.body as rubric, s.hand_pose, s.too_large_by, e.id as exercise,
              (select jsonb_build_object('exercise', o.id, 'kind', o.kind, 'master_sha256', n.file_sha256) from exercise o join master n on n.id = o.master_id where o.id = e.abutment) as beside
            from scan s join sitting t on t.id = s.sitting_id join exercise e on e.id = t.exercise_id join master m on m.id = e.master_id
            join rubric_version r on r.id = e.rubric_version_id where s.id = ${scanId}`,
      );
      const master = task.master_sha256 ?? (await this.makeMaster(task.exercise));
      if (master === null)
        return await this.fail(scanId, 'master.json', 'The files of this exercise’s master are gone. Tell the course director.');
      const besideMaster = task.beside && (task.beside.master_sha256 ?? (await this.makeMaster(task.beside.exercise)));
      if (task.beside && !besideMaster)
        return await this.fail(scanId, 'master.json', 'The files of the other abutment’s master are gone. Tell the course director.');
      const beside = task.beside && besideMaster ? { master: besideMaster, kind: task.beside.kind } : null;
      await this.files.withFolder(async (outFolder) => {
        const measured = await this.inChild(task, master, beside, outFolder, signal);
        if (measured && !signal.aborted) await this.keep(task, master, beside, measured);
      });
    } catch (e) {
      if (signal.aborted || (e as Error).name === 'AbortError') return;
      if (e instanceof TaskFault) return await this.fail(scanId, e.code, e.message);
      console.error(e);
      await this.fail(scanId, 'internal', 'Measuring stopped unexpectedly. The scan is kept: choose “Try again”.').catch(() => undefined);
    } finally {
      this.progress.delete(scanId);
    }
  }

  /** Measures in a child process; one that the file brings down is tried again once, then the file is put aside. */
  private async inChild(
    task: Task,
    master: string,
    beside: Beside | null,
    outFolder: string,
    signal: AbortSignal,
  ): Promise<Measurement | null> {
    const order = {
      kind: 'measure',
      scanFile: this.files.pathOf(task.sha256),
      masterFile: this.files.pathOf(master),
      preparation: task.kind,
      bands: bandsOf(task.rubric),
      handPose: task.hand_pose,
      tooLargeBy: task.too_large_by ?? 1,
      abutment: beside && { masterFile: this.files.pathOf(beside.master), preparation: beside.kind },
      outFolder,
    } as const;
    for (;;) {
      // Counted before the try, so that a file that brings the machine down is not tried for ever.
      const { tries } = await this.db.one(Tries, sql`update scan set tries = tries + 1 where id = ${task.id} returning tries`);
      try {
        return await this.children.run(order, {
          signal,
          onProgress: (stage, share) => {
            if (signal.aborted) return;
            if (!this.progress.has(task.id))
              void this.db.run(sql`update scan set state = 'measuring' where id = ${task.id} and state = 'arrived'`).catch(() => undefined);
            this.progress.set(task.id, { stage, share: shareOfAll(stage, share) });
            this.onProgress();
          },
        });
      } catch (e) {
        if (!(e instanceof ChildEnded)) throw e;
        if (tries < TRIES_MOST) continue;
        const fault = unreadable(e.message);
        await this.fail(task.id, fault.code, fault.message, true);
        return null;
      }
    }
  }

  /** An earlier measurement stays valid: the scan counts as measured, with the fault beside it. */
  private async fail(scanId: number, code: string, text: string, isQuarantined = false): Promise<void> {
    await this.records.act(async (q, note) => {
      await q.run(
        sql`update scan set state = case when exists (select 1 from measurement where scan_id = ${scanId}) then 'measured' else 'failed' end,
              fault_code = ${code}, fault_text = ${text}, is_quarantined = ${isQuarantined} where id = ${scanId} and state in ('arrived', 'measuring')`,
      );
      await note({ person: null, action: isQuarantined ? 'scan.quarantine' : 'scan.fail', subject: `scan ${scanId}`, details: { code } });
    });
  }

  /** Stores a measurement with its readings in one transaction. */
  private async keep(task: Task, master: string, beside: Beside | null, r: Measurement): Promise<void> {
    const kept = await Promise.all([r.display, r.profiles, r.picture].map((f) => this.files.keepFile(f)));
    await this.records.act(async (q, note) => {
      for (const k of kept)
        await q.run(sql`insert into stored_file (sha256, size_bytes) values (${k.sha256}, ${k.size}) on conflict do nothing`);
      const { id } = await q.one(
        Id,
        sql`insert into measurement (scan_id, scan_sha256, master_sha256, kind, hand_pose, core_version, duration_ms, peak_mb, alignment, curves, display_sha256, profiles_sha256, picture_sha256)
            values (${task.id}, ${task.sha256}, ${master}, ${task.kind}, ${task.hand_pose}, ${CORE_VERSION}, ${r.durationMs}, ${r.peakMb}, ${r.alignment}, ${r.curves}, ${kept[0].sha256}, ${kept[1].sha256}, ${kept[2].sha256})
            returning id`,
      );
      await q.run(
        sql`insert into measured_on (measurement_id, master_id) select ${id}, m.id from exercise e join master m on m.id = e.master_id where e.id = ${task.exercise} and (m.file_sha256 is null or m.file_sha256 = ${master})`,
      );
      if (beside)
        await q.run(
          sql`insert into measured_beside (measurement_id, master_sha256, kind) values (${id}, ${beside.master}, ${beside.kind})`,
        );
      await insertReadings(q, id, r.readings);
      await q.run(
        sql`update scan set state = 'measured', fault_code = null, fault_text = null, tries = 0 where id = ${task.id} and state in ('arrived', 'measuring')`,
      );
      const details = { measurement: id, readings: r.readings.length, coreVersion: CORE_VERSION, ...(beside ? { beside } : {}) };
      await note({ person: null, action: 'scan.measured', subject: `scan ${task.id}`, details, rows: await vouch(q, 'measurement', id) });
      if (task.attempt_id !== null && task.step === 'final') await adoptMeasurement(q, note, task.attempt_id, id);
    });
  }
}

const ORDER = ['scan', 'align', 'segment', 'measure'];
const shareOfAll = (stage: string, share: number): number => Math.min(1, (Math.max(0, ORDER.indexOf(stage)) + share) / ORDER.length);
