// Seconds of every step of a dry run, as the server's child cuts, reads and draws it, and how far what is read stays from the plan.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import * as v from 'valibot';
import { Kit, KitFile } from '#contract/kit.ts';
import { ownCutter } from '#contract/plan.ts';
import { standardFrom } from '#contract/standard.ts';
import { stopsOf } from '#core/dry/cut.ts';
import { expectedAfter } from '#core/dry/so-far.ts';
import { AS_PLANNED } from '#core/dry/way.ts';
import { prepareMaster } from '#core/master/master.ts';
import { planFor } from '#core/plan/plan.ts';
import { zonesOf } from '#core/score/expand.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { planTask } from '#server/children/plan.ts';
import type { Results } from '#server/children/tasks.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';

const { format: _, ...lists } = v.parse(KitFile, JSON.parse(readFileSync('data/kit.json', 'utf8')));
const cutters = v.parse(Kit, lists).cutters.map(ownCutter);
const kernel = await solidKernel();
const outFolder = mkdtempSync(path.join(tmpdir(), 'veritor-dry-'));
for (const [kind, id, tooth] of [
  ['crown', 'metal-mid', '46'],
  ['crown', 'anterior-all-ceramic', '22'],
  ['cavity', 'class2-amalgam-minimal', '36'],
  ['onlay', 'onlay-ceramic', '36'],
  ['partial', 'three-quarter-posterior', '15'],
] as const) {
  const standard = standardFrom(JSON.parse(readFileSync(`data/standards/${id}.json`, 'utf8')), id);
  const plan = planFor({ kind, tooth, standard, cutters, gauges_mm: [] });
  const made = new Workshop(tooth, 11, kernel).master;
  const master = prepareMaster(made.description, made.meshes);
  console.log(`\n${id} on ${tooth}`);
  const stops = stopsOf(plan, cutters);
  let first = true;
  for (const step of [stops[0], ...stops]) {
    const run = async () =>
      (await planTask(
        { kind: 'dry', masterFile: `${id} ${tooth}`, plan, cutters, way: AS_PLANNED, step, outFolder },
        master,
      )) as Results['dry'];
    const isFirst = first;
    first = false;
    let r = await run();
    const took = [r.durationMs];
    // What else runs on a machine only makes it slower: the least of three is the work's own.
    for (let again = 0; !isFirst && again < 2; again++) {
      r = await run();
      took.push(r.durationMs);
    }
    const off = plan.steps
      .flatMap((s) => s.readings)
      .flatMap((p) => {
        const e = expectedAfter(plan, step).get(`${p.reading} ${p.zone} ${p.stat}`);
        if (!e?.isDue) return [];
        return (zonesOf(p, master.landmarks.cusps, r.readings) ?? [p.zone]).flatMap((zone) => {
          const read = r.readings.find((q) => q.name === p.reading && q.zone === zone && q.stat === p.stat)?.value ?? null;
          return read === null ? [] : [{ what: `${p.reading} ${zone ?? ''}`, by: read - e.value, unit: p.unit }];
        });
      });
    const worst = (unit: string): string => {
      const of = off.filter((o) => o.unit === unit).sort((a, b) => Math.abs(b.by) - Math.abs(a.by))[0];
      return of ? `${of.by.toFixed(2)} ${unit} (${of.what})` : 'nothing due';
    };
    console.log(
      `${step.padEnd(18)} ${(Math.min(...took) / 1000).toFixed(1)} s${isFirst ? ', the first' : ''}   furthest from the plan: ${worst('mm')}, ${worst('deg')}`,
    );
  }
}
rmSync(outFolder, { recursive: true });
