import { readdirSync, readFileSync } from 'node:fs';
import { type RubricFile, rubricFrom } from '../src/contract/rubric.ts';
import { type StandardFile, standardFrom } from '../src/contract/standard.ts';
import { CATALOGUE } from '../src/core/catalogue/catalogue.ts';
import { KINDS } from '../src/core/kinds/kinds.ts';
import { EXERCISES } from '../src/seed/cast.ts';
import { bandWords, readingWords, wantedWords } from '../src/words/readings.ts';

const all = <T>(folder: string, read: (json: unknown, where: string) => T): T[] =>
  readdirSync(`data/${folder}`)
    .sort()
    .map((f) => read(JSON.parse(readFileSync(`data/${folder}/${f}`, 'utf8')), f));

/** What the shipped rubrics asked before standards were data: 22 standards in words, 12 rubrics, 7 exercises. */
const BEFORE = { standards: 22, rubrics: 12, exercises: 7, lines: 145, readings: 44, words: 0 };

const bare = (reading: string): string => reading.replace(/\(.*\)$/, '');
const table = (rows: readonly (readonly string[])[]): string => {
  const [head, ...body] = rows;
  return [head, head.map(() => '---'), ...body].map((r) => `| ${r.join(' | ')} |`).join('\n');
};

function counts(standards: readonly StandardFile[], rubrics: readonly RubricFile[]) {
  const asked = new Set(rubrics.flatMap((r) => [...r.criteria.flatMap((c) => c.targets), ...r.critical]).map((t) => bare(t.reading)));
  return {
    asked,
    standards: standards.length,
    rubrics: rubrics.length,
    exercises: EXERCISES.length,
    lines: rubrics.reduce((n, r) => n + r.criteria.length + r.critical.length, 0),
    readings: asked.size,
    words: rubrics.reduce((n, r) => n + r.criteria.filter((c) => c.asks).length, 0),
  };
}

function procedure(s: StandardFile, rubrics: readonly RubricFile[]): string {
  const own = rubrics.filter((r) => r.standard === s.id);
  const exercises = EXERCISES.filter((e) => own.some((r) => r.id === e.rubric));
  const weights = (id: string): string => own.map((r) => r.criteria.find((c) => c.id === id)?.weight ?? '–').join(' / ');
  const rows = [
    ['Check', 'Read as', 'Should be', 'From', 'Weight'],
    ...s.lines.flatMap((l) =>
      l.asks
        ? [[l.title, `by word: “${l.asks.question}”`, l.asks.words.map((w) => w.word).join(' / '), 'school', weights(l.id)]]
        : l.fields.map((f, i) => [
            i === 0 ? l.title : '',
            `${readingWords(f.reading, f.zone, f.stat)}${f.along ? ', along its length' : ''}`,
            wantedWords({ reading: f.reading, ...f.band, unit: f.unit }),
            f.from === 'school' ? s.school : 'course’s choice',
            i === 0 ? weights(l.id) : '',
          ]),
    ),
    ...s.critical.map((e) => [
      `**${e.title}**`,
      readingWords(e.reading, e.zone, e.stat),
      bandWords(e.allowed.lo, e.allowed.hi, e.unit),
      e.from === 'school' ? s.school : 'course’s choice',
      e.effect.kind === 'fail' ? 'fails' : e.effect.kind === 'cap' ? `at most ${e.effect.at}` : `−${e.effect.points}`,
    ]),
  ];
  return [
    `## ${s.name}`,
    '',
    `${s.school[0].toUpperCase()}${s.school.slice(1)}. Rubrics: ${own.map((r) => `${r.name} (\`${r.id}\`)`).join('; ') || '**none**'}. Exercises: ${exercises.map((e) => `${e.title}, ${e.minutes} min`).join('; ') || '**none**'}.`,
    '',
    table(rows),
  ].join('\n');
}

/** docs/coverage.md: every procedure with its checks, how each is read, what it should be, and who asks for it; then what is missing. */
export function coverageDoc(): string {
  const standards = all('standards', standardFrom);
  const rubrics = all('rubrics', rubricFrom);
  const now = counts(standards, rubrics);
  const unasked = CATALOGUE.filter((e) => !now.asked.has(e.name));
  const byHand = standards.filter((s) => KINDS[s.kind].measure === null);
  const inWords = rubrics.flatMap((r) => r.criteria.filter((c) => c.asks).map((c) => `${r.name}: ${c.title.toLowerCase()}`));
  const noRubric = standards.filter((s) => !rubrics.some((r) => r.standard === s.id));
  const noExercise = rubrics.filter((r) => !EXERCISES.some((e) => e.rubric === r.id));
  return `${[
    '# What is checked, and how',
    '',
    'Written by `npm run docs` from `data/standards`, `data/rubrics`, the catalogue of readings and the demo’s exercises. A figure “from the course” is a choice where schools say nothing; the course’s own manual comes first.',
    '',
    table([
      ['', 'before standards were data', 'now'],
      ['standards', `${BEFORE.standards} (in words)`, `${now.standards} (as figures)`],
      ['rubrics', `${BEFORE.rubrics}`, `${now.rubrics}`],
      ['exercises', `${BEFORE.exercises}`, `${now.exercises}`],
      ['lines of rubrics, critical errors included', `${BEFORE.lines}`, `${now.lines}`],
      ['of these, asked of a person in words', `${BEFORE.words}`, `${now.words}`],
      [`readings asked by a rubric, of ${CATALOGUE.length}`, `${BEFORE.readings}`, `${now.readings}`],
    ]),
    '',
    '## Gaps',
    '',
    `- Standards without a rubric: ${noRubric.map((s) => s.name).join(', ') || 'none'}. Rubrics without an exercise: ${noExercise.map((r) => r.name).join(', ') || 'none'}.`,
    `- Not read from a scan yet, so that every line is by hand, word or eye: ${byHand.map((s) => s.name).join('; ')}.`,
    `- Asked in words because nothing reads it: ${inWords.length} lines; of preparations that are otherwise measured: ${inWords.filter((t) => !byHand.some((s) => rubrics.some((r) => r.standard === s.id && t.startsWith(`${r.name}:`)))).join('; ')}.`,
    `- Readings that no rubric asks for: ${unasked.map((e) => `${e.title} (\`${e.name}\`)`).join(', ')}.`,
    '- The angle between the paths of two abutments is asked by a rubric of the course whose exercise names the other abutment. The edge cut square is not asked of all-ceramic crowns: 1 mm off both faces leaves the simulated incisor a ridge (docs/decisions/0034).',
    '',
    ...standards.flatMap((s) => [procedure(s, rubrics), '']),
  ]
    .join('\n')
    .trimEnd()}\n`;
}
