import { defineMiddleware } from 'astro:middleware';
import { decideAccess } from '#server/access/gate.ts';
import { COOKIE, whoIs } from '#server/account/sign-in.ts';
import { Refused } from '#server/errors.ts';
import { checkOrigin, refusal } from '#server/http.ts';
import { notFound } from '#server/page.ts';
import { app } from '#server/start.ts';

/** Every request goes through here: who asks, whether this may be asked, and what every answer carries. */
export const onRequest = defineMiddleware(async (context, next) => {
  context.locals.person = null;
  context.locals.subject = null;
  const { pathname } = context.url;
  if (pathname === '/api/health' || pathname.startsWith('/_astro/')) return withHeaders(await next());
  const isApi = pathname.startsWith('/api/');
  try {
    checkOrigin(context.request);
    const { db } = await app();
    const token = context.cookies.get(COOKIE)?.value;
    if (token) context.locals.person = await whoIs(db, token);
    context.locals.subject = await decideAccess(db, context.locals.person, context.routePattern, context.request.method, context.params);
  } catch (e) {
    if (!(e instanceof Refused)) {
      console.error(e);
      return withHeaders(Response.json({ message: 'The server cannot answer now. Try again in a moment.' }, { status: 503 }));
    }
    if (isApi) return withHeaders(refusal(e));
    if (e.kind === 'signed-out') return withHeaders(context.redirect(`/sign-in?next=${encodeURIComponent(pathname)}`));
    return withHeaders(notFound());
  }
  return withHeaders(await next());
});

const HEADERS: Readonly<Record<string, string>> = {
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'same-origin',
  'X-Frame-Options': 'DENY',
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Resource-Policy': 'same-origin',
  'Permissions-Policy': 'camera=(), microphone=(), geolocation=()',
};

function withHeaders(response: Response): Response {
  const out = new Response(response.body, response);
  for (const [name, value] of Object.entries(HEADERS)) out.headers.set(name, value);
  if (!out.headers.has('Cache-Control')) out.headers.set('Cache-Control', 'no-store');
  // Pages carry their own policy, with the digests of their scripts; everything else loads nothing.
  const policy = out.headers.get('Content-Security-Policy');
  if (policy?.includes('script-src'))
    out.headers.set('Content-Security-Policy', `${policy} style-src-attr 'unsafe-inline'; frame-ancestors 'none'`);
  if (policy === null && !out.headers.get('Content-Type')?.startsWith('text/html'))
    out.headers.set('Content-Security-Policy', "default-src 'none'; frame-ancestors 'none'");
  return out;
}
