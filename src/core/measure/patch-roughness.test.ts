import { describe, expect, it } from 'vitest';
import { plate } from '../../../test/helpers/shapes.ts';
import { within } from '../../../test/helpers/within.ts';
import { makeMesh, vertexAdjacency, vertexNormals } from '../mesh/mesh.ts';
import type { TargetRegion } from '../segment/target.ts';
import { seeded } from '../statistics/random.ts';
import { type AtEdge, patchRoughness } from './patch-roughness.ts';

/** A square of 6 by 6 mm with points 0.1 mm apart, lifted to a height over (x, y). */
function surface(height: (x: number, y: number, v: number) => number): TargetRegion {
  const flat = plate(3, 0, 60);
  const p = flat.positions.slice();
  for (let v = 0; v < p.length / 3; v++) p[3 * v + 2] = height(p[3 * v], p[3 * v + 1], v);
  const mesh = makeMesh('tooth', p, flat.triangles);
  const { normals } = vertexNormals(mesh);
  return { mesh, normals, adjacency: vertexAdjacency(mesh), areas: new Float64Array(p.length / 3).fill(0.01) } as unknown as TargetRegion;
}
const all = (r: TargetRegion, keep: (x: number, y: number) => boolean = () => true): number[] =>
  Array.from({ length: r.areas.length }, (_, v) => v).filter((v) => keep(r.mesh.positions[3 * v], r.mesh.positions[3 * v + 1]));
const rough = (r: TargetRegion, surfaces: readonly (readonly number[])[] = [all(r)], atEdge: AtEdge = 'own points') => {
  const [median, p95] = patchRoughness(r, surfaces, { name: 'wall.rough', zone: null, atEdge });
  return { median, p95 };
};

describe('roughness of a surface', () => {
  it('is none on a plane, and none on a bowl: a quadric takes the whole of it', () => {
    within(rough(surface((x, y) => 0.3 * x - 0.1 * y)).median.value, 0, 1e-9);
    within(rough(surface((x, y) => 0.02 * x * x + 0.01 * x * y - 0.015 * y * y)).median.value, 0, 3e-4);
  });
  it('is the noise of points that are each off by themselves', () => {
    const random = seeded(3);
    const { median, p95 } = rough(surface(() => 0.03 * random.normal()));
    within(median.value, 0.03, 0.002);
    expect(p95.value).toBeGreaterThan(median.value as number);
    expect(p95.value).toBeLessThan(0.04);
  });
  it('of waves a third of a millimetre long is their height over √2', () => {
    within(rough(surface((x) => 0.04 * Math.sin((2 * Math.PI * x) / 0.35))).median.value, 0.04 / Math.SQRT2, 0.003);
  });
  it('sees one rough corner in its 95 %, and not in its median', () => {
    const random = seeded(4);
    const { median, p95 } = rough(surface((x, y) => (x > 1.5 && y > 0 ? 0.08 : 0.005) * random.normal()));
    within(median.value, 0.005, 0.001);
    expect(p95.value).toBeGreaterThan(0.05);
  });
  it('takes no step between two surfaces for roughness, each by its own points', () => {
    const stepped = surface((x) => (x > 0 ? 0.4 : 0));
    const halves = [all(stepped, (x) => x <= 0), all(stepped, (x) => x > 0)];
    within(rough(stepped, halves).median.value, 0, 1e-9);
    // As one surface every patch across the step has it.
    expect(rough(stepped, [all(stepped)]).p95.value).toBeGreaterThan(0.03);
  });
  it('leaves patches at an edge out where it is told to', () => {
    const random = seeded(5);
    const framed = surface((x, y) => (Math.abs(x) > 1 || Math.abs(y) > 1 ? 0 : 0.02) * random.normal());
    const inner = all(framed, (x, y) => Math.abs(x) < 0.9 && Math.abs(y) < 0.9);
    within(rough(framed, [inner], 'left out').median.value, 0.02, 0.003);
  });
  it('of a scrap is refused', () => {
    const r = surface(() => 0);
    const few = all(r, (x, y) => Math.abs(x) < 0.15 && Math.abs(y) < 0.15);
    expect(rough(r, [few]).median).toMatchObject({ value: null, reason: 'nothing-prepared' });
  });
});
