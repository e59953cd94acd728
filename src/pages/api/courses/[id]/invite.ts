import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { invite } from '#server/account/invite.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

const People = v.object({ people: v.pipe(v.array(v.pipe(v.string(), v.maxLength(100))), v.minLength(1), v.maxLength(2000)) });

/** Links by which people set their password. */
export const POST: APIRoute = endpoint(async (context) =>
  Response.json(await invite(await app(), context.locals.person, context.params.id ?? '', (await body(context, People)).people)),
);
