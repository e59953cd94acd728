// Measures the clean preparation of every rubric and writes what was read: npm run study:clean -- [--only TEXT] [--write FILE]
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { gunzipSync, gzipSync } from 'node:zlib';
import { type RubricFile, rubricFrom } from '#contract/rubric.ts';
import { scoreOf } from '#core/sign/basis.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';
import { AIMS, type Aim } from '../src/seed/aims.ts';
import { type CleanReadings, measuredClean } from '../src/seed/clean.ts';

const { values } = parseArgs({ options: { only: { type: 'string' }, write: { type: 'string', default: 'test/fixtures/clean.json.gz' } } });
const before: Record<string, CleanReadings> = existsSync(values.write) ? JSON.parse(gunzipSync(readFileSync(values.write)).toString()) : {};
/** Lines of its rubric on which the preparation is not inside. */
function short(rubric: RubricFile, clean: CleanReadings): string[] {
  const judgements = Object.fromEntries(rubric.criteria.flatMap((c) => (c.asks ? [[c.id, { level: 3 as const }]] : [])));
  const s = scoreOf({ ...clean, rubric, hand: [], judgements });
  const lines = s.criteria.flatMap((c) =>
    c.targets
      .filter((t) => t.verdict !== 'inside' && t.verdict !== 'skipped')
      .map(
        (t) =>
          `${t.target.reading} ${t.target.zone} ${t.target.stat} ${t.verdict}: ${t.reading?.value} ± ${t.reading?.U} (${t.reading?.reason}), wanted ${JSON.stringify(t.target.band)}`,
      ),
  );
  return [...lines, ...s.undecided.map((u) => `undecided: ${JSON.stringify(u)}`)];
}

const kernel = await solidKernel();
for (const [id, aim] of Object.entries<Aim>(AIMS)) {
  if (values.only && !values.only.split(',').some((t) => id.includes(t))) continue;
  const start = performance.now();
  before[id] = measuredClean(aim, kernel);
  process.stdout.write(`${id}: ${before[id].readings.length} readings in ${((performance.now() - start) / 1000).toFixed(1)} s\n`);
  for (const line of short(rubricFrom(JSON.parse(readFileSync(`data/rubrics/${id}.json`, 'utf8')), id), before[id]))
    process.stdout.write(`  ${line}\n`);
}
const known = Object.fromEntries(Object.keys(AIMS).flatMap((id) => (before[id] ? [[id, before[id]]] : [])));
writeFileSync(values.write, gzipSync(JSON.stringify(known), { level: 9 }));
