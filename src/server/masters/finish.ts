import { readFile } from 'node:fs/promises';
import * as v from 'valibot';
import type { MasterDescription } from '#core/master/master.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import type { MasterParts } from '../children/tasks.ts';
import { sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { inChild } from './in-child.ts';
import { type DraftRow, draftById } from './rows.ts';

export const ready = (d: DraftRow): DraftRow & { marks: NonNullable<DraftRow['marks']>; parts_sha256: string } => {
  const { marks, parts_sha256 } = d;
  if (!marks || !parts_sha256) throw new Refused('conflict', 'Touch the tooth first, so that there is something to finish.');
  const open = Object.entries(d.trust ?? {}).filter(([, t]) => t === 'ask');
  if (open.length) throw new Refused('conflict', `Still to be said by a person: ${open.map(([n]) => n).join(', ')}.`);
  return { ...d, marks, parts_sha256 };
};

/** What the master is put together from. */
export function partsOf(a: App, d: ReturnType<typeof ready>): MasterParts & { description: MasterDescription } {
  return {
    archFile: a.files.pathOf(d.arch_sha256),
    factor: d.factor,
    opposingFile: d.opposing_sha256 && a.files.pathOf(d.opposing_sha256),
    opposingPlace: d.occlusion?.matrix ?? null,
    innerFiles: Object.fromEntries(Object.entries(d.inner_bodies).map(([k, f]) => [k, a.files.pathOf(f.sha256)])),
    partsFile: a.files.pathOf(d.parts_sha256),
    strokes: d.strokes,
    description: { name: d.name, tooth: d.tooth, ...d.marks },
    extra: d.extra,
  };
}

/** The master as one file, made from the arch and what was drawn on it. */
async function archiveOf(a: App, d: ReturnType<typeof ready>, keep: (file: string) => Promise<{ sha256: string; size: number }>) {
  const parts = partsOf(a, d);
  return a.files.withFolder(async (outFolder) => {
    const r = await inChild(a.children.run<'build'>({ kind: 'build', ...parts, outFolder }));
    return { description: parts.description, needs: r.needs, kept: await keep(r.archive) };
  });
}

/** Ends the draft: the master can be used from now on, and stays as it is. */
export async function finishMaster(a: App, who: Person | null, id: string): Promise<string> {
  permit(who, 'master.keep', await SUBJECTS.draft(a.db, id));
  const d = ready(await draftById(a.db, id));
  if (d.master_id) return d.master_id;
  const { description, needs, kept } = await archiveOf(a, d, (file) => a.files.keepFile(file));
  const missing = needs.filter((n) => !n.has && ['target', 'gingivalMargin', 'cusps'].includes(n.need));
  if (missing.length) throw new Refused('conflict', `Nothing can be measured without ${missing.map((n) => n.need).join(', ')}.`);
  const master = `own-${id}`;
  await a.records.act(async (q, note) => {
    await q.run(sql`insert into stored_file (sha256, size_bytes) values (${kept.sha256}, ${kept.size}) on conflict do nothing`);
    await q.run(
      sql`insert into master (id, name, tooth, description, file_sha256, course_id, made_by, made_at)
          values (${master}, ${d.name}, ${d.tooth}, ${JSON.stringify(description)}::jsonb, ${kept.sha256}, ${d.course_id}, ${who.id}, now())`,
    );
    await q.run(sql`update master_draft set master_id = ${master}, changed_at = now() where id = ${id}`);
    await note({ person: who.id, action: 'master.finish', subject: `master ${id}`, details: { master, sha256: kept.sha256 } });
  });
  return master;
}

const Exercise = v.object({ tooth: v.string(), course_id: v.string(), master_id: v.string() });
/** An exercise measures its next scans on this master; what was measured before keeps the one it was measured on. */
export const useMaster = (a: App, who: Person | null, id: string, exercise: string): Promise<void> =>
  a.records.act(async (q, note) => {
    permit(who, 'master.use', await SUBJECTS.draft(q, id));
    const d = await draftById(q, id);
    if (!d.master_id) throw new Refused('conflict', 'Finish this master first.');
    const e = await q.maybeOne(
      Exercise,
      sql`select tooth, course_id, master_id from exercise where id = ${exercise} and course_id = ${d.course_id}`,
    );
    if (!e) throw new Refused('not-there', 'There is no such exercise in this course.');
    if (e.tooth !== d.tooth) throw new Refused('conflict', `This exercise is on ${e.tooth}; the master is a ${d.tooth}.`);
    await q.run(sql`update master set follows = ${e.master_id} where id = ${d.master_id} and id <> ${e.master_id} and follows is null`);
    await q.run(
      sql`insert into measured_on (measurement_id, master_id) select m.id, ${e.master_id} from measurement m join scan s on s.id = m.scan_id join sitting t on t.id = s.sitting_id
          where t.exercise_id = ${exercise} on conflict do nothing`,
    );
    await q.run(sql`update exercise set master_id = ${d.master_id} where id = ${exercise}`);
    await note({ person: who.id, action: 'master.use', subject: `exercise ${exercise}`, details: { from: e.master_id, to: d.master_id } });
  });

const File = v.object({ file_sha256: v.string() });
/** The finished master as a zip that another installation reads. */
export async function masterZip(a: App, id: string): Promise<{ name: string; bytes: Uint8Array }> {
  const d = await draftById(a.db, id);
  const m = d.master_id ? await a.db.maybeOne(File, sql`select file_sha256 from master where id = ${d.master_id}`) : null;
  if (!m) throw new Refused('not-there', 'This master is not finished yet.');
  return { name: `${d.tooth}-${d.id}.zip`, bytes: await readFile(a.files.pathOf(m.file_sha256)) };
}
