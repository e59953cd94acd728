import type { TrayRow } from '#contract/tray-view.ts';

export type SortKey = 'student' | 'bench' | 'state' | 'score';
const ORDER = ['unmatched', 'failed', 'cancelled', 'measuring', 'arrived', 'stage', 'eye', 'ready', 'signed', 'released'];

export const running = (rows: readonly Pick<TrayRow, 'state' | 'attempt_id'>[]): number =>
  rows.filter((r) => r.attempt_id !== null && (r.state === 'arrived' || r.state === 'measuring')).length;

/** Whether a row is among those asked for: everyone's, nobody's, or one grader's. */
export const isOf = (r: Pick<TrayRow, 'grader_id'>, whose: string): boolean =>
  whose === 'everyone' || (whose === 'nobody' ? r.grader_id === null : r.grader_id === whose);

/** How many rows are in each state, in the order in which they want attention. */
export function summary(rows: readonly { word: string }[]): [string, number][] {
  return ORDER.map((w): [string, number] => [w, rows.filter((r) => r.word === w).length]).filter(([, n]) => n > 0);
}

export function sorted<R extends Pick<TrayRow, 'student_name' | 'bench' | 'total' | 'grade_total'> & { word: string }>(
  rows: readonly R[],
  key: SortKey,
): R[] {
  const name = (a: R, b: R): number => (a.student_name ?? '').localeCompare(b.student_name ?? '');
  const by: Record<SortKey, (a: R, b: R) => number> = {
    student: name,
    bench: (a, b) => (a.bench ?? '').localeCompare(b.bench ?? '') || name(a, b),
    state: (a, b) => ORDER.indexOf(a.word) - ORDER.indexOf(b.word) || name(a, b),
    score: (a, b) => (a.grade_total ?? a.total ?? 101) - (b.grade_total ?? b.total ?? 101) || name(a, b),
  };
  return [...rows].sort(by[key]);
}
