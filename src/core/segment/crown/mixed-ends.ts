import { median } from '../../statistics/quantile.ts';
import type { Profile } from './profile.ts';

/** degrees off the wall that follows it by which a plane at an end of the cover shows not the wall but what ends it; and planes that tell that wall. */
const MIXED = 12;
const FOLLOWING = 10;

/** The covered half planes without those at the ends of a covered stretch whose wall leans otherwise than the wall that follows: half groove, half wall. */
export function withoutMixedEnds(covered: readonly boolean[], profiles: readonly (Profile | null)[]): boolean[] {
  const n = covered.length;
  const at = (k: number): number => ((k % n) + n) % n;
  const left = [...covered];
  const leanAt = (k: number): number[] => (left[at(k)] ? [profiles[at(k)]?.wall?.lean ?? []].flat() : []);
  for (const step of [1, -1])
    for (const end of covered.flatMap((c, k) => (c && !covered[at(k - step)] ? [k] : [])))
      for (let k = end; left[at(k)]; k += step) {
        const [lean] = leanAt(k);
        const following = Array.from({ length: FOLLOWING }, (_, j) => leanAt(k + (j + 1) * step)).flat();
        if (following.length === 0 || (lean !== undefined && Math.abs(lean - median(following)) <= MIXED)) break;
        left[at(k)] = false;
      }
  return left;
}
