import type { Cusp } from '../master/master.ts';
import type { Curves } from '../result/curves.ts';
import type { Reading } from '../result/reading.ts';
import { forTooth } from '../score/expand.ts';
import { type HandReading, keyOf, withHand } from '../score/hand.ts';
import type { Rubric } from '../score/rubric.ts';
import { type Judgements, type Score, score } from '../score/score.ts';

/** Everything that a score is computed from: the same basis gives the same score, now and years later. */
export interface Basis {
  readonly rubric: Rubric;
  readonly cusps: readonly Pick<Cusp, 'name' | 'role'>[];
  /** The measurement's own readings; none where nothing was scanned. */
  readonly readings: readonly Reading[];
  readonly curves: Curves;
  readonly hand: readonly HandReading[];
  readonly judgements: Judgements;
}

export const scoreOf = (b: Basis): Score =>
  score(forTooth(b.rubric, b.cusps, b.readings), { readings: withHand(b.readings, b.hand), curves: b.curves }, b.judgements);

/** The readings and curves that the rubric asks for, which suffice to compute the score again. */
export function usedBy(rubric: Rubric, readings: readonly Reading[], curves: Curves): { readings: Reading[]; curves: Curves } {
  const targets = rubric.criteria.flatMap((c) => c.targets);
  const asked = new Set([...targets, ...rubric.critical].map((q) => `${q.reading} ${q.stat}`));
  const along = new Set(targets.flatMap((t) => (t.along ? [t.reading, 'edge.length'] : [])));
  return {
    readings: readings.filter((r) => asked.has(`${r.name} ${r.stat}`)),
    curves: Object.fromEntries(Object.entries(curves).filter(([name]) => along.has(name))),
  };
}

/** What one line of the score rests on, as canonical content: a judgement of it holds until this changes. */
export function restsOn(s: Score, line: string): unknown {
  const criterion = s.criteria.find((c) => c.criterion.id === line);
  if (criterion)
    return criterion.targets.map((t) => [
      keyOf({ name: t.target.reading, zone: t.target.zone, stat: t.target.stat }),
      t.reading?.value ?? null,
      t.reading?.U ?? null,
      t.along ? [t.along.inside, t.along.worst] : null,
    ]);
  const error = s.critical.find((e) => e.error.id === line);
  return error ? [error.reading?.value ?? null, error.reading?.U ?? null] : null;
}
