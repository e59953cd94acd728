import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { download } from '#server/files-out.ts';
import { asked, endpoint } from '#server/http.ts';
import { classList, classListCsv, classListPdf } from '#server/report/class-list.ts';
import { PAPERS } from '#server/report/sheet.ts';
import { app } from '#server/start.ts';

const Asked = v.object({
  as: v.optional(v.picklist(['pdf', 'csv', 'json']), 'pdf'),
  paper: v.optional(v.picklist(Object.keys(PAPERS) as (keyof typeof PAPERS)[]), 'a4'),
});

/** Where everybody of a course stands, as PDF, CSV or JSON. */
export const GET: APIRoute = endpoint(async (context) => {
  const { as, paper } = asked(context, Asked);
  const id = context.params.id ?? '';
  const list = await classList((await app()).db, id);
  if (as === 'json') return download(JSON.stringify(list, null, 1), 'application/json', `class-list-${id}.json`);
  if (as === 'csv') return download(classListCsv(list), 'text/csv; charset=utf-8', `class-list-${id}.csv`);
  return download(await classListPdf(list, paper), 'application/pdf', `class-list-${id}.pdf`);
});
