import { describe, expect, it } from 'vitest';
import { archMaster, archScan, cylinderMaster, frustum, placed, stump } from '../../../../test/helpers/bench-crown.ts';
import { PART } from '../../master/master.ts';
import { crownContext } from '../../measure/crown/context.ts';
import { type Mesh, makeMesh } from '../../mesh/mesh.ts';
import { seeded } from '../../statistics/random.ts';
import { ownersOf } from '../owners.ts';
import { targetRegion } from '../target.ts';
import { takeCrownApart } from './crown.ts';
import { edgeHeights } from './incisal-edge.ts';
import { heightShare } from './surfaces.ts';

const master = cylinderMaster();
const prepared = frustum(0.8, 6);
const context = crownContext(takeCrownApart(placed(prepared), master));
const zone = (name: string, c = context) => {
  const z = c.zones.find((q) => q.zone === name);
  if (!z) throw new Error(`no zone ${name}`);
  return z;
};
/** The mesh without what lies at a place. */
const without = (m: Mesh<'tooth'>, gone: (x: number, y: number, z: number) => boolean): Mesh<'tooth'> => {
  const p = m.positions;
  const kept: number[] = [];
  for (let f = 0; f < m.triangles.length; f += 3) {
    const t = m.triangles.subarray(f, f + 3);
    if (![...t].some((v) => gone(p[3 * v], p[3 * v + 1], p[3 * v + 2]))) kept.push(...t);
  }
  return makeMesh('tooth', p, Uint32Array.from(kept));
};

describe('the prepared region', () => {
  const r = targetRegion(placed(prepared), master);
  it('is what was cut, as large as it was cut', () => {
    // Floor, wall and top of the frustum: ring + cone side + disc.
    const t = Math.tan((6 * Math.PI) / 180);
    const [foot, top] = [4.2, 4.2 - 4 * t];
    const area = Math.PI * (25 - foot * foot) + Math.PI * (foot + top) * Math.hypot(4, 4 * t) + Math.PI * top * top;
    expect(Math.abs(r.preparedArea / area - 1)).toBeLessThan(0.03);
  });
  it('has the depth that was taken: 2 mm under the top, none on the uncut side', () => {
    const p = r.mesh.positions;
    for (let v = 0; v < r.depth.length; v++) {
      const [x, y, z] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
      if (z > 4.99 && Math.hypot(x, y) < 2.5) expect(r.depth[v]).toBeCloseTo(2, 2);
      if (z < 0.7) expect(Math.abs(r.depth[v])).toBeLessThan(0.02);
    }
  });
  it('holds nothing where nothing was cut', () => {
    const uncut = stump([
      [0, 7],
      [5, 7],
      [5, -1.5],
    ]);
    expect(targetRegion(placed(uncut), master).preparedArea).toBe(0);
  });
});

describe('zones of the occlusal surface', () => {
  it('a cusp is what lies within 1.25 mm of its tip, seen along the axis', () => {
    const { vertices, coverage } = zone('MB');
    const p = context.anatomy.region.mesh.positions;
    expect(vertices.length).toBeGreaterThan(50);
    for (const v of vertices) expect(Math.hypot(p[3 * v] - 2, p[3 * v + 1] - 2)).toBeLessThanOrEqual(1.25);
    expect(coverage).toBe(1);
    const area = vertices.reduce((s, v) => s + context.anatomy.region.areas[v], 0);
    expect(Math.abs(area / (Math.PI * 1.25 ** 2) - 1)).toBeLessThan(0.1);
  });
  it('the central groove is a strip of a millimetre without its ends', () => {
    const p = context.anatomy.region.mesh.positions;
    const x = zone('central groove').vertices.map((v) => p[3 * v]);
    const y = zone('central groove').vertices.map((v) => Math.abs(p[3 * v + 1]));
    expect(Math.max(...y)).toBeLessThanOrEqual(0.5);
    // 6 mm long, a tenth off at each end; the half millimetre round it reaches past that.
    expect(Math.max(...x)).toBeLessThanOrEqual(2.4 + 0.5);
    expect(Math.min(...x)).toBeGreaterThanOrEqual(-2.4 - 0.5);
  });
  it('a hole makes a zone less seen, and only that zone', () => {
    const holed = without(prepared, (x, y, z) => z > 4.9 && Math.hypot(x - 2, y - 2) < 0.9);
    const c = crownContext(takeCrownApart(placed(holed), master));
    // A hole of 0.9 mm in a circle of 1.25 mm, ragged by a triangle at its rim.
    const left = 1 - (0.9 / 1.25) ** 2;
    expect(Math.abs(zone('MB', c).coverage - left)).toBeLessThan(0.12);
    expect(zone('distal marginal ridge', c).coverage).toBe(zone('distal marginal ridge').coverage);
  });
  it('a master without the landmark says so', () => {
    const bare = cylinderMaster();
    const { landmarks } = bare;
    const plain = {
      ...bare,
      landmarks: { ...landmarks, grooves: [], cusps: [landmarks.cusps[0], { ...landmarks.cusps[0], name: 'DB' }] },
    } as typeof bare;
    const c = crownContext(takeCrownApart(placed(prepared), plain));
    expect(zone('central groove', c)).toMatchObject({ vertices: [], lacking: 'no-groove' });
  });
});

