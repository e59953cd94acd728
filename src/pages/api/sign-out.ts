import type { APIRoute } from 'astro';
import { COOKIE, signOut } from '#server/access/sign-in.ts';
import { app } from '#server/app.ts';
import { endpoint } from '#server/http.ts';

export const POST: APIRoute = endpoint(async (context) => {
  const token = context.cookies.get(COOKIE)?.value;
  if (token) await signOut((await app()).db, token);
  context.cookies.delete(COOKIE, { path: '/' });
  return context.redirect('/sign-in', 303);
});
