import * as v from 'valibot';
import {
  ArchCheckView,
  Compared,
  type DraftView,
  INNER,
  InnerFiles,
  Marks,
  Occlusion,
  Stroke,
  Trial,
  Trusts,
} from '#contract/master-draft.ts';
import { KIND_NAMES, type KindName } from '#core/kinds/kinds.ts';
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
  opposing_display_sha256: v.nullable(v.string()),
  bite_sha256: v.nullable(v.string()),
  bite_name: v.nullable(v.string()),
  occlusion: v.nullable(Occlusion),
  trial: v.nullable(Trial),
  compared: v.nullable(Compared),
  extra: v.record(v.string(), v.unknown()),
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
    sql`select id, course_id, name, tooth, arch_sha256, arch_name, opposing_sha256, opposing_name, opposing_display_sha256, bite_sha256, bite_name, occlusion, trial, compared, extra, factor, inner_bodies, checks, display_sha256, parts_sha256, marks, trust, teeth, turned_about, strokes, version, master_id
        from master_draft where id = ${id}`,
  );
  if (!d) throw new Refused('not-there', 'There is no such master.');
  return d;
}

export function draftView(row: DraftRow): DraftView {
  const { course_id: _c, arch_sha256: _a, opposing_sha256: _o, display_sha256: _d, parts_sha256: _p, ...rest } = row;
  const { inner_bodies, bite_sha256: _b, opposing_display_sha256: _s, extra: _e, ...shown } = rest;
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

const Shelved = v.object({ id: v.string(), name: v.string(), tooth: v.string(), file_sha256: v.string() });
/** Masters that may be used in a course: its own, those its exercises use already, and those that belong to no course. */
export const mastersFor = (q: Queries, course: string) =>
  q.any(
    Shelved,
    sql`select id, name, tooth, file_sha256 from master
        where file_sha256 is not null and (course_id is null or course_id = ${course} or id in (select master_id from exercise where course_id = ${course})) order by made_at desc nulls last, name`,
  );

const ForMaster = v.object({
  sha256: v.string(),
  file_name: v.string(),
  kind: v.picklist(KIND_NAMES as [KindName, ...KindName[]]),
  too_large_by: v.nullable(v.number()),
});
/** The scans behind the latest graded attempts of an exercise, one an attempt. */
export const latestScans = (q: Queries, exercise: string, most: number) =>
  q.any(
    ForMaster,
    sql`select sha256, file_name, kind, too_large_by from (
          select distinct on (a.id) a.id as attempt, s.sha256, s.file_name, e.kind, s.too_large_by
          from attempt a join scan s on s.attempt_id = a.id join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id
          where e.id = ${exercise} and s.state = 'measured' and s.removed_at is null and s.hand_pose is null and s.step = 'final' order by a.id, s.id desc) as latest
        order by attempt desc limit ${most}`,
  );
