import { median } from '#core/statistics/quantile.ts';
import { fixed } from './number.ts';

/** Sentences of the Trail. */
export const TRAIL = {
  own: 'My trail',
  nothingOwn: 'Nothing has been released to you yet. Your first graded attempt will appear here.',
  nothing: 'No attempt has been signed yet.',
  noScore: 'No score yet.',
  oneScore: 'One attempt so far; a trend can be told from the third.',
  fewScores: (n: number): string => `${n} attempts so far; a trend can be told from the third.`,
  moves: (slope: number, lo: number, hi: number): string =>
    `${slope > 0 ? 'Up' : 'Down'} by ${Math.abs(slope).toFixed(1)} points an attempt (95 %: ${fixed(lo, 1)} to ${fixed(hi, 1)}).`,
  steady: (n: number, lo: number, hi: number): string =>
    `Over ${n} attempts no change of the score that chance would not make (95 %: ${fixed(lo, 1)} to ${fixed(hi, 1)} points an attempt).`,
  lastAt: (zone: string): string => `last at: ${zone}`,
  attempts: 'Attempts',
  self: 'Judging own work, and time',
  tries: (n: number, minutes: number | null): string =>
    [...(n > 1 ? [`try ${n}`] : []), ...(minutes === null ? [] : [`${minutes} min`])].join(', '),
  beside: 'beside another one',
  term: 'The term on paper (PDF)',
  onTooth: 'Show it on the tooth',
  onToothOf: (day: string): string => `On the preparation of ${day}; red: where it returns.`,
  noTooth: (why: string): string => `The tooth could not be loaded (${why}).`,
  columns: ['Attempt', 'Exercise', 'What decided', 'Score'],
  gradedBy: (who: string): string => `graded by ${who}`,
  passed: 'passed',
  notPassed: 'not passed',
} as const;

/** How long attempts took, as the student said. */
export function minutesWords(all: readonly (number | null)[]): string {
  const known = all.filter((m): m is number => m !== null);
  if (known.length < 2) return 'How long attempts take is told from two on for which the student gave the minutes.';
  const last = known[known.length - 1];
  return `Minutes at work: ${last} in the last attempt, ${Math.round(median(known.slice(0, -1)))} usually before.`;
}
