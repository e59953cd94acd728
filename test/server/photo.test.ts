import { existsSync } from 'node:fs';
import * as v from 'valibot';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sql } from '#server/database/port.ts';
import { benchView } from '#server/view/bench.ts';
import { openSchool, PEOPLE, type School, SOUND, STRANGER } from '../helpers/school.ts';

const { ines, piet, greta } = PEOPLE;
const ADDRESS = '/api/attempts/[id]/photo';
const JPEG = Uint8Array.from([0xff, 0xd8, 0xff, 0xe0, 1, 2, 3]);
const PNG = Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 4, 5]);

let school: School;
let attempt: number;
beforeAll(async () => {
  school = await openSchool();
  attempt = await school.measured(greta, SOUND);
});
afterAll(() => school.close());

const form = (name: string, bytes: Uint8Array): FormData => {
  const f = new FormData();
  f.append('photo', new File([bytes as BlobPart], name));
  return f;
};
const send = (bytes: Uint8Array, who = ines as Parameters<School['call']>[1], name = 'bench.jpg') =>
  school.call(ADDRESS, who, { id: String(attempt) }, form(name, bytes)) as Promise<{
    status: number;
    answer: { photo: number; message: string };
  }>;
const get = (who: Parameters<School['call']>[1]) => school.call(ADDRESS, who, { id: String(attempt) });
const shown = async () => (await benchView(school.app.db, attempt, ines))?.photo;

describe('a photograph beside an attempt', () => {
  it('is shown to graders as it came, the newest first', async () => {
    expect(await shown()).toBeNull();
    const first = await send(JPEG);
    expect(first.status).toBe(200);
    const second = await send(PNG, ines, 'bench.png');
    expect(await shown()).toBe(second.answer.photo);
    const { status, headers } = await get(ines);
    expect([status, headers.get('content-type'), headers.get('content-length')]).toEqual([200, 'image/png', String(PNG.length)]);
  });
  it('is nothing to assistants, students or other courses', async () => {
    expect([(await get(piet)).status, (await get(greta)).status, (await get(STRANGER)).status, (await get(null)).status]).toEqual([
      403, 404, 404, 401,
    ]);
    expect([(await send(JPEG, piet)).status, (await send(JPEG, greta)).status]).toEqual([403, 404]);
  });
  it('is refused by its content, whatever it is called', async () => {
    const { status, answer } = await send(new TextEncoder().encode('<svg onload="alert(1)"/>'));
    expect([status, answer.message]).toEqual([415, expect.stringContaining('Choose a JPEG or PNG')]);
  });
  it('is taken away by name and kept, file and entry', async () => {
    const before = await shown();
    const away = await school.call(ADDRESS, ines, { id: String(attempt) }, undefined, {}, 'DELETE');
    expect(away.status).toBe(200);
    expect(await shown()).not.toBe(before);
    const row = await school.app.db.one(v.object({ sha256: v.string() }), sql`select sha256 from photo where id = ${before as number}`);
    expect(existsSync(school.app.files.pathOf(row.sha256))).toBe(true);
    const noted = await school.app.db.any(
      v.object({ action: v.string() }),
      sql`select action from audit where action like 'attempt.photo%' order by id`,
    );
    expect(noted.map((n) => n.action)).toEqual(['attempt.photo', 'attempt.photo', 'attempt.photo-away']);
  });
});
