import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { usePassword } from '#server/account/invite.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

const Welcome = v.object({ token: v.pipe(v.string(), v.maxLength(100)), password: v.pipe(v.string(), v.maxLength(400)) });

/** Sets a password by an invitation. */
export const POST: APIRoute = endpoint(async (context) => {
  const { token, password } = await body(context, Welcome);
  return Response.json({ signIn: await usePassword(await app(), token, password) });
});
