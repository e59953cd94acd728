import { randomBytes } from 'node:crypto';
import type { Inner, Marks, Stroke } from '#contract/master-draft.ts';
import { type ArchCheck, checkCej, checkCoverage, checkMirror } from '#core/annotate/checks.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import type { Surveyed, Task } from '../children/tasks.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import type { Kept } from '../scans/files.ts';
import type { Received } from '../scans/receive.ts';
import { inChild } from './in-child.ts';
import { type DraftRow, draftById } from './rows.ts';

const TOOTH = /^([1-4][1-8]|[5-8][1-5])$/;

export const stored = (q: Queries, k: Pick<Kept, 'sha256' | 'size'>): Promise<unknown> =>
  q.run(sql`insert into stored_file (sha256, size_bytes) values (${k.sha256}, ${k.size}) on conflict do nothing`);

/** Takes an arch, and the one that bites against it where there is one, as the beginning of a master. */
export async function bringArch(
  a: App,
  who: Person | null,
  course: string,
  o: {
    name: string;
    tooth: string;
    arch: Received;
    opposing: Received | null;
    bite: Received | null;
    inner: Partial<Record<Inner, Received>>;
  },
): Promise<string> {
  permit(who, 'master.keep', await SUBJECTS.course(a.db, course));
  if (!TOOTH.test(o.tooth))
    throw new Refused('malformed', `“${o.tooth}” is no tooth. Give the prepared tooth as two digits: quadrant and place, for example 46.`);
  const name = o.name.trim();
  if (!name || name.length > 120)
    throw new Refused('malformed', 'Give the master a name of up to 120 letters, for example “Lower first molar, series C”.');
  const survey = await surveyOf(a, o.arch.kept.sha256, 1);
  const inner = Object.fromEntries(Object.entries(o.inner).map(([k, f]) => [k, { sha256: f.kept.sha256, name: f.name }]));
  const id = randomBytes(9).toString('base64url');
  return a.records.act(async (q, note) => {
    for (const k of [
      o.arch.kept,
      ...(o.opposing ? [o.opposing.kept] : []),
      ...(o.bite ? [o.bite.kept] : []),
      ...Object.values(o.inner).map((f) => f.kept),
      survey.kept,
    ])
      await stored(q, k);
    await q.run(
      sql`insert into master_draft (id, course_id, name, tooth, arch_sha256, arch_name, opposing_sha256, opposing_name, bite_sha256, bite_name, inner_bodies, factor, checks, triangles, display_sha256, made_by)
          values (${id}, ${course}, ${name}, ${o.tooth}, ${o.arch.kept.sha256}, ${o.arch.name}, ${o.opposing?.kept.sha256 ?? null}, ${o.opposing?.name ?? null}, ${o.bite?.kept.sha256 ?? null}, ${o.bite?.name ?? null}, ${JSON.stringify(inner)}::jsonb, 1,
            ${JSON.stringify(survey.checks)}::jsonb, ${survey.triangles}, ${survey.kept.sha256}, ${who.id})`,
    );
    await note({ person: who.id, action: 'master.bring', subject: `master ${id}`, details: { tooth: o.tooth, arch: o.arch.kept.sha256 } });
    return id;
  });
}

const surveyOf = (a: App, sha256: string, factor: number): Promise<Surveyed & { kept: Kept }> =>
  a.files.withFolder(async (outFolder) => {
    const found = await inChild(a.children.run<'survey'>({ kind: 'survey', archFile: a.files.pathOf(sha256), factor, outFolder }));
    return { ...found, kept: await a.files.keepFile(found.display) };
  });

/** Says by what all lengths of the file are to be multiplied; what was proposed before no longer holds. */
export async function setUnit(a: App, who: Person | null, id: string, factor: number): Promise<void> {
  const d = await open(a.db, who, id);
  const survey = await surveyOf(a, d.arch_sha256, factor);
  await a.records.act(async (q, note) => {
    await stored(q, survey.kept);
    await q.run(
      sql`update master_draft set factor = ${factor}, checks = ${JSON.stringify(survey.checks)}::jsonb, display_sha256 = ${survey.kept.sha256}, marks = null, trust = null,
            parts_sha256 = null, strokes = '[]', occlusion = null, opposing_display_sha256 = null, trial = null, version = version + 1, changed_at = now() where id = ${id}`,
    );
    await note({ person: who?.id ?? null, action: 'master.unit', subject: `master ${id}`, details: { factor } });
  });
}

