import type { APIRoute } from 'astro';
import { CourseForm } from '#contract/course.ts';
import { makeCourse } from '#server/course/setup.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** A director sets up another course. */
export const POST: APIRoute = endpoint(async (context) =>
  Response.json({ id: await makeCourse(await app(), context.locals.person, await body(context, CourseForm)) }),
);
