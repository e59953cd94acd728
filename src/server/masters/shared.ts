import { randomBytes } from 'node:crypto';
import type { Inner } from '#contract/master-draft.ts';
import { PROPOSED } from '#core/annotate/propose.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { sql } from '../database/port.ts';
import type { Received } from '../scans/receive.ts';
import { stored } from './drafts.ts';
import { inChild } from './in-child.ts';

/** Takes in a master that another installation shared; its marks stand, and can be looked at and corrected before it is finished here. */
export async function bringShared(a: App, who: Person | null, course: string, file: Received): Promise<string> {
  permit(who, 'master.keep', await SUBJECTS.course(a.db, course));
  const m = await a.files.withFolder(async (outFolder) => {
    const r = await inChild(
      a.children.run<'unpack-master'>({ kind: 'unpack-master', masterFile: a.files.pathOf(file.kept.sha256), outFolder }),
    );
    const keep = (path: string) => a.files.keepFile(path);
    const inner = Object.fromEntries(
      await Promise.all(Object.entries(r.inner).map(async ([k, path]) => [k, await keep(path)] as const)),
    ) as Partial<Record<Inner, Awaited<ReturnType<typeof keep>>>>;
    return {
      ...r,
      inner,
      arch: await keep(r.arch),
      opposing: r.opposing ? await keep(r.opposing) : null,
      parts: await keep(r.parts),
      display: await keep(r.display),
    };
  });
  const { name, tooth, ...marks } = m.description;
  const id = randomBytes(9).toString('base64url');
  const innerFiles = Object.fromEntries(Object.entries(m.inner).map(([k, f]) => [k, { sha256: f.sha256, name: `${k}, ${file.name}` }]));
  const trust = Object.fromEntries(PROPOSED.map((p) => [p, 'sure']));
  return a.records.act(async (q, note) => {
    for (const k of [file.kept, m.arch, m.parts, m.display, ...(m.opposing ? [m.opposing] : []), ...Object.values(m.inner)])
      await stored(q, k);
    await q.run(
      sql`insert into master_draft (id, course_id, name, tooth, arch_sha256, arch_name, opposing_sha256, opposing_name, inner_bodies, factor, checks, triangles, display_sha256, parts_sha256, marks, trust, extra, made_by)
          values (${id}, ${course}, ${name.slice(0, 120)}, ${tooth}, ${m.arch.sha256}, ${file.name}, ${m.opposing?.sha256 ?? null}, ${m.opposing ? file.name : null}, ${JSON.stringify(innerFiles)}::jsonb, 1,
            ${JSON.stringify(m.checks)}::jsonb, ${m.triangles}, ${m.display.sha256}, ${m.parts.sha256}, ${JSON.stringify(marks)}::jsonb, ${JSON.stringify(trust)}::jsonb, ${JSON.stringify(m.extra)}::jsonb, ${who.id})`,
    );
    await note({ person: who.id, action: 'master.bring', subject: `master ${id}`, details: { tooth, shared: file.kept.sha256 } });
    return id;
  });
}
