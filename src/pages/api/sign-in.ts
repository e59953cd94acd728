import type { APIRoute } from 'astro';
import { safeNext } from '#server/account/next.ts';
import { COOKIE, signIn } from '#server/account/sign-in.ts';
import { Refused } from '#server/errors.ts';
import { bytesOf, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** bytes: a name and a password are shorter than this. */
const FORM_LIMIT = 10_000;
const DAYS = 7;

export const POST: APIRoute = endpoint(async (context) => {
  const { request, clientAddress } = context;
  const type = request.headers.get('content-type') ?? '';
  if (!/^(application\/x-www-form-urlencoded|multipart\/form-data)/.test(type))
    throw new Refused('unsupported', `Expected the sign-in form, got ${type || 'nothing'}.`);
  const bytes = await bytesOf(request, FORM_LIMIT);
  const form = await new Response(bytes as BodyInit, { headers: { 'content-type': type } }).formData().catch(() => {
    throw new Refused('malformed', 'The sign-in form did not arrive whole. Try again.');
  });
  const field = (name: string): string => {
    const value = form.get(name);
    return typeof value === 'string' ? value : '';
  };
  const next = safeNext(field('next'));
  const a = await app();
  const name = field('name');
  const back = (why: Record<string, string>): Response => context.redirect(`/sign-in?${new URLSearchParams({ ...why, name, next })}`, 303);
  const isPage = request.headers.get('accept')?.includes('text/html') ?? false;
  try {
    await a.throttle.check(name, clientAddress);
  } catch (e) {
    if (isPage && e instanceof Refused) return back({ wait: String(e.details.wait_s) });
    throw e;
  }
  const done = await signIn(a.db, name, field('password'));
  if (!done) {
    await a.throttle.failed(name, clientAddress);
    await a.records.note({ person: null, action: 'sign-in.refused', subject: 'sign-in' });
    return back({ wrong: '' });
  }
  await a.throttle.succeeded(name);
  await a.records.note({ person: done.person.id, action: 'sign-in', subject: `person ${done.person.id}` });
  context.cookies.set(COOKIE, done.token, {
    httpOnly: true,
    sameSite: 'lax',
    path: '/',
    maxAge: DAYS * 86_400,
    secure: context.url.protocol === 'https:',
  });
  return context.redirect(next, 303);
});
