import { beforeAll, expect, it } from 'vitest';
import { applyPoint, fromRotation, fromTranslation, IDENTITY, invertRigid, type Matrix, multiply } from '#core/linalg/rigid.ts';
import { byAxis, distance, dot, sub, toRadians, type Vec3 } from '#core/linalg/vec.ts';
import { faceNormals, intoFrame, type Mesh, makeMesh, subMesh } from '#core/mesh/mesh.ts';
import { placeByBite } from '#core/occlusion/bite.ts';
import { HELD_BY, settle } from '#core/occlusion/settle.ts';
import type { SimulatedMaster } from '#core/simulate/master.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { makeSurface } from '#core/spatial/surface.ts';
import { solidKernel } from '../../src/files/solid-kernel.ts';
import { facialBite } from '../helpers/bite.ts';

/** The jaws of the simulator stand in contact in one frame, so every other place of the opposing file is a truth to be found. */
const cases: Record<string, SimulatedMaster> = {};
beforeAll(async () => {
  const kernel = await solidKernel();
  for (const tooth of ['46', '24']) cases[tooth] = new Workshop(tooth, 5, kernel, { name: 'x', detail: 0.6 }).master;
});

const moved: Matrix = multiply(fromTranslation([31, -12, 6]), multiply(fromRotation([1, 0.4, 0.2], 1.9), fromRotation([0, 0, 1], 0.7)));

const middle = (p: readonly Vec3[]): Vec3 => byAxis((k) => p.reduce((s, q) => s + q[k], 0) / p.length);

/** mm by which a pose carries the opposing teeth away from where they stood. */
const off = (m: Matrix, truth: Matrix, at: readonly Vec3[]): number =>
  Math.max(...at.map((p) => distance(applyPoint(m, applyPoint(invertRigid(truth), p)), p)));

for (const tooth of ['46', '24']) {
  it(`the arch opposing ${tooth} is brought to its place by a bite scan`, () => {
    const { meshes, description: d } = cases[tooth];
    const opposing = intoFrame(meshes.opposing as Mesh, moved, 'master');
    const truth = invertRigid(moved);
    const arch = makeSurface(meshes.arch.mesh);
    const cusps = d.cusps.map((c) => c.at);
    const m = placeByBite(facialBite(meshes.arch.mesh, meshes.opposing as Mesh, d.facial), arch, makeSurface(opposing), {
      ...d,
      at: middle(cusps),
    });
    expect(off(m, truth, cusps)).toBeLessThan(0.05);
  });

  it(`an imprint of the teeth round ${tooth}, put up by hand beside its place and tilted, finds its place by sliding down`, () => {
    const { meshes, description: d } = cases[tooth];
    const { normals } = faceNormals(meshes.arch.mesh);
    const t = meshes.arch.mesh.triangles;
    const p = meshes.arch.mesh.positions;
    // What an impression shows: the biting surfaces, from the other side.
    const tops = subMesh(meshes.arch.mesh, (f) => {
      const above = dot(sub([p[3 * t[3 * f]], p[3 * t[3 * f] + 1], p[3 * t[3 * f] + 2]], d.gingivalMargin[0]), d.axis);
      return above > 3 && dot([normals[3 * f], normals[3 * f + 1], normals[3 * f + 2]], d.axis) > 0.35;
    }).mesh;
    const imprint = makeMesh(
      'master',
      tops.positions,
      tops.triangles.map((_, i) => tops.triangles[i - (i % 3) + [0, 2, 1][i % 3]]),
    );
    const byHand = multiply(
      fromTranslation([0.35, -0.3, 1.5]),
      multiply(fromRotation([1, 0, 0], toRadians(1.5)), fromRotation([0, 0, 1], toRadians(0.5))),
    );
    const s = settle(makeSurface(meshes.arch.mesh), imprint, byHand, d.axis, HELD_BY.hand);
    if (!s) throw new Error('it did not settle');
    const cusps = d.cusps.map((c) => c.at);
    expect(off(byHand, IDENTITY, cusps)).toBeGreaterThan(1.3);
    expect(off(s.matrix, IDENTITY, cusps)).toBeLessThan(0.02);
    expect(s.contacts.length).toBeGreaterThanOrEqual(3);
    expect(s.isRocking).toBe(false);
  });
}
