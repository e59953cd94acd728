import type { APIRoute } from 'astro';
import { gradebookCsv } from '#server/course/out.ts';
import { bookOf } from '#server/course/view.ts';
import { download } from '#server/files-out.ts';
import { endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** The gradebook as CSV. */
export const GET: APIRoute = endpoint(async (context) => {
  const id = context.params.id ?? '';
  return download(gradebookCsv(await bookOf((await app()).db, id)), 'text/csv; charset=utf-8', `gradebook-${id}.csv`);
});
