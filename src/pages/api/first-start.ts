import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { FirstForm } from '#contract/course.ts';
import { startSchool } from '#server/account/first-start.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

const First = v.object({ token: v.pipe(v.string(), v.maxLength(100)), ...FirstForm.entries });

/** The first director of an empty installation, by the link that its start printed. */
export const POST: APIRoute = endpoint(async (context) => {
  const { token, ...form } = await body(context, First);
  return Response.json({ signIn: await startSchool(await app(), token, form) });
});
