import { beforeAll, describe, expect, it } from 'vitest';
import { etched, neckOf } from '../../../study/foreign/neck.ts';
import { within } from '../../../test/helpers/within.ts';
import { solidKernel } from '../../files/solid-kernel.ts';
import { angleBetween, distance, type Vec3 } from '../linalg/vec.ts';
import { PART } from '../master/master.ts';
import { borderVertices, makeMesh } from '../mesh/mesh.ts';
import { smoothed } from '../mesh/smoothed.ts';
import type { SimulatedMaster } from '../simulate/master.ts';
import { Workshop } from '../simulate/simulate.ts';
import { quantile } from '../statistics/quantile.ts';
import { seeded } from '../statistics/random.ts';
import { checkCej, checkCoverage } from './checks.ts';
import { coverageOf } from './coverage.ts';
import { propose } from './propose.ts';

describe('an arch scanned with 0.02 mm of noise at each point', () => {
  let crown: Parameters<typeof etched>[0];
  let master: SimulatedMaster;
  let touched: Vec3;
  beforeAll(async () => {
    master = new Workshop('24', 31, await solidKernel(), { name: 'x', caries: null, detail: 0.7 }).master;
    const { description: d, meshes } = master;
    crown = { ...meshes.arch, axis: d.axis, mesial: d.mesial, facial: d.facial, marks: d };
    touched = [0, 1, 2].map((k) => d.cusps.reduce((s, c) => s + c.at[k], 0) / d.cusps.length) as [number, number, number];
  }, 60_000);
  it('is proposed as well as one without', () => {
    const d = master.description;
    const p = propose(etched(crown, null, 0.02), '24', touched);
    expect(angleBetween(p.description.axis, d.axis)).toBeLessThan(2);
    for (const c of d.cusps) expect(distance(p.description.cusps.find((q) => q.name === c.name)?.at ?? [0, 0, 0], c.at)).toBeLessThan(0.3);
    const off = p.description.gingivalMargin.map((q) => Math.min(...d.gingivalMargin.map((g) => distance(g, q))));
    expect(quantile(off, 0.95)).toBeLessThan(0.4);
    expect(checkCoverage(p.coverage).state).toBe('fine');
    expect(p.description.cej).toBeUndefined();
    expect(checkCej(p.cejSeen_deg)).toEqual([]);
  }, 30_000);
  it('a cementoenamel junction that shows on its facial half is drawn where it is', () => {
    const p = propose(etched(crown, { form: 'furrow', depth: 0.1, isHalf: true }, 0.02), '24', touched);
    within(p.cejSeen_deg, 180, 30);
    const at = neckOf(crown);
    within(
      quantile(
        (p.description.cej ?? []).map((q) => Math.abs(at(q).over)),
        0.9,
      ),
      0,
      0.25,
    );
    expect(checkCej(p.cejSeen_deg)).toMatchObject([{ state: 'look' }]);
  }, 30_000);
});

