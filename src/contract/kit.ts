import * as v from 'valibot';
import { CUTTER_FORMS, CUTTER_TIPS } from '#core/plan/cutter.ts';

/** Lists of what a course works with; each is kept whole, by versions. */
export const KIT_LISTS = ['cutters', 'gauges', 'phrases', 'drills'] as const;
export type KitList = (typeof KIT_LISTS)[number];

const id = v.pipe(v.string(), v.regex(/^[\w-]{1,40}$/, 'An id has letters, digits and dashes.'));
const named = v.pipe(v.string(), v.trim(), v.minLength(1, 'Give it a name.'), v.maxLength(80, 'At most 80 letters.'));
const text = v.pipe(v.string(), v.trim(), v.maxLength(400, 'At most 400 letters.'));
const mm = (least: number, most: number) =>
  v.pipe(v.number('Give a number.'), v.finite(), v.minValue(least, `At least ${least} mm.`), v.maxValue(most, `At most ${most} mm.`));
/** The beginning of the names of the readings that an item speaks of; empty for all. */
const about = v.pipe(v.string(), v.regex(/^[a-z0-9.()-]{0,60}$/i, 'The beginning of a reading’s name, for example “margin.width”.'));

export const CutterItem = v.pipe(
  v.object({
    id,
    name: named,
    form: v.picklist(CUTTER_FORMS),
    tip: v.picklist(CUTTER_TIPS),
    cutsAtEnd: v.boolean(),
    shank_mm: mm(0.2, 8),
    tip_mm: mm(0, 8),
    length_mm: mm(0.3, 20),
    grit: text,
    material: text,
    /** What its maker's number promises, beside what was measured. */
    nominal: text,
    /** The school's own ring. */
    ring: v.union([v.literal(''), v.pipe(v.string(), v.regex(/^#[0-9a-f]{6}$/i))]),
  }),
  v.forward(
    v.check((c) => c.form !== 'taper' || c.tip_mm <= c.shank_mm, 'A tapered cutter is no wider at its tip than at its shank.'),
    ['tip_mm'],
  ),
);
export type CutterItem = v.InferOutput<typeof CutterItem>;

export const GaugeItem = v.object({
  id,
  name: named,
  method: v.picklist(['probe', 'gauge', 'wax']),
  /** Thicknesses or marks that it has. */
  steps_mm: v.pipe(v.array(mm(0.05, 20)), v.minLength(1, 'Give at least one step.'), v.maxLength(30)),
});
export type GaugeItem = v.InferOutput<typeof GaugeItem>;

export const PhraseItem = v.object({
  id,
  about,
  side: v.picklist(['', 'under', 'over']),
  body: v.pipe(v.string(), v.trim(), v.minLength(1, 'Give the sentence.'), v.maxLength(300, 'At most 300 letters.')),
});
export type PhraseItem = v.InferOutput<typeof PhraseItem>;

export const DrillItem = v.object({
  id,
  about,
  title: named,
  /** What to do, how often, on what. */
  body: v.pipe(v.string(), v.trim(), v.minLength(1, 'Say what is to be done.'), v.maxLength(600, 'At most 600 letters.')),
  /** A cutter of the course's list, or none. */
  cutter: v.string(),
  times: v.pipe(v.number('Give a number.'), v.integer(), v.minValue(1), v.maxValue(50)),
  /** What is checked by hand before it is handed in. */
  check: text,
  minutes: v.pipe(v.number('Give a number.'), v.integer(), v.minValue(1), v.maxValue(240)),
});
export type DrillItem = v.InferOutput<typeof DrillItem>;

const list = <S extends v.GenericSchema<unknown, { readonly id: string }>>(item: S) =>
  v.pipe(
    v.array(item),
    v.maxLength(500, 'At most 500 of them.'),
    v.check((all) => new Set(all.map((i) => i.id)).size === all.length, 'Two of them have the same id.'),
  );

/** Everything that a course works with (`veritor-kit/1`). */
export const Kit = v.object({ cutters: list(CutterItem), gauges: list(GaugeItem), phrases: list(PhraseItem), drills: list(DrillItem) });
export type Kit = v.InferOutput<typeof Kit>;
export const KitFile = v.object({ format: v.literal('veritor-kit/1'), ...Kit.entries });

/** A list as its editor sends it, with the version that it was made from; 0 for what ships. */
export const KitEdit = v.variant('list', [
  v.object({ list: v.literal('cutters'), version: v.number(), items: Kit.entries.cutters }),
  v.object({ list: v.literal('gauges'), version: v.number(), items: Kit.entries.gauges }),
  v.object({ list: v.literal('phrases'), version: v.number(), items: Kit.entries.phrases }),
  v.object({ list: v.literal('drills'), version: v.number(), items: Kit.entries.drills }),
]);
export type KitEdit = v.InferOutput<typeof KitEdit>;

export interface KitView {
  readonly kit: Kit;
  readonly versions: Readonly<Record<KitList, number>>;
}
