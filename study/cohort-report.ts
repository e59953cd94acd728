// Writes docs/cohort.md, the spread of the demo's past weeks: npm run cohort:report
import { readFileSync, writeFileSync } from 'node:fs';
import { brotliDecompressSync } from 'node:zlib';
import { rubricFrom } from '#contract/rubric.ts';
import type { LevelNumber } from '#core/score/rubric.ts';
import type { Score } from '#core/score/score.ts';
import { scoreOf } from '#core/sign/basis.ts';
import { quantile } from '#core/statistics/quantile.ts';
import { EXERCISES } from '../src/seed/cast.ts';
import { type CohortFile, type Measured, unpacked } from '../src/seed/cohort-file.ts';

const cohort: CohortFile = JSON.parse(brotliDecompressSync(readFileSync('data/demo/cohort.json.br')).toString());

/** The score as an instructor signs it who takes open lines as measured, and looks for nothing that was not found. */
function signed(m: Measured): { score: Score; open: number; rubric: string } {
  const e = EXERCISES.find((q) => q.id === m.work.exercise);
  if (!e) throw new Error(`no exercise ${m.work.exercise}`);
  const rubric = rubricFrom(JSON.parse(readFileSync(`data/rubrics/${e.rubric}.json`, 'utf8')), e.rubric);
  const basis = { readings: unpacked(m.rows, cohort.names), curves: m.curves, rubric, cusps: cohort.masters[e.id].cusps, hand: [] };
  const plain = scoreOf({ ...basis, judgements: {} });
  const judgements = Object.fromEntries([
    ...plain.criteria
      .filter((c) => c.decidedBy === null)
      .map((c) => [c.criterion.id, { level: (c.computed ?? 2) as LevelNumber }] as const),
    ...plain.critical.filter((c) => c.made === null).map((c) => [c.error.id, { made: false }] as const),
  ]);
  return { score: scoreOf({ ...basis, judgements }), open: plain.undecided.length, rubric: rubric.id };
}

const BARS = ' ▁▂▃▄▅▆▇█';
/** Counts of totals by tens as bars: 0–9 first, 90–100 last. */
function histogram(totals: readonly number[]): string {
  const counts = Array.from({ length: 10 }, (_, i) => totals.filter((t) => Math.min(9, Math.floor(t / 10)) === i).length);
  const most = Math.max(...counts, 1);
  return counts.map((n) => BARS[Math.ceil((8 * n) / most)]).join('');
}
const markdown = ([head, ...body]: readonly (readonly (string | number)[])[]): string =>
  [head, head.map(() => '---'), ...body].map((r) => `| ${r.join(' | ')} |`).join('\n');

const all = cohort.measured.map((m) => ({ m, ...signed(m) }));
const totalOf = (a: (typeof all)[number]): number => a.score.total ?? 0;
const rate = (list: typeof all): string => `${Math.round((100 * list.filter((a) => a.score.passed).length) / Math.max(1, list.length))} %`;
const perExercise = EXERCISES.filter((e) => all.some((a) => a.m.work.exercise === e.id)).map((e) => {
  const own = all.filter((a) => a.m.work.exercise === e.id);
  const totals = own.map(totalOf);
  const errors = own.filter((a) => a.score.critical.some((c) => c.made)).length;
  return [
    e.title,
    own.length,
    rate(own),
    [0.1, 0.5, 0.9].map((q) => Math.round(quantile(totals, q))).join(' / '),
    `\`${histogram(totals)}\``,
    errors,
  ];
});
const weeks = [1, 2, 3, 4, 5].map((w) => {
  const own = all.filter((a) => a.m.work.sitting.endsWith(`-w${w}`));
  return [
    w,
    own.length,
    rate(own),
    Math.round(quantile(own.map(totalOf), 0.5)),
    (own.reduce((n, a) => n + a.open, 0) / Math.max(1, own.length)).toFixed(1),
  ];
});
const errors = new Map<string, number>();
for (const a of all) for (const c of a.score.critical) if (c.made) errors.set(c.error.title, (errors.get(c.error.title) ?? 0) + 1);
const weak = new Map<string, number>();
for (const a of all)
  for (const c of a.score.criteria)
    if (c.level !== null && c.level <= 1) weak.set(c.criterion.title, (weak.get(c.criterion.title) ?? 0) + 1);
/** Versions of the core that measured what was cut again. */
const again = [
  ...new Set(cohort.measured.flatMap((m) => (m.coreVersion && m.coreVersion !== cohort.coreVersion ? [m.coreVersion] : []))),
].sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
const ranked = (of: Map<string, number>, most: number): [string, number][] => [...of].sort((a, b) => b[1] - a[1]).slice(0, most);

writeFileSync(
  'docs/cohort.md',
  [
    '# The demo’s cohort',
    '',
    `Written by \`npm run cohort:report\` from \`data/demo/cohort.json.br\`: ${all.length} preparations of five weeks, cut by seeded hands, scanned and measured by the core (version ${cohort.coreVersion}${again.length ? `; what was made again: ${again.join(', ')}` : ''}). Totals are those of an instructor who takes open lines as measured; the demo’s four instructors differ from that by their severity. Work that is judged by hand and word alone is not in it.`,
    '',
    `Passed: ${rate(all)} of all. Critical errors in ${all.filter((a) => a.score.critical.some((c) => c.made)).length} of ${all.length}.`,
    '',
    '## By exercise',
    '',
    'Totals: a tenth lies below the first figure, half below the second, a tenth above the third. Bars: 0–9, 10–19, … 90–100.',
    '',
    markdown([['exercise', 'attempts', 'passed', 'totals', 'spread', 'with a critical error'], ...perExercise]),
    '',
    '## By week',
    '',
    markdown([['week', 'attempts', 'passed', 'median total', 'lines left open by the measurement, each'], ...weeks]),
    '',
    '## Critical errors',
    '',
    markdown([['error', 'times'], ...ranked(errors, 30)]),
    '',
    '## Lines most often marginal or worse',
    '',
    markdown([['line', 'times'], ...ranked(weak, 20)]),
    '',
  ].join('\n'),
);
