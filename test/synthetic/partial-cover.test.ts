import { describe, expect, test } from 'vitest';
import { prepareMaster } from '#core/master/master.ts';
import { measure } from '#core/pipeline.ts';
import { CLEAN_ONLAY } from '#core/simulate/onlay/recipe.ts';
import { CLEAN_PARTIAL, groove } from '#core/simulate/partial/recipe.ts';
import type { Preparation } from '#core/simulate/preparation.ts';
import { defaultRecipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { solidKernel } from '../../src/files/solid-kernel.ts';

const kernel = await solidKernel();
const scan = { ...defaultRecipe('16', 1).scan, triangles: 50_000 };
const NO_DAMAGE = { mesial: 0, distal: 0 };

const workshop = new Workshop('16', 5, kernel);
const master = prepareMaster(workshop.master.description, workshop.master.meshes);

function read(preparation: Preparation, seed: number) {
  const made = workshop.cut({ preparation, neighbourDamage: NO_DAMAGE, scan }, seed);
  const { readings } = measure(preparation.kind, made.scan.mesh, master);
  return { made, readings };
}

/** Readings against the truth that the construction gives, by name. */
function compared(preparation: Preparation, seed: number) {
  const { made, readings } = read(preparation, seed);
  return made.truth().flatMap((t) => {
    const r = readings.find((q) => q.name === t.name && q.zone === t.zone && q.stat === t.stat);
    return r ? [{ ...t, read: r.value, U: r.U }] : [];
  });
}

const errors = (rows: ReturnType<typeof compared>, name: RegExp): number[] =>
  rows.flatMap((r) =>
    name.test(r.name) && r.read !== null && (r.stat === 'median' || r.stat === 'value' || r.stat === 'mean') ? [r.read - r.value] : [],
  );

describe('an onlay over the lingual cusps', () => {
  const rows = compared({ ...CLEAN_ONLAY, covers: 'lingual' }, 3);
  test('is read as it was built', () => {
    for (const e of errors(rows, /^margin\.width$/)) expect(Math.abs(e)).toBeLessThan(0.04);
    for (const e of errors(rows, /^(depth\.pulpal|box\.(height|width|axialdepth))$/)) expect(Math.abs(e)).toBeLessThan(0.1);
    for (const e of errors(rows, /^divergence$/)) expect(Math.abs(e)).toBeLessThan(2.5);
  });
  test('nine of ten true values lie within U', () => {
    const known = rows.filter((r) => r.read !== null);
    expect(known.length).toBeGreaterThan(50);
    expect(known.filter((r) => Math.abs((r.read as number) - r.value) <= (r.U as number)).length / known.length).toBeGreaterThan(0.9);
  });
});

describe('an onlay whose shoulder lies at the pulpal floor’s level, a bevel away from the tooth’s side', () => {
  const { cover } = CLEAN_ONLAY;
  const all = (v: number) => ({ facial: v, mesial: v, lingual: v, distal: v });
  const margin = { ...cover.margin, height: all(3), width: all(1.2), bevel: { width: 0.5, angle: 42 } };
  const rows = compared({ ...CLEAN_ONLAY, cover: { ...cover, margin } }, 6);
  test('has the level floor that was cut: the shoulder is none of it', () => {
    const floor = rows.filter((r) => r.name === 'floor.pulpal.tilt' || r.name === 'depth.pulpal');
    expect(floor.length).toBe(4);
    for (const r of floor) expect([r.stat, Math.abs((r.read as number) - r.value) <= (r.U as number)]).toEqual([r.stat, true]);
    expect(floor.find((r) => r.name === 'floor.pulpal.tilt')?.read).toBeLessThan(0.7);
  });
});

describe('an onlay whose shoulder ends in a bevel', () => {
  const { cover } = CLEAN_ONLAY;
  const bevelled = { ...CLEAN_ONLAY, cover: { ...cover, margin: { ...cover.margin, bevel: { width: 0.5, angle: 42 } } } };
  const rows = compared(bevelled, 6).filter((r) => r.name.startsWith('bevel.'));
  test('has the bevel that the recipe names, within U', () => {
    expect(rows.map((r) => [r.name, r.zone, r.value])).toEqual([
      ['bevel.width', 'facial', 0.5],
      ['bevel.angle', 'facial', 42],
    ]);
    for (const r of rows) expect(Math.abs((r.read as number) - r.value)).toBeLessThan(r.U as number);
  });
});

describe('a three-quarter crown whose second groove leans', () => {
  const leaning = { ...CLEAN_PARTIAL, grooves: [groove('mesial'), groove('distal', { leanFacial: 8 })] };
  const rows = compared(leaning, 4);
  const of = (name: string, zone: string) => rows.find((r) => r.name === name && r.zone === zone) as (typeof rows)[number];
  test('shows both grooves and the angle between them', () => {
    for (const side of ['mesial', 'distal']) expect(Math.abs((of('groove.width', side).read as number) - 1)).toBeLessThan(0.08);
    expect(of('groove.parallel', 'mesial distal').value).toBeCloseTo(8, 0);
  });
  test('has grooves whose angle two scans agree on: a curved wall turns neither', () => {
    const carved = workshop.carve({ preparation: leaning, neighbourDamage: NO_DAMAGE, scan });
    const angles = [1, 2].map((seed) => {
      const { mesh } = workshop.scan(carved, scan, seed).scan;
      const angle = measure('partial', mesh, master).readings.find((r) => r.name === 'groove.parallel' && r.zone === 'mesial distal');
      expect(Math.abs((angle?.value as number) - 8)).toBeLessThan(angle?.U as number);
      return angle?.value as number;
    });
    expect(Math.abs((angles[0] + angles[1]) / 2 - 8)).toBeLessThan(0.8);
  });
  test('has its margin all round the covered side', () => {
    for (const e of errors(rows, /^margin\.width$/)) expect(Math.abs(e)).toBeLessThan(0.04);
  });
});
