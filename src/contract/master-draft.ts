import * as v from 'valibot';
import { ARCH_CHECKS } from '#core/annotate/checks.ts';
import { PROPOSED } from '#core/annotate/propose.ts';
import { Conditions } from './master.ts';

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
  neighbourCusps: v.optional(v.object({ mesial: Line, distal: Line })),
  opposingAxes: v.optional(v.record(v.pipe(v.string(), v.regex(/^[1-8][1-8]$/)), Point)),
  cej: v.optional(Line),
  conditions: v.optional(Conditions),
});
export type Marks = v.InferOutput<typeof Marks>;

const Trust = v.picklist(['sure', 'look', 'ask']);
export const Trusts = v.object(Object.fromEntries(PROPOSED.map((n) => [n, Trust])) as Record<(typeof PROPOSED)[number], typeof Trust>);

export const ArchCheckView = v.object({
  what: v.picklist(ARCH_CHECKS),
  state: v.picklist(['fine', 'look', 'stop']),
  figure: v.number(),
  factors: v.optional(v.array(v.number())),
  missing: v.optional(v.array(v.picklist(['mesial', 'distal']))),
  cut_deg: v.optional(v.number()),
});

/** Bodies inside a tooth that its maker may give as meshes. */
export const INNER = ['dej', 'caries', 'pulp'] as const;
export type Inner = (typeof INNER)[number];
const InnerFile = v.object({ sha256: v.string(), name: v.string() });
export const InnerFiles = v.object({ dej: v.optional(InnerFile), caries: v.optional(InnerFile), pulp: v.optional(InnerFile) });
export type InnerFiles = v.InferOutput<typeof InnerFiles>;

/** How the opposing arch came to its place against the arch. */
export const OCCLUDED_BY = ['file', 'bite', 'points'] as const;
const Contact = v.object({ at: Point, depth_mm: finite });
export const Occlusion = v.object({
  by: v.picklist(OCCLUDED_BY),
  /** Opposing file → arch file, row major, lengths in mm. */
  matrix: v.pipe(v.array(finite), v.length(16)),
  settled: v.boolean(),
  contacts: v.array(Contact),
  deepest_mm: finite,
  moved_mm: finite,
  turned_deg: finite,
  isRocking: v.boolean(),
});
export type Occlusion = v.InferOutput<typeof Occlusion>;

/** A reading of a trial preparation: what was cut, what was read. */
export const TrialLine = v.object({
  name: v.string(),
  zone: v.nullable(v.string()),
  stat: v.string(),
  unit: v.string(),
  cut: finite,
  value: v.nullable(finite),
  U: v.nullable(finite),
  reason: v.nullable(v.string()),
});
export type TrialLine = v.InferOutput<typeof TrialLine>;
export const Trial = v.object({ lines: v.array(TrialLine), of_version: v.number() });
export type Trial = v.InferOutput<typeof Trial>;

/** A new version of a master against the one before: what lies elsewhere, and attempts measured on both. */
export const Compared = v.object({
  /** Master that it is compared with, and its name. */
  with: v.string(),
  name: v.string(),
  axis_deg: finite,
  mesial_deg: finite,
  surface_mm: v.nullable(finite),
  margin_mm: finite,
  cusps: v.array(v.object({ name: v.string(), off_mm: v.nullable(finite) })),
  contacts: v.array(v.object({ side: v.picklist(['mesial', 'distal']), off_mm: v.nullable(finite) })),
  scans: v.array(
    v.object({
      name: v.string(),
      fault: v.nullable(v.string()),
      readings: v.number(),
      /** Readings that differ by more than both U together, the largest first. */
      differ: v.array(
        v.object({
          name: v.string(),
          zone: v.nullable(v.string()),
          stat: v.string(),
          unit: v.string(),
          before: finite,
          after: finite,
          U: finite,
        }),
      ),
      /** Given on one of the two masters only. */
      lost: v.number(),
      gained: v.number(),
    }),
  ),
});
export type Compared = v.InferOutput<typeof Compared>;

/** A master that is being made, as its screen gets it. */
export const DraftView = v.object({
  id: v.string(),
  name: v.string(),
  tooth: v.string(),
  arch_name: v.string(),
  opposing_name: v.nullable(v.string()),
  bite_name: v.nullable(v.string()),
  occlusion: v.nullable(Occlusion),
  trial: v.nullable(Trial),
  compared: v.nullable(Compared),
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
