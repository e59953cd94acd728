import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { PlanChoices } from '#contract/plan.ts';
import { download } from '#server/files-out.ts';
import { asked, body, endpoint } from '#server/http.ts';
import { planPdf } from '#server/plan/paper.ts';
import { choosePlan, planView } from '#server/plan/view.ts';
import { PAPERS } from '#server/report/sheet.ts';
import { app } from '#server/start.ts';

const Asked = v.object({
  as: v.optional(v.picklist(['json', 'pdf']), 'json'),
  paper: v.optional(v.picklist(Object.keys(PAPERS) as (keyof typeof PAPERS)[]), 'a4'),
});

/** The plan of an exercise: as data, or as a card to print. */
export const GET: APIRoute = endpoint(async (context) => {
  const { as, paper } = asked(context, Asked);
  const id = context.params.id ?? '';
  const view = await planView(await app(), context.locals.person, id);
  return as === 'json' ? Response.json(view) : download(await planPdf(view, paper), 'application/pdf', `plan-${id}.pdf`);
});

/** How the course plans it where schools differ. */
export const POST: APIRoute = endpoint(async (context) => {
  await choosePlan(await app(), context.locals.person, context.params.id ?? '', await body(context, PlanChoices));
  return Response.json({ done: true });
});
