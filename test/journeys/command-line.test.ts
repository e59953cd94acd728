import { spawnSync } from 'node:child_process';
import { cpSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { gzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { simulated } from '../helpers/application.ts';

interface Entry {
  readonly name: string;
  readonly zone: string | null;
  readonly stat: string;
  readonly value: number | null;
  readonly unit: string;
  readonly U: number | null;
  readonly coverage: number | null;
  readonly reason: string | null;
}

let folder: string;
const veritor = (...args: string[]) => spawnSync(process.execPath, ['bin/veritor.mjs', ...args], { encoding: 'utf8' });
const json = (file: string) => JSON.parse(readFileSync(file, 'utf8'));
const inFolder = (name: string): string => path.join(folder, name);

beforeAll(() => {
  folder = simulated({
    format: 'veritor-recipe/1',
    tooth: '37',
    seed: 6,
    caries: { site: 'occlusal', depth: 1.5, width: 1 },
    preparation: { kind: 'cavity' },
    faults: [{ fault: 'tilted-floor', size: 7 }],
    scan: { triangles: 80_000, file: 'ply', sight: 60 },
  });
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('measuring', () => {
  let file: {
    format: string;
    alignment: { matrix: number[]; rms: number; stableArea: number };
    readings: Entry[];
    curves: Record<string, number[][]>;
  };
  const of = (name: string, zone: string | null = null, stat = 'value') =>
    file.readings.find((r) => r.name === name && r.zone === zone && r.stat === stat) as Entry;
  beforeAll(() => {
    const done = veritor(
      'measure',
      '--master',
      inFolder('master'),
      '--scan',
      inFolder('scan.ply'),
      '--kind',
      'cavity',
      '--json',
      inFolder('out.json'),
    );
    expect([done.status, done.stderr.split('\n').filter((l) => l && !l.startsWith('npm')).length]).toEqual([0, 0]);
    file = json(inFolder('out.json'));
  });
  it('writes the documented file', () => {
    expect(file.format).toBe('veritor-readings/1');
    expect(file.alignment.matrix).toHaveLength(16);
    expect(file.alignment.rms).toBeLessThan(0.05);
    for (const r of file.readings) {
      expect(['value', 'min', 'p05', 'median', 'mean', 'p95', 'max', 'count', 'share']).toContain(r.stat);
      // A value with its uncertainty, or a reason; never both, never neither.
      expect((r.value === null) === (r.reason !== null)).toBe(true);
      expect((r.value === null) === (r.U === null)).toBe(true);
    }
    expect(Object.keys(file.curves).length).toBeGreaterThan(0);
    for (const p of Object.values(file.curves)[0]) for (const x of p) expect(Number.isFinite(x)).toBe(true);
  });
  it('finds the pose that the simulator drew', () => {
    const truth = json(inFolder('truth.json'));
    for (const [i, v] of truth.scanToMaster.entries()) expect(Math.abs(file.alignment.matrix[i] - v)).toBeLessThan(0.02);
  });
  it('reads what the recipe’s fault and decay made, within its U', () => {
    const truth = json(inFolder('truth.json')).readings as Entry[];
    for (const [name, stat] of [
      ['floor.pulpal.tilt', 'value'],
      ['depth.pulpal', 'median'],
      ['pulp.distance', 'min'],
    ]) {
      const t = truth.find((q) => q.name === name && q.stat === stat) as Entry;
      const r = of(name, null, stat);
      expect(Math.abs((r.value as number) - (t.value as number)), name).toBeLessThan(Math.max(r.U as number, 0.05));
    }
  });
  it('takes a zipped master and a gzipped scan as well', () => {
    const entries = Object.fromEntries(
      ['master.json', 'arch.ply', 'opposing.ply', 'dej.ply', 'pulp.ply', 'caries.ply'].map((n) => [
        `series/${n}`,
        new Uint8Array(readFileSync(inFolder(`master/${n}`))),
      ]),
    );
    writeFileSync(inFolder('master.zip'), zipSync(entries, { level: 1 }));
    writeFileSync(inFolder('scan.ply.gz'), gzipSync(new Uint8Array(readFileSync(inFolder('scan.ply'))), { level: 1 }));
    const done = veritor(
      'measure',
      '--master',
      inFolder('master.zip'),
      '--scan',
      inFolder('scan.ply.gz'),
      '--kind',
      'cavity',
      '--json',
      inFolder('zip.json'),
    );
    expect(done.status).toBe(0);
    expect(json(inFolder('zip.json')).readings).toEqual(file.readings);
  });
  it('grades by a rubric, line by line', () => {
    const done = veritor(
      'grade',
      '--master',
      inFolder('master'),
      '--scan',
      inFolder('scan.ply'),
      '--rubric',
      'data/rubrics/class1-amalgam-practice.json',
      '--json',
      inFolder('grade.json'),
    );
    expect(done.status).toBe(0);
    const { score, rubric } = json(inFolder('grade.json'));
    expect(rubric).toBe('class1-amalgam-practice');
    const floor = score.criteria.find((c: { id: string }) => c.id === 'floor');
    expect(floor.level).toBeLessThan(3);
    expect(score.critical.map((c: { id: string }) => c.id)).toEqual(expect.arrayContaining(['pulp', 'caries']));
  });
});

describe('what cannot be used', () => {
  it.each<[string, () => string[], RegExp]>([
    [
      'no scan of that name',
      () => ['measure', '--master', inFolder('master'), '--scan', inFolder('none.stl'), '--kind', 'crown'],
      /none\.stl.*no such file/,
    ],
    ['no master there', () => ['measure', '--master', inFolder('nowhere'), '--scan', inFolder('scan.ply'), '--kind', 'crown'], /nowhere/],
    [
      'a kind that is none',
      () => ['measure', '--master', inFolder('master'), '--scan', inFolder('scan.ply'), '--kind', 'bridge'],
      /bridge/,
    ],
    ['a missing argument', () => ['measure', '--master', inFolder('master')], /--scan is missing/],
    ['a command that is none', () => ['polish'], /polish/],
    ['an option that is none', () => ['measure', '--speed', 'fast'], /--speed/],
    [
      'a scan that is text',
      () => ['measure', '--master', inFolder('master'), '--scan', inFolder('truth.json'), '--kind', 'cavity'],
      /truth\.json/,
    ],
    [
      'a standard that is not shipped',
      () => ['measure', '--master', inFolder('master'), '--scan', inFolder('scan.ply'), '--kind', 'cavity', '--standard', 'x'],
      /"x" is not one of/,
    ],
    [
      'a rubric with a hole in it',
      () => ['grade', '--master', inFolder('master'), '--scan', inFolder('scan.ply'), '--rubric', inFolder('bad-rubric.json')],
      /bad-rubric\.json/,
    ],
    [
      'a recipe for a tooth that nobody has',
      () => ['simulate', '--recipe', inFolder('bad-recipe.json'), '--out', inFolder('x')],
      /two FDI digits/,
    ],
    [
      'a fault that does not fit',
      () => ['simulate', '--recipe', inFolder('odd-recipe.json'), '--out', inFolder('x')],
      /no fault of a preparation of kind crown/,
    ],
  ])('%s: one line, exit 2', (_, args, says) => {
    writeFileSync(inFolder('bad-rubric.json'), '{"format":"veritor-rubric/1"}');
    writeFileSync(inFolder('bad-recipe.json'), JSON.stringify({ format: 'veritor-recipe/1', tooth: '99', preparation: { kind: 'crown' } }));
    writeFileSync(
      inFolder('odd-recipe.json'),
      JSON.stringify({
        format: 'veritor-recipe/1',
        tooth: '16',
        preparation: { kind: 'crown' },
        faults: [{ fault: 'thin-ridge', size: 0.2 }],
      }),
    );
    const done = veritor(...args());
    const lines = done.stderr.split('\n').filter((l) => l && !l.startsWith('npm'));
    expect([done.status, lines.length]).toEqual([2, 1]);
    expect(lines[0]).toMatch(says);
  });
  it('a master whose file does not keep to its format names the field', () => {
    cpSync(inFolder('master'), inFolder('broken'), { recursive: true });
    writeFileSync(inFolder('broken/master.json'), JSON.stringify({ ...json(inFolder('master/master.json')), axis: [0, 0] }));
    const done = veritor('measure', '--master', inFolder('broken'), '--scan', inFolder('scan.ply'), '--kind', 'cavity');
    expect([done.status, done.stderr]).toEqual([2, expect.stringContaining('axis')]);
  });
});
