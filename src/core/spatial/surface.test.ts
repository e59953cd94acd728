import fc from 'fast-check';
import { BufferAttribute, BufferGeometry, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { describe, expect, it } from 'vitest';
import { along, plate, revolve } from '../../../test/helpers/shapes.ts';
import { castRay, closestPoint, makeSurface, newClosest, onBorder, signedDistance } from './surface.ts';

describe('closest points', () => {
  const mesh = revolve(
    along(
      [
        [0, 5],
        [3, 4.2],
        [4, 0],
        [4, -2],
      ],
      0.4,
    ),
    60,
  );
  const surface = makeSurface(mesh);
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(mesh.positions), 3));
  geometry.setIndex(new BufferAttribute(Uint32Array.from(mesh.triangles), 1));
  const bvh = new MeshBVH(geometry, { indirect: true });

  it('agree with an independent library, from any point, with and without a hint', () => {
    const coordinate = fc.double({ min: -8, max: 8, noNaN: true });
    const hit = newClosest();
    fc.assert(
      fc.property(coordinate, coordinate, coordinate, fc.nat(surface.tree.order.length - 1), (x, y, z, hint) => {
        const other = bvh.closestPointToPoint(new Vector3(x, y, z));
        expect(closestPoint(surface, x, y, z, hit)).toBe(true);
        expect(Math.sqrt(hit.distanceSquared)).toBeCloseTo(other?.distance ?? Number.NaN, 4);
        closestPoint(surface, x, y, z, hit, Number.POSITIVE_INFINITY, hint);
        expect(Math.sqrt(hit.distanceSquared)).toBeCloseTo(other?.distance ?? Number.NaN, 4);
      }),
      { numRuns: 300, seed: 20261124 },
    );
  });

  it('have the sign of inside and outside', () => {
    expect(signedDistance(surface, 0, 0, 4)).toBeLessThan(0);
    expect(signedDistance(surface, 4.5, 0, -1)).toBeCloseTo(0.5, 1);
    expect(signedDistance(surface, 3.5, 0, -1)).toBeCloseTo(-0.5, 1);
  });

  it('know when they lie on an open border, also at a corner', () => {
    const hit = newClosest();
    closestPoint(surface, 9, 0.01, -4, hit);
    expect(onBorder(surface, hit)).toBe(true);
    closestPoint(surface, 0.1, 0.2, 7, hit);
    expect(onBorder(surface, hit)).toBe(false);
  });

  it('find nothing beyond the limit', () => expect(closestPoint(surface, 20, 0, 0, newClosest(), 1)).toBe(false));
});

it('a ray hits a plate where it must', () => {
  const s = makeSurface(plate(5, 2));
  expect(castRay(s, [0.3, 0.2, 9], [0, 0, -1])).toBeCloseTo(7, 9);
  expect(castRay(s, [9, 0, 9], [0, 0, -1])).toBeNull();
});
