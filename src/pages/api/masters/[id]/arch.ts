import type { APIRoute } from 'astro';
import { displayResponse } from '#server/files-out.ts';
import { endpoint } from '#server/http.ts';
import { draftById } from '#server/masters/rows.ts';
import { app } from '#server/start.ts';

/** The arch to look at and to draw on, coloured by parts once these are known. */
export const GET: APIRoute = endpoint(async (context) => {
  const a = await app();
  return displayResponse(a.files, (await draftById(a.db, context.params.id ?? '')).display_sha256);
});
