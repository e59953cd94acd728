import type { APIRoute } from 'astro';
import { COOKIE, signOut } from '#server/account/sign-in.ts';
import { endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

export const POST: APIRoute = endpoint(async (context) => {
  const token = context.cookies.get(COOKIE)?.value;
  if (token) await signOut((await app()).db, token);
  context.cookies.delete(COOKIE, { path: '/' });
  return context.redirect('/sign-in', 303);
});
