import { describe, expect, it } from 'vitest';
import { planeThrough } from '#core/linalg/plane.ts';
import { cavosurface } from '#core/measure/cavity/cavosurface.ts';
import { depthPulpal } from '#core/measure/cavity/depth-pulpal.ts';
import { enamelUndermined } from '#core/measure/cavity/enamel-undermined.ts';
import { floorCusps } from '#core/measure/cavity/floor-cusps.ts';
import { floorDentine } from '#core/measure/cavity/floor-dentine.ts';
import { floorForm } from '#core/measure/cavity/floor-form.ts';
import { instrumentFit } from '#core/measure/cavity/instrument-fit.ts';
import { outlineCoverage } from '#core/measure/cavity/outline-coverage.ts';
import { outlineCusp } from '#core/measure/cavity/outline-cusp.ts';
import { outlineIsthmus } from '#core/measure/cavity/outline-isthmus.ts';
import { outlineRidge } from '#core/measure/cavity/outline-ridge.ts';
import { outlineSmooth } from '#core/measure/cavity/outline-smooth.ts';
import { retention } from '#core/measure/cavity/retention.ts';
import { wallAngle } from '#core/measure/cavity/wall-angle.ts';
import { wallRough } from '#core/measure/cavity/wall-rough.ts';
import { makeMesh } from '#core/mesh/mesh.ts';
import type { Reading } from '#core/result/reading.ts';
import { takeCavityApart } from '#core/segment/cavity/cavity.ts';
import { makeSurface } from '#core/spatial/surface.ts';
import { tableMaster, trough, undercutTrough, well } from '../helpers/bench-cavity.ts';
import { placed, rough } from '../helpers/bench-crown.ts';
import { within } from '../helpers/within.ts';

const master = tableMaster();
const value = (readings: Reading[], name: string, zone: string | null, stat: string): number => {
  const r = readings.find((q) => q.name === name && q.zone === zone && q.stat === stat);
  if (!r || r.value === null) throw new Error(`no value for ${name} ${zone} ${stat}: ${r?.reason}`);
  return r.value;
};

describe.each([
  { length: 4, width: 1.4, depth: 2, lean: 5 },
  { length: 5, width: 2, depth: 1.5, lean: 3 },
  { length: 3.4, width: 1.8, depth: 2.4, lean: 12 },
])('a trough $length by $width, $depth deep, walls diverging by $lean degrees', ({ length, width, depth, lean }) => {
  const a = takeCavityApart(placed(trough(length, width, depth, lean)), master);
  const out = depth * Math.tan((lean * Math.PI) / 180);
  it('is that deep everywhere', () => {
    for (const stat of ['p05', 'median', 'p95']) expect(value(depthPulpal(a), 'depth.pulpal', null, stat)).toBeCloseTo(depth, 2);
  });
  it('has a level, flat floor', () => {
    expect(value(floorForm(a), 'floor.pulpal.tilt', null, 'value')).toBeLessThan(0.2);
    expect(value(floorForm(a), 'floor.pulpal.flat', null, 'value')).toBeLessThan(0.01);
  });
  it('has walls that diverge by that angle', () => {
    for (const side of ['facial', 'mesial', 'lingual', 'distal'])
      expect(Math.abs(value(wallAngle(a), 'wall.angle', side, 'mean') + lean)).toBeLessThan(0.7);
  });
  it('is as wide at the surface as floor and lean make it', () =>
    within(value(outlineIsthmus(a), 'outline.isthmus', null, 'min'), width + 2 * out, 0.026));
  it('leaves the rest of the table as ridges', () => {
    for (const side of ['mesial', 'distal'])
      expect(Math.abs(value(outlineRidge(a), `outline.ridge.${side}`, null, 'min') - (4.5 - length / 2 - out))).toBeLessThan(0.04);
  });
  it('comes as near to a cusp as its margin lies', () =>
    expect(Math.abs(value(outlineCusp(a), 'outline.cusp', 'MB', 'min') - (3 - width / 2 - out))).toBeLessThan(0.04));
  it('covers its share of the groove', () =>
    within(value(outlineCoverage(a), 'outline.coverage', 'central', 'share'), Math.min(1, (length + 2 * out) / 6), 0.026));
  it('leaves the surface at 90 degrees plus the lean', () =>
    expect(Math.abs(value(cavosurface(a), 'cavosurface', null, 'median') - 90 - lean)).toBeLessThan(2));
  it('hides nothing', () => expect(value(retention(a), 'retention.depth', null, 'max')).toBe(0));
  it('has four corners', () => expect(value(outlineSmooth(a), 'outline.smooth.corners', null, 'count')).toBe(4));
  it('admits a condenser narrower than its floor and refuses a wider one', () => {
    const widest = value(instrumentFit(a), 'instrument.widest', null, 'max');
    expect(Math.abs(widest - width)).toBeLessThan(0.25);
  });
  it('reads no box, and claims none', () => expect(a.boxes).toEqual([]));
});

