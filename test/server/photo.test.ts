import { existsSync } from 'node:fs';
import { unzipSync } from 'fflate';
import { PNG } from 'pngjs';
import * as v from 'valibot';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { askedFor } from '#server/at-bench/act.ts';
import { sql } from '#server/database/port.ts';
import { stepPhotos } from '#server/photos/steps.ts';
import { ownData } from '#server/report/own-data.ts';
import { benchView } from '#server/view/bench.ts';
import { openSchool, PEOPLE, type School, SOUND, STRANGER } from '../helpers/school.ts';

const { ines, piet, greta, hugo } = PEOPLE;
const ADDRESS = '/api/attempts/[id]/photo';
/** A picture of 8 × 6 pixels, and one whose header claims 60,000 × 60,000. */
const picture = PNG.sync.write(new PNG({ width: 8, height: 6 }));
const vast = Uint8Array.from(picture);
new DataView(vast.buffer).setUint32(16, 60_000);
new DataView(vast.buffer).setUint32(20, 60_000);
/** Start, a frame's header of one grey component with 6 lines of 8 pixels, end. */
const JPEG = Uint8Array.from([0xff, 0xd8, 0xff, 0xe0, 0, 4, 0, 0, 0xff, 0xc0, 0, 11, 8, 0, 6, 0, 8, 1, 1, 0x11, 0, 0xff, 0xd9]);

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
    const second = await send(picture, ines, 'bench.png');
    expect(await shown()).toBe(second.answer.photo);
    const { status, headers } = await get(ines);
    expect([status, headers.get('content-type'), headers.get('content-length')]).toEqual([200, 'image/png', String(picture.length)]);
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
    expect((await send(JPEG.slice(0, 4))).status).toBe(422);
    const large = await send(vast);
    expect([large.status, large.answer.message]).toEqual([413, expect.stringContaining('60000 × 60000 pixels')]);
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

describe('a student’s photograph of a step', () => {
  const STEPS = '/api/attempts/[id]/step-photos';
  const ONE = '/api/attempts/[id]/step-photos/[photo]';
  let own: number;
  beforeAll(async () => {
    own = (
      await school.app.db.one(
        v.object({ id: v.number() }),
        sql`insert into attempt (sitting_id, student_id, number) select sitting_id, student_id, 9 from attempt where id = ${attempt} returning id`,
      )
    ).id;
  });
  const take = (key: string, who: Parameters<School['call']>[1] = greta, step = 'occlusal', bytes: Uint8Array = picture) => {
    const f = form('step.png', bytes);
    for (const [name, value] of Object.entries({ key, step, at: '2026-11-02T10:00:00.000Z' })) f.append(name, value);
    return school.call(STEPS, who, { id: String(own) }, f) as Promise<{ status: number; answer: { photo: number; message: string } }>;
  };
  const see = (who: Parameters<School['call']>[1], photo: number, of = own) =>
    school.call(ONE, who, { id: String(of), photo: String(photo) });

  it('is taken once, however often a device sends it', async () => {
    const first = await take('device-key-1');
    expect(first.status).toBe(200);
    expect((await take('device-key-1')).answer.photo).toBe(first.answer.photo);
    expect(await stepPhotos(school.app.db, own)).toEqual([{ id: first.answer.photo, step: 'occlusal', at: expect.any(String) }]);
  });
  it('is seen by its student and by graders, and by nobody else; a number leads to no other attempt', async () => {
    const [{ id }] = await stepPhotos(school.app.db, own);
    const { status, headers } = await see(greta, id);
    expect([status, headers.get('content-type')]).toEqual([200, 'image/png']);
    expect((await see(ines, id)).status).toBe(200);
    const others = await Promise.all([see(hugo, id), see(piet, id), see(STRANGER, id), see(null, id), see(ines, id, attempt)]);
    expect(others.map((o) => o.status)).toEqual([404, 403, 404, 401, 404]);
    expect([(await take('device-key-2', hugo)).status, (await take('device-key-2', ines)).status]).toEqual([404, 403]);
  });
  it('is refused where it is no picture, no step of the plan, or has no key', async () => {
    const html = new TextEncoder().encode('<html><script>alert(1)</script>');
    expect((await take('device-key-3', greta, 'occlusal', html)).status).toBe(415);
    expect((await take('device-key-3', greta, '../../etc')).status).toBe(422);
    expect((await take('x')).status).toBe(422);
    expect((await stepPhotos(school.app.db, own)).length).toBe(1);
  });
  it('stands beside who asks for a look, and comes with the student’s own data', async () => {
    const [{ id }] = await stepPhotos(school.app.db, own);
    await school.app.db.run(
      sql`insert into bench_event (attempt_id, key, kind, step, at, made_by) values (${own}, 'device-key-5', 'ask', 'occlusal', now(), ${greta.id})`,
    );
    expect((await askedFor(school.app, ['c1'])).map((q) => [q.attempt, q.photos])).toEqual([[own, [id]]]);
    const files = unzipSync(await ownData(school.app, greta));
    const [name] = Object.keys(files).filter((f) => f.startsWith('photographs/'));
    expect(files[name]).toEqual(Uint8Array.from(picture));
  });
  it('is taken away by its student until the grade is signed, and none is taken after', async () => {
    const gone = await take('device-key-6');
    const away = (who: Parameters<School['call']>[1], photo: number) =>
      school.call(ONE, who, { id: String(own), photo: String(photo) }, undefined, {}, 'DELETE');
    expect((await away(hugo, gone.answer.photo)).status).toBe(404);
    expect((await away(greta, gone.answer.photo)).status).toBe(200);
    expect((await see(greta, gone.answer.photo)).status).toBe(404);
    await school.app.db.run(sql`update photo set attempt_id = ${attempt} where attempt_id = ${own}`);
    const tray = (await school.call('/api/sittings/[id]/tray', ines, { id: 'w1' })) as {
      answer: { rows: { attempt_id: number; seen: string }[] };
    };
    const seen = tray.answer.rows.find((r) => r.attempt_id === attempt)?.seen;
    expect((await school.call('/api/attempts/[id]/sign', ines, { id: String(attempt) }, { seen })).status).toBe(200);
    own = attempt;
    const [{ id }] = await stepPhotos(school.app.db, own);
    expect([(await away(greta, id)).status, (await take('device-key-7')).status]).toEqual([409, 409]);
  });
});
