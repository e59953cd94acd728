import { describe, expect, it } from 'vitest';
import { along, revolve } from '../../../../test/helpers/shapes.ts';
import { DEG } from '../../linalg/vec.ts';
import { type Mesh, makeMesh, vertexNormals } from '../../mesh/mesh.ts';
import type { TargetRegion } from '../target.ts';
import { pinholesOf } from './pinholes.ts';

const regionOf = (mesh: Mesh<'tooth'>): TargetRegion =>
  ({ mesh, ...vertexNormals(mesh), prepared: new Uint8Array(mesh.positions.length / 3).fill(1) }) as unknown as TargetRegion;

/** A table of radius 3 at z = 2 with a round hole in its middle, as fine as a scan; the hole sheared so that it leans by `lean` degrees. */
function drilled(radius: number, deep: number, { lean = 0, slope = 0 } = {}): TargetRegion {
  const { frame, positions, triangles } = revolve(
    along(
      [
        [0, 2 - deep],
        [radius, 2 - deep],
        [radius, 2],
        [3, 2],
      ],
      0.08,
    ),
    60,
  );
  const p = positions.slice();
  for (let i = 0; i < p.length; i += 3) {
    p[i] += (p[i + 2] - 2) * Math.tan(lean * DEG);
    p[i + 2] += p[i] * Math.tan(slope * DEG);
  }
  return regionOf(makeMesh(frame, p, triangles));
}

describe('pinholes', () => {
  it.each([
    [0.3, 1.5],
    [0.35, 2],
    [0.4, 1],
    [0.3, 3.5],
  ])('one of radius %s, %s mm deep, is as wide and as deep as it was drilled', (radius, deep) => {
    const [hole, ...others] = pinholesOf(drilled(radius, deep));
    expect(others).toEqual([]);
    expect(Math.abs(hole.diameter - 2 * radius)).toBeLessThan(0.03);
    expect(Math.abs(hole.rim - hole.bottom - deep)).toBeLessThan(0.02);
    expect(Math.hypot(hole.x, hole.y)).toBeLessThan(0.05);
    expect(hole.axis?.[2]).toBeGreaterThan(Math.cos(0.5 * DEG));
  });
  it('its axis leans as it was drilled', () => {
    const [hole] = pinholesOf(drilled(0.35, 2, { lean: 8 }));
    const axis = hole.axis as readonly number[];
    expect(Math.abs(Math.acos(axis[2]) / DEG - 8)).toBeLessThan(0.7);
    // Out of the hole it goes on to +x.
    expect(axis[0]).toBeGreaterThan(0.1);
  });
  it('on a slope its rim is that over its middle', () => {
    const [hole] = pinholesOf(drilled(0.35, 2, { slope: 20 }));
    expect(Math.abs(hole.rim - 2)).toBeLessThan(0.06);
  });
  it('a dent of less than half a millimetre is none, nor is a hole that a disc of 1 mm falls into', () => {
    expect(pinholesOf(drilled(0.35, 0.4))).toEqual([]);
    expect(pinholesOf(drilled(0.55, 1.5))).toEqual([]);
  });
  it('what is open to one side is no hole', () => {
    const r = drilled(0.35, 2);
    const p = r.mesh.positions;
    // Only half of the table was prepared: on the other side there is no rim.
    const prepared = r.prepared.map((_, v) => (p[3 * v] < 0.4 ? 1 : 0));
    expect(pinholesOf({ ...r, prepared })).toEqual([]);
  });
  it('deeper than any pinhole is drilled it came out at the side', () => expect(pinholesOf(drilled(0.35, 5))).toEqual([]));
  it('an undrilled table has none, nor has one of which nothing is prepared', () => {
    const r = drilled(0.35, 0);
    expect(pinholesOf(r)).toEqual([]);
    expect(pinholesOf({ ...r, prepared: r.prepared.map(() => 0) })).toEqual([]);
  });
});