describe('the side of a preparation', () => {
  it('is counted from the finish line to the occlusoaxial edge', () => {
    const { anatomy } = context;
    for (const [z, share] of [
      [1, 0],
      [3, 0.5],
      [5, 1],
    ])
      for (const azimuth of [0, 77, 200]) {
        const a = (azimuth * Math.PI) / 180;
        expect(heightShare(anatomy, 4 * Math.sin(a), 4 * Math.cos(a), z)).toBeCloseTo(share, 1);
      }
  });
  it('is wall where it is steep, floor below and occlusal above', () => {
    const { region } = context.anatomy;
    const p = region.mesh.positions;
    const kinds = new Map<string, Set<string>>();
    context.kinds.forEach((kind, v) => {
      if (!region.prepared[v]) return;
      const r = Math.hypot(p[3 * v], p[3 * v + 1]);
      const z = p[3 * v + 2];
      const place = z > 4.9 && r < 3.4 ? 'top' : z > 1.4 && z < 4.6 ? 'side' : z < 1.05 && r > 4.4 && r < 4.85 ? 'ledge' : null;
      if (place) kinds.set(place, (kinds.get(place) ?? new Set()).add(kind));
    });
    expect([...(kinds.get('top') ?? [])]).toEqual(['occlusal']);
    expect([...(kinds.get('side') ?? [])]).toEqual(['wall']);
    expect([...(kinds.get('ledge') ?? [])]).toEqual(['floor']);
  });
});

describe('whose a point of the scan is', () => {
  const arch = archMaster();
  it('is the master part that it lies on; cut places belong to no part', () => {
    const scan = archScan(frustum(0.8, 6));
    const { part } = ownersOf(scan, arch);
    const p = scan.positions;
    let cut = 0;
    for (let v = 0; v < part.length; v++) {
      const [x, y, z] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
      if (Math.hypot(x, y) < 3 && z > 4.9) {
        expect(part[v]).toBe(-1);
        cut++;
      }
      if (Math.hypot(x, y) < 5.01 && Math.hypot(x, y) > 4.99 && z > 0 && z < 0.8) expect(part[v]).toBe(PART.target);
    }
    expect(cut).toBeGreaterThan(100);
  });
  it('gives the neighbour’s loss and computes it once', () => {
    const scan = archScan(frustum(0.8, 6), 0.05);
    const owners = ownersOf(scan, arch);
    const lost: number[] = [];
    for (let v = 0; v < owners.part.length; v++) if (owners.part[v] === PART.mesial) lost.push(owners.loss[v]);
    lost.sort((a, b) => a - b);
    expect(lost[lost.length >> 1]).toBeGreaterThan(0.03);
    expect(lost[lost.length >> 1]).toBeLessThan(0.08);
    expect(ownersOf(scan, arch)).toBe(owners);
  });
});

describe('an incisal edge', () => {
  /** A roof along x whose crest lies at y = 0.4 and height `z`, with noise and one spike. */
  const roof = (z: (x: number) => number, noise = 0): Float64Array => {
    const random = seeded(3);
    const out: number[] = [];
    for (let x = -4; x <= 4; x += 0.06)
      for (let y = -1.2; y <= 1.2; y += 0.06) out.push(x, y + 0.4, z(x) - 0.35 * y * y + noise * (2 * random.next() - 1));
    return Float64Array.from(out);
  };
  it('is read at its crest, in place and height', () => {
    const edge = edgeHeights(
      roof(() => 8),
      null,
    );
    for (const p of edge.values()) {
      expect(p.z).toBeCloseTo(8, 2);
      expect(p.y).toBeCloseTo(0.4, 1);
    }
  });
  it('leaves out a tenth at each end', () => {
    const x = [
      ...edgeHeights(
        roof(() => 8),
        null,
      ).keys(),
    ].map((i) => 0.3 * i);
    expect(Math.min(...x)).toBeCloseTo(-4 * 0.8, 0);
    expect(Math.max(...x)).toBeCloseTo(4 * 0.8, 0);
  });
  it('is not lifted by noise', () => {
    const z = [
      ...edgeHeights(
        roof(() => 8, 0.03),
        null,
      ).values(),
    ].map((p) => p.z);
    expect(Math.abs(z.reduce((s, v) => s + v, 0) / z.length - 8)).toBeLessThan(0.012);
  });
  /** Any shape across the edge, highest 8 mm up, with noise. */
  const shape = (across: (y: number) => number, noise: number): number[] => {
    const random = seeded(9);
    const out: number[] = [];
    for (let x = -4; x <= 4; x += 0.09) for (let y = -1.4; y <= 1.4; y += 0.07) out.push(x, y, 8 - across(y) + noise * random.normal());
    return [...edgeHeights(Float64Array.from(out), null).values()].map((p) => p.z);
  };
  it.each<[string, (y: number) => number]>([
    ['sharp', (y) => Math.abs(y - 0.2)],
    ['a corner of a steep and a flat side', (y) => (y > 0.3 ? 2.5 * (y - 0.3) : 0.35 * (0.3 - y))],
    ['narrow and round', (y) => 1.2 * y * y],
    ['broad and round', (y) => 0.25 * y * y],
  ])('%s is read at its height, with noise or without', (_, across) => {
    for (const noise of [0, 0.02]) {
      const z = shape(across, noise);
      expect(z.length).toBeGreaterThan(15);
      expect(Math.abs(z.reduce((s, v) => s + v, 0) / z.length - 8), `noise ${noise}`).toBeLessThan(0.02);
    }
  });
  it('ends where the corner falls away', () => {
    const edge = edgeHeights(
      roof((x) => (x > 2 ? 5 : 8)),
      null,
    );
    expect(Math.max(...edge.keys()) * 0.3).toBeLessThan(2.1);
  });
  it('follows only what is asked for', () => {
    const p = roof(() => 8);
    const half = Uint8Array.from({ length: p.length / 3 }, (_, v) => (p[3 * v] < 0 ? 1 : 0));
    expect(Math.max(...edgeHeights(p, half).keys())).toBeLessThanOrEqual(0);
  });
});
