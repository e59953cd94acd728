import { describe, expect, it } from 'vitest';
import { along, revolve } from '../../../test/helpers/shapes.ts';
import { azimuthOf, inSector, SECTORS } from '../linalg/sectors.ts';
import { smoothAround } from './around.ts';
import { cutRadially } from './cut.ts';
import { intersect, LineSums, resample, straightPieces } from './polyline.ts';

describe('straight pieces', () => {
  it('find the corner of a bent line', () => {
    const x: number[] = [];
    const y: number[] = [];
    for (let i = 0; i < 40; i++) {
      x.push(i < 20 ? i * 0.1 : 2);
      y.push(i < 20 ? 0 : (i - 19) * 0.1);
    }
    const cuts = straightPieces(new LineSums(x, y), 1e-3);
    expect(cuts.length).toBe(3);
    expect(Math.abs(cuts[1] - 20)).toBeLessThanOrEqual(1);
  });
  it('leave a straight line whole', () => {
    const x = Array.from({ length: 50 }, (_, i) => i * 0.06);
    expect(
      straightPieces(
        new LineSums(
          x,
          x.map((v) => 2 * v + 1),
        ),
        1e-4,
      ),
    ).toEqual([0, 50]);
  });
  it('meet where they should', () =>
    expect(intersect(new LineSums([0, 1], [0, 0]).line(0, 2), new LineSums([3, 3], [1, 2]).line(0, 2))).toEqual([3, 0]));
});

it('resampling keeps equal steps along the line', () => {
  const p = resample([0, 3, 3], [0, 0, 4], [0, 3, 7], 1, 99);
  expect(p.r).toEqual([0, 1, 2, 3, 3, 3, 3, 3]);
  expect(p.w).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
});

describe('cutting a surface of revolution', () => {
  const mesh = revolve(
    along(
      [
        [0, 5],
        [4, 5],
        [4, 0],
      ],
      0.2,
    ),
    90,
  );
  it('gives its profile at every azimuth', () => {
    const cuts = cutRadially(mesh, new Float64Array(mesh.positions.length / 3), 36);
    for (const chains of cuts) {
      const longest = chains.reduce((a, b) => (b.r.length > a.r.length ? b : a));
      expect(Math.max(...longest.r)).toBeCloseTo(4, 1);
      expect(Math.min(...longest.r)).toBeLessThan(0.3);
      expect(Math.min(...longest.z)).toBeCloseTo(0, 6);
    }
  });
});

describe('round the tooth', () => {
  it('azimuth 0 is facial, 90 mesial', () =>
    expect([azimuthOf(0, 1), azimuthOf(1, 0), azimuthOf(0, -1), azimuthOf(-1, 0)]).toEqual([0, 90, 180, 270]));
  it('every azimuth lies in one side at least', () => {
    for (let a = 0; a < 360; a++) expect(SECTORS.filter((s) => s.half === 45 && inSector(a, s)).length).toBeGreaterThanOrEqual(1);
  });
  it('smoothing keeps a parabola and passes over gaps', () => {
    const v = Array.from({ length: 60 }, (_, k) => ((k - 30) / 10) ** 2);
    expect(smoothAround(v, 4)[30]).toBeCloseTo(0, 9);
    const gap = v.map((q, k) => (k === 33 ? null : q));
    expect(smoothAround(gap, 4)[33]).toBeNull();
    expect(smoothAround(gap, 4)[30]).toBeCloseTo(0, 9);
  });
});
