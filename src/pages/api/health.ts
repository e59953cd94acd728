import type { APIRoute } from 'astro';
import { ready } from '#server/start.ts';

/** Answers whether the database replies, and nothing else. */
export const GET: APIRoute = async () => {
  try {
    await ready();
    return Response.json({ ready: true });
  } catch (e) {
    console.error(e);
    return Response.json({ ready: false }, { status: 503 });
  }
};
