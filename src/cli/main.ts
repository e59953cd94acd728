import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import * as v from 'valibot';
import { type RubricFile, rubricFrom } from '#contract/rubric.ts';
import { StandardFile } from '#contract/standard.ts';
import { isSizeOff } from '#core/align/size.ts';
import { KIND_NAMES, type KindName } from '#core/kinds/kinds.ts';
import { type Abutment, type Measured, type MeasureOptions, measure as measureScan } from '#core/pipeline.ts';
import { Fault } from '#core/result/fault.ts';
import { FILE_LIMITS, type FileLimits } from '#core/scan/limits.ts';
import type { Rubric } from '#core/score/rubric.ts';
import { scoreOf } from '#core/sign/basis.ts';
import { KeptMasters } from '../files/kept-masters.ts';
import { scanFromBytes } from '../files/read-file.ts';
import { readBytes, readJson } from './input.ts';
import { readingEntry, readingsFile } from './readings-file.ts';
import { UsageError } from './usage.ts';

/** Beside the bundle, whose stamp names the sources it was made from. */
const OWN = path.dirname(fileURLToPath(import.meta.url));
const STAMP = path.join(OWN, '.stamp');
const masters = new KeptMasters(path.join(OWN, 'masters'), existsSync(STAMP) ? readFileSync(STAMP, 'utf8') : null);

const USAGE = `veritor measure  --master DIR_OR_ZIP --scan FILE --kind ${KIND_NAMES.join('|')} [--standard ID] [--too-large-by FACTOR]
                 [--abutment DIR_OR_ZIP [--abutment-kind KIND]] [--json OUT]   a second preparation in the scan that shares the path
veritor grade    --master DIR_OR_ZIP --scan FILE --rubric RUBRIC.json [--kind KIND] [--abutment DIR_OR_ZIP [--abutment-kind KIND]] [--json OUT]
veritor simulate --recipe RECIPE.json --out DIR
veritor regrade  --record GRADE.json | --data DIR      computes signed grades again: the same, or the difference
veritor verify   --data DIR                            holds a data folder against its audit chain

Limits for files from outside, with their defaults: --limit-bytes ${FILE_LIMITS.fileBytes}, --limit-unpacked ${FILE_LIMITS.unpackedBytes},
--limit-ratio ${FILE_LIMITS.ratio}, --limit-entries ${FILE_LIMITS.entries}, --limit-triangles ${FILE_LIMITS.triangles}`;

async function main(argv: string[]): Promise<void> {
  const { positionals, values } = parse(argv);
  const command = positionals[0];
  const need = (name: keyof typeof values): string => {
    const v = values[name];
    if (typeof v !== 'string') throw new UsageError(`veritor ${command}: --${name} is missing`);
    return v;
  };
  if (values.help || !command) {
    process.stdout.write(`${USAGE}\n`);
    return;
  }
  if (command === 'measure') {
    const standard = standardOf(values.standard);
    const measured = await measure(need('master'), need('scan'), kindOf(need('kind')), limitsOf(values), {
      tooLargeBy: factorOf(values['too-large-by']),
      abutment: await abutmentOf(values, kindOf(need('kind'))),
    });
    output({ ...readingsFile(measured), ...(standard ? { standard } : {}) }, values.json, () => summary(measured));
  } else if (command === 'grade') {
    const rubric = rubricFrom(readJson(need('rubric'), 'rubric.invalid'), need('rubric'));
    const kind = values.kind ? kindOf(values.kind) : kindOfRubric(rubric);
    const measured = await measure(need('master'), need('scan'), kind, limitsOf(values), { abutment: await abutmentOf(values, kind) });
    const s = scoreOf({
      rubric: rubric as Rubric,
      cusps: measured.master.landmarks.cusps,
      readings: measured.readings,
      curves: measured.curves,
      hand: [],
      judgements: {},
    });
    const file = {
      ...readingsFile(measured),
      rubric: rubric.id,
      score: {
        total: s.total,
        passed: s.passed,
        lines: s.lines,
        range: { least: s.range.least.total, most: s.range.most.total },
        failures: s.failures,
        undecided: s.undecided,
        criteria: s.criteria.map((c) => ({ id: c.criterion.id, level: c.level, verdict: c.verdict, points: c.points })),
        critical: s.critical.map((e) => ({ id: e.error.id, made: e.made, verdict: e.verdict })),
      },
    };
    output(file, values.json, () => [...s.lines.map((l) => l.text), totalLine(s)].join('\n'));
  } else if (command === 'simulate') {
    // Only those who cut something need the simulator.
    const { simulate } = await import('./simulate.ts');
    await simulate(need('recipe'), need('out'));
  } else if (command === 'regrade' || command === 'verify') {
    // The database and its drivers are read only by those who ask for them.
    const { regradeData, regradeFile, verifyData } = await import('./records.ts');
    if (command === 'verify') process.exitCode = await verifyData(need('data'));
    else process.exitCode = await (values.record ? regradeFile(values.record) : regradeData(need('data')));
  } else throw new UsageError(`veritor: there is no command "${command}"`);
}

function parse(argv: string[]) {
  const text = { type: 'string' } as const;
  try {
    return parseArgs({
      args: argv,
      allowPositionals: true,
      options: {
        master: text,
        scan: text,
        kind: text,
        standard: text,
        json: text,
        rubric: text,
        recipe: text,
        out: text,
        record: text,
        data: text,
        'too-large-by': text,
        abutment: text,
        'abutment-kind': text,
        'limit-bytes': text,
        'limit-unpacked': text,
        'limit-ratio': text,
        'limit-entries': text,
        'limit-triangles': text,
        help: { type: 'boolean' },
      },
    });
  } catch (e) {
    throw new UsageError(`veritor: ${(e as Error).message}`);
  }
}

