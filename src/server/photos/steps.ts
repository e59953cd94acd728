import * as v from 'valibot';
import { type StepPhoto, StepPhotoForm } from '#contract/at-bench.ts';
import { STEP_WORDS } from '#words/steps.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { isSigned } from '../grading/rows.ts';
import { valid } from '../http.ts';
import type { Received } from '../scans/receive.ts';
import { enterFile, pictureOf } from './keep.ts';

const Photo = v.object({ id: v.number(), step: v.string(), at: v.string() });
const Id = v.object({ id: v.number() });
const Kept = v.object({ id: v.number(), sha256: v.string(), media: v.picklist(['image/jpeg', 'image/png']) });
const Count = v.object({ n: v.number() });

/** Photographs that one attempt may have: several of every step. */
const PHOTOS_MOST = 80;

/** Photographs that a student took of the steps of an attempt, in the order in which they were taken. */
export const stepPhotos = (q: Queries, attempt: number): Promise<StepPhoto[]> =>
  q.any(
    Photo,
    sql`select id, step, taken_at as at from photo where attempt_id = ${attempt} and step is not null and removed_at is null order by taken_at, id`,
  );

/** One photograph of a step, by attempt and number: a number alone does not lead to another's attempt. */
export async function stepPhoto(q: Queries, attempt: number, id: number): Promise<v.InferOutput<typeof Kept>> {
  const found = await q.maybeOne(
    Kept,
    sql`select id, sha256, media from photo where attempt_id = ${attempt} and id = ${id} and step is not null and removed_at is null`,
  );
  if (!found) throw new Refused('not-there', 'There is no such photograph of this attempt.');
  return found;
}

/** Takes a student's photograph of a step. One that was sent before is taken once. */
export async function takeStepPhoto(
  a: App,
  who: Person | null,
  attempt: number,
  photo: Received,
  form: Record<string, string | undefined>,
): Promise<number> {
  permit(who, 'work.assess', await SUBJECTS.attempt(a.db, attempt));
  const { key, step, at } = valid(StepPhotoForm, form, 'The photograph');
  if (!Object.hasOwn(STEP_WORDS, step))
    throw new Refused('not-valid', `There is no step “${step}”. Load the page again and take the photograph at the step that it shows.`);
  const media = await pictureOf(a, photo);
  const { sha256 } = photo.kept;
  const taken = await a.records.act(async (q, note) => {
    const before = await q.maybeOne(Id, sql`select id from photo where attempt_id = ${attempt} and key = ${key}`);
    if (before) return before.id;
    if (await isSigned(q, attempt)) throw new Refused('conflict', 'The grade is signed: no photograph of a step is taken any more.');
    const { n } = await q.one(Count, sql`select count(*)::int as n from photo where attempt_id = ${attempt} and step is not null`);
    if (n >= PHOTOS_MOST)
      throw new Refused(
        'conflict',
        `An attempt has room for ${PHOTOS_MOST} photographs, and they are all here. Show the rest to your instructor.`,
      );
    await enterFile(q, photo);
    const { id } = await q.one(
      Id,
      sql`insert into photo (attempt_id, sha256, media, person_id, step, key, taken_at) values (${attempt}, ${sha256}, ${media}, ${who.id}, ${step}, ${key}, ${at}::timestamptz) returning id`,
    );
    await note({ person: who.id, action: 'work.photo', subject: `attempt ${attempt}`, details: { photo: id, step, sha256 } });
    return id;
  });
  a.pulse.bump();
  return taken;
}

/** A student takes a photograph of theirs away; the file stays. */
export const removeStepPhoto = (a: App, who: Person | null, attempt: number, photo: number): Promise<void> =>
  a.records.act(async (q, note) => {
    permit(who, 'work.assess', await SUBJECTS.attempt(q, attempt));
    if (await isSigned(q, attempt)) throw new Refused('conflict', 'The grade is signed: its photographs stay.');
    const { id } = await stepPhoto(q, attempt, photo);
    await q.run(sql`update photo set removed_at = now() where id = ${id}`);
    await note({ person: who.id, action: 'work.photo-away', subject: `attempt ${attempt}`, details: { photo: id } });
    a.pulse.bump();
  });
