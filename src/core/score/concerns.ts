import type { LevelNumber, Rubric, Target } from './rubric.ts';
import type { Band } from './verdict.ts';

export type Concern =
  | { readonly kind: 'narrow'; readonly criterion: string; readonly target: number; readonly width: number; readonly U: number }
  | { readonly kind: 'order'; readonly criterion: string; readonly target: number; readonly which: 'band' | 'fair' | 'poor' }
  | { readonly kind: 'empty'; readonly criterion: string }
  /** A band or a limit with both ends open, which nothing can be outside of. */
  | { readonly kind: 'limitless'; readonly criterion: string; readonly target: number | null }
  /** A level that is worth as much as the one above it, or more. */
  | { readonly kind: 'shares'; readonly criterion: string; readonly level: LevelNumber };

/** Place of a target in its rubric. */
export const placeKey = (t: Pick<Target, 'reading' | 'zone' | 'stat'>): string => `${t.reading}|${t.zone ?? ''}|${t.stat}`;

const from = (b: Band): number => b.lo ?? -Infinity;
const to = (b: Band): number => b.hi ?? Infinity;
const holds = (outer: Band, inner: Band): boolean => from(outer) <= from(inner) && to(outer) >= to(inner);

const isLimitless = (b: Band): boolean => b.lo === null && b.hi === null;

/** Width of a band for something that cannot be negative: “at most 0.05” is 0.05 wide. */
const width = (b: Band): number => (b.lo === null && b.hi !== null && b.hi > 0 ? b.hi : to(b) - from(b));

/**
 * What is wrong with a rubric before anybody is graded by it: a band that is narrower than the reading is sure, so that no good attempt could
 * be called inside; bands that do not lie in one another; a band or a critical error without any limit, which could never be found; levels whose
 * share of the points does not fall; lines that weigh nothing.
 * @units those of each reading
 * @source own definition, docs/definitions.md
 */
export function concerns(rubric: Pick<Rubric, 'criteria' | 'critical' | 'levels'>, usualU: ReadonlyMap<string, number>): Concern[] {
  const out: Concern[] = [];
  for (const c of rubric.criteria) {
    if (c.weight === 0) out.push({ kind: 'empty', criterion: c.id });
    c.targets.forEach((t, target) => {
      const where = { criterion: c.id, target };
      if (isLimitless(t.band)) out.push({ kind: 'limitless', ...where });
      else if (from(t.band) > to(t.band)) out.push({ kind: 'order', ...where, which: 'band' });
      else if (!holds(t.fair, t.band)) out.push({ kind: 'order', ...where, which: 'fair' });
      else if (!holds(t.poor, t.fair)) out.push({ kind: 'order', ...where, which: 'poor' });
      const U = usualU.get(placeKey(t));
      if (U !== undefined && width(t.band) < U) out.push({ kind: 'narrow', ...where, width: width(t.band), U });
    });
  }
  for (const e of rubric.critical) if (isLimitless(e.allowed)) out.push({ kind: 'limitless', criterion: e.id, target: null });
  const falling = [...rubric.levels].sort((a, b) => b.level - a.level);
  falling.forEach((l, i) => {
    if (i > 0 && l.share >= falling[i - 1].share) out.push({ kind: 'shares', criterion: '', level: l.level });
  });
  return out;
}

/** Concerns with which a rubric is not kept. */
export const isGrave = (c: Concern): boolean => c.kind !== 'empty';
