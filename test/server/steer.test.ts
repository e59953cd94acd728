import * as v from 'valibot';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sql } from '#server/database/port.ts';
import { todayView } from '#server/view/today.ts';
import { openSchool, PEOPLE, type School, SOUND, STRANGER } from '../helpers/school.ts';

const { maren, ines, piet, greta, hugo } = PEOPLE;
const Row = v.object({
  state: v.string(),
  tries: v.number(),
  fault_code: v.nullable(v.string()),
  is_quarantined: v.boolean(),
  hand_pose: v.nullable(v.array(v.number())),
  too_large_by: v.nullable(v.number()),
  attempt_id: v.nullable(v.number()),
});
const Id = v.object({ id: v.number() });
let school: School;
beforeAll(async () => {
  school = await openSchool();
});
afterAll(() => school.close());

const row = (id: number) =>
  school.app.db.one(
    Row,
    sql`select state, tries, fault_code, is_quarantined, hand_pose, too_large_by, attempt_id from scan where id = ${id}`,
  );
const steer = (who: Parameters<School['call']>[1], id: number, what: 'retry' | 'pose' | 'size' | 'cancel', payload: unknown = {}) =>
  school.call(`/api/scans/[id]/${what}`, who, { id: String(id) }, payload) as Promise<{ status: number; answer: { message: string } }>;
/** A scan that could not be read three times over. */
const failed = async (student: typeof greta | typeof hugo, content: string): Promise<number> => {
  const { id } = await school.arrived(student, content);
  await school.app.db.run(
    sql`update scan set state = 'failed', tries = 3, is_quarantined = true, fault_code = 'align.no-overlap', fault_text = 'nothing fits' where id = ${id}`,
  );
  return id;
};
const notes = async (action: string): Promise<number> =>
  (await school.app.db.one(v.object({ n: v.number() }), sql`select count(*)::int as n from audit where action = ${action}`)).n;

describe('a scan that failed', () => {
  let id: number;
  beforeAll(async () => {
    id = await failed(greta, 'poor');
  });
  it('is measured again when an assistant or a grader says so, as if it had just come', async () => {
    const before = await notes('scan.retry');
    expect((await steer(piet, id, 'retry')).status).toBe(200);
    expect(await row(id)).toMatchObject({ state: 'arrived', tries: 0, fault_code: null, is_quarantined: false });
    expect(school.queued.at(-1)).toBe(id);
    expect(await notes('scan.retry')).toBe(before + 1);
  });
  it('is not steered by its student, by a stranger or by nobody', async () => {
    for (const who of [greta, STRANGER, null]) {
      expect((await steer(who, id, 'retry')).status, who?.name ?? 'nobody').toBeGreaterThanOrEqual(401);
      expect((await steer(who, id, 'cancel')).status).toBeGreaterThanOrEqual(401);
    }
  });
  it('waits while it is measured: it has to be cancelled first', async () => {
    await school.app.db.run(sql`update scan set state = 'measuring' where id = ${id}`);
    for (const what of ['retry', 'size'] as const) {
      const { status, answer } = await steer(ines, id, what, { correct: true });
      expect([status, answer.message]).toEqual([409, 'This scan is being measured. Wait, or cancel it first.']);
    }
    expect((await row(id)).state).toBe('measuring');
    await school.app.db.run(sql`update scan set state = 'arrived' where id = ${id}`);
  });
  it('that nobody’s name is on is given to its student first', async () => {
    const lone = await school.app.db.one(
      Id,
      sql`insert into scan (sitting_id, file_name, sha256, version, brought_by, state, step) select sitting_id, 'lone.stl', sha256, 1, 'A1', 'arrived', 'final' from scan where id = ${id} returning id`,
    );
    const { status, answer } = await steer(ines, lone.id, 'retry');
    expect([status, answer.message]).toEqual([409, 'Choose the student of this scan first.']);
  });
  it('that there is not is said to be none', async () => expect((await steer(ines, 9999, 'retry')).status).toBe(404));
});

