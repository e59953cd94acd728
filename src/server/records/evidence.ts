import * as v from 'valibot';
import { HAND_METHODS, type HandMethod, type HandReading, withHand } from '#core/score/hand.ts';
import type { Queries } from '../database/database.ts';
import { sql } from '../database/database.ts';
import { latestMeasurement, type ReadingRow, readingsOf } from './attempts.ts';
import { pinsOf } from './pins.ts';

export const Method = v.picklist(Object.keys(HAND_METHODS) as [HandMethod, ...HandMethod[]]);
const HandRow = v.object({
  attempt_id: v.number(),
  name: v.string(),
  zone: v.string(),
  stat: v.string(),
  method: Method,
  unit: v.string(),
  lo: v.number(),
  hi: v.number(),
});

const toHand = ({ zone, ...r }: v.InferOutput<typeof HandRow>): HandReading => ({ ...r, zone: zone || null });

const blank = (h: HandReading): ReadingRow => ({
  name: h.name,
  zone: h.zone,
  stat: h.stat as ReadingRow['stat'],
  unit: h.unit,
  value: null,
  U: null,
  azimuth: null,
  point: null,
  coverage: null,
  samples: 1,
  reason: null,
});

/** The scan's readings with the instructor's own over them. */
export const evidence = (readings: readonly ReadingRow[], hand: readonly HandReading[]): ReadingRow[] => withHand(readings, hand, blank);

export const handReadingsOf = async (db: Queries, attemptId: number): Promise<HandReading[]> =>
  (
    await db.any(
      HandRow,
      sql`select attempt_id, name, zone, stat, method, unit, lo, hi from hand_reading where attempt_id = ${attemptId} order by name, zone, stat`,
    )
  ).map(toHand);

/** Of a whole sitting, by attempt. */
export async function handReadingsOfSitting(db: Queries, sittingId: string): Promise<Map<number, HandReading[]>> {
  const rows = await db.any(
    HandRow,
    sql`select h.attempt_id, h.name, h.zone, h.stat, h.method, h.unit, h.lo, h.hi from hand_reading h join attempt a on a.id = h.attempt_id where a.sitting_id = ${sittingId}`,
  );
  const out = new Map<number, HandReading[]>();
  for (const r of rows) out.set(r.attempt_id, [...(out.get(r.attempt_id) ?? []), toHand(r)]);
  return out;
}

/** Everything an attempt is scored from: what its newest scan shows and what was read by hand. */
export async function evidenceOf(db: Queries, attemptId: number) {
  const measurement = await latestMeasurement(db, attemptId);
  const scanned = measurement ? await readingsOf(db, measurement.id) : [];
  const hand = await handReadingsOf(db, attemptId);
  return { measurement, scanned, hand, readings: evidence(scanned, hand), pins: await pinsOf(db, attemptId) };
}
