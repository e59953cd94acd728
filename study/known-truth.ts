// Readings against known truth: npm run study -- [--kind crown] [--teeth 16,25] [--each 2] [--poses 1] [--noise 0.02] [--write docs/accuracy-data.json]
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { type Master, prepareMaster } from '#core/master/master.ts';
import { type Abutment, measure } from '#core/pipeline.ts';
import { readScan } from '#core/scan/scan.ts';
import { type Carved, Workshop } from '#core/simulate/simulate.ts';
import type { Truth } from '#core/simulate/truth/truth.ts';
import { writeStl } from '#core/simulate/write.ts';
import { loadMaster, saveMaster } from '../src/files/master-files.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';
import { drawnAbutments, drawnCavity, drawnCrown, drawnOnlay, drawnPartial } from './recipes.ts';
import { sharded } from './shards.ts';
import { type Comparison, table } from './table.ts';

const { values } = parseArgs({
  options: {
    teeth: { type: 'string' },
    each: { type: 'string', default: '1' },
    poses: { type: 'string', default: '1' },
    noise: { type: 'string', default: '0.02' },
    triangles: { type: 'string', default: '120000' },
    cases: { type: 'string', default: '.cache/study' },
    kind: { type: 'string', default: 'crown' },
    shard: { type: 'string' },
    write: { type: 'string' },
    detail: { type: 'string' },
  },
});

/** `abutments` are crowns whose distal neighbour is crowned too, to share their path of insertion. */
const DRAWN = { crown: drawnCrown, cavity: drawnCavity, onlay: drawnOnlay, partial: drawnPartial, abutments: drawnAbutments };
const TEETH = {
  crown: '16,26,36,47,14,25,34,45,11,22,13,43,32,75,84',
  cavity: '34,37,16,25,46,75',
  onlay: '46,16,26,37',
  partial: '26,13,16,43',
  abutments: '14,24,34,44,15,45',
};
/** Decay at a contact, so that boxes have a lesion to be cut for. */
const DECAY = { site: 'mesial', depth: 1, width: 2 } as const;
const kind = values.kind as keyof typeof DRAWN;
if (!(kind in DRAWN)) throw new Error(`--kind ${kind} is not one of ${Object.keys(DRAWN).join(', ')}`);
const teeth = (values.teeth ?? TEETH[kind]).split(',');

interface Shard {
  readonly master: Master;
  readonly abutment: Abutment | null;
  readonly cases: { who: string; file: string; truth: Truth[] }[];
}

/** A shard's work for one tooth: its master, and scan and truth of each case, made once and kept in the cases folder. */
async function casesOf(tooth: string, seed: number): Promise<Shard> {
  const folder = path.join(values.cases, `${kind}-${tooth}-${values.triangles}`);
  const beside = path.join(folder, 'abutment');
  const cases: { who: string; file: string; truth: Truth[] }[] = [];
  let workshop: Workshop | null = null;
  const shop = async (): Promise<Workshop> => {
    workshop ??= new Workshop(tooth, seed, await solidKernel(), kind === 'cavity' ? { caries: DECAY } : {});
    return workshop;
  };
  if (!existsSync(path.join(folder, 'master.json'))) saveMaster(folder, (await shop()).master);
  for (let e = 0; e < Number(values.each); e++) {
    const drawn = DRAWN[kind](tooth, e);
    let carved: Carved | null = null;
    for (const noise of values.noise.split(',').map(Number))
      for (let pose = 0; pose < Number(values.poses); pose++) {
        const file = path.join(folder, `${e}-${noise}-${pose}`);
        if (!existsSync(`${file}.json`)) {
          const scan = { triangles: Number(values.triangles), noise, correlation: 0.25, pose: 'random', border: 1 } as const;
          const open = await shop();
          carved ??= open.carve({ ...drawn, scan });
          const made = open.scan(carved, scan, 100 * e + pose + 1);
          if (made.abutment) saveMaster(beside, made.abutment);
          writeFileSync(`${file}.stl`, writeStl(made.scan.mesh));
          writeFileSync(`${file}.json`, JSON.stringify(made.truth()));
        }
        cases.push({
          who: `${tooth} #${e} ${noise} pose ${pose}`,
          file: `${file}.stl`,
          truth: JSON.parse(readFileSync(`${file}.json`, 'utf8')),
        });
      }
  }
  const madeReady = async (where: string): Promise<Master> => {
    const { description, meshes } = await loadMaster(where);
    return prepareMaster(description, meshes);
  };
  const abutment = kind === 'abutments' ? ({ kind: 'crown', master: await madeReady(beside) } as const) : null;
  return { master: await madeReady(folder), abutment, cases };
}

async function shard(index: number, of: number): Promise<Comparison[]> {
  const out: Comparison[] = [];
  for (const [t, tooth] of teeth.entries()) {
    if (t % of !== index) continue;
    const { master, abutment, cases } = await casesOf(tooth, 40 + t);
    for (const { who, file, truth } of cases)
      try {
        const m = measure(kind === 'abutments' ? 'crown' : kind, readScan(readFileSync(file)).mesh, master, { abutment });
        const by = new Map(m.readings.map((r) => [`${r.name}|${r.zone}|${r.stat}`, r]));
        for (const q of truth) {
          const r = by.get(`${q.name}|${q.zone}|${q.stat}`);
          out.push({ who, ...q, truth: q.value, value: r?.value ?? null, U: r?.U ?? null, reason: r ? r.reason : 'no such reading' });
        }
      } catch (e) {
        out.push({ who, name: 'whole scan', zone: null, stat: 'value', truth: 0, value: null, U: null, reason: (e as Error).message });
      }
  }
  return out;
}

const rows = await sharded(values.shard, shard);
process.stdout.write(`${table(rows)}\n`);
if (values.detail) {
  const [name, stat] = values.detail.split('/');
  const worst = rows
    .filter((r) => r.name === name && (!stat || r.stat === stat))
    .sort((a, b) => Math.abs((b.value ?? 99) - b.truth) - Math.abs((a.value ?? 99) - a.truth));
  for (const r of worst.slice(0, 30))
    process.stdout.write(
      `${r.who} ${r.zone} ${r.stat}: ${r.value?.toFixed(3) ?? r.reason} ± ${r.U?.toFixed(3)} truth ${r.truth.toFixed(3)}\n`,
    );
}
if (values.write) {
  mkdirSync(path.dirname(values.write), { recursive: true });
  writeFileSync(values.write, JSON.stringify(rows));
}
