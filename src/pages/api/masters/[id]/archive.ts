import type { APIRoute } from 'astro';
import { endpoint } from '#server/http.ts';
import { masterZip } from '#server/masters/finish.ts';
import { app } from '#server/start.ts';

/** The finished master as one zip. */
export const GET: APIRoute = endpoint(async (context) => {
  const { name, bytes } = await masterZip(await app(), context.params.id ?? '');
  return new Response(Buffer.from(bytes), {
    headers: {
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename="${name}"`,
      'Cache-Control': 'private, no-store',
    },
  });
});
