import type { APIRoute } from 'astro';
import { CopyForm } from '#contract/course.ts';
import { copyCourse } from '#server/course/setup.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** The next term of a course. */
export const POST: APIRoute = endpoint(async (context) =>
  Response.json(await copyCourse(await app(), context.locals.person, context.params.id ?? '', await body(context, CopyForm))),
);
