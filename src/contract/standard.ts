import * as v from 'valibot';
import { unitOf } from '#core/catalogue/catalogue.ts';
import { KIND_NAMES } from '#core/kinds/kinds.ts';
import { Fault } from '#core/result/fault.ts';
import { checked } from './check.ts';
import { Band, Effect, IfNotRead, Question, StatName, unknownIn, unknownInError } from './rubric.ts';

/** Where a figure comes from: the school whose standard it is, or a choice that a course makes where schools say nothing. */
const From = v.picklist(['school', 'course']);

const place = { reading: v.string(), zone: v.nullable(v.string()), stat: StatName, unit: v.string(), from: From, ifNotRead: IfNotRead };

/** One figure: what is read, where, as which statistic, and the band that it should lie in. */
const Field = v.object({ id: v.string(), ...place, band: Band, along: v.optional(v.literal(true)) });

/** What belongs together in a rubric: figures of one property, or a question that only a person can answer. */
const Line = v.pipe(
  v.object({
    id: v.string(),
    title: v.string(),
    why: v.string(),
    fields: v.array(Field),
    asks: v.optional(Question),
  }),
  v.check((l) => l.fields.length > 0 !== (l.asks !== undefined), 'a line has at least one figure, or asks a person instead'),
);

/** A standard file (`veritor-standard/2`): what a preparation of one kind should measure, by one school. */
export const StandardFile = v.object({
  format: v.literal('veritor-standard/2'),
  id: v.string(),
  name: v.string(),
  school: v.string(),
  kind: v.picklist(KIND_NAMES),
  partial: v.optional(v.boolean()),
  note: v.string(),
  lines: v.pipe(v.array(Line), v.minLength(1, 'a standard says at least one thing')),
  /** What spoils the whole work, with what follows. */
  critical: v.array(v.object({ id: v.string(), title: v.string(), why: v.string(), ...place, allowed: Band, effect: Effect })),
});
export type StandardFile = v.InferOutput<typeof StandardFile>;

/** Titles of figures with both ends open, which nothing could be outside of; a standard is not kept with one. */
export const limitless = (body: StandardFile): string[] => [
  ...body.lines.flatMap((l) => l.fields.flatMap((f) => (isOpen(f.band) ? [l.title] : []))),
  ...body.critical.flatMap((c) => (isOpen(c.allowed) ? [c.title] : [])),
];
const isOpen = (b: { lo: number | null; hi: number | null }): boolean => b.lo === null && b.hi === null;

/** A valid standard: it follows the format, every reading exists at its place, in its unit, and every id stands once. */
export function standardFrom(json: unknown, where: string): StandardFile {
  const standard = checked(StandardFile, json, 'standard.invalid', where, 'Correct the standard.');
  const refuse = (at: string, received: string): never => {
    throw new Fault('standard.invalid', {
      where: `${where}, “${at}”`,
      expected: 'a standard asks for what the catalogue of readings has, in its unit, each under an id of its own',
      received,
      remedy: 'Correct the name; docs/measures.md lists every reading with its places, statistics and units.',
    });
  };
  const fields = [...standard.lines.flatMap((l) => l.fields), ...standard.critical];
  for (const f of fields) {
    const unknown = standard.critical.some((e) => e === f) ? unknownInError(f) : unknownIn(f);
    if (unknown) refuse(f.id, unknown);
    const unit = unitOf(f.reading, f.stat);
    if (unit !== f.unit) refuse(f.id, `“${f.reading}” is in “${unit}”, not in “${f.unit}”`);
  }
  const ids = [...fields.map((f) => f.id), ...standard.lines.filter((l) => l.asks).map((l) => l.id)];
  const twice = ids.find((id, i) => ids.indexOf(id) !== i);
  if (twice) refuse(twice, 'this id stands twice');
  return standard;
}
