import * as v from 'valibot';

const finite = v.pipe(v.number(), v.finite());
const vec3 = v.tuple([finite, finite, finite]);
const line = v.array(vec3);
const nullableText = v.optional(v.nullable(v.string()), null);

const between = (from: number, to: number) => v.pipe(finite, v.minValue(from), v.maxValue(to));
/** How the lower jaw moves: path in mm, condylar inclination and Bennett angle in degrees. */
export const Conditions = v.object({ path_mm: between(0.5, 6), condylar_deg: between(0, 70), bennett_deg: between(0, 30) });

/** `master.json` as it stands in a master folder or zip; unknown keys are kept and passed through. */
export const MasterFile = v.looseObject({
  format: v.literal('veritor-master/1'),
  name: v.pipe(v.string(), v.minLength(1)),
  tooth: v.pipe(v.string(), v.regex(/^[1-8][1-8]$/, 'a tooth is named by its two FDI digits')),
  meshes: v.looseObject({ arch: v.string(), opposing: nullableText, dej: nullableText, caries: nullableText, pulp: nullableText }),
  axis: vec3,
  mesial: vec3,
  facial: vec3,
  cusps: v.optional(v.array(v.looseObject({ name: v.string(), role: v.picklist(['functional', 'non-functional']), at: vec3 })), []),
  grooves: v.optional(v.array(v.looseObject({ name: v.string(), rank: v.picklist(['primary', 'secondary']), line })), []),
  ridges: v.optional(v.looseObject({ mesial: v.optional(line, []), distal: v.optional(line, []), oblique: v.optional(line, []) }), {}),
  contacts: v.optional(v.looseObject({ mesial: v.optional(v.nullable(vec3), null), distal: v.optional(v.nullable(vec3), null) }), {}),
  gingivalMargin: v.pipe(line, v.minLength(3, 'the gingival margin needs three points or more')),
  neighbourCusps: v.optional(v.object({ mesial: v.optional(line, []), distal: v.optional(line, []) })),
  opposingAxes: v.optional(v.record(v.string(), vec3)),
  cej: v.optional(line),
  conditions: v.optional(Conditions),
});
export type MasterFile = v.InferOutput<typeof MasterFile>;
