import { describe, expect, it } from 'vitest';
import { astray, hills, motion, moved } from '../../../test/helpers/hills.ts';
import { applyPoint, fromTranslation, IDENTITY, invertRigid, type Matrix, multiply } from '../linalg/rigid.ts';
import { distance, length, scale, type Vec3 } from '../linalg/vec.ts';
import { nearestField, nearVertex } from '../spatial/nearest-field.ts';
import { makeSurface } from '../spatial/surface.ts';
import { seeded } from '../statistics/random.ts';
import { sampleSurface } from './sample.ts';
import { pointToPlaneStep, type StepOptions } from './step.ts';
import { fromThreePoints } from './three-points.ts';

const sheet = hills();
const surface = makeSurface(sheet);
const sample = sampleSurface(sheet, 900);
const all: StepOptions = { points: 2000, limit: 2, normalWithin: 0.5, weight: () => 1 };

/** The same for a pose after a motion. */
const off = (pose: Matrix, m: Matrix): number => astray(multiply(pose, m));

describe('points sampled by area', () => {
  it('number about as many as asked, lie on the surface, and stand for equal areas', () => {
    expect(Math.abs(sample.count - 900)).toBeLessThan(10);
    let area = 0;
    for (let f = 0; f < sheet.triangles.length; f += 3) {
      const [a, b, c] = [0, 1, 2].map((k): Vec3 => {
        const v = 3 * sheet.triangles[f + k];
        return [sheet.positions[v], sheet.positions[v + 1], sheet.positions[v + 2]];
      });
      const u = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
      const w = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
      area += length([u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]]) / 2;
    }
    // The border belongs to no sample: a scanner’s edge curls.
    expect(sample.areaEach * sample.count).toBeLessThan(area);
    expect(sample.areaEach * sample.count).toBeGreaterThan(0.93 * area);
    for (let i = 0; i < sample.count; i++)
      expect(Math.max(Math.abs(sample.points[3 * i]), Math.abs(sample.points[3 * i + 1]))).toBeLessThan(7.99);
  });
  it('start with an even sample, whatever number is taken', () => {
    const quarter = [0, 0, 0, 0];
    for (let i = 0; i < 200; i++) quarter[(sample.points[3 * i] > 0 ? 1 : 0) + (sample.points[3 * i + 1] > 0 ? 2 : 0)]++;
    for (const n of quarter) expect(n).toBeGreaterThan(30);
  });
  it('know an open shell from a closed body', () => {
    // The area vector of a sheet depends on its rim alone: it rises by 2.4 sin 8 from one side to the other, and not across.
    const [x, y, z] = sample.openness;
    expect(z).toBeGreaterThan(0.5);
    expect(x / z).toBeCloseTo((-2.4 * Math.sin(8)) / 16, 3);
    expect(y / z).toBeCloseTo(0, 3);
  });
});

