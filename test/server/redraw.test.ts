import { writeFileSync } from 'node:fs';
import path from 'node:path';
import * as v from 'valibot';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sql } from '#server/database/port.ts';
import { Redraw } from '#server/demo/redraw.ts';
import { measurementById } from '#server/grading/rows.ts';
import { keepNothing } from '#server/scans/undrawn.ts';
import { openSchool, PEOPLE, type School, SOUND } from '../helpers/school.ts';

const { ines, greta, hugo } = PEOPLE;
const WORK = { student: 'H07', sitting: 'w1', exercise: 'crown-16', number: 1, earlier: 0, faults: [], seed: 7 };
const ALIGNMENT = { rms: 0.02, stableArea: 400, pointError: 0.004 };
const Id = v.object({ id: v.number() });

let school: School;
let attempt: number;
let measurement: number;
const cut: unknown[] = [];
beforeAll(async () => {
  school = await openSchool();
  const { app } = school;
  const bytes = (text: string) => new TextEncoder().encode(text);
  const cutter = {
    again: async (work: unknown) => {
      cut.push(work);
      return bytes('scan again');
    },
    master: async (exercise: string) => bytes(`master of ${exercise}`),
  };
  const children = {
    run: async ({ outFolder }: { outFolder: string }) => {
      const put = (name: string): string => {
        const file = path.join(outFolder, name);
        writeFileSync(file, `${name} drawn`);
        return file;
      };
      return {
        display: put('display'),
        profiles: put('profiles'),
        picture: put('picture'),
        curves: { 'plan.outline': [[1, 2]], kept: [[9, 9]] },
      };
    },
  };
  Object.assign(app, { redraw: new Redraw(app.db, app.files, children as never, cutter) });
  const nothing = await keepNothing(app.files, app.db);
  attempt = await school.measured(greta, SOUND);
  // A measurement as the weeks before bring it: readings, a recipe, and nothing drawn.
  const scan = await app.db.one(Id, sql`select id from scan where attempt_id = ${attempt}`);
  await app.db.run(sql`update scan set recipe = ${WORK} where id = ${scan.id}`);
  measurement = (
    await app.db.one(
      Id,
      sql`insert into measurement (scan_id, scan_sha256, kind, duration_ms, peak_mb, alignment, curves, display_sha256, profiles_sha256, picture_sha256)
          select id, sha256, 'crown', 1, 1, ${ALIGNMENT}, ${{ kept: [[1, 1]] }}, ${nothing}, ${nothing}, ${nothing} from scan where id = ${scan.id} returning id`,
    )
  ).id;
});
afterAll(() => school.close());

const get = (what: string, of = attempt) => school.call(`/api/attempts/[id]/${what}`, ines, { id: String(of) });

describe('an attempt whose scan did not ship', () => {
  it('is cut and drawn again when somebody opens it, once for all who ask', async () => {
    // The newest measurement of the attempt is the one that is shown.
    await school.app.db.run(sql`insert into graded_on (attempt_id, measurement_id) values (${attempt}, ${measurement})`);
    expect((await get('picture')).status).toBe(404);
    const [display, profiles] = await Promise.all([get('display'), get('profiles')]);
    expect([display.status, display.answer, profiles.answer]).toEqual([200, 'display drawn', 'profiles drawn']);
    expect(cut).toEqual([WORK]);
    expect((await get('display')).answer).toBe('display drawn');
    expect((await get('picture')).answer).toBe('picture drawn');
    expect(cut).toHaveLength(1);
  });
  it('has the measurement as it was, with what was drawn beside it', async () => {
    const m = await measurementById(school.app.db, measurement);
    expect(m?.curves).toEqual({ 'plan.outline': [[1, 2]], kept: [[1, 1]] });
    await expect(school.app.db.run(sql`update measurement set curves = '{}' where id = ${measurement}`)).rejects.toThrow();
  });
  it('has its exercise’s master from then on', async () => {
    expect(await school.app.redraw?.master('crown-16')).toMatch(/^[0-9a-f]{64}$/);
    expect(await school.app.redraw?.master('no such')).toBeNull();
  });
  it('without a recipe says that its picture is gone and its grade is not', async () => {
    const other = await school.measured(hugo, SOUND);
    const nothing = await keepNothing(school.app.files, school.app.db);
    const { id } = await school.app.db.one(
      Id,
      sql`insert into measurement (scan_id, scan_sha256, kind, duration_ms, peak_mb, alignment, curves, display_sha256, profiles_sha256, picture_sha256)
          select id, sha256, 'crown', 1, 1, ${ALIGNMENT}, '{}', ${nothing}, ${nothing}, ${nothing} from scan where attempt_id = ${other} returning id`,
    );
    await school.app.db.run(sql`insert into graded_on (attempt_id, measurement_id) values (${other}, ${id})`);
    const { status, answer } = (await get('display', other)) as { status: number; answer: { message: string } };
    expect([status, answer.message]).toEqual([404, expect.stringContaining('its readings and its grade are here')]);
  });
});
