import { distance } from 'fastest-levenshtein';
import * as v from 'valibot';
import { CATALOGUE, findEntry } from '#core/catalogue/catalogue.ts';
import { STATS, type Stat } from '#core/catalogue/terms.ts';
import { allowsZone, standsForSeveral, zoneChoices } from '#core/catalogue/zones.ts';
import { Fault } from '#core/result/fault.ts';
import { IF_NOT_READ } from '#core/score/rubric.ts';
import { checked } from './check.ts';

const end = v.nullable(v.pipe(v.number(), v.finite()));
export const Band = v.object({ lo: end, hi: end });
export const StatName = v.picklist(STATS);
const share = v.pipe(v.number(), v.minValue(0), v.maxValue(1));

const points = v.pipe(v.number(), v.minValue(0), v.maxValue(100));
const count = v.pipe(v.number(), v.integer(), v.minValue(0));
export const Question = v.object({
  question: v.string(),
  words: v.pipe(
    v.array(v.object({ level: v.picklist([0, 1, 2, 3]), word: v.string() })),
    v.minLength(2, 'a question leaves a choice of two words or more'),
  ),
});
export const IfNotRead = v.optional(v.picklist(IF_NOT_READ));

export const Effect = v.variant('kind', [
  v.object({ kind: v.literal('fail') }),
  v.object({ kind: v.literal('cap'), at: v.number() }),
  v.object({ kind: v.literal('deduct'), points: v.number() }),
]);

/** A rubric file (`veritor-rubric/1`), as stored, imported and exported. */
export const RubricFile = v.object({
  format: v.literal('veritor-rubric/1'),
  id: v.string(),
  name: v.string(),
  standard: v.string(),
  levels: v.pipe(v.array(v.object({ level: v.picklist([0, 1, 2, 3]), word: v.string(), share })), v.length(4)),
  passMark: v.pipe(v.number(), v.minValue(0), v.maxValue(100)),
  scoring: v.optional(
    v.variant('kind', [
      v.object({ kind: v.literal('levels') }),
      v.object({ kind: v.literal('deduct'), off: v.object({ sound: points, marginal: points, notYet: points }) }),
      v.object({ kind: v.literal('examination'), minor: count, major: count }),
    ]),
  ),
  partial: v.optional(v.boolean()),
  criteria: v.array(
    v.pipe(
      v.object({
        id: v.string(),
        title: v.string(),
        weight: v.pipe(v.number(), v.minValue(0)),
        why: v.string(),
        targets: v.array(
          v.object({
            reading: v.string(),
            zone: v.nullable(v.string()),
            stat: StatName,
            band: Band,
            fair: Band,
            poor: Band,
            ifNotRead: IfNotRead,
            evidence: v.optional(v.literal('hand')),
            along: v.optional(v.object({ full: share, fair: share, poor: share })),
            field: v.optional(v.string()),
            own: v.optional(v.string()),
          }),
        ),
        asks: v.optional(Question),
        field: v.optional(v.string()),
      }),
      v.check((c) => c.targets.length > 0 !== (c.asks !== undefined), 'a criterion has at least one target, or asks a person instead'),
    ),
  ),
  critical: v.array(
    v.object({
      id: v.string(),
      title: v.string(),
      reading: v.string(),
      zone: v.nullable(v.string()),
      stat: StatName,
      allowed: Band,
      ifNotRead: IfNotRead,
      field: v.optional(v.string()),
      effect: Effect,
    }),
  ),
});
export type RubricFile = v.InferOutput<typeof RubricFile>;

/** Names that are spelt most alike, nearest first. */
function relatives(word: string, known: readonly string[]): string {
  const near = [...known].sort((a, b) => distance(word, a) - distance(word, b) || a.localeCompare(b)).slice(0, 3);
  return near.map((n) => `“${n}”`).join(', ');
}

/** Why a rubric's question cannot be asked; null if the catalogue has that reading there. */
export function unknownIn(q: { reading: string; zone: string | null; stat: Stat; along?: unknown; evidence?: 'hand' }): string | null {
  const entry = findEntry(q.reading);
  if (!entry)
    return `there is no reading “${q.reading}”; the nearest are ${relatives(
      q.reading,
      CATALOGUE.map((e) => (e.sized ? `${e.name}(1.0)` : e.name)),
    )}`;
  if (!entry.stats[q.stat])
    return `“${q.reading}” has no statistic “${q.stat}”; it has ${Object.keys(entry.stats)
      .map((s) => `“${s}”`)
      .join(', ')}`;
  if (!allowsZone(entry.zones, q.zone))
    return `“${q.reading}” is not read at ${q.zone === null ? 'the whole preparation (null)' : `“${q.zone}”`}; the nearest are ${relatives(q.zone ?? 'null', zoneChoices(entry.zones))}`;
  if (q.evidence === 'hand' && entry.hand.length === 0)
    return `“${q.reading}” is not read by hand, so a reading by hand cannot be all that counts`;
  if (q.along && !entry.along) return `“${q.reading}” has no curve along an edge, so it cannot be judged along one`;
  return null;
}

/** The same for a critical error, which is looked for at one place. */
export const unknownInError = (q: Parameters<typeof unknownIn>[0]): string | null =>
  unknownIn(q) ?? (standsForSeveral(q.zone) ? `“${q.zone}” stands for several places; a critical error is looked for at one` : null);

/** A valid rubric: it follows the format, and every reading it asks for exists. */
export function rubricFrom(json: unknown, where: string): RubricFile {
  const rubric = checked(RubricFile, json, 'rubric.invalid', where, 'Correct the rubric.');
  const questions = [
    ...rubric.criteria.flatMap((c) => c.targets.map((t) => [c.id, unknownIn(t)] as const)),
    ...rubric.critical.map((e) => [e.id, unknownInError(e)] as const),
  ];
  for (const [line, unknown] of questions) {
    if (unknown)
      throw new Fault('rubric.invalid', {
        where: `${where}, line “${line}”`,
        expected: 'a rubric asks for what the catalogue of readings has',
        received: unknown,
        remedy: 'Correct the name; docs/measures.md lists every reading with its places and statistics.',
      });
  }
  return rubric;
}
