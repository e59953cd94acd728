import type { APIRoute } from 'astro';
import { ExerciseChange } from '#contract/course.ts';
import { changeExercise } from '#server/course/setup.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

/** Title, time, steps with their checks, and cutters of an exercise. */
export const POST: APIRoute = endpoint(async (context) => {
  await changeExercise(await app(), context.locals.person, context.params.id ?? '', await body(context, ExerciseChange));
  return Response.json({ done: true });
});
