import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { removePin, setPin } from '#server/grading/judge.ts';
import { body, endpoint, number } from '#server/http.ts';
import { app } from '#server/start.ts';
import { inFile, scoreFor } from '#server/view/current.ts';

const place = v.pipe(v.number(), v.finite(), v.minValue(-60), v.maxValue(60));
const Pin = v.union([
  v.object({ remove: v.pipe(v.number(), v.integer()) }),
  v.object({ line: v.string(), point: v.tuple([place, place, place]), note: v.pipe(v.string(), v.maxLength(300)) }),
]);

/** Marks a place of the picture for one line, or takes a mark away. */
export const POST: APIRoute = endpoint(async (context) => {
  const a = await app();
  const id = number(context.params.id);
  const { person } = context.locals;
  const p = await body(context, Pin);
  if ('remove' in p) await removePin(a.records, person, id, p.remove);
  else await setPin(a.records, person, id, { ...p, point: await inFile(a.db, id, p.point) });
  return Response.json(await scoreFor(a.db, person, id));
});
