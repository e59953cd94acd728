import type { APIRoute } from 'astro';
import { download } from '#server/files-out.ts';
import { endpoint } from '#server/http.ts';
import { ownData } from '#server/report/own-data.ts';
import { app } from '#server/start.ts';

/** Everything that is kept of whoever asks, and that they may see. */
export const GET: APIRoute = endpoint(async (context) =>
  download(await ownData(await app(), context.locals.person), 'application/zip', 'my-data.zip'),
);
