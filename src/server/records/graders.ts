import * as v from 'valibot';
import type { Database } from '../database/database.ts';
import { sql } from '../database/database.ts';
import { Refused } from '../http.ts';
import { audit } from './attempts.ts';

const Person = v.object({ id: v.string(), name: v.string() });
const Id = v.object({ id: v.number() });

/** Who may grade: instructors and course directors. */
export const graders = (db: Database) =>
  db.any(Person, sql`select id, name from person where role in ('instructor', 'director') order by name`);

/** Gives attempts of a sitting to graders, in turn, in the order of the students' names; nobody named takes them back. */
export async function shareOut(
  db: Database,
  sitting: string,
  wanted: { readonly attempts: readonly number[]; readonly graders: readonly string[] },
  by: string,
): Promise<void> {
  const known = new Set((await graders(db)).map((g) => g.id));
  const stranger = wanted.graders.find((g) => !known.has(g));
  if (stranger !== undefined) throw new Refused(404, `${stranger} is no instructor of this course.`);
  await db.transaction(async (q) => {
    const mine = await q.any(
      Id,
      sql`select a.id from attempt a join person p on p.id = a.student_id where a.sitting_id = ${sitting}
          and a.id in (select (json_array_elements_text(${wanted.attempts}::json))::int) order by p.name, a.id`,
    );
    if (mine.length < wanted.attempts.length) throw new Refused(404, 'Some of these attempts are not of this sitting. Reload the page.');
    for (const [i, { id }] of mine.entries()) {
      const grader = wanted.graders.length ? wanted.graders[i % wanted.graders.length] : null;
      await q.run(sql`update attempt set grader_id = ${grader} where id = ${id}`);
    }
    await audit(q, by, 'attempt.assign', `${mine.length} attempts of ${sitting} to ${wanted.graders.join(', ') || 'nobody'}`);
  });
}
