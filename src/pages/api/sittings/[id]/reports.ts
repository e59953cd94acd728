import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { download } from '#server/files-out.ts';
import { asked, endpoint } from '#server/http.ts';
import { sittingReport } from '#server/report/send.ts';
import { PAPERS } from '#server/report/sheet.ts';
import { app } from '#server/start.ts';

const Asked = v.object({
  as: v.optional(v.picklist(['pdf', 'csv', 'json']), 'pdf'),
  paper: v.optional(v.picklist(Object.keys(PAPERS) as (keyof typeof PAPERS)[]), 'a4'),
});

/** What a sitting came to: the board's list as PDF, all readings as CSV, all reports as JSON. */
export const GET: APIRoute = endpoint(async (context) => {
  const { as, paper } = asked(context, Asked);
  const r = await sittingReport(await app(), context.params.id ?? '', as, paper);
  return download(r.content, r.type, r.name);
});
