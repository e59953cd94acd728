import * as v from 'valibot';
import type { Queries } from '../database/database.ts';
import { sql } from '../database/database.ts';

const PinRow = v.object({
  id: v.number(),
  criterion_id: v.string(),
  x: v.number(),
  y: v.number(),
  z: v.number(),
  note: v.string(),
});
export type PinRow = v.InferOutput<typeof PinRow>;

/** What an instructor marked on the tooth, in the master file's frame. */
export const pinsOf = (db: Queries, attemptId: number): Promise<PinRow[]> =>
  db.any(PinRow, sql`select id, criterion_id, x_mm as x, y_mm as y, z_mm as z, note from pin where attempt_id = ${attemptId} order by id`);

export const setPin = (
  db: Queries,
  attemptId: number,
  pin: { criterion: string; point: readonly [number, number, number]; note: string },
  personId: string,
): Promise<void> =>
  db.run(
    sql`insert into pin (attempt_id, criterion_id, x_mm, y_mm, z_mm, note, person_id) values (${attemptId}, ${pin.criterion}, ${pin.point[0]}, ${pin.point[1]}, ${pin.point[2]}, ${pin.note}, ${personId})`,
  );

export const takePin = (db: Queries, attemptId: number, id: number): Promise<void> =>
  db.run(sql`delete from pin where id = ${id} and attempt_id = ${attemptId}`);