const STANDARDS = path.join(OWN, '../../data/standards');

/** The kind that a rubric is for: its standard says it; of a standard that is not shipped, what the rubric asks for does. */
function kindOfRubric(r: RubricFile): KindName {
  const file = path.join(STANDARDS, `${path.basename(r.standard)}.json`);
  if (existsSync(file)) return v.parse(StandardFile, JSON.parse(readFileSync(file, 'utf8'))).kind;
  const asks = (about: RegExp): boolean => r.criteria.some((c) => c.targets.some((t) => about.test(t.reading)));
  const inside = asks(/^(depth\.pulpal|outline\.|box\.|cavosurface|divergence)/);
  if (asks(/^(groove|pin|slice)\./)) return 'partial';
  return inside ? (asks(/^(reduction|margin)\./) ? 'onlay' : 'cavity') : 'crown';
}

function standardOf(id: string | undefined): string | undefined {
  if (id === undefined) return undefined;
  const known = existsSync(STANDARDS) ? readdirSync(STANDARDS).map((f) => f.replace(/\.json$/, '')) : [];
  if (!known.includes(id)) throw new UsageError(`veritor measure: --standard "${id}" is not one of ${known.join(', ')}`);
  return id;
}

function kindOf(kind: string): KindName {
  const known = KIND_NAMES.find((k) => k === kind);
  if (!known) throw new UsageError(`veritor: --kind "${kind}" is not one of ${KIND_NAMES.join(', ')}`);
  return known;
}

const LIMIT_FLAGS = {
  'limit-bytes': 'fileBytes',
  'limit-unpacked': 'unpackedBytes',
  'limit-ratio': 'ratio',
  'limit-entries': 'entries',
  'limit-triangles': 'triangles',
} as const satisfies Record<string, keyof FileLimits>;

function limitsOf(values: Readonly<Record<string, unknown>>): FileLimits {
  const given = Object.entries(LIMIT_FLAGS).flatMap(([flag, name]) => {
    if (values[flag] === undefined) return [];
    const n = Number(values[flag]);
    if (!(n > 0)) throw new UsageError(`veritor: --${flag} "${values[flag]}" is no positive number`);
    return [[name, n] as const];
  });
  return { ...FILE_LIMITS, ...Object.fromEntries(given) };
}

/** Factor by which a person says that the scan is too large; 1 by default. */
function factorOf(value: string | undefined): number {
  if (value === undefined) return 1;
  const factor = Number(value);
  if (!(factor > 0.5 && factor < 2))
    throw new UsageError(`veritor measure: --too-large-by "${value}" is no factor between 0.5 and 2, as 1.015`);
  return factor;
}

/** The second preparation that the arguments name, of the same kind where they say no other. */
async function abutmentOf(values: { abutment?: string; 'abutment-kind'?: string }, kind: KindName): Promise<Abutment | null> {
  if (values.abutment === undefined) {
    if (values['abutment-kind'] !== undefined) throw new UsageError('veritor: --abutment-kind is given without --abutment');
    return null;
  }
  return { kind: values['abutment-kind'] ? kindOf(values['abutment-kind']) : kind, master: await masters.at(values.abutment) };
}

async function measure(
  masterPath: string,
  scanPath: string,
  kind: KindName,
  limits: FileLimits,
  options: MeasureOptions,
): Promise<Measured> {
  const master = await masters.at(masterPath);
  const scan = await scanFromBytes(readBytes(scanPath), scanPath, { limits });
  return measureScan(kind, scan.mesh, master, options);
}

function totalLine(s: ReturnType<typeof scoreOf>): string {
  if (s.total === null) return `Between ${s.range.least.total} and ${s.range.most.total} of 100: ${s.undecided.join(', ')} to be decided`;
  return s.passed ? `${s.total} of 100, passed` : `Not passed: ${s.failures.join('; ')}`;
}

function output(file: unknown, json: string | undefined, text: () => string): void {
  if (json) writeFileSync(json, `${JSON.stringify(file, null, 1)}\n`);
  process.stdout.write(`${text()}\n`);
}

function summary(m: Measured): string {
  const line = (r: Measured['readings'][number]): string => {
    const e = readingEntry(r);
    return `${e.name.padEnd(22)} ${(e.zone ?? '').padEnd(26)} ${e.stat.padEnd(7)} ${e.value === null ? `– ${e.reason}` : `${e.value.toFixed(3)} ± ${e.U?.toFixed(3)} ${e.unit}`}`;
  };
  const { size } = m.alignment;
  const wrong = size && isSizeOff(size);
  const warning = wrong
    ? [
        `Size: ${(100 * (size.factor - 1)).toFixed(2)} ± ${(200 * size.u).toFixed(2)} % off its master (+ too large), and every U the larger for it; --too-large-by ${(size.factor * m.corrected).toFixed(4)} corrects it`,
      ]
    : [];
  return [
    `Fit: RMS ${m.alignment.rms.toFixed(4)} mm over ${m.alignment.stableArea.toFixed(0)} mm²`,
    ...warning,
    ...m.readings.map(line),
  ].join('\n');
}

main(process.argv.slice(2))
  .then(() => masters.keep())
  .catch((e: unknown) => {
    if (e instanceof Fault) {
      const scan = process.argv[process.argv.indexOf('--scan') + 1];
      const where = !e.detail.where && process.argv.includes('--scan') ? `${scan}: ` : '';
      process.stderr.write(`${where}${e.message}\n`);
      process.exit(2);
    }
    if (e instanceof UsageError) {
      process.stderr.write(`${e.message}\n`);
      process.exit(2);
    }
    process.stderr.write(`${e instanceof Error ? e.stack : String(e)}\n`);
    process.exit(1);
  });
