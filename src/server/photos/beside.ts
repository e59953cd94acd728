import * as v from 'valibot';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import type { Received } from '../scans/receive.ts';
import { enterFile, pictureOf } from './keep.ts';

const Id = v.object({ id: v.number() });
const Shown = v.object({ id: v.number(), sha256: v.string(), media: v.picklist(['image/jpeg', 'image/png']) });

/** The photograph that graders see beside an attempt: the newest that was not taken away. */
export const photoOf = (q: Queries, attempt: number): Promise<v.InferOutput<typeof Shown> | null> =>
  q.maybeOne(
    Shown,
    sql`select id, sha256, media from photo where attempt_id = ${attempt} and step is null and removed_at is null order by id desc limit 1`,
  );

/** Puts a photograph beside an attempt. */
export async function addPhoto(a: App, who: Person | null, attempt: number, photo: Received): Promise<number> {
  permit(who, 'attempt.judge', await SUBJECTS.attempt(a.db, attempt));
  const media = await pictureOf(a, photo);
  const { sha256 } = photo.kept;
  return a.records.act(async (q, note) => {
    await enterFile(q, photo);
    const { id } = await q.one(
      Id,
      sql`insert into photo (attempt_id, sha256, media, person_id) values (${attempt}, ${sha256}, ${media}, ${who.id}) returning id`,
    );
    await note({ person: who.id, action: 'attempt.photo', subject: `attempt ${attempt}`, details: { photo: id, sha256 } });
    return id;
  });
}

/** Takes the photograph away from beside an attempt; the file stays. */
export const removePhoto = (a: App, who: Person | null, attempt: number): Promise<void> =>
  a.records.act(async (q, note) => {
    permit(who, 'attempt.judge', await SUBJECTS.attempt(q, attempt));
    const shown = await photoOf(q, attempt);
    if (!shown) throw new Refused('not-there', 'No photograph lies beside this attempt any more.');
    await q.run(sql`update photo set removed_at = now() where id = ${shown.id}`);
    await note({ person: who.id, action: 'attempt.photo-away', subject: `attempt ${attempt}`, details: { photo: shown.id } });
  });
