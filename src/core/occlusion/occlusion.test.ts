import { expect, it } from 'vitest';
import { within } from '../../../test/helpers/within.ts';
import { applyDirection, applyPoint, fromRotation, fromTranslation, IDENTITY, multiply } from '../linalg/rigid.ts';
import { angleBetween, toRadians, unit, type Vec3 } from '../linalg/vec.ts';
import { type Mesh, makeMesh } from '../mesh/mesh.ts';
import { makeSurface } from '../spatial/surface.ts';
import { excursionShift, standingOf } from './excursion.ts';
import { gaps } from './overlap.ts';
import { HELD_BY, settle } from './settle.ts';

/** A height field over a square, looking up or down. */
function field(half: number, step: number, z: (x: number, y: number) => number, isUp = true): Mesh {
  const n = Math.round((2 * half) / step) + 1;
  const positions: number[] = [];
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) positions.push(i * step - half, j * step - half, z(i * step - half, j * step - half));
  const triangles: number[] = [];
  for (let j = 0; j + 1 < n; j++)
    for (let i = 0; i + 1 < n; i++) {
      const [a, b, c, d] = [j * n + i, j * n + i + 1, (j + 1) * n + i, (j + 1) * n + i + 1];
      triangles.push(...(isUp ? [a, b, d, a, d, c] : [a, d, b, a, c, d]));
    }
  return makeMesh('master', Float64Array.from(positions), Uint32Array.from(triangles));
}

const TIPS: readonly Vec3[] = [
  [4, 0, 3],
  [-3, 4, 2.5],
  [-3, -4, 2],
];
/** Three rounded tips of radius 2 on a floor: their summits are the given places. */
const tips = field(9, 0.1, (x, y) => Math.max(0, ...TIPS.map(([a, b, h]) => h - ((x - a) ** 2 + (y - b) ** 2) / 4)));
const plate = field(9, 0.25, () => 0, false);

it('a flat plate comes to rest on three tips, in their common tangent plane', () => {
  const start = multiply(fromTranslation([0.3, -0.2, 8]), fromRotation([1, 0, 0], toRadians(2)));
  const s = settle(makeSurface(tips), plate, start, [0, 0, 1], { across_mm: 0.3, turn_deg: 1, tilt_deg: 1000 });
  if (!s) throw new Error('it did not settle');
  // The plane through three equal paraboloids' summits touches each beside its summit, all by the same shift: it is parallel to the summits' plane.
  const n = unit([
    (TIPS[1][1] - TIPS[0][1]) * (TIPS[2][2] - TIPS[0][2]) - (TIPS[1][2] - TIPS[0][2]) * (TIPS[2][1] - TIPS[0][1]),
    (TIPS[1][2] - TIPS[0][2]) * (TIPS[2][0] - TIPS[0][0]) - (TIPS[1][0] - TIPS[0][0]) * (TIPS[2][2] - TIPS[0][2]),
    (TIPS[1][0] - TIPS[0][0]) * (TIPS[2][1] - TIPS[0][1]) - (TIPS[1][1] - TIPS[0][1]) * (TIPS[2][0] - TIPS[0][0]),
  ]);
  within(angleBetween(applyDirection(s.matrix, [0, 0, 1]), n), 0, 0.25);
  expect(s.contacts).toHaveLength(3);
  for (const t of TIPS) expect(Math.min(...s.contacts.map((c) => Math.hypot(c.at[0] - t[0], c.at[1] - t[1])))).toBeLessThan(0.6);
  expect(s.deepest_mm).toBeLessThan(0.08);
  expect(s.isRocking).toBe(false);
});

it('two tips in a row are told as rocking', () => {
  const ridge = field(9, 0.1, (x, y) => Math.max(0, 3 - ((x - 3) ** 2 + y ** 2) / 4, 3 - ((x + 3) ** 2 + y ** 2) / 4));
  const s = settle(makeSurface(ridge), plate, fromTranslation([0, 0, 6]), [0, 0, 1], HELD_BY.bite);
  expect(s?.isRocking).toBe(true);
});

it('arches that do not lie over one another are not brought together', () =>
  expect(settle(makeSurface(tips), plate, fromTranslation([60, 0, 5]), [0, 0, 1], HELD_BY.hand)).toBeNull());

it('gaps are negative by the overlap, and far where nothing is', () => {
  const under = makeSurface(field(9, 0.25, () => 1, false));
  const g = gaps(under, [0, 0, 0.6, 0, 0, 1.3, 0, 0, -7], [0, 0, 0]);
  within(g[0], 0.4, 1e-6);
  within(g[1], -0.3, 1e-6);
  expect(g[2]).toBe(2);
  // Moved up by the excursion's drop it is clear again.
  within(gaps(under, [0, 0, 1.3], [0, 0, 0.5])[0], 0.2, 1e-6);
});

const UPPER_MOLAR = standingOf('16');

it('an excursion drops by path · sin(inclination) and runs path · cos across', () => {
  const c = { path_mm: 3, condylar_deg: 30, bennett_deg: 10 };
  const p = excursionShift(UPPER_MOLAR, 'protrusive', 1, c);
  within(p[0], 3 * Math.cos(toRadians(30)), 1e-9);
  within(p[2], 1.5, 1e-9);
  // Against a lower tooth the opposing arch stands still and the tooth moves: the other sign across, the same way apart.
  expect(excursionShift(standingOf('36'), 'protrusive', 1, c)).toEqual([-p[0], -p[1], p[2]]);
  const b = excursionShift(UPPER_MOLAR, 'balancing', 0.5, c);
  within(Math.atan2(b[0], -b[1]), toRadians(10), 1e-9);
  expect(applyPoint(IDENTITY, excursionShift(UPPER_MOLAR, 'working', 0, c))).toEqual([0, 0, 0]);
});

it.each([
  // Lower incisors bite behind upper ones: the jaw runs forward to facial of both, and to distal on its own side.
  ['11', 'protrusive', [0.174, 0.985]],
  ['11', 'working', [-0.985, 0.174]],
  ['21', 'working', [-0.985, 0.174]],
  ['16', 'protrusive', [1, 0]],
  ['16', 'working', [0, 1]],
  // Of a lower tooth the opposing arch runs the other way.
  ['31', 'protrusive', [-0.174, -0.985]],
  // A canine stands at the corner: forward is about half of each.
  ['23', 'protrusive', [0.819, 0.574]],
] as const)('against tooth %s the opposing arch runs %s along its own sides', (tooth, which, way) => {
  const c = { path_mm: 1, condylar_deg: 0, bennett_deg: 10 };
  const p = excursionShift(standingOf(tooth), which, 1, c);
  for (const k of [0, 1]) within(p[k], way[k], 1e-3);
});
