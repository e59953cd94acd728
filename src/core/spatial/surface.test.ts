import fc from 'fast-check';
import { BufferAttribute, BufferGeometry, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { describe, expect, it } from 'vitest';
import { along, plate, revolve } from '../../../test/helpers/shapes.ts';
import { makeMesh } from '../mesh/mesh.ts';
import { castRay } from './ray.ts';
import { closestPoint, makeSurface, newClosest, onBorder, signedDistance } from './surface.ts';
import { makeTree } from './tree.ts';

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

  it('know whether they lie on an open border, corners included', () => {
    const hit = newClosest();
    closestPoint(surface, 9, 0.01, -4, hit);
    expect(onBorder(surface, hit)).toBe(true);
    closestPoint(surface, 0.1, 0.2, 7, hit);
    expect(onBorder(surface, hit)).toBe(false);
  });

  it('are absent beyond the limit', () => expect(closestPoint(surface, 20, 0, 0, newClosest(), 1)).toBe(false));
});

it('bounds round leaves hide no triangle, however ragged and however far from the origin', () => {
  const number = fc.double({ min: -3, max: 3, noNaN: true });
  const corner = fc.tuple(number, number, number);
  fc.assert(
    fc.property(fc.array(fc.tuple(corner, corner, corner), { minLength: 1, maxLength: 40 }), corner, fc.nat(60), (triangles, q, far) => {
      // Some flattened to slivers and points: they have no plane of their own.
      const flat = triangles.map(([a, b, c], i) => (i % 5 === 0 ? [a, a, a] : i % 3 === 0 ? [a, b, b] : [a, b, c]));
      const positions = Float64Array.from(flat.flat(2), (x) => x + far);
      const one = (i: number) => makeSurface(makeMesh('tooth', positions.slice(9 * i, 9 * i + 9), Uint32Array.of(0, 1, 2)));
      const all = makeSurface(
        makeMesh(
          'tooth',
          positions,
          Uint32Array.from({ length: positions.length / 3 }, (_, i) => i),
        ),
      );
      const hit = newClosest();
      const at = [q[0] + far, q[1] + far, q[2] + far] as const;
      const distances = flat.flatMap((_, i) => (closestPoint(one(i), ...at, hit) ? [Math.sqrt(hit.distanceSquared)] : []));
      expect(closestPoint(all, ...at, hit)).toBe(true);
      expect(Math.sqrt(hit.distanceSquared)).toBeCloseTo(Math.min(...distances), 9);
      const rays = flat.flatMap((_, i) => castRay(one(i), at, [0, 0, 1]) ?? []);
      const first = castRay(all, at, [0, 0, 1]);
      if (rays.length === 0) expect(first).toBeNull();
      else expect(first).toBeCloseTo(Math.min(...rays), 9);
    }),
    { numRuns: 300, seed: 20261126 },
  );
});

it('a ray within the face of a box meets what lies in it', () => {
  const s = makeSurface(plate(5, 0));
  expect(castRay(s, [5, -5, 4], [0, 0, -1])).toBeCloseTo(4, 9);
  expect(castRay({ tree: makeTree(makeMesh('tooth', new Float64Array(), new Uint32Array())) }, [0, 0, 0], [0, 0, 1])).toBeNull();
});

it('a ray hits a plate where it must', () => {
  const s = makeSurface(plate(5, 2));
  expect(castRay(s, [0.3, 0.2, 9], [0, 0, -1])).toBeCloseTo(7, 9);
  expect(castRay(s, [9, 0, 9], [0, 0, -1])).toBeNull();
});
