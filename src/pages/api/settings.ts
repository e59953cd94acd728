import type { APIRoute } from 'astro';
import * as v from 'valibot';
import { Settings } from '#contract/settings.ts';
import { changeSettings } from '#server/account/settings.ts';
import { body, endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';

const Change = v.partial(
  v.object({
    numbering: Settings.entries.numbering.wrapped,
    digits: Settings.entries.digits.wrapped,
    dates: Settings.entries.dates.wrapped,
    keys: Settings.entries.keys.wrapped,
  }),
);

/** Changes how things are written for whoever is signed in. */
export const POST: APIRoute = endpoint(async (context) =>
  Response.json(await changeSettings(await app(), context.locals.person, (await body(context, Change)) as Partial<Settings>)),
);
