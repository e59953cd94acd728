import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { StatName } from '#contract/reading.ts';
import { HAND_METHODS, type HandMethod } from '#core/catalogue/terms.ts';
import { readByHand } from '#server/grading/judge.ts';
import { body, endpoint, number } from '#server/http.ts';
import { app } from '#server/start.ts';
import { scoreFor } from '#server/view/current.ts';

const figure = v.nullable(v.pipe(v.number(), v.finite(), v.minValue(-90), v.maxValue(180)));
const Hand = v.object({
  reading: v.string(),
  zone: v.nullable(v.string()),
  stat: StatName,
  method: v.picklist(Object.keys(HAND_METHODS) as [HandMethod, ...HandMethod[]]),
  lo: figure,
  hi: figure,
});

/** Records an instructor's own reading at one place; without figures the reading is withdrawn. */
export const POST: APIRoute = endpoint(async (context) => {
  const a = await app();
  const id = number(context.params.id);
  await readByHand(a.records, context.locals.person, id, await body(context, Hand));
  return Response.json(await scoreFor(a.db, context.locals.person, id));
});
