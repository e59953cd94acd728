import type { TrailAttempt } from '#contract/trail-view.ts';

const isAlike = (a: TrailAttempt, b: TrailAttempt): boolean => a.attempt_id !== b.attempt_id && a.tooth === b.tooth && a.kind === b.kind;

/** Attempts that can be laid beside one another: scanned, and with another of the same kind on the same tooth. */
export function comparable(attempts: readonly TrailAttempt[]): TrailAttempt[] {
  const scanned = attempts.filter((a) => a.isScanned);
  return scanned.filter((a) => scanned.some((b) => isAlike(a, b)));
}

/**
 * The pair that an address asks for, put in the order of time; without one, the newest and the one before it of its kind and tooth. Null where there are no two.
 */
export function pairOf(attempts: readonly TrailAttempt[], search: string): readonly [TrailAttempt, TrailAttempt] | null {
  const all = comparable(attempts);
  const asked = new URLSearchParams(search);
  const find = (which: string): TrailAttempt | undefined => all.find((a) => String(a.attempt_id) === asked.get(which));
  const later = find('later') ?? all[all.length - 1];
  if (!later) return null;
  const others = all.filter((a) => isAlike(a, later));
  const wanted = find('earlier');
  const at = all.indexOf(later);
  const before = others.filter((a) => all.indexOf(a) < at);
  const earlier = (wanted && others.includes(wanted) ? wanted : null) ?? before[before.length - 1] ?? others[0];
  return all.indexOf(earlier) < at ? [earlier, later] : [later, earlier];
}

export const addressOf = ([earlier, later]: readonly [TrailAttempt, TrailAttempt]): string =>
  `?earlier=${earlier.attempt_id}&later=${later.attempt_id}`;

/** Shares of the vertices that both scans show which have more, and less, left than before by more than `same`. */
export function sharesOf(difference: readonly (number | null)[], same: number): { more: number; less: number } | null {
  const known = difference.filter((d): d is number => d !== null);
  if (known.length === 0) return null;
  return { more: known.filter((d) => d > same).length / known.length, less: known.filter((d) => d < -same).length / known.length };
}
