import * as v from 'valibot';
import { box, type CavityRecipe, CLEAN_CLASS_I } from '#core/simulate/cavity/recipe.ts';
import { CLEAN_CROWN } from '#core/simulate/crown/recipe.ts';
import { FAULT_NAMES } from '#core/simulate/faults/faults.ts';
import { CLEAN_ONLAY } from '#core/simulate/onlay/recipe.ts';
import { CLEAN_PARTIAL, groove } from '#core/simulate/partial/recipe.ts';
import { CLEAN_PREFORMED, CLEAN_SLICE } from '#core/simulate/preformed/recipe.ts';
import { type Recipe, SCAN_FILES } from '#core/simulate/recipe.ts';

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

const crownFields = {
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
  incisalTilt: v.optional(between(-60, 60), 0),
  flatten: v.optional(between(0, 1), 0),
  taper: sides(-15, 40, C.taper),
  margin: v.optional(
    v.object({
      width: sides(0.05, 2.5, C.margin.width),
      rounding: v.optional(between(0, 1), 1),
      slope: v.optional(between(-20, 60), 0),
      height: sides(-2, 3, C.margin.height),
      bevel: v.optional(v.object({ width: between(0.1, 1.5), angle: between(15, 80) })),
      wander: v.optional(between(0, 1), 0),
      waves: v.optional(between(1, 60), 7),
      places: v.optional(
        v.array(
          v.object({
            azimuth: between(0, 360),
            halfWidth: between(0, 180),
            over: v.optional(between(0.5, 90), 12),
            height: v.optional(between(-2, 3)),
            width: v.optional(between(-2, 2)),
            lip: v.optional(between(0, 1)),
          }),
        ),
        [],
      ),
    }),
    C.margin,
  ),
  planes: v.optional(
    v.array(v.object({ azimuth: between(0, 360), halfWidth: between(5, 180), angle: between(0, 90), depth: between(0, 4) })),
    [],
  ),
  edgeRadius: v.optional(between(0, 1), C.edgeRadius),
  tilts: v.optional(v.array(v.object({ azimuth: between(0, 360), halfWidth: between(5, 180), lean: between(-30, 30) })), []),
  shell: v.optional(v.object({ side: v.picklist(['mesial', 'distal']), thickness: between(0.1, 1.5) })),
  top: v.optional(v.union([v.literal('stands'), v.object({ along: v.picklist(['grooves', 'ridges']), radius: between(0.2, 2) })])),
};
export const CrownRecipe = v.object({ kind: v.literal('crown'), ...crownFields });

const walls = sides(-30, 30, { facial: 4, mesial: -3, lingual: 4, distal: -3 });
const O = CLEAN_CLASS_I.occlusal as NonNullable<CavityRecipe['occlusal']>;
const B = box('mesial');
const bevel = v.optional(v.object({ along: between(0.1, 2), angle: between(5, 70) }));
const cavityFields = {
  occlusal: v.optional(
    v.nullable(
      v.object({
        isthmus: v.optional(between(0.4, 6), O.isthmus),
        dovetail: v.optional(between(0, 2), O.dovetail),
        mesial: v.optional(between(0.1, 0.95), O.mesial),
        distal: v.optional(between(0.1, 0.95), O.distal),
        depth: v.optional(between(0.3, 5), O.depth),
        tiltMesial: v.optional(between(-20, 20), 0),
        tiltFacial: v.optional(between(-20, 20), 0),
        dish: v.optional(between(0, 1), 0),
        walls,
      }),
    ),
    O,
  ),
  boxes: v.optional(
    v.array(
      v.object({
        side: v.picklist(['mesial', 'distal']),
        width: v.optional(between(1, 7), B.width),
        axialDepth: v.optional(between(0.4, 3), B.axialDepth),
        overGingiva: v.optional(between(-1, 4), B.overGingiva),
        toFacial: v.optional(between(-2, 2)),
        facial: v.optional(between(-30, 30), B.facial),
        lingual: v.optional(between(-30, 30), B.lingual),
        axial: v.optional(between(-20, 20), B.axial),
        bevel,
        facialBevel: bevel,
      }),
    ),
    [],
  ),
  lineRadius: v.optional(between(0, 0.6), CLEAN_CLASS_I.lineRadius),
  axiopulpal: v.optional(between(0, 1.5), CLEAN_CLASS_I.axiopulpal),
  chatter: v.optional(v.object({ height: between(0, 0.2), length: between(0.2, 3) })),
  shell: v.optional(between(0, 1.5)),
};
export const CavityRecipeFile = v.object({ kind: v.literal('cavity'), ...cavityFields });

