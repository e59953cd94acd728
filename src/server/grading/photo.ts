import * as v from 'valibot';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import type { Received } from '../scans/receive.ts';

const Id = v.object({ id: v.number() });
const Shown = v.object({ id: v.number(), sha256: v.string(), media: v.picklist(['image/jpeg', 'image/png']) });

/** bytes: a phone's picture at full size is a third of it. */
export const PHOTO_BYTES = 20_000_000;

/** The two formats that every browser shows, by their first bytes. */
const STARTS = [
  ['image/jpeg', [0xff, 0xd8, 0xff]],
  ['image/png', [0x89, 0x50, 0x4e, 0x47]],
] as const;

/** The photograph shown beside an attempt: the newest that was not taken away. */
export const photoOf = (q: Queries, attempt: number): Promise<v.InferOutput<typeof Shown> | null> =>
  q.maybeOne(Shown, sql`select id, sha256, media from photo where attempt_id = ${attempt} and removed_at is null order by id desc limit 1`);

/** Puts a photograph beside an attempt. */
export async function addPhoto(a: App, who: Person | null, attempt: number, { name, kept }: Received): Promise<number> {
  permit(who, 'attempt.judge', await SUBJECTS.attempt(a.db, attempt));
  const media = STARTS.find(([, start]) => start.every((b, i) => kept.head[i] === b))?.[0];
  if (!media) throw new Refused('unsupported', `${name} is no picture that every browser shows. Choose a JPEG or PNG file.`);
  return a.records.act(async (q, note) => {
    await q.run(sql`insert into stored_file (sha256, size_bytes) values (${kept.sha256}, ${kept.size}) on conflict do nothing`);
    const { id } = await q.one(
      Id,
      sql`insert into photo (attempt_id, sha256, media, person_id) values (${attempt}, ${kept.sha256}, ${media}, ${who.id}) returning id`,
    );
    await note({ person: who.id, action: 'attempt.photo', subject: `attempt ${attempt}`, details: { photo: id, sha256: kept.sha256 } });
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
