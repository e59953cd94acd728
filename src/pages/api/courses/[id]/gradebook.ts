import type { APIRoute } from 'astro';
import { gradebookCsv } from '#server/course/out.ts';
import { marksOf, membersOf, sittingsIn } from '#server/course/view.ts';
import { download } from '#server/files-out.ts';
import { endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** The gradebook as CSV. */
export const GET: APIRoute = endpoint(async (context) => {
  const { db } = await app();
  const id = context.params.id ?? '';
  const [people, sittings, marks] = await Promise.all([membersOf(db, id), sittingsIn(db, [id]), marksOf(db, id)]);
  return download(gradebookCsv({ people, sittings, marks }), 'text/csv; charset=utf-8', `gradebook-${id}.csv`);
});
