import type { APIRoute } from 'astro';
import { Refused } from '#server/errors.ts';
import { displayResponse } from '#server/files-out.ts';
import { endpoint } from '#server/http.ts';
import { draftById } from '#server/masters/rows.ts';
import { app } from '#server/start.ts';

/** The opposing arch where it was brought to. */
export const GET: APIRoute = endpoint(async (context) => {
  const a = await app();
  const d = await draftById(a.db, context.params.id ?? '');
  if (!d.opposing_display_sha256) throw new Refused('not-there', 'The opposing arch has not been brought to its place yet.');
  return displayResponse(a.files, d.opposing_display_sha256);
});
