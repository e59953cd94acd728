// Proposes rubrics from their standards: npm run propose -- [--standard ID --id RUBRIC --name NAME [--style examination]]
// Without a standard every rubric in data/rubrics is proposed again; weights and the course's own bands stay.
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { rubricFrom } from '#contract/rubric.ts';
import { standardFrom } from '#contract/standard.ts';
import { propose } from '#core/score/propose.ts';

const { values } = parseArgs({
  options: {
    standard: { type: 'string' },
    id: { type: 'string' },
    name: { type: 'string' },
    style: { type: 'string', default: 'practice' },
  },
});
const rubricFile = (id: string): string => `data/rubrics/${id}.json`;
const read = (file: string): unknown => JSON.parse(readFileSync(file, 'utf8'));
const rubricOf = (id: string) => (existsSync(rubricFile(id)) ? rubricFrom(read(rubricFile(id)), rubricFile(id)) : null);

function write(standardId: string, id: string, name: string, style: 'practice' | 'examination'): void {
  const file = `data/standards/${standardId}.json`;
  const rubric = propose(standardFrom(read(file), file), { id, name, style }, rubricOf(id));
  rubricFrom(JSON.parse(JSON.stringify(rubric)), id);
  writeFileSync(rubricFile(id), `${JSON.stringify(rubric, null, 2)}\n`);
  process.stdout.write(`${rubricFile(id)}: ${rubric.criteria.length} criteria, ${rubric.critical.length} critical errors\n`);
}

if (values.standard) {
  if (!values.id || !values.name) throw new Error('--standard needs --id and --name of the rubric that is proposed');
  if (values.style !== 'practice' && values.style !== 'examination')
    throw new Error(`--style ${values.style} is not practice or examination`);
  write(values.standard, values.id, values.name, values.style);
} else
  for (const f of readdirSync('data/rubrics')) {
    const before = rubricOf(f.replace(/\.json$/, ''));
    if (before) write(before.standard, before.id, before.name, before.scoring?.kind === 'examination' ? 'examination' : 'practice');
  }
