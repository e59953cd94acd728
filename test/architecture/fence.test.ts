import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import { RubricFile } from '#contract/rubric.ts';
import { SCHEMAS } from '#contract/schemas.ts';
import { StandardFile } from '#contract/standard.ts';
import { coverageDoc } from '../../scripts/coverage-doc.ts';
import { measuresDoc } from '../../scripts/measures-doc.ts';

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
  // Pure arithmetic of others: no files, no clock, no screen.
  const PURE = ['d3-contour'];
  it('imports nothing but itself and what is as pure', () => {
    const wrong = source
      .filter((f) => f.startsWith('src/core/'))
      .flatMap((f) =>
        imports(f)
          .filter((i) => target(f, i) !== 'core' && !PURE.includes(i))
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
      (f) => /measure\/(arch|box|crown|cavity|partial|surroundings)\//.test(f) && !/context|side-wall|lingual-zones|\.test/.test(f),
    );
    expect(measures.length).toBeGreaterThan(6);
    for (const f of measures)
      for (const tag of ['@formula', '@units', '@frame', '@fails', '@source', '@example'])
        expect(readFileSync(f, 'utf8'), `${f} lacks ${tag}`).toContain(tag);
  });
});

it('docs/measures.md says what catalogue and docstrings say (npm run docs writes it)', () =>
  expect(readFileSync('docs/measures.md', 'utf8')).toBe(measuresDoc()));

it('docs/coverage.md says what standards, rubrics and exercises say (npm run docs writes it)', () =>
  expect(readFileSync('docs/coverage.md', 'utf8')).toBe(coverageDoc()));

describe('the stages of the core', () => {
  /** Each stage imports itself and those before it. */
  const STAGES = [
    ['thresholds.ts', 'version.ts', 'linalg'],
    ['catalogue', 'mesh', 'statistics'],
    ['spatial', 'result'],
    ['master', 'scan'],
    ['align', 'anatomy'],
    ['segment', 'annotate', 'occlusion'],
    ['measure'],
    ['kinds', 'score'],
    ['pipeline.ts', 'sign', 'progress', 'plan'],
    // A plan, cut by the simulator.
    ['dry'],
  ];
  const SIMULATOR = ['simulate', 'anatomy', 'linalg', 'catalogue', 'mesh', 'statistics', 'spatial', 'master'];
  const place = (file: string): string => path.relative('src/core', file).split(path.sep)[0];
  const stageOf = (name: string): number => STAGES.findIndex((s) => s.includes(name));
  const edges = source
    .filter((f) => f.startsWith('src/core/'))
    .flatMap((f) =>
      imports(f)
        .filter((i) => i.startsWith('.'))
        .map((i) => ({ f, from: place(f), to: place(path.join(path.dirname(f), i)) })),
    );

  it('import only what comes before them', () => {
    const wrong = edges.filter(
      (e) => e.from !== 'simulate' && e.to !== 'simulate' && e.from !== e.to && !(stageOf(e.to) < stageOf(e.from) && stageOf(e.to) >= 0),
    );
    expect(wrong).toEqual([]);
  });
  it('leave the simulator alone, and it knows nothing of how things are measured', () => {
    expect(edges.filter((e) => e.from === 'simulate' && !SIMULATOR.includes(e.to))).toEqual([]);
    expect(edges.filter((e) => e.to === 'simulate' && !['simulate', 'dry'].includes(e.from))).toEqual([]);
  });
});

it('no file of src/ imports itself by way of others', () => {
  const ALIASES = Object.keys(JSON.parse(readFileSync('package.json', 'utf8')).imports as Record<string, string>).map((a) =>
    a.slice(1, -1),
  );
  const resolve = (f: string, to: string): string | null => {
    if (to.startsWith('.')) return path.join(path.dirname(f), to);
    return ALIASES.some((a) => to.startsWith(`#${a}`)) ? path.join('src', to.slice(1)) : null;
  };
  const graph = new Map(source.map((f) => [f, imports(f).flatMap((i) => resolve(f, i) ?? [])]));
  const done = new Set<string>();
  const circle = (f: string, way: string[]): string[] | null => {
    if (way.includes(f)) return [...way.slice(way.indexOf(f)), f];
    if (done.has(f)) return null;
    for (const to of graph.get(f) ?? []) {
      const found = circle(to, [...way, f]);
      if (found) return found;
    }
    done.add(f);
    return null;
  };
  for (const f of source) expect(circle(f, [])).toBeNull();
});

describe('one place for each thing', () => {
  const found = (pattern: RegExp, outside: RegExp): string[] =>
    source.filter((f) => !outside.test(f) && pattern.test(readFileSync(f, 'utf8')));
  it('SQL is written in the server, and where the command line reads its records', () =>
    expect(found(/\bsql`|\bSELECT \w/, /^src\/(server|cli)\//)).toEqual([]));
  it('the core asks for a kind of preparation by its registry, not by its name', () =>
    expect(found(/kind\s*[!=]==?\s*'(crown|cavity|onlay|partial)'/, /^src\/core\/(kinds|simulate|dry)\//)).toEqual([]));
  it('answers with a status are made where requests are known', () =>
    expect(found(/\bnew Response\b|\bResponse\.json\b/, /^src\/(pages|middleware\.ts|server\/(http|page|files-out)\.ts)/)).toEqual([]));
  it('a definition’s source is a publication or docs/definitions.md', () => {
    const named = files('src/core/measure').flatMap((f) => [...readFileSync(f, 'utf8').matchAll(/@source (.*)/g)].map((m) => m[1]));
    expect(named.length).toBeGreaterThan(20);
    for (const s of named) expect(s).toMatch(/docs\/definitions\.md|\b(19|20)\d\d\b/);
  });
});

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
    words: ['words', 'core', 'contract'],
    charts: ['charts', 'contract', 'core', 'words'],
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
