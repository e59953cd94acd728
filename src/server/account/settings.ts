import * as v from 'valibot';
import { Settings, USUAL_SETTINGS } from '#contract/settings.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';

const Row = v.object({ settings: v.unknown() });

export async function settingsOf(q: Queries, person: string): Promise<Settings> {
  const row = await q.maybeOne(Row, sql`select settings from person where id = ${person}`);
  const read = v.safeParse(Settings, row?.settings ?? {});
  return read.success ? read.output : USUAL_SETTINGS;
}

/** Changes what is given of one's own settings; the rest stays. They change how things are written, never what they are, so that the chain does not hold them. */
export async function changeSettings(a: Pick<App, 'db'>, who: Person | null, change: Partial<Settings>): Promise<Settings> {
  if (!who) throw new Refused('signed-out', 'Sign in first.');
  const next = v.parse(Settings, { ...(await settingsOf(a.db, who.id)), ...change });
  await a.db.run(sql`update person set settings = ${JSON.stringify(next)}::jsonb where id = ${who.id}`);
  return next;
}
