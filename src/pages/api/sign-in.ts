import type { APIRoute } from 'astro';
import { COOKIE, signIn } from '#server/access/sign-in.ts';
import { app } from '#server/app.ts';
import { endpoint } from '#server/http.ts';

export const POST: APIRoute = endpoint(async (context) => {
  const form = await context.request.formData();
  const asked = String(form.get('next') ?? '/');
  // Only ways within this site: an address that starts with one slash.
  const next = /^\/(?![/\\])/.test(asked) ? asked : '/';
  const done = await signIn((await app()).db, String(form.get('name') ?? ''), String(form.get('password') ?? ''));
  if (!done) return context.redirect(`/sign-in?wrong&next=${encodeURIComponent(next)}`, 303);
  context.cookies.set(COOKIE, done.token, {
    httpOnly: true,
    sameSite: 'lax',
    path: '/',
    maxAge: 7 * 86_400,
    secure: context.url.protocol === 'https:',
  });
  return context.redirect(next, 303);
});
