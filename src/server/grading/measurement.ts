import * as v from 'valibot';
import { toColumns } from '#contract/reading.ts';
import type { Reading } from '#core/result/reading.ts';
import type { Person } from '../access/table.ts';
import type { Note, Records } from '../audit/records.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { attemptFor, noteRow } from './act.ts';

const Id = v.object({ id: v.number() });
const Found = v.object({ attempt: v.nullable(v.number()), step: v.string() });
const Signed = v.object({ n: v.number() });

async function point(
  q: Queries,
  note: Note,
  person: Person | null,
  attempt: number,
  measurement: number,
  before: number | null,
): Promise<void> {
  const { id } = await q.one(
    Id,
    sql`insert into graded_on (attempt_id, measurement_id, person_id) values (${attempt}, ${measurement}, ${person?.id ?? null}) returning id`,
  );
  const details = { measurement, before };
  await noteRow(q, note, { person, action: 'attempt.measurement', subject: `attempt ${attempt}`, details }, 'graded_on', id);
}

/** Sets the measurement that an attempt is graded on. */
export const chooseMeasurement = (records: Records, who: Person | null, attempt: number, measurement: number): Promise<void> =>
  records.act(async (q, note) => {
    const { graded, person } = await attemptFor(q, who, 'attempt.judge', attempt);
    const found = await q.maybeOne(
      Found,
      sql`select s.attempt_id as attempt, s.step from measurement m join scan s on s.id = m.scan_id where m.id = ${measurement}`,
    );
    if (found?.attempt !== attempt || found.step !== 'final') throw new Refused('not-there', 'This attempt has no such measurement.');
    if (graded.measurement?.id === measurement) return;
    await point(q, note, person, attempt, measurement, graded.measurement?.id ?? null);
  });

/**
 * Grades an unsigned attempt on a new measurement of the finished work. A signed grade keeps its evidence; the newer
 * measurement waits to be chosen.
 */
export async function adoptMeasurement(q: Queries, note: Note, attempt: number, measurement: number): Promise<void> {
  const { n } = await q.one(Signed, sql`select count(*) as n from grade where attempt_id = ${attempt}`);
  if (n > 0) return;
  const before = await q.maybeOne(Id, sql`select measurement_id as id from graded_now where attempt_id = ${attempt}`);
  await point(q, note, null, attempt, measurement, before?.id ?? null);
}

/** Writes the readings of a measurement, all in one statement. */
export async function insertReadings(q: Queries, measurementId: number, readings: readonly Reading[]): Promise<void> {
  await q.run(
    sql`insert into reading (measurement_id, name, zone, stat, unit, value, u, azimuth_deg, point, coverage_share, samples, reason)
        select ${measurementId}, name, zone, stat, unit, value, u, azimuth_deg, point, coverage_share, samples, reason
        from json_to_recordset(${readings.map(toColumns)}::json) as x(name text, zone text, stat text, unit text, value float8, u float8, azimuth_deg float8, point jsonb, coverage_share float8, samples int, reason text)`,
  );
}
