import { describe, expect, it } from 'vitest';
import type { Vec3 } from '../../linalg/vec.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { changes, type OutlinePoint } from '../../segment/cavity/outline.ts';
import { seeded } from '../../statistics/random.ts';
import { cornerError, exitError, meanError, outlineScatter } from './outline-error.ts';

/** An outline a tenth of a millimetre from place to place. */
const anatomy = (places: readonly Vec3[]): CavityAnatomy => {
  const n = places.length;
  const outline = places.map((p, i) => {
    const [a, b] = [places[(i + n - 1) % n], places[(i + 1) % n]];
    const l = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    return { p, tangent: [(b[0] - a[0]) / l, (b[1] - a[1]) / l, 0], moved: 0 };
  });
  return { outline } as unknown as CavityAnatomy;
};
const circle = (r: number, off = (_: number) => 0): Vec3[] => {
  const n = Math.round((2 * Math.PI * r) / 0.1);
  return Array.from({ length: n }, (_, i): Vec3 => {
    const a = (2 * Math.PI * i) / n;
    return [(r + off(i)) * Math.cos(a), (r + off(i)) * Math.sin(a), 0];
  });
};
/** A square of 4 mm with corners of radius r, begun in the middle of its right side. */
function square(r: number): Vec3[] {
  const out: Vec3[] = [];
  const side = (from: Vec3, to: Vec3): void => {
    const n = Math.round(Math.hypot(to[0] - from[0], to[1] - from[1]) / 0.1);
    for (let i = 0; i < n; i++) out.push([0, 1, 2].map((k) => from[k] + ((to[k] - from[k]) * i) / n) as unknown as Vec3);
  };
  const h = 2;
  for (const turn of [0, 1, 2, 3]) {
    const at = (x: number, y: number): Vec3 => [
      x * Math.cos((turn * Math.PI) / 2) - y * Math.sin((turn * Math.PI) / 2),
      x * Math.sin((turn * Math.PI) / 2) + y * Math.cos((turn * Math.PI) / 2),
      0,
    ];
    side(at(h, -h + r), at(h, h - r));
    const n = Math.max(1, Math.round((Math.PI * r) / 2 / 0.1));
    for (let i = 0; i < n && r > 0; i++) {
      const a = (Math.PI * i) / (2 * n);
      out.push(at(h - r + r * Math.cos(a), h - r + r * Math.sin(a)));
    }
  }
  return out;
}
/** Place of an outline nearest to a point. */
const nearest = (a: CavityAnatomy, x: number, y: number): number =>
  a.outline.reduce(
    (best, o, i) => (Math.hypot(o.p[0] - x, o.p[1] - y) < Math.hypot(a.outline[best].p[0] - x, a.outline[best].p[1] - y) ? i : best),
    0,
  );

describe('how sure a place of an outline is', () => {
  it('a straight side is not rounded by anything', () => {
    const a = anatomy(square(0));
    expect(cornerError(a, nearest(a, 2, 0), [4, 0, 0])).toBeCloseTo(0, 9);
  });
  it('a bend is flattened by averaging: a third of its height over ± 0.4 mm', () => {
    for (const r of [1, 2]) {
      const a = anatomy(circle(r));
      const height = r - r * Math.cos(0.4 / r);
      expect(cornerError(a, 3, [10 * a.outline[3].p[0], 10 * a.outline[3].p[1], 0])).toBeCloseTo(height / 3, 2);
    }
    // The tighter, the more.
    const at = (r: number) => cornerError(anatomy(circle(r)), 0, [10, 0, 0]);
    expect(at(0.8)).toBeGreaterThan(at(1.6));
  });
  it('along the run nothing is taken off a bend', () => {
    const a = anatomy(circle(1.5));
    expect(cornerError(a, 0, [1.5, 9, 0])).toBeLessThan(0.01);
  });
  it('a corner that a scan has rounded may have stood as far out as its sides would meet', () => {
    // Rounded by 0.2 mm the corner stands 0.2 (√2 − 1) = 0.083 mm inside of where the sides meet.
    const a = anatomy(square(0.2));
    const i = nearest(a, 2, 2);
    expect(cornerError(a, i, [5, 5, 0])).toBeGreaterThan(0.6 * 0.06);
    expect(cornerError(a, i, [5, 5, 0])).toBeLessThan(0.15);
  });
  it('places that follow their course have no scatter, places that do not have their own', () => {
    expect(outlineScatter(anatomy(circle(2)))).toBeLessThan(2e-3);
  });
  it('what neighbouring places share over 0.4 mm is told, though their course follows most of it', () => {
    // Means of four draws: their correlation falls to none over four steps of 0.1 mm.
    const random = seeded(7);
    const draws = Array.from({ length: 800 }, () => random.normal());
    const off = (i: number): number => (0.03 * [0, 1, 2, 3].reduce((s, j) => s + draws[i + j], 0)) / 2;
    const told = outlineScatter(anatomy(circle(10, off)));
    expect(told).toBeGreaterThan(0.025);
    expect(told).toBeLessThan(0.035);
  });
  it('a mean over many places is surer, but not by all of them: neighbours share their error', () => {
    const a = anatomy(circle(2, (i) => (i % 2 ? 0.03 : -0.03)));
    expect(meanError(a, 1)).toBeCloseTo(outlineScatter(a), 9);
    expect(meanError(a, 16)).toBeCloseTo(outlineScatter(a) / 2, 9);
  });
});

describe('what reading half of the strip changes', () => {
  const places = (turned: readonly (number | null)[], off = 0.02): OutlinePoint[] =>
    turned.map((t) => ({
      p: [0, 0, 0],
      tangent: [1, 0, 0],
      normal: [0, 0, 1],
      inward: [0, 0, -1],
      angle: 90,
      moved: t === null ? null : t / 100,
      turned: t,
      off,
    }));
  const cavity = (outline: OutlinePoint[]): CavityAnatomy => ({ outline, alignment: { noise: 0.02 } }) as unknown as CavityAnatomy;

  it('is told by the places that show it: one that shows nothing is no steady one', () => {
    const all = places([null, null, null, 8, -8, null, null, 6, -10]);
    expect(changes(all, all, 'turned')).toEqual([8, -8, 6, -10]);
    expect(exitError(cavity(all), all)).toBeCloseTo(4, 9);
  });
  it('is told by the outline where few of some places show it', () => {
    const all = places([4, 4, 4, 4, 4, 4, 4, 4, 4, null, null, 30]);
    expect(changes(all.slice(9), all, 'moved')).toHaveLength(10);
    expect(changes(all.slice(8), all, 'turned')).toEqual([4, 30]);
  });
  it('is large where no place shows it', () => {
    const all = places([null, null, null]);
    expect(exitError(cavity(all), all)).toBeGreaterThanOrEqual(5);
    expect(changes(all, all, 'moved')[0]).toBeGreaterThanOrEqual(0.3);
  });
  it('waves up the wall lean by their own height over half of the strip', () => {
    const rough = places([0, 0, 0], Math.hypot(0.02, 0.035));
    expect(exitError(cavity(rough), rough)).toBeCloseTo((Math.atan(0.035 / 0.2) * 180) / Math.PI, 6);
  });
});
