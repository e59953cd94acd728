import type { APIRoute } from 'astro';
import { endpoint, number } from '#server/http.ts';
import { plannedBeside } from '#server/plan/beside.ts';
import { app } from '#server/start.ts';

/** What the plan expected beside what was read, likely causes, and how the work went. */
export const GET: APIRoute = endpoint(async (context) => Response.json(await plannedBeside(await app(), number(context.params.id))));
