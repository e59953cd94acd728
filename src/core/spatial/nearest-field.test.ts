import { describe, expect, it } from 'vitest';
import { along, revolve } from '../../../test/helpers/shapes.ts';
import { seeded } from '../statistics/random.ts';
import { nearestField, nearVertex } from './nearest-field.ts';
import { makeSurface } from './surface.ts';

const cone = revolve(
  along(
    [
      [0, 6],
      [3, 5],
      [4.5, 0],
    ],
    0.4,
  ),
  48,
);
const surface = makeSurface(cone);
const field = nearestField(surface);
const p = cone.positions;
const distance = (v: number, x: number, y: number, z: number): number => Math.hypot(p[3 * v] - x, p[3 * v + 1] - y, p[3 * v + 2] - z);

describe('the table of nearest vertices', () => {
  it('names one that is no more than a cell farther than the nearest', () => {
    const random = seeded(11);
    const within = (): number => 10 * (2 * random.next() - 1);
    for (let i = 0; i < 400; i++) {
      const [x, y, z] = [within(), within(), within()];
      const v = nearVertex(field, x, y, z);
      if (v < 0) continue;
      let least = Number.POSITIVE_INFINITY;
      for (let w = 0; w < p.length / 3; w++) least = Math.min(least, distance(w, x, y, z));
      expect(distance(v, x, y, z) - least).toBeLessThan(field.cell);
    }
  });
  it('names a vertex for itself, or one within its cell', () => {
    for (let v = 0; v < p.length / 3; v += 7) {
      const near = nearVertex(field, p[3 * v], p[3 * v + 1], p[3 * v + 2]);
      expect(distance(near, p[3 * v], p[3 * v + 1], p[3 * v + 2])).toBeLessThan(Math.sqrt(3) * field.cell);
    }
  });
  it('has nothing to say far outside', () => {
    for (const [x, y, z] of [
      [30, 0, 0],
      [0, -30, 0],
      [0, 0, 30],
      [0, 0, -30],
    ])
      expect(nearVertex(field, x, y, z)).toBe(-1);
  });
  it('is made once for a surface', () => expect(nearestField(surface)).toBe(field));
});
