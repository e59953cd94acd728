import type { APIRoute } from 'astro';
import { SittingForm } from '#contract/course.ts';
import { addSitting } from '#server/course/setup.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

export const POST: APIRoute = endpoint(async (context) =>
  Response.json({ id: await addSitting(await app(), context.locals.person, context.params.id ?? '', await body(context, SittingForm)) }),
);
