import type { APIRoute } from 'astro';
import { KitEdit } from '#contract/kit.ts';
import { keepKitList, kitOf } from '#server/course/kit.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

export const GET: APIRoute = endpoint(async (context) => Response.json(await kitOf((await app()).db, context.params.id ?? '')));
export const POST: APIRoute = endpoint(async (context) =>
  Response.json({ version: await keepKitList(await app(), context.locals.person, context.params.id ?? '', await body(context, KitEdit)) }),
);
