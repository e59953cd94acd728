import * as v from 'valibot';
import { fromThreePoints } from '#core/align/three-points.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';

const State = v.object({ state: v.string(), attempt_id: v.nullable(v.number()), fault_code: v.nullable(v.string()) });

/** A scan that somebody may have measured again: it is its student's, and nothing measures it now. */
async function steered(q: Queries, who: Person | null, scanId: number): Promise<{ who: Person; scan: v.InferOutput<typeof State> }> {
  permit(who, 'scan.steer', await SUBJECTS.scan(q, scanId));
  const scan = await q.one(State, sql`select state, attempt_id, fault_code from scan where id = ${scanId}`);
  if (scan.attempt_id === null) throw new Refused('conflict', 'Choose the student of this scan first.');
  if (scan.state === 'measuring') throw new Refused('conflict', 'This scan is being measured. Wait, or cancel it first.');
  return { who, scan };
}

/** Puts it among those that wait to be measured, as if it had just arrived. */
const arriveAgain = (q: Queries, scanId: number): Promise<unknown> =>
  q.run(
    sql`update scan set state = 'arrived', tries = 0, is_quarantined = false, fault_code = null, fault_text = null where id = ${scanId}`,
  );

/** Measures a scan again and adds a measurement; earlier ones stay. */
export async function retryScan(a: App, who: Person | null, scanId: number): Promise<void> {
  await a.records.act(async (q, note) => {
    const { who: by, scan } = await steered(q, who, scanId);
    await arriveAgain(q, scanId);
    await note({
      person: by.id,
      action: 'scan.retry',
      subject: `scan ${scanId}`,
      details: { before: scan.state, fault: scan.fault_code },
    });
  });
  a.jobs.add(scanId);
}

export async function cancelScan(a: App, who: Person | null, scanId: number): Promise<void> {
  permit(who, 'scan.steer', await SUBJECTS.scan(a.db, scanId));
  await a.jobs.cancel(scanId);
  await a.records.note({ person: who.id, action: 'scan.cancel', subject: `scan ${scanId}` });
}

/** Aligns a scan by three pairs of points, from its own file to the master's. */
export async function poseScan(a: App, who: Person | null, scanId: number, pairs: readonly { scan: Vec3; master: Vec3 }[]): Promise<void> {
  const pose = fromThreePoints(pairs);
  if (!pose)
    throw new Refused(
      'not-valid',
      'The three points lie too close together or in a line. Choose points far apart: one on each neighbour, one on the tooth.',
    );
  await a.records.act(async (q, note) => {
    const { who: by } = await steered(q, who, scanId);
    await q.run(sql`update scan set hand_pose = ${pose}, posed_by = ${by.id} where id = ${scanId}`);
    await arriveAgain(q, scanId);
    await note({ person: by.id, action: 'scan.pose', subject: `scan ${scanId}`, details: { pose: [...pose] } });
  });
  a.jobs.add(scanId);
}

const Sized = v.object({
  alignment: v.looseObject({ size: v.nullish(v.object({ factor: v.number(), u: v.number() })), corrected: v.optional(v.number(), 1) }),
});

/** Corrects a scan's size by its newest measurement of it, or withdraws the correction, and measures the scan again. */
export async function sizeScan(a: App, who: Person | null, scanId: number, correct: boolean): Promise<void> {
  await a.records.act(async (q, note) => {
    const { who: by } = await steered(q, who, scanId);
    const newest = await q.maybeOne(Sized, sql`select alignment from measurement where scan_id = ${scanId} order by id desc limit 1`);
    const size = newest?.alignment.size;
    if (correct && !size) throw new Refused('conflict', 'Nothing is known of this scan’s size: too little of its uncut surface was seen.');
    // Multiplied by the earlier correction, because the newest measurement saw the corrected scan.
    const factor = correct && size ? size.factor * (newest?.alignment.corrected ?? 1) : null;
    await q.run(sql`update scan set too_large_by = ${factor}, sized_by = ${by.id} where id = ${scanId}`);
    await arriveAgain(q, scanId);
    await note({ person: by.id, action: 'scan.size', subject: `scan ${scanId}`, details: { tooLargeBy: factor, u: size?.u ?? null } });
  });
  a.jobs.add(scanId);
}
