import { defineMiddleware } from 'astro:middleware';
import { COOKIE, whoIs } from '#server/access/sign-in.ts';
import { app } from '#server/app.ts';

const OPEN = ['/sign-in', '/api/sign-in', '/api/health'];

/** Who asks is found once a request; without a sign-in only the sign-in itself is open. */
export const onRequest = defineMiddleware(async (context, next) => {
  context.locals.person = null;
  const { pathname } = context.url;
  if (pathname === '/api/health' || pathname.startsWith('/_astro/')) return next();
  const token = context.cookies.get(COOKIE)?.value;
  if (token) context.locals.person = await whoIs((await app()).db, token);
  if (!context.locals.person && !OPEN.includes(pathname)) {
    if (pathname.startsWith('/api/'))
      return Response.json({ message: 'You are signed out. Sign in again; nothing was lost.' }, { status: 401 });
    return context.redirect(`/sign-in?next=${encodeURIComponent(pathname)}`);
  }
  const response = await next();
  response.headers.set('X-Content-Type-Options', 'nosniff');
  response.headers.set('Referrer-Policy', 'same-origin');
  response.headers.set('X-Frame-Options', 'DENY');
  return response;
});
