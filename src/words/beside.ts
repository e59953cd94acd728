import { dayWords } from './writing.ts';

/** Sentences of the page that shows two attempts side by side. */
export const BESIDE = {
  title: 'Two attempts side by side',
  lead: 'Both turn together. On the right, colours say what the later attempt left or took away against the earlier one.',
  earlier: 'Earlier',
  later: 'Later',
  back: 'Trail',
  colours: 'Colours of the later one',
  shows: { difference: 'difference', depth: 'depth' },
  few: 'Two scanned attempts of one kind on the same tooth are needed; there are none yet.',
  choice: (day: string, title: string, total: number | null): string => `${dayWords(day)}, ${title}, ${total ?? '–'}`,
  loading: 'Loading both teeth…',
  comparing: 'Comparing…',
  failed: (why: string): string => `A tooth could not be loaded (${why}). Reload the page to try again.`,
  legend: {
    more: 'orange: more left than before',
    same: 'pale: within 0.1 mm',
    less: 'violet: more taken than before',
    none: 'grey: one scan ends there',
  },
  summary: (more: number, less: number): string =>
    `Over what both scans show, ${percent(more)} has more left than before by over 0.1 mm, ${percent(less)} has less.`,
  section: 'Section',
  sectionLegend: 'dashed: master; petrol: earlier; black: later. Drag to turn.',
  views: 'Look from',
  criteria: 'What was read',
  columns: ['Criterion', 'Earlier', 'Later', 'Band'],
  scoreOf: (total: number | null, passed: boolean): string =>
    total === null ? 'no score' : `${total}, ${passed ? 'passed' : 'not passed'}`,
} as const;

const percent = (share: number): string => `${Math.round(100 * share)} %`;