describe('a floor beside what lies above it', () => {
  const withCusps = (z: (x: number, y: number) => number) => {
    const at = (x: number, y: number) => [x, y, z(x, y)] as const;
    const cusps = [at(2, 3), at(2, -3), at(-2, 3), at(-2, -3)].map((p, i) => ({ name: `C${i}`, role: 'functional' as const, at: p }));
    return { ...master, landmarks: { ...master.landmarks, cusps } };
  };
  it('level under cusps that rise by 1 in 10 to facial, it is tilted by 5.7° to them', () => {
    const a = takeCavityApart(
      placed(trough(4, 1.6, 2, 5)),
      withCusps((_, y) => 7 + y / 10),
    );
    within(value(floorCusps(a), 'floor.cusps', null, 'value'), (Math.atan(0.1) * 180) / Math.PI, 0.1);
  });
  it('tilted as the cusps are, it is not tilted to them', () => {
    const a = takeCavityApart(
      placed(trough(4, 1.6, 2, 5, 6)),
      withCusps((x) => 7 + x * Math.tan((6 * Math.PI) / 180)),
    );
    expect(value(floorCusps(a), 'floor.cusps', null, 'value')).toBeLessThan(0.3);
  });
  it('two cusps span no plane, and it says so', () => {
    const a = takeCavityApart(placed(trough(4, 1.6, 2, 5)), master);
    expect(floorCusps(a)[0]).toMatchObject({ value: null, reason: 'no-landmark' });
    expect(
      planeThrough([
        [0, 0, 0],
        [1, 1, 0],
        [2, 2, 5],
      ]),
    ).toBeNull();
  });
  it('2 mm under the surface and under dentine that begins 1.2 mm under it, it lies 0.8 mm in dentine; without dentine it is not told', () => {
    const a = takeCavityApart(placed(trough(4, 1.6, 2, 5)), master);
    expect(floorDentine(a)[0]).toMatchObject({ value: null, reason: 'no-dentine' });
    // A level sheet of dentine, wide enough that its edges are far.
    const z = 7 - 1.2;
    const sheet = makeMesh('tooth', Float64Array.from([-9, -9, z, 9, -9, z, 9, 9, z, -9, 9, z]), Uint32Array.from([0, 1, 2, 0, 2, 3]));
    const own = { ...a, master: { ...master, dej: makeSurface(sheet) } };
    within(value(floorDentine(own), 'floor.dentine', null, 'median'), 0.8, 0.02);
    within(value(floorDentine(own), 'floor.dentine', null, 'p05'), 0.8, 0.03);
  });
});

