import type { AllRoundView, HabitView, ProgressView, SkillView } from '#contract/progress-view.ts';
import type { Told } from '#core/progress/told.ts';
import { fixed } from './number.ts';
import { digitsOf, unitWords } from './readings.ts';
import { placeWords } from './sides.ts';

/** The side of a bin of 5°, from facial over mesial. */
export const sideAt = (bin: number): string => placeWords((bin + 0.5) * 5);

const percent = (x: number): string => `${Math.round(100 * x)} %`;
const few = (t: Told<unknown>, what: string): string | null =>
  t.given === null && 'least' in t
    ? `${what} can be told from ${t.least} attempts on; ${t.there === 1 ? 'there is one' : `there are ${t.there}`}.`
    : null;

export const PROGRESS = {
  first: 'Look at these first',
  noErrors: 'No critical error, and nothing below “sound” more than once.',
  made: (times: number, of: number): string => `critical, in ${times} of ${of}`,
  weak: (times: number, of: number): string => `below sound in ${times} of the last ${of}`,
  practice: 'What to practise next',
  nothingNext: 'Nothing loses points again and again. Try an exercise you have not done.',
  gain: (points: number): string => {
    const whole = points.toFixed(0);
    return `about ${whole} ${whole === '1' ? 'point' : 'points'}`;
  },
  why: (times: number, of: number, lost: number): string =>
    of === 1
      ? `Lost ${lost.toFixed(1)} points in the one attempt so far.`
      : `Lost points in ${times} of the last ${of}, ${lost.toFixed(1)} on average.`,
  after: (title: string): string => `First: ${title}.`,
  drill: (title: string, times: number): string => `${title}, ${times} times`,
  check: 'Check before handing in',
  by: (day: string): string => `Try it again on ${day}.`,
  due: (day: string): string => `It was to be tried again by ${day}: do it now.`,
  rare: (n: number): string => `${n} skills tried once or twice`,
  habits: 'Habits round the tooth',
  noHabits: 'Nothing returns at one place more often than chance would have it.',
  fewForHabits: 'A habit can be told from four attempts with readings round the tooth on.',
  everyones: (titles: readonly string[]): string => `Where nearly everyone errs, not only here: ${titles.join('; ')}.`,
  skills: 'Every skill over its attempts',
  skillsLead: 'Each point is an attempt: the reading that decided, its ± U, and its band as it was then. Choose one to see it in full.',
  competent: 'mastered',
  lost: 'lost again',
  notYet: 'not yet',
  levels: ['not yet', 'marginal', 'sound', 'secure'] as const,
  close: 'Close',
  attempt: 'Attempt',
  evidence: 'Evidence of mastery',
  evidenceLead: (l: ProgressView['limits']): string =>
    `Each success adds, each failure takes away; mastery is told at the line. Of those who fail ${percent(l.p1)} of the time ${percent(l.chanceFailing)} would be told so within ${l.within} attempts, of those who fail ${percent(l.p0)} ${percent(l.chanceSound)}.`,
  table: ['Attempt', 'Exercise', 'Read', 'Band', 'Level'] as const,
  repeat: 'again on the same day',
} as const;

/** Whether the deciding reading comes nearer to its band. */
export function distanceWords(s: SkillView): string {
  const t = s.skill.distance;
  const none = few(t, 'A trend of the reading');
  if (t.given === null) return none ?? '';
  const d = digitsOf(s.unit ?? 'mm') + 1;
  const u = unitWords(s.unit ?? '');
  const range = `(95 %: ${fixed(t.given.lo, d)} to ${fixed(t.given.hi, d)})`;
  if (!t.given.isChange) return `How far it lies outside its band does not change more than chance would have it ${range}.`;
  return `It lies ${Math.abs(t.given.slope).toFixed(d)} ${u} ${t.given.slope < 0 ? 'nearer to' : 'farther from'} its band with each attempt ${range}.`;
}

export function levelWords(s: SkillView): string {
  const t = s.skill.levels;
  if (t.given === null) return few(t, 'A trend of the levels') ?? '';
  if (t.given.goes === null) return `Levels neither rise nor fall more than chance would have it (p = ${t.given.p.toFixed(2)}).`;
  return `Levels ${t.given.goes === 'up' ? 'rise' : 'fall'} (p = ${t.given.p < 0.001 ? 'under 0.001' : t.given.p.toFixed(3)}).`;
}

export function lawWords(s: SkillView): string | null {
  const l = s.skill.law.given;
  return l?.isShown
    ? `It is levelling off at ${Math.max(0, l.a).toFixed(digitsOf(s.unit ?? 'mm'))} ${unitWords(s.unit ?? '')} outside the band.`
    : null;
}

export function neededWords(s: SkillView): string {
  if (s.skill.competence.isCompetent) return `Mastered since its attempt ${s.skill.competence.since}.`;
  const t = s.skill.needed;
  if (t.given === null) return few(t, 'How many more it takes') ?? '';
  const n = (v: number): string => (v === Infinity ? 'more than 20' : String(v));
  const { median, lo, hi } = t.given;
  if (median === 0 && hi === 0) return 'Succeeds four times in five already.';
  return `To succeed four times in five it probably takes ${n(median)} more ${median === 1 ? 'attempt' : 'attempts'} (80 %: ${n(lo)} to ${n(hi)}).`;
}

export const stateWords = (s: SkillView): string => {
  const c = s.skill.competence;
  return c.isCompetent ? PROGRESS.competent : c.lost !== null ? PROGRESS.lost : PROGRESS.notYet;
};

/** "Distolingual: margin width 0.30 mm less than others', outside in 5 of 6": where, how much, how often, and in which frame. */
export function habitWords(h: HabitView): string {
  const d = digitsOf(h.unit);
  const { own } = h;
  const place = sideAt(own.at);
  const frame =
    h.frame === 'bench'
      ? ' It stands still in the mouth and mirrors on the tooth: a habit of the hand.'
      : h.frame === 'tooth'
        ? ' It keeps its side of the tooth on both sides of the mouth.'
        : '';
  return `${place[0].toUpperCase()}${place.slice(1)}: ${h.title.toLowerCase()} ${Math.abs(own.size).toFixed(d)} ${unitWords(h.unit)} ${own.size < 0 ? 'less' : 'more'} than others’, outside in ${own.times} of ${own.of}.${frame}`;
}
/** "All round: margin width 0.21 mm more than others', outside in 5 of 6." */
export const allRoundWords = (a: AllRoundView): string =>
  `All round: ${a.title.toLowerCase()} ${Math.abs(a.size).toFixed(digitsOf(a.unit))} ${unitWords(a.unit)} ${a.size < 0 ? 'less' : 'more'} than others’, outside in ${a.times} of ${a.of}.`;
export const chanceWords = (h: { readonly p: number }): string =>
  `Chance would do this in ${h.p < 0.001 ? 'fewer than one of 1,000' : `${(100 * h.p).toFixed(1)} of 100`}.`;