describe('how far the scan reaches', () => {
  /** A round crown of 4 mm radius and 6 mm height on flat gingiva; what `is` leaves out is not scanned. */
  function scan(is: (x: number, y: number, z: number) => boolean) {
    const step = 0.25;
    const half = 8;
    const n = Math.round((2 * half) / step) + 1;
    const z = (x: number, y: number): number => Math.max(0, 6 - (6 * (x * x + y * y)) / 16);
    const positions: number[] = [];
    for (let j = 0; j < n; j++)
      for (let i = 0; i < n; i++) {
        const [x, y] = [-half + i * step, -half + j * step];
        positions.push(x, y, z(x, y));
      }
    const triangles: number[] = [];
    for (let j = 0; j + 1 < n; j++)
      for (let i = 0; i + 1 < n; i++) {
        const a = j * n + i;
        if (![a, a + 1, a + n, a + n + 1].every((v) => is(positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]))) continue;
        triangles.push(a, a + 1, a + n + 1, a, a + n + 1, a + n);
      }
    const mesh = makeMesh('master', Float64Array.from(positions), Uint32Array.from(triangles));
    const parts = Uint8Array.from({ length: positions.length / 3 }, (_, v) => (positions[3 * v + 2] > 0 ? PART.target : PART.gingiva));
    const border = borderVertices(mesh);
    return { mesh, parts, border };
  }
  const laid = {
    axes: [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ] as const,
    at: [0, 0, 0] as const,
    size: [1, 1, 1] as const,
    rms: 0,
    share: 1,
  };
  const curve = Array.from({ length: 72 }, (_, i): Vec3 => {
    const a = ((i + 0.5) * 5 * Math.PI) / 180;
    return [4 * Math.sin(a), 4 * Math.cos(a), 0];
  });
  const margin = { curve, seen: 0.9, uneven: 0, widestGap_deg: 0 };
  const both = { tooth: '46', mesial: true, distal: true };
  it('all of it is fine', () => {
    const s = scan(() => true);
    const c = coverageOf(s.mesh, s.parts, laid, margin, both, s.border);
    expect(c).toEqual({ missing: [], margin_share: 0.9, cut_deg: 0 });
    expect(checkCoverage(c).state).toBe('fine');
  });
  it('a scan that ends on the crown says over how many degrees', () => {
    // Cut at x = 2: at 1 mm over the margin the crown has a radius of √(16 · 5/6) = 3.65 mm, so 2 · acos(2 / 3.65) = 113.6° are cut.
    const s = scan((x) => x <= 2);
    const c = coverageOf(s.mesh, s.parts, laid, margin, both, s.border);
    within(c.cut_deg, (2 * Math.acos(2 / Math.sqrt(16 * (5 / 6))) * 180) / Math.PI, 12);
    expect(checkCoverage(c)).toMatchObject({ state: 'stop' });
  });
  it('a hole on the crown wants a look', () => {
    const s = scan((x, y) => Math.hypot(x - 2, y) > 0.6);
    const c = coverageOf(s.mesh, s.parts, laid, margin, both, s.border);
    expect(c.cut_deg).toBeGreaterThan(10);
    expect(checkCoverage(c).state).toBe('look');
  });
  it.each([
    ['46', ['mesial', 'distal']],
    ['47', ['mesial']],
    ['48', ['mesial']],
    ['41', ['mesial', 'distal']],
    ['85', ['mesial']],
  ])('beside %s stand %s, and a third molar need not', (tooth, missing) => {
    const s = scan(() => true);
    const c = coverageOf(s.mesh, s.parts, laid, margin, { tooth, mesial: false, distal: false }, s.border);
    expect(c.missing).toEqual(missing);
    expect(checkCoverage(c).state).toBe('look');
  });
});

describe('smoothing', () => {
  it('takes more than half of the noise that each point has of its own, and leaves a ball its radius', () => {
    const random = seeded(3);
    const n = 81;
    const positions: number[] = [];
    const clean: number[] = [];
    // A cap of a ball of 10 mm radius, points 0.1 mm apart.
    for (let j = 0; j < n; j++)
      for (let i = 0; i < n; i++) {
        const [x, y] = [0.1 * (i - 40), 0.1 * (j - 40)];
        const z = Math.sqrt(100 - x * x - y * y);
        clean.push(z);
        positions.push(x, y, z + 0.02 * random.normal());
      }
    const triangles: number[] = [];
    for (let j = 0; j + 1 < n; j++)
      for (let i = 0; i + 1 < n; i++)
        triangles.push(j * n + i, j * n + i + 1, (j + 1) * n + i + 1, j * n + i, (j + 1) * n + i + 1, (j + 1) * n + i);
    const out = smoothed(makeMesh('master', Float64Array.from(positions), Uint32Array.from(triangles)), 8);
    let [sum, mean, count] = [0, 0, 0];
    for (let j = 10; j < n - 10; j++)
      for (let i = 10; i < n - 10; i++) {
        const off = Math.hypot(out.positions[3 * (j * n + i)], out.positions[3 * (j * n + i) + 1], out.positions[3 * (j * n + i) + 2]) - 10;
        sum += off * off;
        mean += off;
        count++;
      }
    expect(Math.sqrt(sum / count)).toBeLessThan(0.02 / 2);
    within(mean / count, 0, 0.002);
  });
});
