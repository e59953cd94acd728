import type { APIRoute } from 'astro';
import { oneRosterZip } from '#server/course/out.ts';
import { bookOf, coursesNamed } from '#server/course/view.ts';
import { download } from '#server/files-out.ts';
import { endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** Users, class, enrollments, line items and results as a OneRoster 1.2 archive. */
export const GET: APIRoute = endpoint(async (context) => {
  const { db } = await app();
  const id = context.params.id ?? '';
  const [[course], book] = await Promise.all([coursesNamed(db, [id]), bookOf(db, id)]);
  return download(oneRosterZip(course, book, new Date().toISOString()), 'application/zip', `oneroster-${id}.zip`);
});
