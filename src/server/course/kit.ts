import * as v from 'valibot';
import { KIT_LISTS, Kit, type KitEdit, KitFile, type KitList, type KitView } from '#contract/kit.ts';
import shippedFile from '../../../data/kit.json' with { type: 'json' };
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';

/** What ships, until a course has a list of its own. */
export const SHIPPED_KIT: Kit = v.parse(KitFile, shippedFile);

const Stored = v.object({ list: v.picklist(KIT_LISTS), version: v.number(), items: v.unknown() });

/** The newest version of every list of a course; 0 where it is the one that ships. */
export async function kitOf(q: Queries, course: string): Promise<KitView> {
  const rows = await q.any(
    Stored,
    sql`select distinct on (list) list, version, items from kit_version where course_id = ${course} order by list, version desc`,
  );
  const own = new Map(rows.map((r) => [r.list, r]));
  return {
    kit: v.parse(Kit, Object.fromEntries(KIT_LISTS.map((l) => [l, own.get(l)?.items ?? SHIPPED_KIT[l]]))),
    versions: Object.fromEntries(KIT_LISTS.map((l) => [l, own.get(l)?.version ?? 0])) as Record<KitList, number>,
  };
}

/** A changed list becomes its next version; the ones before stay. */
export const keepKitList = (a: App, who: Person | null, course: string, e: KitEdit): Promise<number> =>
  a.records.act(async (q, note) => {
    permit(who, 'course.keep', await SUBJECTS.course(q, course));
    const { versions, kit } = await kitOf(q, course);
    if (versions[e.list] !== e.version)
      throw new Refused('conflict', 'Somebody else changed this list meanwhile. Load it and make your changes again.');
    if (e.list === 'drills') {
      const lacking = e.items.find((d) => d.cutter !== '' && !kit.cutters.some((c) => c.id === d.cutter));
      if (lacking) throw new Refused('not-valid', `“${lacking.title}” wants a cutter that is not in the list of cutters.`);
    }
    if (e.list === 'cutters') {
      const used = kit.drills.find((d) => d.cutter !== '' && !e.items.some((c) => c.id === d.cutter));
      if (used) throw new Refused('not-valid', `The drill “${used.title}” uses a cutter that you took out. Give it another one first.`);
    }
    const version = e.version + 1;
    await q.run(
      sql`insert into kit_version (course_id, list, version, items, made_by) values (${course}, ${e.list}, ${version}, ${JSON.stringify(e.items)}::jsonb, ${who.id})`,
    );
    await note({
      person: who.id,
      action: 'kit.change',
      subject: `course ${course}`,
      details: { list: e.list, version, items: e.items.length },
    });
    return version;
  });
