import * as v from 'valibot';
import { GradeFile } from '#contract/grade.ts';
import { errorCurves } from '#core/progress/error-curve.ts';
import { lostPoints } from '#core/score/lost.ts';
import { type Database, type Queries, sql } from '../database/port.ts';

/** Writes what a signed record says line by line, where a course's history is read from. */
export async function keepLines(q: Queries, grade: number, r: GradeFile): Promise<void> {
  const lines = r.result.criteria.map((c) => {
    const lost = lostPoints(c, r.rubric.body.scoring);
    // Points that were kept, so that rubrics that give and rubrics that take off are read alike.
    return { ...c, points: lost === null ? null : c.of - lost, out_of: c.of, line: c.id, u: c.U };
  });
  await q.run(
    sql`insert into graded_line (grade_id, line, title, reading, stat, zone, unit, value, u, lo, hi, level, points, out_of)
        select ${grade}::int, line, title, reading, stat, zone, unit, value, u, lo, hi, level, points, out_of
        from jsonb_to_recordset(${JSON.stringify(lines)}::jsonb) as x(line text, title text, reading text, stat text, zone text, unit text, value double precision, u double precision,
          lo double precision, hi double precision, level integer, points double precision, out_of double precision) on conflict do nothing`,
  );
  const errors = r.result.critical.map((e) => ({ line: e.id, title: e.title, made: e.made === true }));
  await q.run(
    sql`insert into graded_error (grade_id, line, title, made) select ${grade}::int, line, title, made
        from jsonb_to_recordset(${JSON.stringify(errors)}::jsonb) as x(line text, title text, made boolean) on conflict do nothing`,
  );
  const curves = errorCurves(r.rubric.body, r.readings, r.curves).map((c) => ({
    ...c,
    bins: c.bins.map((b) => (b === null ? null : Math.round(1000 * b) / 1000)),
  }));
  if (curves.length)
    await q.run(
      sql`insert into graded_curve (grade_id, reading, unit, bins) select ${grade}::int, reading, unit, bins
          from jsonb_to_recordset(${JSON.stringify(curves)}::jsonb) as x(reading text, unit text, bins jsonb) on conflict do nothing`,
    );
}

const Signed = v.object({ id: v.number(), record: v.unknown() });
/** Grades at a time. */
const BATCH = 100;

/** Lines of grades that were signed before there were any: from their records, once. */
export async function fillLines(db: Database): Promise<void> {
  let last = 0;
  for (;;) {
    const rows = await db.any(
      Signed,
      sql`select g.id, g.record from grade g where g.id > ${last} and not exists (select 1 from graded_line l where l.grade_id = g.id) order by g.id limit ${BATCH}`,
    );
    if (rows.length === 0) return;
    for (const { id, record } of rows) {
      const read = v.safeParse(GradeFile, record);
      // Records of the first format hold no rubric that a line could be read from.
      if (read.success) await db.transaction((q) => keepLines(q, id, read.output));
      last = id;
    }
  }
}
