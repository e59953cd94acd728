import * as v from 'valibot';
import { ARCH_CHECKS } from '#core/annotate/checks.ts';
import { PROPOSED } from '#core/annotate/propose.ts';

const finite = v.pipe(v.number(), v.finite());
export const Point = v.pipe(
  v.tuple([finite, finite, finite]),
  v.transform((p): readonly [number, number, number] => p),
);
const Line = v.pipe(v.array(Point), v.maxLength(400));

/** A dab of the brush: everything within the radius of a place becomes that part. */
export const Stroke = v.object({
  at: Point,
  radius: v.pipe(finite, v.minValue(0.05), v.maxValue(6)),
  part: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(4)),
});
export type Stroke = v.InferOutput<typeof Stroke>;

/** The landmarks of a master that is being made, in the frame of its file. */
export const Marks = v.object({
  axis: Point,
  mesial: Point,
  facial: Point,
  cusps: v.pipe(
    v.array(v.object({ name: v.pipe(v.string(), v.maxLength(40)), role: v.picklist(['functional', 'non-functional']), at: Point })),
    v.maxLength(12),
  ),
  grooves: v.pipe(
    v.array(v.object({ name: v.pipe(v.string(), v.maxLength(40)), rank: v.picklist(['primary', 'secondary']), line: Line })),
    v.maxLength(20),
  ),
  ridges: v.object({ mesial: Line, distal: Line, oblique: Line }),
  contacts: v.object({ mesial: v.nullable(Point), distal: v.nullable(Point) }),
  gingivalMargin: Line,
});
export type Marks = v.InferOutput<typeof Marks>;

const Trust = v.picklist(['sure', 'look', 'ask']);
export const Trusts = v.object(Object.fromEntries(PROPOSED.map((n) => [n, Trust])) as Record<(typeof PROPOSED)[number], typeof Trust>);

export const ArchCheckView = v.object({
  what: v.picklist(ARCH_CHECKS),
  state: v.picklist(['fine', 'look', 'stop']),
  figure: v.number(),
  factors: v.optional(v.array(v.number())),
});

/** Bodies inside a tooth that its maker may give as meshes. */
export const INNER = ['dej', 'caries', 'pulp'] as const;
export type Inner = (typeof INNER)[number];
const InnerFile = v.object({ sha256: v.string(), name: v.string() });
export const InnerFiles = v.object({ dej: v.optional(InnerFile), caries: v.optional(InnerFile), pulp: v.optional(InnerFile) });
export type InnerFiles = v.InferOutput<typeof InnerFiles>;

/** A master that is being made, as its screen gets it. */
export const DraftView = v.object({
  id: v.string(),
  name: v.string(),
  tooth: v.string(),
  arch_name: v.string(),
  opposing_name: v.nullable(v.string()),
  factor: v.number(),
  inner: v.array(v.picklist(INNER)),
  checks: v.array(ArchCheckView),
  marks: v.nullable(Marks),
  trust: v.nullable(Trusts),
  strokes: v.array(Stroke),
  teeth: v.array(v.object({ tooth: v.string(), rms: v.number(), share: v.number() })),
  turned_about: v.nullable(v.number()),
  master_id: v.nullable(v.string()),
  version: v.number(),
});
export type DraftView = v.InferOutput<typeof DraftView>;