export const OnlayRecipeFile = v.object({
  kind: v.literal('onlay'),
  covers: v.optional(v.picklist(['facial', 'lingual']), CLEAN_ONLAY.covers),
  cover: v.optional(v.object(crownFields), CLEAN_ONLAY.cover as never),
  inside: v.optional(v.object(cavityFields), CLEAN_ONLAY.inside as never),
  shoulder: v.optional(v.boolean()),
});

const G = groove('mesial');
export const PartialRecipeFile = v.object({
  kind: v.literal('partial'),
  crown: v.optional(v.object(crownFields), CLEAN_PARTIAL.crown as never),
  plate: v.optional(between(0, 0.9), CLEAN_PARTIAL.plate),
  grooves: v.optional(
    v.array(
      v.object({
        side: v.picklist(['mesial', 'distal']),
        form: v.optional(v.picklist(['groove', 'box']), G.form),
        width: v.optional(between(0.4, 4), G.width),
        depth: v.optional(between(0.2, 2), G.depth),
        over: v.optional(between(0, 3), G.over),
        leanOut: v.optional(between(-20, 20), 0),
        leanFacial: v.optional(between(-20, 20), 0),
      }),
    ),
    CLEAN_PARTIAL.grooves as never,
  ),
  pin: v.optional(
    v.nullable(
      v.object({
        diameter: v.optional(between(0.4, 1), 0.7),
        depth: v.optional(between(0.5, 3.5), 2),
        lingual: v.optional(between(0, 4), 1.5),
        ledge: v.optional(between(0.8, 2.5), 1.3),
      }),
    ),
    null,
  ),
  incisal: v.optional(v.object({ width: between(0.4, 3), depth: between(0.2, 2), lingual: between(0, 3) })),
});

const slice = v.optional(
  v.nullable(
    v.object({
      lean: v.optional(between(0, 25), CLEAN_SLICE.lean),
      over: v.optional(between(-1, 3), CLEAN_SLICE.over),
      ledge: v.optional(between(0, 1.5), CLEAN_SLICE.ledge),
    }),
  ),
  CLEAN_SLICE,
);
export const PreformedRecipeFile = v.object({
  kind: v.literal('preformed'),
  occlusal: v.optional(between(0, 4), CLEAN_PREFORMED.occlusal),
  mesial: slice,
  distal: slice,
});

const ToothNumber = v.pipe(v.string(), v.regex(/^([1-4][1-8]|[5-8][1-5])$/, 'a tooth is named by its two FDI digits'));
const PreparationFile = v.variant('kind', [CrownRecipe, CavityRecipeFile, OnlayRecipeFile, PartialRecipeFile, PreformedRecipeFile]);

/** `recipe.json` of the simulator. Everything but the tooth and the kind has a default: a clean preparation. */
export const RecipeFile = v.object({
  format: v.literal('veritor-recipe/1'),
  tooth: ToothNumber,
  seed: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0)), 1),
  caries: v.optional(
    v.nullable(
      v.object({
        site: v.picklist(['occlusal', 'mesial', 'distal']),
        depth: v.optional(between(0.3, 5), 2),
        width: v.optional(between(0.3, 6), 2),
      }),
    ),
    null,
  ),
  preparation: PreparationFile,
  /** A second tooth of the quadrant, prepared to share the path of insertion; it needs `"arch": "quadrant"`. */
  abutment: v.optional(v.object({ tooth: ToothNumber, preparation: PreparationFile })),
  arch: v.optional(v.picklist(['neighbours', 'quadrant']), 'neighbours'),
  cut: v.optional(v.picklist(['mesial', 'distal'])),
  neighbourDamage: v.optional(v.object({ mesial: v.optional(between(0, 1), 0), distal: v.optional(between(0, 1), 0) }), {
    mesial: 0,
    distal: 0,
  }),
  faults: v.optional(v.array(v.object({ fault: v.picklist(FAULT_NAMES), size: between(-60, 60), at: v.optional(v.string()) })), []),
  scan: v.optional(
    v.object({
      triangles: v.optional(v.pipe(v.number(), v.integer(), v.minValue(10_000), v.maxValue(1_000_000)), 150_000),
      noise: v.optional(between(0, 0.2), 0.02),
      correlation: v.optional(between(0.01, 5), 0.25),
      pose: v.optional(v.picklist(['random', 'none']), 'random'),
      border: v.optional(between(-4, 10), 1),
      sight: v.optional(between(20, 90)),
      file: v.optional(v.picklist(SCAN_FILES), 'stl'),
    }),
    {},
  ),
});

export const toRecipe = (r: v.InferOutput<typeof RecipeFile>): Recipe => r as Recipe;
