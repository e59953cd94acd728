import { describe, expect, it } from 'vitest';
import { makeMesh } from '../mesh/mesh.ts';
import { chainsBetween } from './chains.ts';
import { cutAcross } from './cut-across.ts';
import { LineSums, resample, unfolded } from './polyline.ts';

/** An upright tube of radius 3 from z = 0 to 4 in `n` strips; a hole where `gone` says so. */
function tube(n: number, gone: (angle: number, z: number) => boolean = () => false) {
  const positions: number[] = [];
  const rows = 20;
  for (let j = 0; j <= rows; j++)
    for (let i = 0; i < n; i++) {
      const a = (2 * Math.PI * i) / n;
      positions.push(3 * Math.cos(a), 3 * Math.sin(a), (4 * j) / rows);
    }
  const triangles: number[] = [];
  const id = (j: number, i: number) => j * n + (i % n);
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < n; i++) {
      if (gone((2 * Math.PI * (i + 0.5)) / n, (4 * (j + 0.5)) / rows)) continue;
      triangles.push(id(j, i), id(j, i + 1), id(j + 1, i + 1), id(j, i), id(j + 1, i + 1), id(j + 1, i));
    }
  return makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles));
}
const level = (m: ReturnType<typeof tube>, z: number[], accept: (v: number) => boolean = () => true) =>
  cutAcross(m, new Float64Array(m.positions.length), accept, z);
const turn = (c: { x: readonly number[]; y: readonly number[] }): number => {
  let sum = 0;
  for (let i = 1; i < c.x.length; i++) {
    const d = Math.atan2(c.y[i], c.x[i]) - Math.atan2(c.y[i - 1], c.x[i - 1]);
    sum += d - 2 * Math.PI * Math.round(d / (2 * Math.PI));
  }
  return Math.abs((sum * 180) / Math.PI);
};

describe('a tube cut across', () => {
  it('gives one ring a level, on its surface', () => {
    for (const chains of level(tube(90), [0.55, 1.55, 2.55])) {
      expect(chains).toHaveLength(1);
      const [c] = chains;
      expect(turn(c)).toBeGreaterThan(355);
      for (let i = 0; i < c.x.length; i++) expect(Math.hypot(c.x[i], c.y[i])).toBeCloseTo(3, 2);
    }
  });
  it('is open at a hole, and whole above it', () => {
    const holed = tube(90, (a, z) => a < Math.PI / 2 && z < 2);
    const [low, high] = level(holed, [1.05, 3.05]);
    expect(turn(low[0])).toBeGreaterThan(260);
    expect(turn(low[0])).toBeLessThan(275);
    expect(turn(high[0])).toBeGreaterThan(355);
  });
  it('two holes leave two pieces', () => {
    const holed = tube(90, (a) => Math.abs(Math.sin(a)) < 0.2);
    expect(level(holed, [2.05])[0]).toHaveLength(2);
  });
  it('outside of the tube there is nothing', () => expect(level(tube(30), [9])[0]).toEqual([]));
  it('what is not accepted is not cut', () => {
    const m = tube(90);
    const [chains] = level(m, [2.05], (v) => m.positions[3 * v] > 0);
    expect(turn(chains[0])).toBeLessThan(185);
  });
});

describe('the border between inside and outside', () => {
  const m = tube(60);
  const all = Array.from({ length: m.triangles.length / 3 }, (_, i) => 3 * i);
  it('runs once round where a height parts them', () => {
    const chains = chainsBetween(
      m,
      all,
      (v) => m.positions[3 * v + 2] > 2.1,
      (inner, outer) => [inner, outer],
    );
    expect(chains).toHaveLength(1);
    for (const [inner, outer] of chains[0]) {
      expect(m.positions[3 * inner + 2]).toBeGreaterThan(2.1);
      expect(m.positions[3 * outer + 2]).toBeLessThan(2.1);
    }
  });
  it('is nowhere when all is on one side', () =>
    expect(
      chainsBetween(
        m,
        all,
        () => true,
        () => 0,
      ),
    ).toEqual([]));
});

describe('points along a line', () => {
  it('lie a step apart, and carry their value along', () => {
    const r = resample([0, 1, 1], [0, 0, 1], [0, 10, 20], 0.25, 5);
    for (let i = 1; i < r.r.length; i++) expect(Math.hypot(r.r[i] - r.r[i - 1], r.z[i] - r.z[i - 1])).toBeCloseTo(0.25, 9);
    expect(r.w[4]).toBeCloseTo(10, 6);
    expect(r.r.length).toBeGreaterThanOrEqual(8);
  });
  it('end where they were told to', () => expect(resample([0, 10], [0, 0], [0, 0], 0.5, 2).r.length).toBeLessThanOrEqual(5));
  it('lose a fold that returns to its start', () => {
    const r = [0, 1, 2, 2, 2.02, 2, 3, 4];
    const z = [0, 0, 0, 0.5, 0.5, 0.02, 0, 0];
    const out = unfolded({ r, z, w: r.map(() => 1) }, 0.1, 2, 6);
    expect(out.z.every((v) => v < 0.1)).toBe(true);
    expect(out.r.at(-1)).toBe(4);
  });
  it('without a fold stay as they are', () => {
    const line = { r: [0, 1, 2, 3], z: [0, 0.1, 0, 0.1], w: [1, 1, 1, 1] };
    expect(unfolded(line, 0.1, 2, 6)).toEqual(line);
  });
  it('the best line through a stretch has its direction and scatter', () => {
    const x = Array.from({ length: 21 }, (_, i) => i / 10);
    const l = new LineSums(
      x,
      x.map((v, i) => 2 * v + (i % 2 ? 0.01 : -0.01)),
    ).line(0, 21);
    expect(Math.abs(l.dy / l.dx)).toBeCloseTo(2, 1);
    expect(l.rms).toBeLessThan(0.01);
    expect(l.count).toBe(21);
  });
});
