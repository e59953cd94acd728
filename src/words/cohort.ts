import type { ConcernView, ToolView } from '#contract/cohort-view.ts';
import type { Interval } from '#core/progress/items.ts';
import { fixed } from './number.ts';
import { dayWords } from './writing.ts';

/** Sentences of the cohort's page. */
export const COHORT = {
  title: 'Cohort',
  lead: 'Skills by students, from signed grades only. Every cell leads to the attempt that it rests on.',
  all: 'All exercises',
  exercise: 'Exercise',
  group: 'Group',
  everyone: 'everyone',
  bench: 'Benches',
  grader: 'Signed by',
  anyGrader: 'anybody',
  shows: 'Cells show',
  show: { last: 'level of the last attempt', mean: 'mean of the last three', mastered: 'mastery' },
  none: 'No grade has been signed yet.',
  student: 'Student',
  word: 'Who needs a word',
  nobody: 'Nobody, by what the grades say.',
  aside: 'Put aside',
  asideNote: 'What was done about it',
  asides: (n: number): string => `${n} put aside`,
  said: (note: string, by: string): string => `${note} (${by})`,
  keep: 'Keep',
  cancel: 'Cancel',
  spread: 'What decided each criterion, against its band',
  spreadLead: 'All attempts of this exercise; the box is the newest band.',
  limits: 'What counts as mastered',
  limitsLead:
    'Two failure rates: up to the first somebody is sound, from the second on they are not. Mastery is told when the first is far likelier than the second.',
  acceptable: 'Acceptable failures, %',
  unacceptable: 'Unacceptable failures, %',
  chances: (clean: number, within: number, failing: number, sound: number): string =>
    `${clean} successes in a row are enough. Within ${within} attempts ${(100 * failing).toFixed(1)} % of those who fail at the second rate would be called masters, and ${(100 * sound).toFixed(1)} % of those who fail at the first: strict limits make good students wait.`,
  wrong: 'The second rate has to lie 5 % or more above the first.',
  kept: 'Kept.',
  items: 'Criteria of this exercise',
  itemsLead:
    'Difficulty is the mean share of points; discrimination the correlation with the rest of the total, with 95 % intervals. A criterion that does not go with the rest measures something else, or nothing.',
  fewItems: 'What a criterion tells can be said from eight attempts of one exercise on. Choose an exercise above.',
  columns: ['Criterion', 'Mean share of points', 'Goes with the rest'] as const,
  never: 'never varies',
  cannot: 'cannot be told',
  alpha: (a: Interval): string =>
    `All criteria together rank attempts alike to α = ${fixed(a.value, 2)} (${fixed(a.lo, 2)} to ${fixed(a.hi, 2)}).`,
  drift: 'Scanner and masters',
  steady: {
    alignment: (from: string, to: string): string =>
      `Alignment has not shifted for everyone between ${dayWords(from)} and ${dayWords(to)}.`,
    neighbour: (from: string, to: string): string => `Untouched neighbours have read the same from ${dayWords(from)} to ${dayWords(to)}.`,
  },
  shifted: {
    alignment: (day: string): string =>
      `Since ${dayWords(day)} scans lie on their masters otherwise than before, for everyone: look at the scanner and the master, not at the students.`,
    neighbour: (day: string): string =>
      `Since ${dayWords(day)} neighbours that nobody touched read another distance, for everyone: look at the teeth in the arch, the master and the scanner.`,
  },
  fewDays: {
    alignment: 'Whether alignment has drifted can be told from nine days with scans on.',
    neighbour: 'Whether neighbours have moved can be told from nine days with a reading of them on.',
  },
  levels: ['not yet', 'marginal', 'sound', 'secure'] as const,
  mastered: 'mastered',
  notMastered: 'not yet',
} as const;

export function concernWords(c: ConcernView): string {
  switch (c.what) {
    case 'lost':
      return `lost again what was mastered: ${c.about}`;
    case 'falling':
      return `levels fall: ${c.about}`;
    case 'failing':
      return `three times in a row below sound: ${c.about}`;
    case 'misjudges':
      return `judges own work ${c.about.slice(1)} levels too ${c.about.startsWith('+') ? 'kindly' : 'hard'}`;
    case 'time': {
      const [last, usual] = c.about.split(', ');
      return `took ${last} minutes where ${usual} are usual`;
    }
    case 'absent':
      return c.about ? `nothing handed in since ${dayWords(c.about)}` : 'nothing handed in yet';
  }
}

export const intervalWords = (i: Interval): string => `${fixed(i.value, 2)} (${fixed(i.lo, 2)} to ${fixed(i.hi, 2)})`;

export function driftWords({ tool, days, chart }: ToolView): string {
  if (!chart) return COHORT.fewDays[tool];
  return chart.since === null ? COHORT.steady[tool](days[0], days[days.length - 1]) : COHORT.shifted[tool](days[chart.since]);
}
