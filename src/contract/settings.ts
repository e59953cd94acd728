import * as v from 'valibot';

/** How somebody wants things to be written. What they leave out is as usual. */
export const NUMBERINGS = ['fdi', 'universal', 'palmer'] as const;
export const DATE_FORMS = ['en-GB', 'en-US', 'de-DE', 'sv-SE'] as const;
export const Settings = v.object({
  numbering: v.optional(v.picklist(NUMBERINGS), 'fdi'),
  /** Decimals of readings in millimetres. */
  digits: v.optional(v.picklist([1, 2]), 2),
  dates: v.optional(v.picklist(DATE_FORMS), 'en-GB'),
  keys: v.optional(
    v.nullable(v.object({ on: v.boolean(), own: v.record(v.string(), v.pipe(v.string(), v.regex(/^[a-z]$/, 'A key is one letter.'))) })),
    null,
  ),
});
export type Settings = v.InferOutput<typeof Settings>;
export const USUAL_SETTINGS: Settings = v.parse(Settings, {});
