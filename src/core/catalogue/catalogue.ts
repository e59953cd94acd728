import { ARCH } from './arch.ts';
import { INSIDE, OUTLINE } from './cavity.ts';
import { FORM, REDUCTION, WALLS } from './crown.ts';
import type { Entry, StatEntry } from './entry.ts';
import { MARGIN } from './margin.ts';
import { PARTIAL } from './partial.ts';
import { SURROUNDINGS } from './surroundings.ts';
import type { Stat, Unit } from './terms.ts';

/** Every reading that the core gives, described once. Screens, rubrics, hand readings, repair, steps, the command line and docs read it here. */
export const CATALOGUE: readonly Entry[] = [
  ...REDUCTION,
  ...WALLS,
  ...MARGIN,
  ...FORM,
  ...ARCH,
  ...OUTLINE,
  ...INSIDE,
  ...PARTIAL,
  ...SURROUNDINGS,
];

const BY_NAME = new Map(CATALOGUE.map((e) => [e.name, e]));

/** A name that carries a size: `gauge.pass(1.0)`. */
const SIZED = /^(.+)\((\d+(?:\.\d+)?)\)$/;

/** The entry of a reading's name, or null when the catalogue has none. */
export function findEntry(name: string): Entry | null {
  const plain = BY_NAME.get(name);
  if (plain) return plain.sized ? null : plain;
  const sized = SIZED.exec(name);
  const e = sized ? BY_NAME.get(sized[1]) : undefined;
  return e?.sized ? e : null;
}

/** The entry of a reading that must be in the catalogue. */
export function entryOf(name: string): Entry {
  const e = findEntry(name);
  if (!e) throw new RangeError(`the catalogue has no reading “${name}”`);
  return e;
}

export function statOf(name: string, stat: Stat): StatEntry {
  const s = entryOf(name).stats[stat];
  if (!s) throw new RangeError(`the catalogue gives no ${stat} of “${name}”`);
  return s;
}

export const unitOf = (name: string, stat: Stat): Unit => statOf(name, stat).unit;

/** “gauge passes, 1.0 mm”: a reading's title with the size that its name carries. */
export function titleOf(name: string): string {
  const size = SIZED.exec(name)?.[2];
  return size === undefined ? entryOf(name).title : `${entryOf(name).title}, ${size} mm`;
}

const EDGES: ReadonlySet<Stat> = new Set(['min', 'p05', 'p95', 'max']);

/** Standard uncertainty (k = 1) that the method itself adds to a reading's statistic. */
export function methodUncertainty(name: string, stat: Stat): number {
  const { method } = entryOf(name);
  if (!method) throw new RangeError(`the catalogue keeps no method uncertainty of “${name}”`);
  return EDGES.has(stat) ? method.edge : method.middle;
}
