import { Piscina } from 'piscina';
import * as v from 'valibot';
import { EXERCISES } from '../../seed/cast.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { BenchScanner } from '../app.ts';
import { type Database, sql } from '../database/port.ts';
import { studentsOf } from '../scans/bring.ts';
import type { RedrawTask, ScannerTask } from './task.ts';

const Place = v.object({ exercise_id: v.string(), tooth: v.string() });
const Count = v.object({ n: v.number() });

/** Whether the simulated scanner can cut this exercise: only demo exercises have a simulated typodont. */
export const isSimulated = (exercise: string): boolean =>
  Boolean(process.env.VERITOR_DEMO) && EXERCISES.some((e) => e.id === exercise && e.task !== null);

/** Simulated bench scanner: sends files into a sitting's tray one after the other, as a device would. */
export class PracticeScanner implements BenchScanner {
  private readonly pool: Piscina;
  /** Whoever opens an old attempt does not wait until a whole sitting is scanned. */
  private readonly looks: Piscina;
  private readonly coming = new Map<string, number>();

  constructor(
    workerFile: string,
    private readonly db: Database,
    private readonly bring: (sitting: string, name: string, bytes: Uint8Array, person: Person) => Promise<unknown>,
  ) {
    const one = { filename: workerFile, minThreads: 0, maxThreads: 1, idleTimeout: 30_000 };
    this.pool = new Piscina(one);
    this.looks = new Piscina(one);
  }

  /** Number of simulated scans that have not yet arrived in a sitting. */
  onTheWay(sitting: string): number {
    return this.coming.get(sitting) ?? 0;
  }

  /** Starts one scan, which arrives by itself. Null if the sitting or student is unknown or the exercise is not simulated. */
  async start(sitting: string, student: string, person: Person): Promise<{ fileName: string } | null> {
    const { db } = this;
    const place = await db.maybeOne(
      Place,
      sql`select t.exercise_id, e.tooth from sitting t join exercise e on e.id = t.exercise_id where t.id = ${sitting}`,
    );
    const subject = await SUBJECTS.sitting(db, sitting);
    const who = subject && (await studentsOf(db, subject.course)).find((s) => s.id === student);
    if (!place || !who || !isSimulated(place.exercise_id)) return null;
    const { n } = await db.one(
      Count,
      sql`select count(*) as n from scan s join attempt a on a.id = s.attempt_id where a.student_id = ${student}`,
    );
    // File name of bench and student number, as bench scanners save it.
    const fileName = `${who.bench ?? who.id}_${who.id}_${place.tooth}_scan${n + 1}.stl`;
    this.coming.set(sitting, this.onTheWay(sitting) + 1);
    void this.send({ kind: 'scan', exercise: place.exercise_id, student, attempt: n }, sitting, fileName, person)
      .catch((e) => console.error(e))
      .finally(() => this.coming.set(sitting, this.onTheWay(sitting) - 1));
    return { fileName };
  }

  async stop(): Promise<void> {
    await Promise.all([this.pool.destroy(), this.looks.destroy()]);
  }

  private async send(task: ScannerTask, sitting: string, name: string, person: Person): Promise<void> {
    await this.bring(sitting, name, await this.make(task), person);
  }

  private make(task: ScannerTask, pool: Piscina = this.pool): Promise<Uint8Array> {
    return pool.run(task) as Promise<Uint8Array>;
  }

  /** The scan of a preparation of the weeks before, cut again. */
  again(work: RedrawTask): Promise<Uint8Array> {
    return this.make({ kind: 'again', work }, this.looks);
  }

  /** A simulated exercise's master as one archive. */
  master(exercise: string): Promise<Uint8Array> {
    return this.make({ kind: 'master', exercise }, this.looks);
  }
}
