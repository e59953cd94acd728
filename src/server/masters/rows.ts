import * as v from 'valibot';
import { ArchCheckView, type DraftView, INNER, InnerFiles, Marks, Stroke, Trusts } from '#contract/master-draft.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';

export const DraftRow = v.object({
  id: v.string(),
  course_id: v.string(),
  name: v.string(),
  tooth: v.string(),
  arch_sha256: v.string(),
  arch_name: v.string(),
  opposing_sha256: v.nullable(v.string()),
  opposing_name: v.nullable(v.string()),
  factor: v.number(),
  inner_bodies: InnerFiles,
  checks: v.array(ArchCheckView),
  display_sha256: v.string(),
  parts_sha256: v.nullable(v.string()),
  marks: v.nullable(Marks),
  trust: v.nullable(Trusts),
  teeth: v.array(v.object({ tooth: v.string(), rms: v.number(), share: v.number() })),
  turned_about: v.nullable(v.number()),
  strokes: v.array(Stroke),
  version: v.number(),
  master_id: v.nullable(v.string()),
});
export type DraftRow = v.InferOutput<typeof DraftRow>;

export async function draftById(q: Queries, id: string): Promise<DraftRow> {
  const d = await q.maybeOne(
    DraftRow,
    sql`select id, course_id, name, tooth, arch_sha256, arch_name, opposing_sha256, opposing_name, factor, inner_bodies, checks, display_sha256, parts_sha256, marks, trust, teeth, turned_about, strokes, version, master_id
        from master_draft where id = ${id}`,
  );
  if (!d) throw new Refused('not-there', 'There is no such master.');
  return d;
}

export function draftView(row: DraftRow): DraftView {
  const { course_id: _c, arch_sha256: _a, opposing_sha256: _o, display_sha256: _d, parts_sha256: _p, inner_bodies, ...shown } = row;
  return { ...shown, inner: INNER.filter((k) => inner_bodies[k]) };
}

const Listed = v.object({
  id: v.string(),
  name: v.string(),
  tooth: v.string(),
  finished: v.boolean(),
  changed_at: v.string(),
  by: v.string(),
});
/** Masters that were brought to these courses, newest first. */
export const draftsOf = (q: Queries, courses: readonly string[]) =>
  q.any(
    Listed,
    sql`select d.id, d.name, d.tooth, d.master_id is not null as finished, d.changed_at, p.name as by
        from master_draft d join person p on p.id = d.made_by where d.course_id in (select jsonb_array_elements_text(${courses}::jsonb)) order by d.changed_at desc`,
  );

const Exercise = v.object({
  id: v.string(),
  title: v.string(),
  tooth: v.string(),
  master: v.string(),
  master_id: v.string(),
  attempts: v.number(),
});
/** The exercises of these courses with the master that each uses, and how many attempts were made on it. */
export const exercisesWithMasters = (q: Queries, courses: readonly string[]) =>
  q.any(
    Exercise,
    sql`select e.id, e.title, e.tooth, m.name as master, m.id as master_id,
          (select count(*)::int from attempt a join sitting t on t.id = a.sitting_id where t.exercise_id = e.id) as attempts
        from exercise e join master m on m.id = e.master_id where e.course_id in (select jsonb_array_elements_text(${courses}::jsonb)) order by e.title`,
  );
