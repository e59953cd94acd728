import type { AttemptReport } from '#contract/report.ts';
import type { Curves } from '#core/result/curves.ts';
import { type Cell, csvOf } from '../../files/csv.ts';

const READINGS = [
  'student',
  'exercise',
  'heldOn',
  'attempt',
  'line',
  'reading',
  'place',
  'statistic',
  'unit',
  'value',
  'U',
  'byHandFrom',
  'byHandTo',
  'bandFrom',
  'bandTo',
  'verdict',
  'notRead',
  'decides',
  'level',
  'points',
  'of',
] as const;

/** Readings of reports, a row each: what was read, its band, and what it decided. */
export const readingsCsv = (reports: readonly AttemptReport[]): string =>
  csvOf(
    READINGS,
    reports.flatMap((r) =>
      r.lines.flatMap((l) =>
        l.readings.map((t): Cell[] => [
          r.student.id,
          r.attempt.exercise,
          r.attempt.heldOn,
          r.attempt.number,
          l.title,
          t.reading,
          t.zone,
          t.stat,
          t.unit,
          t.value,
          t.U,
          t.byHand?.[0] ?? null,
          t.byHand?.[1] ?? null,
          t.lo,
          t.hi,
          t.verdict,
          t.reason,
          t.isDeciding ? 'yes' : null,
          l.level,
          l.points,
          l.of,
        ]),
      ),
    ),
  );

/** Curves round the tooth or along an outline, a row a point with the curve's own figures in order. */
export function curvesCsv(curves: Curves): string {
  const most = Math.max(0, ...Object.values(curves).flatMap((c) => c.map((p) => p.length)));
  return csvOf(
    ['curve', 'point', ...Array.from({ length: most }, (_, i) => `figure${i + 1}`)],
    Object.entries(curves).flatMap(([curve, points]) => points.map((p, i): Cell[] => [curve, i + 1, ...p])),
  );
}
