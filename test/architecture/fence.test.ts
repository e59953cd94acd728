import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import { RubricFile } from '#contract/rubric.ts';
import { SCHEMAS } from '#contract/schemas.ts';
import { StandardFile } from '#contract/standard.ts';

const files = (dir: string): string[] =>
  readdirSync(dir).flatMap((n) => (statSync(path.join(dir, n)).isDirectory() ? files(path.join(dir, n)) : [path.join(dir, n)]));
const source = files('src').filter((f) => /\.(ts|tsx|astro)$/.test(f) && !f.includes('.test.'));
const imports = (f: string): string[] => [...readFileSync(f, 'utf8').matchAll(/(?:from|import)\s*\(?\s*'([^']+)'/g)].map((m) => m[1]);

/** Folder of src/ that an import leads to, or the package's name. */
function target(f: string, to: string): string {
  if (to.startsWith('#')) return to.slice(1).split('/')[0];
  if (to.startsWith('.')) return path.relative('src', path.join(path.dirname(f), to)).split(path.sep)[0];
  return to;
}

describe('the core', () => {
  it('imports nothing but itself', () => {
    const wrong = source
      .filter((f) => f.startsWith('src/core/'))
      .flatMap((f) =>
        imports(f)
          .filter((i) => target(f, i) !== 'core')
          .map((i) => `${f}: ${i}`),
      );
    expect(wrong).toEqual([]);
  });
  it('knows no clock and no unseeded chance', () => {
    const wrong = source.filter(
      (f) => f.startsWith('src/core/') && /Date\.now|new Date|Math\.random|performance\.now/.test(readFileSync(f, 'utf8')),
    );
    expect(wrong).toEqual([]);
  });
  it('has every measure’s definition in its docstring', () => {
    const measures = files('src/core/measure').filter(
      (f) => /measure\/(crown|cavity|partial|surroundings)\//.test(f) && !/context|\.test/.test(f),
    );
    expect(measures.length).toBeGreaterThan(6);
    for (const f of measures)
      for (const tag of ['@formula', '@units', '@frame', '@fails', '@source', '@example'])
        expect(readFileSync(f, 'utf8'), `${f} lacks ${tag}`).toContain(tag);
  });
});

it('docs/measures.md says what the docstrings say (npm run docs writes it)', () =>
  expect(readFileSync('docs/measures.md', 'utf8')).toBe(
    execFileSync(process.execPath, ['scripts/measures-doc.mjs', '--print'], { encoding: 'utf8' }),
  ));

describe('files that others may write', () => {
  it.each(Object.entries(SCHEMAS))('docs/schemas/%s says what the contract says (npm run schemas writes it)', (name, schema) =>
    expect(JSON.parse(readFileSync(`docs/schemas/${name}`, 'utf8'))).toEqual(JSON.parse(JSON.stringify(schema))),
  );
  it.each(readdirSync('data/standards'))('data/standards/%s is a standard', (f) =>
    expect(v.safeParse(StandardFile, JSON.parse(readFileSync(`data/standards/${f}`, 'utf8'))).issues).toBeUndefined(),
  );
  it.each(readdirSync('data/rubrics'))('data/rubrics/%s is a rubric whose standard is there', (f) => {
    const r = v.safeParse(RubricFile, JSON.parse(readFileSync(`data/rubrics/${f}`, 'utf8')));
    expect(r.issues).toBeUndefined();
    if (r.success) expect(existsSync(`data/standards/${r.output.standard}.json`)).toBe(true);
  });
});

describe('import direction', () => {
  const allowed: Record<string, string[]> = {
    contract: ['contract', 'core'],
    words: ['words'],
    charts: ['charts', 'contract', 'words', 'react', 'recharts'],
    viewer: ['viewer', 'contract', 'words'],
    islands: ['islands', 'contract', 'core', 'words', 'components', 'charts', 'viewer'],
    components: ['components', 'contract', 'words'],
  };
  it.each(Object.keys(allowed))('%s', (folder) => {
    const own = ['contract', 'core', 'server', 'files', 'cli', 'seed', 'pages', 'islands', 'viewer', 'charts', 'components', 'words'];
    const wrong = source
      .filter((f) => f.startsWith(`src/${folder}/`))
      .flatMap((f) => imports(f).map((i) => ({ f, to: target(f, i) })))
      .filter(({ to }) => own.includes(to) && !allowed[folder].includes(to))
      .map(({ f, to }) => `${f} imports ${to}`);
    expect(wrong).toEqual([]);
  });
});

it('no source names a path of one machine or another host', () => {
  const wrong = source.filter((f) =>
    /\/(home|root|Users|work)\/[a-z]|https?:\/\/(?!127\.0\.0\.1|www\.w3\.org)/.test(readFileSync(f, 'utf8')),
  );
  expect(wrong).toEqual([]);
});
