import { describe, expect, it } from 'vitest';
import { faceNormals, type Mesh, makeMesh } from '../mesh/mesh.ts';
import { makeSurface } from '../spatial/surface.ts';
import { probe } from './probe.ts';

/** A plane through the origin that leans by so many degrees to the z axis and looks to +x, as a grid. */
function leaning(degrees: number): Mesh<'tooth'> {
  const a = (degrees * Math.PI) / 180;
  const positions: number[] = [];
  for (let i = -10; i <= 10; i++) for (let j = -10; j <= 10; j++) positions.push(-0.1 * j * Math.sin(a), 0.1 * i, 0.1 * j * Math.cos(a));
  const triangles: number[] = [];
  for (let i = 0; i < 20; i++)
    for (let j = 0; j < 20; j++) {
      const v = 21 * i + j;
      triangles.push(v, v + 21, v + 1, v + 1, v + 21, v + 22);
    }
  return makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles));
}
const probed = (mesh: Mesh<'tooth'>, depth: (v: number) => number) => ({
  surface: makeSurface(mesh),
  depth: Float32Array.from({ length: mesh.positions.length / 3 }, (_, v) => depth(v)),
  areas: faceNormals(mesh).areas,
});
const roof = makeSurface(
  makeMesh('tooth', Float64Array.from([-9, -9, 2, 9, -9, 2, 9, 9, 2, -9, 9, 2]), Uint32Array.from([0, 2, 1, 0, 3, 2])),
);

describe.each([0, 6, 45, 90])('a surface that leans by %s degrees', (degrees) => {
  const mesh = leaning(degrees);
  const at = probe(
    probed(mesh, (v) => mesh.positions[3 * v + 1] + 1),
    roof,
    [0.1, 0.234, 0],
    0.01,
  );
  it('reads its lean', () => expect(at?.lean.value).toBeCloseTo(degrees, 4));
  it('reads the depth between the corners that carry it', () => expect(at?.depth.value).toBeCloseTo(1 + (at?.at[1] ?? 0), 5));
  it('reads the room over it', () => expect(at?.gap?.value).toBeCloseTo(2 - (at?.at[2] ?? 0), 6));
  it('rests on the surface under the place that was pointed at', () => expect(at?.at[1]).toBeCloseTo(0.234, 6));
});

it('refuses beside the tooth, and without an opposing arch', () => {
  const scan = probed(leaning(0), () => 1);
  expect(probe(scan, null, [3, 0, 0], 0.01)).toBeNull();
  expect(probe(scan, null, [0, 0, 0], 0.01)?.gap).toBeNull();
  expect(probe(scan, null, [0, 0, 0], 0.01)?.depth.U).toBeCloseTo(2 * Math.hypot(0.02, 0.01), 9);
});
