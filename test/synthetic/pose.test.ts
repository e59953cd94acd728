import { describe, expect, it } from 'vitest';
import { align } from '#core/align/align.ts';
import { fromThreePoints } from '#core/align/three-points.ts';
import { applyPoint, fromRotation, fromTranslation, type Matrix, multiply } from '#core/linalg/rigid.ts';
import { intoFrame, type Mesh, makeMesh, vertexNormals } from '#core/mesh/mesh.ts';
import { measure } from '#core/pipeline.ts';
import { Fault } from '#core/result/fault.ts';
import { seeded } from '#core/statistics/random.ts';
import { archMaster, archScan, frustum } from '../helpers/bench-crown.ts';

/** From a scan in any pose to readings, on shapes that the simulator did not make. */
const master = archMaster();
const scene = archScan(frustum(0.8, 6));

function inPose(mesh: Mesh, seed: number, noise = 0): { scan: Mesh<'scanner'>; pose: Matrix } {
  const random = seeded(seed);
  const axis: [number, number, number] = [random.normal(), random.normal(), random.normal()];
  const pose = multiply(
    fromTranslation([random.between(-40, 40), random.between(-40, 40), random.between(-40, 40)]),
    fromRotation(axis, random.between(0, 6)),
  );
  const positions = mesh.positions.slice();
  if (noise > 0) {
    const { normals } = vertexNormals(mesh);
    for (let v = 0; v < positions.length / 3; v++) {
      const d = noise * random.normal();
      for (let k = 0; k < 3; k++) positions[3 * v + k] += d * normals[3 * v + k];
    }
  }
  return { scan: intoFrame(makeMesh('tooth', positions, mesh.triangles), pose, 'scanner'), pose };
}

describe.each([1, 2, 3, 4])('pose %i', (seed) => {
  const { scan, pose } = inPose(scene, seed, 0.015);
  const m = measure('crown', scan, master);
  const value = (name: string, zone: string | null, stat: string): number =>
    m.readings.find((r) => r.name === name && r.zone === zone && r.stat === stat)?.value ?? Number.NaN;
  it('is found within five micrometres at the tooth', () => {
    for (const p of [
      [0, 0, 3],
      [5, 0, 0],
      [0, -5, 6],
    ] as const) {
      const q = applyPoint(m.scanToMaster, applyPoint(pose, p));
      expect(Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2])).toBeLessThan(0.005);
    }
  });
  it('gives the frustum’s own figures', () => {
    expect(Math.abs(value('margin.width', null, 'median') - 0.8)).toBeLessThan(0.03);
    expect(Math.abs(value('toc.faciolingual', null, 'mean') - 12)).toBeLessThan(1);
    expect(Math.abs(value('margin.gingiva', null, 'median') - 1)).toBeLessThan(0.03);
    expect(Math.abs(value('reduction.occlusal', 'MB', 'median') - 2)).toBeLessThan(0.03);
    expect(Math.abs(value('wall.height', null, 'mean') - 4)).toBeLessThan(0.1);
    expect(Math.abs(value('margin.exit', null, 'median') - 90)).toBeLessThan(3);
    expect(value('draw.tilt', null, 'value')).toBeLessThan(1);
  });
  it('invents no lip, undercut or damage', () => {
    expect(value('margin.lip', null, 'max')).toBeLessThan(0.05);
    expect(value('undercut.depth', null, 'max')).toBeLessThan(0.05);
    expect(value('neighbour.mesial', null, 'max')).toBeLessThan(0.05);
    expect(value('neighbour.distal', null, 'max')).toBeLessThan(0.05);
  });
});

const refusalOf = (scan: Mesh<'scanner'>): string => {
  try {
    align(scan, master);
    return 'accepted';
  } catch (e) {
    if (e instanceof Fault) return e.code;
    throw e;
  }
};

describe('what does not fit is named', () => {
  it('a preparation of the neighbour', () => {
    const wrong = inPose(archScan(null, 1.2), 7).scan;
    expect(() => measure('crown', wrong, master)).toThrow(/Another tooth.*mesial neighbour was cut/);
  });
  it('a mirrored scan', () => {
    const mirrored = intoFrame(scene, [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1], 'tooth');
    expect(refusalOf(inPose(mirrored, 5).scan)).toBe('align.mirrored');
  });
  it('a stump alone', () => expect(refusalOf(inPose(frustum(0.8, 6), 6).scan)).toMatch(/align\.(too-little|one-sided|no-overlap)/));
});

describe('three points set by hand', () => {
  const places = [
    [5, 0, 0.5],
    [-3, 4, 0.2],
    [-2, -4.5, 0.8],
  ] as const;
  it('align a scan exactly when they are exact', () => {
    const { pose } = inPose(scene, 8);
    const m = fromThreePoints(places.map((p) => ({ scan: applyPoint(pose, p), master: p }))) as Matrix;
    for (const p of [
      [0, 0, 0],
      [9, 2, 5],
    ] as const) {
      const q = applyPoint(m, applyPoint(pose, p));
      expect(Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2])).toBeLessThan(1e-9);
    }
  });
  it('in a line leave a rotation free', () =>
    expect(fromThreePoints([0, 1, 2].map((k) => ({ scan: [k, 0, 0] as const, master: [0, k, 0] as const })))).toBeNull());
  it('then allow measuring a stump alone, with the wider U', () => {
    const { scan, pose } = inPose(frustum(0.8, 6), 6, 0.015);
    // As a hand sets them: a fifth of a millimetre off, each its own way.
    const pairs = places.map((p, i) => ({ scan: applyPoint(pose, [p[0] + 0.15 * (i - 1), p[1] - 0.1, p[2] + 0.12 * (1 - i)]), master: p }));
    const m = measure('crown', scan, master, { byHand: fromThreePoints(pairs) });
    const r = m.readings.find((q) => q.name === 'margin.width' && q.zone === null && q.stat === 'median');
    expect(Math.abs((r?.value as number) - 0.8)).toBeLessThan(r?.U as number);
    const depth = m.readings.find((q) => q.name === 'reduction.occlusal' && q.zone === 'MB' && q.stat === 'median');
    expect(Math.abs((depth?.value as number) - 2)).toBeLessThan(depth?.U as number);
  });
});
