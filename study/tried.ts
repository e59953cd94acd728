// Brings the table of docs/readings-tried.md up to date from studies' rows: npm run study:tried -- own=FILE,FILE foreign=FILE
import { readFileSync, writeFileSync } from 'node:fs';
import { type Comparison, type Summary, summaries } from './table.ts';

const PAGE = 'docs/readings-tried.md';

/** Summaries of the files after `key=`, by reading and statistic. */
function given(key: string): ReadonlyMap<string, Summary> {
  const files = process.argv.find((a) => a.startsWith(`${key}=`))?.slice(key.length + 1);
  if (!files) throw new Error(`${key}=FILE is missing`);
  const rows = files.split(',').flatMap((f): Comparison[] => JSON.parse(readFileSync(f, 'utf8')));
  return new Map(summaries(rows).map((s) => [`${s.name} ${s.stat}`, s]));
}

/** Bias; 95 % of errors; truths within U of so many; how many were not given. */
function figures({ bias, p95, inU, n, refused }: Summary): string {
  const missing = Math.round((n * refused) / (1 - refused));
  return `${bias.toFixed(3)}; ${p95.toFixed(3)}; ${Math.round(100 * inU)} % of ${n}${missing ? `, ${missing} not given` : ''}`;
}

const [own, foreign] = [given('own'), given('foreign')];
const lines = readFileSync(PAGE, 'utf8').split('\n');
const renewed = lines.map((line) => {
  const [, name, stat = 'value'] = /^\| `([^`]+)`(?: (\w+))? \|/.exec(line) ?? [];
  if (!name) return line;
  const [title, before, beforeForeign, families] = line.slice(2, -2).split(' | ');
  const cell = (all: ReadonlyMap<string, Summary>, old: string): string => {
    const s = all.get(`${name} ${stat}`);
    return s && s.n > 0 ? figures(s) : old;
  };
  return `| ${[title, cell(own, before), cell(foreign, beforeForeign), families].join(' | ')} |`;
});
writeFileSync(PAGE, renewed.join('\n'));
