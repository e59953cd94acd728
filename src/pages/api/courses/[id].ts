import type { APIRoute } from 'astro';
import { CourseForm } from '#contract/course.ts';
import { changeCourse } from '#server/course/setup.ts';
import { courseView } from '#server/course/view.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** Everything that a course's page shows. */
export const GET: APIRoute = endpoint(async (context) => Response.json(await courseView(await app(), context.params.id ?? '')));

/** Name, term and days of a course. */
export const POST: APIRoute = endpoint(async (context) => {
  await changeCourse(await app(), context.locals.person, context.params.id ?? '', await body(context, CourseForm));
  return Response.json({ done: true });
});
