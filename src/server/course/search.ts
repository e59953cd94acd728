import * as v from 'valibot';
import { type Queries, sql } from '../database/port.ts';

const Hit = v.object({ kind: v.picklist(['student', 'sitting', 'attempt']), id: v.string(), text: v.string(), more: v.string() });
export type Hit = v.InferOutput<typeof Hit>;

/** Most hits of one kind. */
const MOST = 6;

/** Students (where trails may be seen), sittings and attempts of these courses whose words hold all that was asked for. */
export async function found(q: Queries, courses: readonly string[], asked: string, trails: readonly string[]): Promise<Hit[]> {
  const words = asked.trim().toLowerCase().split(/\s+/).filter(Boolean).slice(0, 6);
  if (words.length === 0) return [];
  const like = words.map((w) => `%${w.replace(/[\\%_]/g, '\\$&')}%`);
  const of = (list: readonly string[]) => JSON.stringify(list);
  return q.any(
    Hit,
    sql`with asked as (select jsonb_array_elements_text(${of(like)}::jsonb) as w)
      (select 'student' as kind, p.id, p.name as text, concat_ws(' ', p.id, max(n.bench)) as more from person p join enrolment n on n.person_id = p.id and n.role = 'student'
         where n.course_id in (select jsonb_array_elements_text(${of(trails)}::jsonb)) and not exists (select 1 from asked where lower(concat_ws(' ', p.name, p.id, n.bench)) not like w)
         group by p.id, p.name order by p.name limit ${MOST})
      union all
      (select 'sitting', t.id, e.title || ': ' || t.title, t.held_on::text from sitting t join exercise e on e.id = t.exercise_id
         where e.course_id in (select jsonb_array_elements_text(${of(courses)}::jsonb)) and not exists (select 1 from asked where lower(concat_ws(' ', t.title, e.title, e.tooth, t.held_on::text)) not like w)
         order by t.held_on desc limit ${MOST})
      union all
      (select 'attempt', a.id::text, p.name || ', ' || e.title, t.held_on::text from attempt a join sitting t on t.id = a.sitting_id join exercise e on e.id = t.exercise_id join person p on p.id = a.student_id
         where e.course_id in (select jsonb_array_elements_text(${of(trails)}::jsonb)) and not exists (select 1 from asked where lower(concat_ws(' ', p.name, p.id, e.title, t.title, e.tooth)) not like w)
         order by t.held_on desc, a.id desc limit ${MOST})`,
  );
}
