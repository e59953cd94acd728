import fc from 'fast-check';
import { BufferAttribute, BufferGeometry, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { describe, expect, it } from 'vitest';
import { along, plate, revolve } from '../../../test/helpers/shapes.ts';
import { makeMesh } from '../mesh/mesh.ts';
import { castRay } from './ray.ts';
import { closestPoint, makeSurface, newClosest, onBorder, type Surface, signedDistance, signOf } from './surface.ts';
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
      // Some flattened to lines and points: they have no plane of their own, and are no surface by themselves.
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
      expect(closestPoint(all, ...at, hit)).toBe(distances.length > 0);
      if (distances.length > 0) expect(Math.sqrt(hit.distanceSquared)).toBeCloseTo(Math.min(...distances), 9);
      const rays = flat.flatMap((_, i) => castRay(one(i), at, [0, 0, 1]) ?? []);
      const first = castRay(all, at, [0, 0, 1]);
      if (rays.length === 0) expect(first).toBeNull();
      else expect(first).toBeCloseTo(Math.min(...rays), 9);
    }),
    { numRuns: 300, seed: 20261126 },
  );
});

describe('triangles that are no more than a line', () => {
  /** A cone of 60 faces whose tip is a row of corners at one place, as a lathe leaves it: every second triangle there is flat. */
  const cone = (): Surface => {
    const n = 60;
    const positions: number[] = [];
    for (let k = 0; k < n; k++) {
      const a = (2 * Math.PI * k) / n;
      positions.push(3 * Math.sin(a), 3 * Math.cos(a), 0, 0, 0, 2);
    }
    const triangles = Array.from({ length: n }, (_, k) => {
      const [base, tip, nextBase, nextTip] = [2 * k, 2 * k + 1, 2 * ((k + 1) % n), 2 * ((k + 1) % n) + 1];
      return [base, tip, nextBase, nextBase, tip, nextTip];
    });
    return makeSurface(makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles.flat())));
  };
  it('say nothing about inside and outside, whichever was the likely answer', () => {
    const s = cone();
    const hit = newClosest();
    for (const [x, y] of [
      [0.01, 0.02],
      [-0.2, 0.1],
      [0, 0.3],
    ])
      for (let slot = 0; slot < s.tree.order.length; slot += 7) {
        closestPoint(s, x, y, 0.5, hit, Number.POSITIVE_INFINITY, slot);
        expect(signOf(s, hit, x, y, 0.5)).toBe(-1);
        closestPoint(s, x, y, 3, hit, Number.POSITIVE_INFINITY, slot);
        expect(signOf(s, hit, x, y, 3)).toBe(1);
      }
    // A distance to the cone's flank: height 2 over a radius of 3.
    expect(signedDistance(s, 0, 0, 1)).toBeCloseTo(-3 / Math.hypot(2, 3), 2);
  });
  it('are told by their height, not by their area: a small triangle of good shape stays', () => {
    const of = (...p: number[]) => makeSurface(makeMesh('tooth', Float64Array.from(p), Uint32Array.of(0, 1, 2))).tree.order.length;
    expect(of(0, 0, 0, 1, 0, 0, 0.5, 5e-6, 0)).toBe(0);
    expect(of(0, 0, 0, 1, 0, 0, 0.5, 5e-5, 0)).toBe(1);
    expect(of(0, 0, 0, 1e-3, 0, 0, 5e-4, 1e-3, 0)).toBe(1);
  });
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
