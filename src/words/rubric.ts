import type { RubricFile } from '#contract/rubric.ts';
import type { RubricPreview } from '#contract/rubric-view.ts';
import type { Concern } from '#core/score/concerns.ts';
import { median } from '#core/statistics/quantile.ts';
import { bandWords } from './readings.ts';

/** Sentences of the page on which a rubric is changed. */
export const RUBRIC_WORDS = {
  standard: 'Its standard',
  again: 'Propose again from the standard',
  back: 'Exercises',
  lines: 'Criteria',
  weight: 'Weight',
  share: (weight: number, sum: number): string => (sum > 0 ? `${Math.round((100 * weight) / sum)} %` : ''),
  pass: 'Passed from',
  level: (n: number): string => `Level ${n}`,
  open: 'open',
  bands: { band: 'full marks', fair: 'one level down', poor: 'two levels down' },
  ends: { lo: 'from', hi: 'to' },
  critical: 'Critical errors',
  allowed: 'allowed',
  addError: 'Add a critical error',
  errorTitle: 'What it is called, for example “Furcation opened”',
  wordOf: 'Word',
  shareOf: 'Share of the points',
  counts: 'What counts',
  evidence: { any: 'scan, or by hand over it', hand: 'only a reading by hand' },
  whenNotRead: 'When it cannot be read',
  ifNotRead: { ask: 'a person decides', skip: 'left out where the tooth has none', fail: 'lowest level' },
  noCritical: 'None: nothing fails an attempt by itself.',
  effects: { fail: 'not passed', cap: 'at most … points', deduct: '… points off', off: 'switch off' },
  effectOf: 'Effect',
  points: 'Points',
  remove: 'Remove',
  add: 'Add',
  addLine: 'Add a line',
  addReading: 'Add a reading to this line',
  lineTitle: 'What the line is called',
  orQuestion: 'Or ask a person, for example “Does the wax come off clean?”',
  reading: 'reading',
  place: 'place',
  stat: 'statistic',
  whole: 'the whole preparation',
  choose: 'Choose a reading…',
  formLead: (pass: number, words: readonly string[]): string =>
    `Passed from ${pass} of 100 points. Each line is ${words.join(', ')}; the share says how much of the points it is.`,
  form: 'The form students get, to print',
  asks: (question: string, words: readonly string[]): string => `Asks a person: ${question} (${words.join(', ')})`,
  effect: (e: RubricFile['critical'][number]['effect']): string =>
    e.kind === 'fail' ? 'not passed' : e.kind === 'cap' ? `at most ${e.at} points` : `${e.points} points off`,
  version: (n: number, signed: number): string =>
    `version ${n}${signed ? `, signed ${signed === 1 ? 'once' : `${signed} times`}: a change becomes a new version` : ''}`,
  preview: 'What a change would do',
  basis: (n: number): string =>
    n === 0
      ? 'Nothing was signed with this rubric yet.'
      : n === 1
        ? 'Changes are tried on the one attempt that this course signed with it.'
        : `Changes are tried on the last ${n} signed attempts of this course.`,
  scoring: 'Scoring past attempts…',
  rates: (p: RubricPreview): string =>
    p.attempts === 0
      ? 'Nothing was signed with this rubric yet.'
      : `${p.moved.length} of ${p.attempts} ${p.attempts === 1 ? 'mark moves' : 'marks move'}. Passed: ${rate(p.passedBefore, p.attempts)} before, ${rate(p.passedAfter, p.attempts)} now.`,
  now: (passed: boolean | null): string => (passed === null ? 'to be decided again' : passed ? 'passes' : 'fails'),
  what: (w: string): string => ({ band: 'full marks', fair: 'one level down', poor: 'two levels down' })[w] ?? w,
  keep: (n: number): string => `Keep as version ${n}`,
  kept: (n: number): string => `Version ${n} is in use from now on.`,
  undo: 'Undo',
  out: 'Rubric as JSON',
  in: 'Take a rubric’s JSON in its place',
  notRead: (file: string, why: string): string => `${file} is no rubric: ${why}. Export one here to see the form.`,
  distribution: (name: string, values: readonly number[], band: { lo: number | null; hi: number | null }, unit: string): string =>
    values.length === 0
      ? `${name}: nothing read yet; band ${bandWords(band.lo, band.hi, unit)}`
      : `${name}: ${values.length} read, middle ${median([...values]).toFixed(2)} ${unit}; band ${bandWords(band.lo, band.hi, unit)}`,
} as const;

const rate = (n: number, of: number): string => `${Math.round((100 * n) / of)} %`;

/** What is wrong with a rubric, and what would mend it. */
export function concernWords(c: Concern, unit: string): string {
  switch (c.kind) {
    case 'narrow':
      return `The band is ${c.width.toFixed(2)} ${unit} wide, but the reading is usually sure to ± ${c.U.toFixed(2)} only: no good attempt could be called inside. Widen it, take another statistic, or ask a person.`;
    case 'order':
      return c.which === 'band'
        ? 'The band ends before it begins.'
        : `“${RUBRIC_WORDS.bands[c.which]}” has to reach at least as far as the band inside it.`;
    case 'limitless':
      return 'Both ends are open, so that nothing could ever be found here. Give at least one.';
    case 'shares':
      return `Level ${c.level} has to be worth less than the level above it.`;
    case 'empty':
      return 'It weighs nothing.';
  }
}
