import { trendOf } from '#core/progress/trend.ts';
import { TRAIL } from '#words/trail.ts';

/** Points that a score is unsure by from attempt to attempt when nothing is known of it. */
const SCORE_U = 5;

/** The score's trend in words; nothing is said of a change that chance would make. */
export function trendWords(totals: readonly (number | null)[]): string {
  const points = totals.flatMap((value, i) => (value === null ? [] : [{ n: i + 1, value, U: SCORE_U }]));
  if (points.length === 0) return TRAIL.noScore;
  const t = trendOf(points);
  if (t.given === null) return points.length === 1 ? TRAIL.oneScore : TRAIL.fewScores(points.length);
  const { slope, lo, hi, isChange } = t.given;
  return isChange ? TRAIL.moves(slope, lo, hi) : TRAIL.steady(points.length, lo, hi);
}
