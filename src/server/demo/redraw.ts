import * as v from 'valibot';
import { RubricFile } from '#contract/rubric.ts';
import { KIND_NAMES, type KindName } from '#core/kinds/kinds.ts';
import type { ChildPool } from '../children/pool.ts';
import { type Database, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { RedrawTask } from '../scanner/task.ts';
import type { FileStore } from '../scans/files.ts';
import { bandsOf } from '../view/bands.ts';

const Row = v.object({
  recipe: v.nullable(RedrawTask),
  kind: v.picklist(KIND_NAMES as [KindName, ...KindName[]]),
  rubric: RubricFile,
  exercise: v.string(),
});
const Master = v.object({ id: v.string(), file_sha256: v.nullable(v.string()) });

/** What cuts a simulated typodont again. */
export interface Cutter {
  again(task: RedrawTask): Promise<Uint8Array>;
  master(exercise: string): Promise<Uint8Array>;
}

/** Makes what the demo ships without: scans and pictures of the weeks before, and masters, each when it is first asked for. */
export class Redraw {
  private readonly running = new Map<string, Promise<unknown>>();

  constructor(
    private readonly db: Database,
    private readonly files: FileStore,
    private readonly children: Pick<ChildPool, 'run'>,
    private readonly cutter: Cutter,
  ) {}

  /** The same work is done once, however many ask for it. */
  private once<T>(key: string, work: () => Promise<T>): Promise<T> {
    const known = this.running.get(key) as Promise<T> | undefined;
    if (known) return known;
    const made = work().finally(() => this.running.delete(key));
    this.running.set(key, made);
    return made;
  }

  /** The exercise's master as a stored file; null when the exercise is not a simulated one. */
  master(exercise: string): Promise<string | null> {
    return this.once(`master ${exercise}`, async () => {
      const m = await this.db.maybeOne(
        Master,
        sql`select m.id, m.file_sha256 from exercise e join master m on m.id = e.master_id where e.id = ${exercise}`,
      );
      if (!m || m.file_sha256) return m?.file_sha256 ?? null;
      const kept = await this.files.keep(await this.cutter.master(exercise));
      await this.db.run(sql`insert into stored_file (sha256, size_bytes) values (${kept.sha256}, ${kept.size}) on conflict do nothing`);
      await this.db.run(sql`update master set file_sha256 = ${kept.sha256} where id = ${m.id} and file_sha256 is null`);
      return kept.sha256;
    });
  }

  /** Cuts a measurement's scan again, and draws it. */
  measurement(id: number): Promise<void> {
    return this.once(`measurement ${id}`, async () => {
      const row = await this.db.maybeOne(
        Row,
        sql`select s.recipe, m.kind, r.body as rubric, e.id as exercise from measurement m join scan s on s.id = m.scan_id join sitting t on t.id = s.sitting_id
            join exercise e on e.id = t.exercise_id join rubric_version r on r.id = e.rubric_version_id where m.id = ${id}`,
      );
      const master = row && (await this.master(row.exercise));
      if (!row?.recipe || !master)
        throw new Refused('not-there', 'The picture of this attempt is gone; its readings and its grade are here.');
      const scan = await this.files.keep(await this.cutter.again(row.recipe));
      await this.files.withFolder(async (outFolder) => {
        const r = await this.children.run(
          {
            kind: 'measure',
            scanFile: this.files.pathOf(scan.sha256),
            masterFile: this.files.pathOf(master),
            preparation: row.kind,
            bands: bandsOf(row.rubric),
            handPose: null,
            tooLargeBy: 1,
            abutment: null,
            outFolder,
          },
          { soon: true },
        );
        const kept = await Promise.all([r.display, r.profiles, r.picture].map((f) => this.files.keepFile(f)));
        await this.db.transaction(async (q) => {
          for (const k of [...kept, scan])
            await q.run(sql`insert into stored_file (sha256, size_bytes) values (${k.sha256}, ${k.size}) on conflict do nothing`);
          await q.run(
            sql`insert into drawn (measurement_id, display_sha256, profiles_sha256, picture_sha256, curves)
                values (${id}, ${kept[0].sha256}, ${kept[1].sha256}, ${kept[2].sha256}, ${r.curves}) on conflict do nothing`,
          );
        });
      });
    });
  }
}
