import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { download } from '#server/files-out.ts';
import { asked, endpoint } from '#server/http.ts';
import { PAPERS } from '#server/report/sheet.ts';
import { termOf, termPdf } from '#server/report/term.ts';
import { app } from '#server/start.ts';

const Asked = v.object({
  as: v.optional(v.picklist(['pdf', 'json']), 'pdf'),
  paper: v.optional(v.picklist(Object.keys(PAPERS) as (keyof typeof PAPERS)[]), 'a4'),
});

/** A student's term as PDF or JSON, as whoever asks may see it. */
export const GET: APIRoute = endpoint(async (context) => {
  const { as, paper } = asked(context, Asked);
  const { isOwn, ...term } = await termOf(await app(), context.locals.person, context.params.student ?? '');
  return as === 'json'
    ? download(JSON.stringify(term, null, 1), 'application/json', 'term.json')
    : download(await termPdf({ ...term, isOwn }, paper), 'application/pdf', 'term.pdf');
});
