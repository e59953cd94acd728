import type { OwnAttempt, SelfView } from '#contract/work.ts';
import { fixed } from './number.ts';
import { digitsOf, unitWords } from './readings.ts';

/** Sentences of the student's own pages. */
export const WORK = {
  title: 'My work',
  open: 'Open',
  nothingOpen: 'Nothing is open.',
  back: 'Came back',
  nothingBack: 'Nothing has come back yet.',
  coming: 'Coming up',
  noSitting: 'No sitting is planned.',
  calendar: 'Sittings for your calendar (.ics)',
  all: 'My trail',
  data: 'All my data (.zip)',
  practice: 'To practise',
  states: {
    open: 'nothing handed in yet',
    measuring: 'being measured',
    grading: 'handed in, being graded',
    back: 'graded: judge it yourself first, then see the result',
    seen: '',
  } satisfies Record<OwnAttempt['state'], string>,
  try: (n: number): string => (n > 1 ? `, attempt ${n}` : ''),
  toGrade: 'This attempt is still being graded. You see the result here once it is released, and nothing before.',
  judge: 'Judge your own work first',
  judgeLead:
    'What would you give yourself, line by line? Your instructor sees it, it changes no mark, and seeing how close you come teaches most.',
  measured: (words: string, unit: string): string => `Measured it yourself? ${words}, ${unitWords(unit)}`,
  minutes: 'Minutes at work',
  keep: 'Keep',
  keepAndShow: 'Keep, and show the result',
  change: 'You can change it until the result is released.',
  kept: 'Kept.',
  skip: 'Show the result without judging it first',
  judged: 'What you gave yourself',
  passed: 'Passed',
  notPassed: (why: readonly string[]): string => (why.length ? `Not passed: ${why.join('; ')}` : 'Not passed'),
  points: (total: number): string => `${total} of 100 points`,
  noPoints: 'no score',
  gradedBy: (who: string): string => `graded by ${who}`,
  critical: 'Critical errors',
  show: 'Show where',
  cost: 'What cost marks',
  costNothing: 'Nothing cost marks. Well done.',
  lost: (n: number, of: number): string => `−${n.toFixed(1)} of ${of.toFixed(1)}`,
  good: (n: number): string => `What was good (${n})`,
  target: (words: string): string => `target ${words}`,
  youGave: (word: string): string => `You gave yourself “${word}”.`,
  youRead: (figure: string): string => `You measured ${figure}.`,
  byWord: (word: string): string => `Judged by eye: “${word}”.`,
  next: 'What to do next',
  takes: 'What it would have taken',
  check: 'Before handing in',
  due: (day: string): string => `Try it again by ${day}.`,
  noPicture: 'There is no scan of this attempt; it was graded by hand.',
  loading: 'Loading your tooth…',
  notLoaded: (why: string): string => `The picture could not be loaded (${why}). Everything it shows stands in the list.`,
  whole: 'whole tooth',
  numbers: 'Numbers on the tooth are those of the list; red: critical.',
  done: 'Done today',
  doneTimes: (n: number): string => (n === 1 ? 'done once since' : `done ${n} times since`),
  downloads: 'To keep',
  files: {
    pdf: 'Report (PDF)',
    csv: 'Readings (CSV)',
    json: 'Everything (JSON)',
    ply: 'My tooth in colours (PLY)',
    glb: 'My tooth in colours (GLB)',
    'section-svg': 'Section (SVG)',
  },
} as const;

/** How somebody judges their own work, in a sentence each. */
export function selfWords(s: SelfView, own: boolean): string[] {
  const who = own ? 'You judge' : 'Judges';
  if (s.levels === null)
    return [
      own ? 'Judge three lines of your own work, and how close you come is told here.' : 'Too few lines were judged by the student yet.',
    ];
  const { bias, lo, hi, isBiased, of } = s.levels;
  const by = `${Math.abs(bias).toFixed(1)} levels`;
  const out = [
    isBiased
      ? `${who} own work ${by} too ${bias > 0 ? 'kindly' : 'hard'} (95 %: ${fixed(lo, 1)} to ${fixed(hi, 1)}, ${of} lines).`
      : `${who} own work as it was graded, on average (95 %: ${fixed(lo, 1)} to ${fixed(hi, 1)} levels, ${of} lines).`,
  ];
  for (const f of s.figures) {
    const d = digitsOf(f.unit);
    const size = `${Math.abs(f.judged.bias).toFixed(d)} ${unitWords(f.unit)}`;
    if (f.judged.isBiased)
      out.push(
        `${own ? 'You measure' : 'Measures'} ${f.title.toLowerCase()} ${size} too ${f.judged.bias > 0 ? 'large' : 'small'} (${f.judged.of} times).`,
      );
  }
  return out;
}
