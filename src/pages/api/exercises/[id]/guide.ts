import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { download } from '#server/files-out.ts';
import { asked, endpoint } from '#server/http.ts';
import { guideFile } from '#server/plan/guide.ts';
import { PAPERS } from '#server/report/sheet.ts';
import { app } from '#server/start.ts';

const Asked = v.object({
  as: v.optional(v.picklist(['pdf', 'svg', 'dxf', 'stl']), 'pdf'),
  paper: v.optional(v.picklist(Object.keys(PAPERS) as (keyof typeof PAPERS)[]), 'a4'),
  plane: v.optional(v.pipe(v.string(), v.regex(/^[0-9]$/, 'Expected the number of a section.'), v.transform(Number)), '0'),
});

/** The reduction guide of an exercise: all sections to scale as PDF, one as SVG or DXF, a body to print as STL. */
export const GET: APIRoute = endpoint(async (context) => {
  const { as, paper, plane } = asked(context, Asked);
  const f = await guideFile(await app(), context.locals.person, context.params.id ?? '', as, plane, paper);
  return download(f.content, f.type, f.name);
});
