import type { APIRoute } from 'astro';
import { DryForm } from '#contract/plan.ts';
import { body, endpoint } from '#server/http.ts';
import { dryRun } from '#server/plan/dry.ts';
import { app } from '#server/start.ts';

/** The plan followed dry in some way, as far as one of its steps: readings, picture and sections. */
export const POST: APIRoute = endpoint(async (context) =>
  Response.json(await dryRun(await app(), context.locals.person, context.params.id ?? '', await body(context, DryForm))),
);
