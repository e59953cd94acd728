import type { TrailAttempt } from '#contract/trail-view.ts';
import { trend } from '#core/progress/learning-curve.ts';

export interface TrailPoint {
  readonly attempt: number;
  readonly date: string;
  readonly title: string;
  readonly value: number;
  readonly low: number;
  readonly high: number;
}

export interface CurveChoice {
  readonly id: string;
  readonly title: string;
  readonly unit: string;
}

/** What the curve can show: the score, and each criterion that has had a value. */
export function choices(attempts: readonly TrailAttempt[]): CurveChoice[] {
  const seen = new Map<string, CurveChoice>([['total', { id: 'total', title: 'Score', unit: 'of 100' }]]);
  for (const a of attempts)
    for (const c of a.record.criteria)
      if (c.value !== null && !seen.has(c.id)) seen.set(c.id, { id: c.id, title: c.title, unit: c.unit === 'deg' ? '°' : (c.unit ?? '') });
  return [...seen.values()];
}

export function curveOf(attempts: readonly TrailAttempt[], id: string): TrailPoint[] {
  return attempts.flatMap((a, i): TrailPoint[] => {
    const c = a.record.criteria.find((q) => q.id === id);
    const value = id === 'total' ? a.total : (c?.value ?? null);
    if (value === null) return [];
    const U = id === 'total' ? 0 : (c?.U ?? 0);
    return [{ attempt: i + 1, date: a.held_on, title: a.sitting_title, value, low: value - U, high: value + U }];
  });
}

/** The band of the newest attempt that had one: what the curve should reach. */
export function bandOf(attempts: readonly TrailAttempt[], id: string): { lo: number | null; hi: number | null } | null {
  for (const a of [...attempts].reverse()) {
    const c = a.record.criteria.find((q) => q.id === id);
    if (c && (c.lo !== null || c.hi !== null)) return { lo: c.lo, hi: c.hi };
  }
  return null;
}

/** Criteria that were below "sound" in more than one attempt, the most frequent first. */
export function repeated(attempts: readonly TrailAttempt[]): { title: string; times: number; zone: string | null }[] {
  const tally = new Map<string, { title: string; times: number; zone: string | null }>();
  for (const a of attempts)
    for (const c of a.record.criteria)
      if (c.level !== null && c.level <= 1) {
        const t = tally.get(c.id) ?? { title: c.title, times: 0, zone: c.zone };
        tally.set(c.id, { ...t, times: t.times + 1, zone: c.zone });
      }
  return [...tally.values()].filter((t) => t.times > 1).sort((x, y) => y.times - x.times);
}

/** The score's trend in words. */
export function trendWords(points: readonly TrailPoint[]): string {
  const slope = trend(points.map((p) => ({ attempt: p.attempt, value: p.value })));
  if (slope === null) return points.length === 1 ? 'One attempt so far; the trend begins with the second.' : 'No signed attempt yet.';
  if (Math.abs(slope) < 0.5) return 'About level over these attempts.';
  return `${slope > 0 ? 'Up' : 'Down'} by about ${Math.abs(slope).toFixed(1)} points an attempt.`;
}

export interface ExerciseChoice {
  readonly id: string;
  readonly title: string;
  readonly count: number;
}

/** Exercises with how many attempts each has, the one worked at last first. */
export function exercises(attempts: readonly TrailAttempt[]): ExerciseChoice[] {
  const seen = new Map<string, ExerciseChoice>();
  for (const a of [...attempts].reverse())
    seen.set(a.exercise_id, { id: a.exercise_id, title: a.exercise_title, count: (seen.get(a.exercise_id)?.count ?? 0) + 1 });
  return [...seen.values()];
}

/** The exercise to open with: the one with most attempts, the latest among equals. */
export const mostTold = (attempts: readonly TrailAttempt[]): string =>
  exercises(attempts).reduce<ExerciseChoice | null>((best, e) => (!best || e.count > best.count ? e : best), null)?.id ?? '';

export interface Practice {
  readonly title: string;
  /** Points lost over the attempts looked at. */
  readonly lost: number;
  readonly zone: string | null;
  /** Distance of the newest value from the band: + above, − below; null inside the band or without a value. */
  readonly miss: number | null;
  readonly unit: string | null;
}

/** Criteria that cost most points in the last two attempts, and the newest value's distance from the band. */
export function practiseNext(attempts: readonly TrailAttempt[]): Practice[] {
  const last = attempts.slice(-2);
  const lost = new Map<string, Practice>();
  for (const a of last)
    for (const c of a.record.criteria) {
      if (c.points === null || c.of - c.points < 0.05) continue;
      const miss =
        c.value === null
          ? null
          : c.hi !== null && c.value > c.hi
            ? c.value - c.hi
            : c.lo !== null && c.value < c.lo
              ? c.value - c.lo
              : null;
      lost.set(c.id, { title: c.title, lost: (lost.get(c.id)?.lost ?? 0) + c.of - c.points, zone: c.zone, miss, unit: c.unit });
    }
  return [...lost.values()].sort((a, b) => b.lost - a.lost).slice(0, 3);
}