it('smooth walls read no roughness, and points 0.03 mm off them read 0.03', () => {
  const [smooth, off] = [trough(4, 1.6, 2, 5), rough(trough(4, 1.6, 2, 5), 0.03)].map((m) => wallRough(takeCavityApart(placed(m), master)));
  within(value(smooth, 'wall.rough', null, 'median'), 0, 0.003);
  // Noise that is as large in every direction stands off a wall by its own size.
  within(value(off, 'wall.rough', null, 'median'), 0.03, 0.006);
});

it('a tilted floor reads its tilt and the side to which it rises', () => {
  const a = takeCavityApart(placed(trough(4, 1.6, 2, 5, 6)), master);
  within(value(floorForm(a), 'floor.pulpal.tilt', null, 'value'), 6, 0.16);
  expect(floorForm(a).find((r) => r.name === 'floor.pulpal.tilt')?.at?.azimuth).toSatisfy((a: number) => Math.abs(a - 90) < 5);
});

describe('enamel over a level dentine surface 1 mm down', () => {
  const level = (z: number) =>
    makeSurface(makeMesh('tooth', Float64Array.from([-9, -9, z, 9, -9, z, 9, 9, z, -9, 9, z]), Uint32Array.from([0, 1, 2, 0, 2, 3])));
  const top = Math.max(...master.target.mesh.positions.filter((_, i) => i % 3 === 2));
  const bearing = { ...master, dej: level(top - 1) };
  const area = (cut: ReturnType<typeof trough>) =>
    value(enamelUndermined(takeCavityApart(placed(cut), bearing)), 'enamel.undermined', null, 'value');
  it('is all borne where walls diverge', () => expect(area(trough(4, 1.6, 2, 5))).toBeLessThan(0.1));
  it('stands over the cavity in a strip as wide as the walls run in under it', () => {
    const strip = Math.tan((15 * Math.PI) / 180);
    const edge = 2 * (3 + 1.2 + 4 * 2 * strip);
    // Through 1 mm of enamel; the four corners add a square each. The ray begins a little under the surface.
    expect(Math.abs(area(undercutTrough(3, 1.2, 2, 15)) - edge * strip - 4 * strip ** 2)).toBeLessThan(0.1 * edge * strip);
  });
  it('is not read without a dentine surface', () =>
    expect(enamelUndermined(takeCavityApart(placed(trough(4, 1.6, 2, 5)), master)).map((r) => r.reason)).toEqual(['no-dentine']));
});

describe('a round cavity', () => {
  const readings = wallAngle(takeCavityApart(placed(well(1.2, 1.8, 8)), master));
  it('has one wall, whose angle is given', () => expect(value(readings, 'wall.angle', null, 'mean')).toBeCloseTo(-8, 0));
  it('refuses sides, since a circle has none', () => {
    const sides = readings.filter((r) => r.zone !== null);
    expect(sides).toHaveLength(4);
    expect(new Set(sides.map((r) => r.reason))).toEqual(new Set(['walls-merge']));
  });
  it('differs from a trough', () => {
    const square = wallAngle(takeCavityApart(placed(trough(4, 1.4, 2, 5)), master));
    expect(square.filter((r) => r.reason)).toEqual([]);
  });
});

it('crossing an oblique ridge is told by its length', () => {
  const a = takeCavityApart(placed(trough(4, 1.4, 2, 5)), master);
  const width = 1.4 + 4 * Math.tan((5 * Math.PI) / 180);
  expect(Math.abs(value(outlineCusp(a), 'outline.oblique', null, 'value') - (width * Math.hypot(2, 6)) / 6)).toBeLessThan(0.1);
});

it('an uncut table has no cavity, and every reading says so', () => {
  const a = takeCavityApart(placed(master.target.mesh), master);
  for (const m of [
    outlineIsthmus,
    outlineCoverage,
    outlineRidge,
    outlineSmooth,
    depthPulpal,
    floorForm,
    cavosurface,
    retention,
    instrumentFit,
  ])
    for (const r of m(a)) {
      expect(r.value).toBeNull();
      expect(r.reason).toBeTruthy();
    }
});
