import { describe, expect, it } from 'vitest';
import { divergence } from '#core/measure/cavity/divergence.ts';
import { crownContext } from '#core/measure/crown/context.ts';
import { partialContext } from '#core/measure/partial/context.ts';
import { facialExtension } from '#core/measure/partial/facial-extension.ts';
import { groove } from '#core/measure/partial/groove.ts';
import { marginBevel } from '#core/measure/partial/margin-bevel.ts';
import { parallel } from '#core/measure/partial/parallel.ts';
import { pin } from '#core/measure/partial/pin.ts';
import { sliceAngle } from '#core/measure/partial/slice-angle.ts';
import { type Mesh, makeMesh } from '#core/mesh/mesh.ts';
import type { Reading } from '#core/result/reading.ts';
import { takeCavityApart } from '#core/segment/cavity/cavity.ts';
import { takeCrownApart } from '#core/segment/crown/crown.ts';
import { cutAcross } from '#core/segment/cut-across.ts';
import { tableMaster, trough } from '../helpers/bench-cavity.ts';
import { cylinderMaster, frustum, placed, stump } from '../helpers/bench-crown.ts';

const master = cylinderMaster();
const contextOf = (mesh: Mesh<'tooth'>) => partialContext(takeCrownApart(placed(mesh), master, { inBox: () => false }));
const value = (readings: Reading[], name: string, zone: string | null): number => {
  const r = readings.find((q) => q.name === name && q.zone === zone);
  if (!r || r.value === null) throw new Error(`no value for ${name} ${zone}: ${r?.reason}`);
  return r.value;
};

/** The same mesh with its points moved by a rule. */
function moved(m: Mesh<'tooth'>, rule: (x: number, y: number, z: number) => readonly [number, number, number]): Mesh<'tooth'> {
  const p = Float64Array.from(m.positions);
  for (let i = 0; i < p.length; i += 3) {
    const q = rule(p[i], p[i + 1], p[i + 2]);
    for (let k = 0; k < 3; k++) p[i + k] = q[k];
  }
  return makeMesh('tooth', p, m.triangles);
}

/** V-shaped grooves of that width along the arc and depth, straight mesial and distal, over z = 1.4. */
const grooved = (m: Mesh<'tooth'>, width: number, depth: number): Mesh<'tooth'> =>
  moved(m, (x, y, z) => {
    const r = Math.hypot(x, y);
    const along = Math.abs(Math.atan2(y, Math.abs(x))) * r;
    if (z < 1.4 || along > width / 2 || r < 2.2) return [x, y, z];
    const k = (r - depth * (1 - along / (width / 2))) / r;
    return [x * k, y * k, z];
  });

describe.each([
  { width: 1, depth: 0.6, lean: 3 },
  { width: 1.4, depth: 0.8, lean: 5 },
])('V grooves $width wide and $depth deep in walls that lean $lean degrees', ({ width, depth, lean }) => {
  const c = contextOf(grooved(frustum(0.8, lean), width, depth));
  const readings = [...groove(c), ...parallel(c)];
  it('are two, one each side', () => expect(c.grooves.map((g) => g.zone)).toEqual(['mesial', 'distal']));
  it('have that width, and that depth under the chord of their lips', () => {
    const radius = 4.2 - 2 * Math.tan((lean * Math.PI) / 180);
    for (const side of ['mesial', 'distal']) {
      expect(Math.abs(value(readings, 'groove.width', side) - width)).toBeLessThan(0.1);
      // The bottom is the mean of a fifth of the places: a tenth of a V's depth is left off.
      expect(Math.abs(value(readings, 'groove.depth', side) - (0.9 * depth - width ** 2 / 8 / radius))).toBeLessThan(0.05);
    }
  });
  it('lean with their walls, towards each other', () =>
    expect(Math.abs(value(readings, 'groove.parallel', 'mesial distal') - 2 * lean)).toBeLessThan(0.6));
  it('leave the draw along the axis', () => expect(c.crown.draw?.tilt).toBeLessThan(0.5));
});

it('a wall without grooves and a top without holes say so', () => {
  const c = contextOf(frustum(0.8, 5));
  for (const r of [...groove(c), ...pin(c), ...parallel(c)]) expect(r).toMatchObject({ value: null });
  expect(groove(c)[0].reason).toBe('no-groove-cut');
  expect(pin(c)[0].reason).toBe('no-pinhole');
});