describe('one step of the fit', () => {
  it('stays where it is when scan and master agree', () => {
    const s = pointToPlaneStep(sample, surface, IDENTITY, all);
    expect(s?.turn).toBeLessThan(1e-9);
    expect(s?.shift).toBeLessThan(1e-9);
    expect(s?.used).toBe(sample.count);
  });
  it('takes back a small motion but for its square', () => {
    for (const size of [0.02, 0.01]) {
      const m = motion(size, [2 * size, -size, size]);
      const s = pointToPlaneStep(moved(sample, m), surface, IDENTITY, all);
      expect(off(s?.matrix as Matrix, m)).toBeLessThan(40 * size * size);
    }
  });
  it('comes to rest on the motion’s inverse', () => {
    const m = motion(0.06, [0.15, -0.1, 0.2]);
    const scan = moved(sample, m);
    let pose = IDENTITY;
    for (let i = 0; i < 12; i++) pose = pointToPlaneStep(scan, surface, pose, all)?.matrix ?? pose;
    expect(off(pose, m)).toBeLessThan(2e-4);
    const undone = invertRigid(m);
    for (let k = 0; k < 12; k++) expect(pose[k]).toBeCloseTo(undone[k], 3);
  });
  it('ignores points of weight 0', () => {
    const m = motion(0.01, [0.02, 0, 0.01]);
    const cut = moved(sample, m);
    // A third of the points lie half a millimetre under the surface, as a preparation does.
    const points = cut.points.slice();
    for (let i = 0; i < cut.count; i += 3) points[3 * i + 2] -= 0.5;
    const s = pointToPlaneStep({ ...cut, points }, surface, IDENTITY, { ...all, weight: (r) => (Math.abs(r) < 0.2 ? 1 : 0) });
    expect(off(s?.matrix as Matrix, m)).toBeLessThan(0.02);
  });
  it('ignores points that face the other way, lie too far away or on the border', () => {
    const back = { ...sample, normals: sample.normals.map((v) => -v) };
    expect(pointToPlaneStep(back, surface, IDENTITY, all)).toBeNull();
    expect(pointToPlaneStep(moved(sample, fromTranslation([0, 0, 3])), surface, IDENTITY, { ...all, limit: 0.5 })).toBeNull();
    expect(pointToPlaneStep(moved(sample, fromTranslation([40, 0, 0])), surface, IDENTITY, { ...all, limit: 60 })).toBeNull();
  });
  it('gives the same with the last answers as hints', () => {
    const hints = new Int32Array(sample.count).fill(-1);
    const scan = moved(sample, motion(0.02, [0.05, 0, 0]));
    const first = pointToPlaneStep(scan, surface, IDENTITY, { ...all, hints });
    const again = pointToPlaneStep(scan, surface, IDENTITY, { ...all, hints });
    expect(again?.matrix).toEqual(first?.matrix);
  });
  it('hardly moves along directions that the plane does not constrain', () => {
    const flat = hills(40, 8, () => 0);
    const scan = moved(sampleSurface(flat, 500), fromTranslation([0.3, 0, 0.2]));
    const s = pointToPlaneStep(scan, makeSurface(flat), IDENTITY, all);
    // Height and tilt are determined; sliding and turning in the plane are not, and must stay near zero.
    if (s) expect(Math.hypot(s.matrix[3], s.matrix[7])).toBeLessThan(0.5);
  });
});

describe('the table of near vertices', () => {
  const field = nearestField(surface);
  const p = sheet.positions;
  it('gives a vertex hardly farther than the nearest one', () => {
    const random = seeded(4);
    for (let i = 0; i < 200; i++) {
      const q: Vec3 = [12 * random.next() - 6, 12 * random.next() - 6, 8 * random.next() - 4];
      const v = nearVertex(field, ...q);
      let least = Infinity;
      for (let k = 0; k < p.length / 3; k++) least = Math.min(least, distance(q, [p[3 * k], p[3 * k + 1], p[3 * k + 2]]));
      expect(distance(q, [p[3 * v], p[3 * v + 1], p[3 * v + 2]])).toBeLessThan(least + 1.8 * field.cell);
    }
  });
  it('is built once per surface and gives none far outside', () => {
    expect(nearestField(surface)).toBe(field);
    expect(nearVertex(field, 200, 0, 0)).toBe(-1);
  });
});

describe('three pairs of points', () => {
  const m = motion(2.1, [40, -12, 7]);
  const on = (
    [
      [4, 1, 0],
      [-3, 4, 1],
      [-2, -5, 2],
    ] as Vec3[]
  ).map((master) => ({ master, scan: applyPoint(m, master) }));
  it('give the motion back exactly when they fit', () => expect(off(fromThreePoints(on) as Matrix, m)).toBeLessThan(1e-9));
  it('set by hand, they are as exact as the hand', () => {
    const shaky = on.map((q, i) => ({ ...q, scan: [q.scan[0] + 0.3 * (i - 1), q.scan[1], q.scan[2] + 0.2] as Vec3 }));
    expect(off(fromThreePoints(shaky) as Matrix, m)).toBeLessThan(1);
  });
  it('in a line, too close together or too few are refused', () => {
    const line = [0, 1, 2].map((i) => ({ master: [3 * i, 0, 0] as Vec3, scan: [3 * i, 1, 0] as Vec3 }));
    const near = on.map((q) => ({ master: scale(q.master, 0.1), scan: q.scan }));
    expect([fromThreePoints(line), fromThreePoints(near), fromThreePoints(on.slice(0, 2))]).toEqual([null, null, null]);
  });
});