describe('three points set by hand', () => {
  const far: [number, number, number][] = [
    [10, 0, 0],
    [-10, 1, 0],
    [0, 6, 3],
  ];
  it('lay the scan on its master, and it is measured from there', async () => {
    const id = await failed(hugo, 'turned');
    // The scan lies 5 mm beside its master.
    const pairs = far.map((m) => ({ scan: [m[0] - 5, m[1], m[2]], master: m }));
    expect((await steer(ines, id, 'pose', { pairs })).status).toBe(200);
    const now = await row(id);
    expect(now.state).toBe('arrived');
    expect(now.hand_pose?.map((x) => Math.round(1e6 * x) / 1e6 + 0)).toEqual([1, 0, 0, 5, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);
    expect(school.queued.at(-1)).toBe(id);
  });
  it('in a line, or close together, say nothing about a turn: nothing is written', async () => {
    const id = await failed(hugo, 'in a line');
    const queued = school.queued.length;
    for (const points of [
      [
        [0, 0, 0],
        [5, 0, 0],
        [10, 0, 0],
      ],
      [
        [0, 0, 0],
        [0.1, 0, 0],
        [0, 0.1, 0],
      ],
    ]) {
      const { status, answer } = await steer(ines, id, 'pose', { pairs: points.map((p) => ({ scan: p, master: p })) });
      expect(status).toBe(422);
      expect(answer.message).toContain('too close together or in a line');
    }
    expect((await row(id)).hand_pose).toBeNull();
    expect(school.queued).toHaveLength(queued);
  });
  it('are three, and figures', async () => {
    const id = await failed(hugo, 'two points');
    const pair = { scan: far[0], master: far[0] };
    for (const pairs of [[pair, pair], [pair, pair, { scan: [1, 2], master: far[2] }], 'three'])
      expect((await steer(ines, id, 'pose', { pairs })).status).toBe(400);
  });
});

describe('a scan of the wrong size', () => {
  const sized = async (size: { factor: number; u: number } | null, corrected?: number): Promise<number> => {
    const attempt = await school.measured(greta, SOUND);
    const { id } = await school.app.db.one(Id, sql`select id from scan where attempt_id = ${attempt} order by id desc limit 1`);
    // A measurement is never changed: a later one says what it is about.
    const alignment = { rms: 0.02, stableArea: 400, pointError: 0.004, size, ...(corrected ? { corrected } : {}) };
    await school.app.db.run(
      sql`insert into measurement (scan_id, scan_sha256, kind, duration_ms, peak_mb, alignment, curves, display_sha256, profiles_sha256, picture_sha256)
          select scan_id, scan_sha256, kind, 1, 1, ${alignment}, '{}', display_sha256, profiles_sha256, picture_sha256 from measurement where scan_id = ${id}`,
    );
    return id;
  };
  it('is corrected by what was measured of it', async () => {
    const id = await sized({ factor: 1.015, u: 0.0004 });
    expect((await steer(ines, id, 'size', { correct: true })).status).toBe(200);
    expect((await row(id)).too_large_by).toBeCloseTo(1.015, 9);
  });
  it('on top of an earlier correction, since the newest measurement saw the corrected scan', async () => {
    const id = await sized({ factor: 1.002, u: 0.0004 }, 1.015);
    await steer(ines, id, 'size', { correct: true });
    expect((await row(id)).too_large_by).toBeCloseTo(1.002 * 1.015, 9);
    // And back: the correction is withdrawn as a whole.
    await school.app.db.run(sql`update scan set state = 'measured' where id = ${id}`);
    expect((await steer(ines, id, 'size', { correct: false })).status).toBe(200);
    expect((await row(id)).too_large_by).toBeNull();
  });
  it('of which nothing is known is not corrected', async () => {
    const id = await sized(null);
    const { status, answer } = await steer(ines, id, 'size', { correct: true });
    expect(status).toBe(409);
    expect(answer.message).toContain('Nothing is known of this scan’s size');
    expect((await row(id)).too_large_by).toBeNull();
  });
  it('is corrected by whoever grades, and by nobody who only looks on', async () => {
    const id = await sized({ factor: 1.01, u: 0.0004 });
    for (const who of [greta, STRANGER, null]) expect((await steer(who, id, 'size', { correct: true })).status).toBeGreaterThanOrEqual(401);
  });
});

describe('the first page of a day', () => {
  const DAY = '2026-10-19';
  it('names a sitting with what waits in it', async () => {
    const { waiting } = await todayView(school.app.db, ines, DAY);
    const week = waiting.find((w) => w.id === 'w1');
    const Counts = v.object({ failed: v.number(), coming: v.number() });
    const counts = await school.app.db.one(
      Counts,
      sql`select count(*) filter (where state = 'failed')::int as failed, count(*) filter (where state in ('arrived', 'measuring'))::int as coming from scan where sitting_id = 'w1' and removed_at is null`,
    );
    expect(week).toMatchObject({ unreadable: counts.failed, measuring: counts.coming, signed: 0, unreleased: 0, mine: true });
  });
  it('a sitting that others were named for is not one’s own, and stands after one’s own', async () => {
    await school.measured(hugo, SOUND);
    await school.app.db.run(sql`insert into sitting_grader (sitting_id, person_id) values ('w1', 'I3')`);
    const { waiting } = await todayView(school.app.db, ines, DAY);
    expect(waiting.find((w) => w.id === 'w1')?.mine).toBe(false);
    await school.app.db.run(sql`delete from sitting_grader`);
  });
  it('shows what is still to come from that day on', async () => {
    const days = async (day: string): Promise<string[]> => (await todayView(school.app.db, ines, day)).coming.map((s) => s.id);
    expect(await days('2026-10-19')).toEqual(['w1', 'w2']);
    expect(await days('2026-10-20')).toEqual(['w2']);
    expect(await days('2026-12-01')).toEqual([]);
  });
  it('says what a course still needs to whoever keeps it', async () => {
    const { setUp } = await todayView(school.app.db, maren, DAY);
    // People, master, exercise, sitting and scan are there: nothing is left to say.
    expect(setUp).toEqual([]);
    await school.app.db.run(sql`insert into course (id, name, term) values ('c3', 'New', 'spring')`);
    const director = { ...maren, roles: { ...maren.roles, c3: ['director'] as const } };
    const own = (await todayView(school.app.db, director as never, DAY)).setUp;
    expect(own.map((c) => c.id)).toEqual(['c3']);
    expect(own[0].steps).toMatchObject({ people: false, exercise: false, sitting: false, scan: false });
    expect((await todayView(school.app.db, ines, DAY)).setUp).toEqual([]);
  });
});

describe('the one box that leads anywhere', () => {
  const ask = async (who: Parameters<School['call']>[1], q: string) => {
    const { coursesFor } = await import('#server/access/table.ts');
    const { found } = await import('#server/course/search.ts');
    return found(school.app.db, coursesFor(who as typeof ines, 'tray.see'), q, coursesFor(who as typeof ines, 'trail.list'));
  };
  it('finds students and sittings by any part of their names, whatever the case', async () => {
    const hits = await ask(ines, 'gREta');
    expect(hits.some((h) => h.kind === 'student' && h.id === 'H07')).toBe(true);
    expect((await ask(ines, 'week 2')).some((h) => h.kind === 'sitting' && h.id === 'w2')).toBe(true);
  });
  it('takes a pattern’s letters as letters', async () => {
    expect(await ask(ines, '%%')).toEqual([]);
    expect(await ask(ines, '__')).toEqual([]);
  });
  it('shows nothing of another course, and no student to who may not list them', async () => {
    expect(await ask(STRANGER, 'greta')).toEqual([]);
    expect((await ask(piet, 'greta')).filter((h) => h.kind === 'student')).toEqual([]);
  });
});
