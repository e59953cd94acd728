// Makes the demo's past weeks: every preparation cut, scanned and measured by the core: npm run cohort -- [--first N | --again FAULT,EXERCISE]
// What was made is kept in .cache/cohort; remove that folder to make all of it again.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { brotliCompressSync, brotliDecompressSync, constants } from 'node:zlib';
import { CATALOGUE } from '#core/catalogue/catalogue.ts';
import { type Master, type MasterDescription, prepareMaster } from '#core/master/master.ts';
import { measure } from '#core/pipeline.ts';
import type { Reading } from '#core/result/reading.ts';
import { readScan } from '#core/scan/scan.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { writeStl } from '#core/simulate/write.ts';
import { CORE_VERSION } from '#core/version.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';
import { EXERCISES, workshopOptions } from '../src/seed/cast.ts';
import { type PastWork, pastWork, recipeOf } from '../src/seed/cohort.ts';
import { type CohortFile, type Measured, packed, recipeDigest, shortCurves, unpacked } from '../src/seed/cohort-file.ts';
import { sharded } from './shards.ts';

const { values } = parseArgs({
  options: {
    first: { type: 'string' },
    write: { type: 'string', default: 'data/demo/cohort.json.br' },
    shard: { type: 'string' },
    again: { type: 'string' },
  },
});
/** What was made is kept by exercise, so that a run that was stopped goes on; clear the folder after a change of the core. */
const KEPT = '.cache/cohort';
const ALONG = CATALOGUE.filter((e) => e.along).map((e) => e.name);

type Made =
  | { readonly master: MasterDescription; readonly exercise: string }
  | (Omit<Measured, 'rows'> & { readonly readings: readonly Reading[] });

async function work(shard: number, of: number): Promise<Made[]> {
  const kernel = await solidKernel();
  const past = pastWork();
  const wanted = values.first ? past.filter((_, i) => i % Math.ceil(past.length / Number(values.first)) === 0) : past;
  const out: Made[] = [];
  const sizes = EXERCISES.map((e) => wanted.filter((w) => w.exercise === e.id).length);
  const spent = Array.from({ length: of }, () => 0);
  const bySize = EXERCISES.map((e, i) => ({ e, size: sizes[i] })).sort((a, b) => b.size - a.size);
  mkdirSync(KEPT, { recursive: true });
  // One typodont at a time: opening it takes as long as cutting into it.
  for (const { e, size } of bySize) {
    const least = spent.indexOf(Math.min(...spent));
    spent[least] += size + 1;
    if (least !== shard) continue;
    const own = wanted.filter((w) => w.exercise === e.id);
    if (values.first && own.length === 0) continue;
    const file = path.join(KEPT, `${e.id}.json`);
    if (!values.first && existsSync(file)) {
      out.push(...(JSON.parse(readFileSync(file, 'utf8')) as Made[]));
      continue;
    }
    const before = out.length;
    const shop = new Workshop(...workshopOptions(e, kernel));
    out.push({ master: shop.master.description, exercise: e.id });
    if (e.task) {
      const master = prepareMaster(shop.master.description, shop.master.meshes);
      for (const w of own) out.push(one(w, shop, master));
    }
    if (!values.first) writeFileSync(file, JSON.stringify(out.slice(before)));
    process.stderr.write(`${e.id}: ${own.length}\n`);
  }
  return out;
}

function one(w: PastWork, shop: Workshop, master: Master): Extract<Made, { work: PastWork }> {
  const recipe = recipeOf(w);
  const bytes = writeStl(shop.cut(recipe, w.seed).scan.mesh);
  const start = performance.now();
  const m = measure(EXERCISES.find((e) => e.id === w.exercise)?.task?.kind ?? 'crown', readScan(bytes).mesh, master);
  const { rms, stableArea, spread, pointError, size } = m.alignment;
  return {
    work: w,
    scanSha256: createHash('sha256').update(bytes).digest('hex'),
    scanBytes: bytes.length,
    durationMs: Math.round(performance.now() - start),
    peakMb: Math.round(process.memoryUsage().rss / 1e6),
    alignment: { matrix: m.scanToMaster, rms, stableArea, spread, pointError, size, corrected: m.corrected },
    readings: m.readings,
    curves: shortCurves(m.curves, ALONG),
    recipe: recipeDigest(recipe),
  };
}

/** Only works with a named fault, or of a named exercise, are made again; all others stay as they were shipped. */
async function again(named: readonly string[], before: CohortFile): Promise<Made[]> {
  const kernel = await solidKernel();
  const out: Made[] = Object.entries(before.masters).map(([exercise, master]) => ({ exercise, master }));
  const isChanged = (w: PastWork): boolean => named.includes(w.exercise) || w.faults.some((f) => named.includes(f.fault));
  for (const e of EXERCISES) {
    const own = pastWork().filter((w) => w.exercise === e.id && isChanged(w));
    if (own.length === 0) continue;
    const shop = new Workshop(...workshopOptions(e, kernel));
    const master = prepareMaster(shop.master.description, shop.master.meshes);
    for (const w of own)
      out.push({ ...one(w, shop, master), ...(before.coreVersion === CORE_VERSION ? {} : { coreVersion: CORE_VERSION }) });
    process.stderr.write(`${e.id}: ${own.length}\n`);
  }
  return [
    ...out,
    ...before.measured.filter((m) => !isChanged(m.work)).map(({ rows, ...m }) => ({ ...m, readings: unpacked(rows, before.names) })),
  ];
}

const before = values.again ? (JSON.parse(brotliDecompressSync(readFileSync(values.write)).toString()) as CohortFile) : null;
const made = before ? await again((values.again as string).split(','), before) : await sharded(values.shard, work);
const names: CohortFile['names'][number][] = [];
const index = new Map<string, number>();
const order = new Map(pastWork().map((w, i) => [`${w.sitting} ${w.student} ${w.number}`, i]));
const at = (m: Measured): number => order.get(`${m.work.sitting} ${m.work.student} ${m.work.number}`) ?? 0;
const file: CohortFile = {
  format: 'veritor-cohort/1',
  coreVersion: before?.coreVersion ?? CORE_VERSION,
  masters: Object.fromEntries(made.flatMap((m) => ('master' in m ? [[m.exercise, m.master]] : []))),
  names,
  measured: made
    .flatMap((m): Measured[] => {
      if ('master' in m) return [];
      const { readings, ...rest } = m;
      return [{ ...rest, rows: packed(readings, names, index) }];
    })
    .sort((a, b) => at(a) - at(b)),
};
const bytes = brotliCompressSync(JSON.stringify(file), {
  params: { [constants.BROTLI_PARAM_QUALITY]: 9, [constants.BROTLI_PARAM_LGWIN]: 24 },
});
writeFileSync(values.write, bytes);
process.stdout.write(`${values.write}: ${file.measured.length} measured preparations, ${(bytes.length / 1e6).toFixed(2)} MB\n`);
