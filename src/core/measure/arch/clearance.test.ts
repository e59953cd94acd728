import { describe, expect, it } from 'vitest';
import type { Vec3 } from '../../linalg/vec.ts';
import { type Mesh, makeMesh, vertexAdjacency } from '../../mesh/mesh.ts';
import { makeSurface } from '../../spatial/surface.ts';
import type { CrownContext } from '../crown/context.ts';
import { clearance, gaugePass } from './clearance.ts';

/** A grid of points over a square of 6 mm, with a height each. */
function grid(step: number, height: (x: number, y: number) => number, isTurned = false): Mesh<'tooth'> {
  const n = Math.round(6 / step) + 1;
  const positions: number[] = [];
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) positions.push(-3 + i * step, -3 + j * step, height(-3 + i * step, -3 + j * step));
  const triangles: number[] = [];
  for (let j = 0; j + 1 < n; j++)
    for (let i = 0; i + 1 < n; i++) {
      const a = j * n + i;
      const quad = [a, a + 1, a + n + 1, a, a + n + 1, a + n];
      triangles.push(...(isTurned ? quad.reverse() : quad));
    }
  return makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles));
}

/** What is read over the points that a zone holds, of a surface of some height under a level arch at z = 5. */
function read(own: Mesh<'tooth'>, holds: (p: Vec3) => boolean, opposing: Mesh<'tooth'> | null = grid(0.5, () => 5, true)) {
  const p = own.positions;
  const n = p.length / 3;
  const vertices = Array.from({ length: n }, (_, v) => v).filter((v) => holds([p[3 * v], p[3 * v + 1], p[3 * v + 2]]));
  const c = {
    anatomy: {
      region: { mesh: own, prepared: new Uint8Array(n).fill(1), adjacency: vertexAdjacency(own), areas: new Float64Array(n).fill(0.04) },
      master: { opposing: opposing && makeSurface(opposing), description: { tooth: '16' } },
      alignment: { pointError: 0, noise: 0 },
    },
    zones: [{ zone: 'MB', vertices, coverage: 1, lacking: null }],
    steady: p,
    blunted: new Float64Array(n),
    anterior: false,
  } as unknown as CrownContext;
  return clearance(c);
}
const of = (readings: ReturnType<typeof read>, name: string) => readings.find((r) => r.name === name) as (typeof readings)[number];

describe('clearance to a level arch', () => {
  it('of a level surface is what stands between, at rest and forward', () => {
    const readings = read(
      grid(0.2, () => 3.5),
      () => true,
    );
    expect(of(readings, 'clearance.static').value).toBeCloseTo(1.5, 9);
    // The jaws part along the axis on every way: nowhere is it nearer than at rest.
    for (const name of ['clearance.lateral', 'clearance.protrusive']) expect(of(readings, name).value).toBeCloseTo(1.5, 9);
  });
  it('of a slope is read at its zone’s border, half way between the last point inside and the next one', () => {
    // A slope of one half over a zone that ends at x = 1.1, between the points at 1.0 and 1.2: 5 − 0.55.
    const r = of(
      read(
        grid(0.2, (x) => 0.5 * x),
        ([x]) => x < 1.1,
      ),
      'clearance.static',
    );
    expect(r.value).toBeCloseTo(4.45, 6);
    // What the next point is nearer by, 0.1 mm, is open.
    expect(r.U as number).toBeGreaterThanOrEqual(0.1);
  });
  it('of a finer scan of the same slope is surer', () => {
    const at = (step: number) =>
      of(
        read(
          grid(step, (x) => 0.5 * x),
          ([x]) => x < 1.05,
        ),
        'clearance.static',
      );
    expect(at(0.1).U as number).toBeLessThan(at(0.3).U as number);
    expect(Math.abs((at(0.1).value as number) - (5 - 0.525))).toBeLessThan(0.03);
  });
  it('of a tip inside its zone does not depend on where the zone ends', () => {
    const cone = grid(0.2, (x, y) => 4 - 0.5 * Math.hypot(x, y));
    const [wide, narrow] = [2, 1].map((reach) =>
      of(
        read(cone, ([x, y]) => Math.hypot(x, y) < reach),
        'clearance.static',
      ),
    );
    expect(wide.value).toBeCloseTo(1, 9);
    expect(narrow.value).toBeCloseTo(1, 9);
    expect(narrow.U).toBeCloseTo(wide.U as number, 9);
  });
  it('where the surfaces run into each other it is negative', () =>
    expect(
      of(
        read(
          grid(0.2, () => 5.3),
          () => true,
        ),
        'clearance.static',
      ).value,
    ).toBeCloseTo(-0.3, 9));
  it('names its place', () => {
    const at = of(
      read(
        grid(0.2, (x, y) => 4 - 0.5 * Math.hypot(x - 1, y)),
        () => true,
      ),
      'clearance.static',
    ).at;
    expect(at?.point?.[0]).toBeCloseTo(1, 1);
    expect(at?.point?.[1]).toBeCloseTo(0, 1);
  });
  it('without an arch, or far from it, there is a reason and no figure', () => {
    expect(
      of(
        read(
          grid(0.2, () => 3),
          () => true,
          null,
        ),
        'clearance.static',
      ).reason,
    ).toBe('no-opposing');
    expect(
      of(
        read(
          grid(0.2, () => -4),
          () => true,
        ),
        'clearance.static',
      ).reason,
    ).toBe('far-apart');
  });
  it('of what was hardly cut is refused', () =>
    expect(
      of(
        read(
          grid(0.2, () => 3),
          ([x, y]) => Math.hypot(x, y) < 0.1,
        ),
        'clearance.static',
      ).value,
    ).toBeNull());
});

describe('flat gauges', () => {
  const passes = (height: number) =>
    gaugePass(
      read(
        grid(0.2, () => height),
        () => true,
      ),
    ).map((r) => r.value);
  it('pass where there is room for them', () => {
    expect(passes(3.2)).toEqual([1, 1, 0]);
    expect(passes(4.5)).toEqual([0, 0, 0]);
    expect(passes(2)).toEqual([1, 1, 1]);
  });
  it('are not called where the room is as large as the gauge', () => {
    const close = gaugePass(
      read(
        grid(0.2, () => 3.5),
        () => true,
      ),
    );
    expect(close.find((r) => r.name === 'gauge.pass(1.5)')?.U).toBe(1);
    expect(close.find((r) => r.name === 'gauge.pass(1.0)')?.U).toBe(0);
  });
});
