// How often a hand that follows a plan ends inside, against what the plan says: hands with seeded errors cut into a simulated tooth, read by the core.
import { readFileSync, writeFileSync } from 'node:fs';
import * as v from 'valibot';
import { Kit, KitFile } from '#contract/kit.ts';
import { ownCutter } from '#contract/plan.ts';
import { standardFrom } from '#contract/standard.ts';
import { cutAfter } from '#core/dry/cut.ts';
import { AS_PLANNED } from '#core/dry/way.ts';
import { IDENTITY } from '#core/linalg/rigid.ts';
import { prepareMaster } from '#core/master/master.ts';
import { intoFrame } from '#core/mesh/mesh.ts';
import { measure } from '#core/pipeline.ts';
import { planFor } from '#core/plan/plan.ts';
import type { PlannedReading } from '#core/plan/planned-reading.ts';
import { zonesOf } from '#core/score/expand.ts';
import { within } from '#core/score/verdict.ts';
import type { CrownRecipe } from '#core/simulate/crown/recipe.ts';
import { OwnShop } from '#core/simulate/own/own-shop.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { seeded } from '#core/statistics/random.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';

const HANDS = Number(process.argv[2] ?? 60);
const { format: _, ...lists } = v.parse(KitFile, JSON.parse(readFileSync('data/kit.json', 'utf8')));
const cutters = v.parse(Kit, lists).cutters.map(ownCutter);
const kernel = await solidKernel();

/** Every depth, width and tilt of a recipe with an error of its own. */
function byHand(p: CrownRecipe, depth: number, tilt: number, seed: number): CrownRecipe {
  const random = seeded(seed);
  const d = (x: number): number => Math.max(0.15, x + depth * random.normal());
  const each = (s: CrownRecipe['taper'], f: (x: number) => number) => ({
    facial: f(s.facial),
    mesial: f(s.mesial),
    lingual: f(s.lingual),
    distal: f(s.distal),
  });
  const { functional, nonFunctional, elsewhere } = p.occlusal;
  return {
    ...p,
    occlusal: { functional: d(functional), nonFunctional: d(nonFunctional), elsewhere: d(elsewhere) },
    taper: each(p.taper, (x) => x + tilt * random.normal()),
    margin: {
      ...p.margin,
      width: each(p.margin.width, d),
      height: each(p.margin.height, (x) => Math.max(0.05, x + depth * random.normal())),
    },
  };
}

const rows: string[] = [];
for (const [id, tooth, own, from] of [
  ['metal-mid', '46', ['depth-10', 'taper-round-12', 'needle', 'fine-round-12'], 900],
  ['lithium-disilicate-posterior', '36', ['depth-10', 'taper-flat-10', 'needle', 'fine-round-12'], 5000],
] as const) {
  const standard = standardFrom(JSON.parse(readFileSync(`data/standards/${id}.json`, 'utf8')), id);
  const plan = planFor({
    kind: 'crown',
    tooth,
    standard,
    cutters: cutters.filter((c) => (own as readonly string[]).includes(c.id)),
    gauges_mm: [1, 1.5, 2],
  });
  const shopped = new Workshop(tooth, 11, kernel).master;
  const master = prepareMaster(shopped.description, shopped.meshes);
  const shop = new OwnShop(master, solidKernel);
  const aim = cutAfter(plan, cutters, AS_PLANNED, 'final')?.preparation as CrownRecipe;
  const last = [...new Map(plan.steps.flatMap((s) => s.readings).map((r) => [`${r.reading} ${r.zone} ${r.stat}`, r])).values()].filter(
    (r) => !r.reading.startsWith('bevel'),
  );
  const found = new Map<PlannedReading, [inside: number, of: number]>();
  for (let i = 0; i < HANDS; i++) {
    const mesh = await shop.cut({ preparation: byHand(aim, plan.hand.depth_mm, plan.hand.tilt_deg, from + i), standing: [] });
    const { readings } = measure('crown', intoFrame(mesh, master.fromTooth, 'scanner'), master, { byHand: IDENTITY });
    for (const r of last) {
      const zones = zonesOf(r, master.landmarks.cusps, readings) ?? [r.zone];
      const values = zones.map((z) => readings.find((q) => q.name === r.reading && q.zone === z && q.stat === r.stat)?.value ?? null);
      // Cusps of one role share one error: the first stands for all.
      const value = values[0];
      if (value === null) continue;
      const [n, of] = found.get(r) ?? [0, 0];
      found.set(r, [n + (within(value, r.band) ? 1 : 0), of + 1]);
    }
    process.stdout.write(`${id} ${i + 1}\r`);
  }
  for (const [r, [n, of]] of found) {
    const p = n / of;
    const z = 1.96;
    // Wilson's interval.
    const middle = (p + z ** 2 / (2 * of)) / (1 + z ** 2 / of);
    const half = (z * Math.sqrt((p * (1 - p)) / of + z ** 2 / (4 * of * of))) / (1 + z ** 2 / of);
    const holds = r.inside >= middle - half && r.inside <= middle + half;
    rows.push(
      `| ${id} on ${tooth} | ${r.reading} | ${r.zone ?? ''} | ${(100 * r.inside).toFixed(0)} % | ${(100 * p).toFixed(0)} % of ${of} | ${(100 * (middle - half)).toFixed(0)} to ${(100 * (middle + half)).toFixed(0)} % | ${holds ? 'yes' : 'no'} |`,
    );
  }
}
writeFileSync(
  '.cache/plan-study.md',
  `| plan | reading | place | the plan says | ended inside | 95 % interval | holds |\n|---|---|---|---|---|---|---|\n${rows.join('\n')}\n`,
);
console.log(rows.join('\n'));
