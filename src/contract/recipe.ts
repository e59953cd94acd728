import * as v from 'valibot';
import { CLEAN_CROWN, type Recipe } from '#core/simulate/recipe.ts';

const finite = v.pipe(v.number(), v.finite());
const between = (lo: number, hi: number) => v.pipe(finite, v.minValue(lo), v.maxValue(hi));
const sides = (lo: number, hi: number, d: { facial: number; mesial: number; lingual: number; distal: number }) =>
  v.optional(
    v.object({
      facial: v.optional(between(lo, hi), d.facial),
      mesial: v.optional(between(lo, hi), d.mesial),
      lingual: v.optional(between(lo, hi), d.lingual),
      distal: v.optional(between(lo, hi), d.distal),
    }),
    d,
  );
const C = CLEAN_CROWN;

export const CrownRecipe = v.object({
  kind: v.literal('crown'),
  occlusal: v.optional(
    v.object({
      functional: v.optional(between(0, 4), C.occlusal.functional),
      nonFunctional: v.optional(between(0, 4), C.occlusal.nonFunctional),
      elsewhere: v.optional(between(0, 4), C.occlusal.elsewhere),
      cusps: v.optional(v.record(v.string(), between(0, 4))),
    }),
    C.occlusal,
  ),
  incisal: v.optional(between(0, 5)),
  flatten: v.optional(between(0, 1), 0),
  taper: sides(-15, 40, C.taper),
  margin: v.optional(
    v.object({
      width: sides(0.05, 2.5, C.margin.width),
      rounding: v.optional(between(0, 1), 1),
      slope: v.optional(between(-20, 60), 0),
      height: sides(-2, 3, C.margin.height),
      wander: v.optional(between(0, 1), 0),
      waves: v.optional(between(1, 60), 7),
    }),
    C.margin,
  ),
  planes: v.optional(
    v.array(v.object({ azimuth: between(0, 360), halfWidth: between(5, 180), angle: between(0, 90), depth: between(0, 4) })),
    [],
  ),
  edgeRadius: v.optional(between(0, 1), C.edgeRadius),
  tilts: v.optional(v.array(v.object({ azimuth: between(0, 360), halfWidth: between(5, 180), lean: between(-30, 30) })), []),
});

/** `recipe.json` of the simulator. Everything but the tooth and the kind has a default: a clean preparation. */
export const RecipeFile = v.object({
  format: v.literal('veritor-recipe/1'),
  tooth: v.pipe(v.string(), v.regex(/^([1-4][1-8]|[5-8][1-5])$/, 'a tooth is named by its two FDI digits')),
  seed: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0)), 1),
  preparation: CrownRecipe,
  neighbourDamage: v.optional(v.object({ mesial: v.optional(between(0, 1), 0), distal: v.optional(between(0, 1), 0) }), {
    mesial: 0,
    distal: 0,
  }),
  scan: v.optional(
    v.object({
      triangles: v.optional(v.pipe(v.number(), v.integer(), v.minValue(10_000), v.maxValue(1_000_000)), 150_000),
      noise: v.optional(between(0, 0.2), 0.02),
      correlation: v.optional(between(0.01, 5), 0.25),
      pose: v.optional(v.picklist(['random', 'none']), 'random'),
      border: v.optional(between(-4, 10), 1),
    }),
    {},
  ),
});

export const toRecipe = (r: v.InferOutput<typeof RecipeFile>): Recipe => r as Recipe;