describe('a hole of 0.7 mm in the top, 2 mm deep', () => {
  const m = moved(frustum(0.8, 5), (x, y, z) => [x, y, z > 4.9 && Math.hypot(x, y + 1.8) < 0.35 ? z - 2 : z]);
  const c = contextOf(m);
  it('is one pinhole of that depth', () => {
    expect(c.pins.length).toBe(1);
    expect(Math.abs(value(pin(c), 'pin.depth', 'pin') - 2)).toBeLessThan(0.05);
  });
  it('is refused a direction where its wall has no points', () =>
    expect(parallel(c).find((r) => r.name === 'pin.parallel')).toMatchObject({ value: null, reason: 'not-seen' }));
});

it('a hole that comes out under the gingiva is no pinhole', () => {
  const m = moved(frustum(0.8, 5), (x, y, z) => [x, y, z > 4.9 && Math.hypot(x, y + 1.8) < 0.35 ? z - 5.5 : z]);
  expect(contextOf(m).pins).toEqual([]);
});

it('slices lean as the walls do', () => {
  const c = crownContext(takeCrownApart(placed(frustum(0.8, 6)), master));
  for (const side of ['mesial', 'distal']) expect(Math.abs(value(sliceAngle(c), 'slice.angle', side) - 6)).toBeLessThan(0.4);
});

it('a finish line all round shows from facial where the side looks that way by more than 10 degrees', () => {
  const share = facialExtension(contextOf(frustum(0.8, 5))).find((r) => r.stat === 'share');
  expect(Math.abs((share?.value ?? 0) - (2 * Math.acos(0.17)) / (2 * Math.PI))).toBeLessThan(0.03);
});

describe('a shoulder with its edge bevelled at 45 degrees', () => {
  const m = stump([
    [0, 5],
    [3.8, 5],
    [4.1, 1.35],
    [4.65, 1.35],
    [5, 1],
    [5, -1.5],
  ]);
  const c = crownContext(takeCrownApart(placed(m), master));
  it('reads that angle and that width on every side', () => {
    for (const side of ['facial', 'mesial', 'lingual', 'distal']) {
      expect(Math.abs(value(marginBevel(c), 'bevel.angle', side) - 45)).toBeLessThan(4);
      expect(Math.abs(value(marginBevel(c), 'bevel.width', side) - Math.hypot(0.35, 0.35))).toBeLessThan(0.05);
    }
  });
  it('is less sure where the scan’s points stand far apart, and an angle more so on a narrow bevel', () => {
    const sure = (spacing: number) => {
      const far = { ...c, anatomy: { ...c.anatomy, region: { ...c.anatomy.region, spacing } } };
      return ['bevel.width', 'bevel.angle'].map(
        (name) => marginBevel(far).find((r) => r.name === name && r.zone === 'lingual')?.U as number,
      );
    };
    const [near, far] = [sure(0.1), sure(0.3)];
    // An end that is off by a third of the points' distance: 0.03 and 0.09 mm, doubled.
    expect(far[0]).toBeGreaterThan(0.18);
    expect(near[0]).toBeLessThan(0.12);
    expect(far[1] / near[1]).toBeGreaterThan(1.5);
  });
  it('is not seen on a chamfer or a plain shoulder', () => {
    for (const r of marginBevel(crownContext(takeCrownApart(placed(frustum(0.8, 5)), master)))) expect(r.reason).toBe('no-bevel');
  });
});

it.each([3, 8])('walls that each open by %i degrees diverge by twice as much', (lean) => {
  const a = takeCavityApart(placed(trough(4, 1.6, 2, lean)), tableMaster());
  for (const zone of ['faciolingual', 'mesiodistal']) expect(Math.abs(value(divergence(a), 'divergence', zone) - 2 * lean)).toBeLessThan(1);
});

describe('a plane across a mesh', () => {
  const m = frustum(0.8, 6);
  const up = new Float64Array(m.positions.length);
  const chains = cutAcross(m, up, () => true, [2, 3, 4]);
  it('gives one closed contour a level, of the wall’s own radius there', () => {
    chains.forEach((level, i) => {
      expect(level.length).toBe(1);
      const radius = 4.2 - (1 + i) * Math.tan((6 * Math.PI) / 180);
      for (let k = 0; k < level[0].x.length; k++) expect(Math.abs(Math.hypot(level[0].x[k], level[0].y[k]) - radius)).toBeLessThan(0.002);
    });
  });
  it('gives nothing where nothing is accepted', () => expect(cutAcross(m, up, () => false, [2, 3])).toEqual([[], []]));
});