/** Checks that the touched tooth decides. */
const OF_TOUCH: readonly ArchCheck['what'][] = ['mirrored', 'coverage', 'cej'];

/** The target was touched: parts and landmarks are proposed, and take the place of what was there. */
export async function touchTooth(a: App, who: Person | null, id: string, touched: Vec3, mesialward: Vec3 | null): Promise<void> {
  const d = await open(a.db, who, id);
  const stop = d.checks.find((c) => c.state === 'stop' && c.what === 'unit');
  if (stop) throw new Refused('conflict', 'Say first what the file’s lengths are in; as millimetres it would be no arch.');
  const { proposal, parts, display } = await a.files.withFolder(async (outFolder) => {
    const task: Extract<Task, { kind: 'propose' }> = {
      kind: 'propose',
      archFile: a.files.pathOf(d.arch_sha256),
      factor: d.factor,
      tooth: d.tooth,
      touched,
      mesialward,
      outFolder,
    };
    const r = await inChild(a.children.run<'propose'>(task));
    return { proposal: r.proposal, parts: await a.files.keepFile(r.parts), display: await a.files.keepFile(r.display) };
  });
  const { tooth: _tooth, ...marks } = proposal.description;
  const checks = [
    ...d.checks.filter((c) => !OF_TOUCH.includes(c.what)),
    checkMirror(proposal.mirrored, proposal.teeth[0].rms),
    checkCoverage(proposal.coverage),
    ...checkCej(proposal.cejSeen_deg),
  ];
  await a.records.act(async (q, note) => {
    await stored(q, parts);
    await stored(q, display);
    await q.run(
      sql`update master_draft set checks = ${JSON.stringify(checks)}::jsonb, marks = ${JSON.stringify(marks)}::jsonb, trust = ${JSON.stringify(proposal.trust)}::jsonb, teeth = ${JSON.stringify(proposal.teeth)}::jsonb,
            turned_about = ${proposal.turnedAbout}, parts_sha256 = ${parts.sha256}, display_sha256 = ${display.sha256}, strokes = '[]', version = version + 1, changed_at = now() where id = ${id}`,
    );
    await note({ person: who?.id ?? null, action: 'master.propose', subject: `master ${id}`, details: { touched: [...touched] } });
  });
}

/** Keeps what a person drew. `version` is the one that they saw: a later one is not overwritten. */
export const keepMarks = (
  a: App,
  who: Person | null,
  id: string,
  o: { version: number; name: string; marks: Marks; strokes: readonly Stroke[]; trust: DraftRow['trust'] },
): Promise<number> =>
  a.records.act(async (q, note) => {
    const d = await open(q, who, id);
    if (d.version !== o.version)
      throw new Refused('conflict', 'Somebody else changed this master meanwhile. Reload it; your last changes were not kept.');
    await q.run(
      sql`update master_draft set name = ${o.name}, marks = ${JSON.stringify(o.marks)}::jsonb, strokes = ${JSON.stringify(o.strokes)}::jsonb, trust = ${JSON.stringify(o.trust)}::jsonb,
            version = version + 1, changed_at = now() where id = ${id}`,
    );
    await note({ person: who?.id ?? null, action: 'master.mark', subject: `master ${id}` });
    return d.version + 1;
  });

export async function open(q: Queries, who: Person | null, id: string): Promise<DraftRow> {
  permit(who, 'master.keep', await SUBJECTS.draft(q, id));
  const d = await draftById(q, id);
  if (d.master_id !== null)
    throw new Refused('conflict', 'This master is finished and stays as it is. Bring its arch again to make a new version.');
  return d;
}
