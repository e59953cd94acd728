import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { download } from '#server/files-out.ts';
import { asked, endpoint, number } from '#server/http.ts';
import { attemptReport, FORMS } from '#server/report/send.ts';
import { PAPERS } from '#server/report/sheet.ts';
import { app } from '#server/start.ts';

const Asked = v.object({
  as: v.optional(v.picklist(FORMS), 'pdf'),
  paper: v.optional(v.picklist(Object.keys(PAPERS) as (keyof typeof PAPERS)[]), 'a4'),
  at: v.optional(v.pipe(v.string(), v.regex(/^\d{1,3}$/), v.transform(Number), v.maxValue(360)), '0'),
});

/** One signed attempt as PDF, CSV or JSON, or a drawing of it in a format of others. */
export const GET: APIRoute = endpoint(async (context) => {
  const form = asked(context, Asked);
  const { person, subject } = context.locals;
  const r = await attemptReport(await app(), person, subject, number(context.params.id), form);
  return download(r.content, r.type, r.name);
});
