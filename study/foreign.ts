// Readings on shapes that the simulator did not make: npm run study:foreign -- [--only TEXT[,TEXT]] [--cases FOLDER] [--detail NAME/STAT] [--write FILE] [--from FILE] [--beside FILE[,FILE]] [--section]
import { fork } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { applyPoint } from '#core/linalg/rigid.ts';
import { measure } from '#core/pipeline.ts';
import { Fault } from '#core/result/fault.ts';
import { FOREIGN } from './foreign/families.ts';
import { caseIn } from './foreign/kept-cases.ts';
import { writeSection } from './foreign/section.ts';
import { type Comparison, table } from './table.ts';

const { values } = parseArgs({
  options: {
    only: { type: 'string' },
    cases: { type: 'string' },
    detail: { type: 'string' },
    write: { type: 'string' },
    one: { type: 'string' },
    beside: { type: 'string' },
    from: { type: 'string' },
    section: { type: 'boolean' },
  },
});

const asked = FOREIGN.filter((c) => !values.only || values.only.split(',').some((text) => c.name.includes(text)));

function compare(entry: (typeof FOREIGN)[number]): Comparison[] {
  const out: Comparison[] = [];
  const c = values.cases ? caseIn(values.cases, entry) : entry.make();
  try {
    const m = measure(c.kind, c.scan, c.master, { abutment: c.abutment ?? null });
    // Where the tooth's middle comes to lie, against where it lies.
    const middle = applyPoint(c.master.fromTooth, [0, 0, 3]);
    const laid = applyPoint(m.scanToMaster, applyPoint(c.pose, middle));
    if (m.alignment.size) {
      const { factor, u } = m.alignment.size;
      const percent = { truth: 100 * (c.size - 1), value: 100 * (factor - 1), U: 200 * u };
      out.push({ who: c.name, name: 'scan.size', zone: null, stat: 'percent', ...percent, reason: null });
    }
    if (c.refused) throw new Error(`was measured, although it is ${c.refused}`);
    // A pose is rigid: of a scan of another size there is none that fits.
    if (c.size === 1)
      for (const k of [0, 1, 2])
        out.push({
          who: c.name,
          name: 'pose',
          zone: null,
          stat: 'value',
          truth: 0,
          value: laid[k] - middle[k],
          U: 2 * m.alignment.pointError,
          reason: null,
        });
    const by = new Map(m.readings.map((r) => [`${r.name}|${r.zone}|${r.stat}`, r]));
    for (const q of c.truths()) {
      const r = by.get(`${q.name}|${q.zone}|${q.stat}`);
      out.push({ who: c.name, ...q, truth: q.value, value: r?.value ?? null, U: r?.U ?? null, reason: r ? r.reason : 'no such reading' });
    }
  } catch (e) {
    if (c.refused && e instanceof Fault && e.code === c.refused) return out;
    out.push({
      who: c.name,
      name: 'whole scan',
      zone: null,
      stat: 'value',
      truth: 0,
      value: null,
      U: null,
      reason: (e as Error).message,
    });
  }
  return out;
}

/** Number of processes; each makes one case, because the solid kernel never frees memory. */
const AT_ONCE = 2;

const inChild = (name: string): Promise<Comparison[]> =>
  new Promise((resolve) => {
    const lost = (reason: string): Comparison[] => [
      { who: name, name: 'whole scan', zone: null, stat: 'value', truth: 0, value: null, U: null, reason },
    ];
    const child = fork(process.argv[1], ['--one', name, ...(values.cases ? ['--cases', values.cases] : [])], {
      stdio: 'inherit',
      timeout: 240_000,
    });
    let rows: Comparison[] | null = null;
    child.on('message', (m) => {
      rows = m as Comparison[];
    });
    child.on('exit', (code) => resolve(rows ?? lost(`the process ended with ${code}`)));
  });

if (values.one) {
  const entry = FOREIGN.find((c) => c.name === values.one);
  const rows = entry ? compare(entry) : [];
  await new Promise<never>(() => process.send?.(rows, () => process.exit(0)));
}

const left = values.from ? [] : [...asked];
const rows: Comparison[] = values.from ? JSON.parse(readFileSync(values.from, 'utf8')) : [];
await Promise.all(
  Array.from({ length: AT_ONCE }, async () => {
    for (let next = left.shift(); next; next = left.shift()) rows.push(...(await inChild(next.name)));
  }),
);
process.stdout.write(`${table(rows)}\n`);
const given = rows.filter((r) => r.value !== null && r.U !== null);
const held = given.filter((r) => Math.abs((r.value as number) - r.truth) <= (r.U as number)).length;
process.stdout.write(`\nU holds for ${((100 * held) / given.length).toFixed(1)} % of ${given.length}\n`);
if (values.detail) {
  const [name, stat] = values.detail.split('/');
  const worst = rows
    .filter((r) => r.name === name && (!stat || r.stat === stat))
    .sort((a, b) => Math.abs((b.value ?? 99) - b.truth) - Math.abs((a.value ?? 99) - a.truth));
  for (const r of worst.slice(0, 40))
    process.stdout.write(
      `${r.who} ${r.zone} ${r.stat}: ${r.value?.toFixed(3) ?? r.reason} ± ${r.U?.toFixed(3)} truth ${r.truth.toFixed(3)}\n`,
    );
}
if (values.write) writeFileSync(values.write, JSON.stringify(rows));
if (values.section)
  writeSection(
    rows,
    (values.beside ?? '')
      .split(',')
      .filter(Boolean)
      .flatMap((f): Comparison[] => JSON.parse(readFileSync(f, 'utf8'))),
  );
