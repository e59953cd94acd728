import { describe, expect, it } from 'vitest';
import { plate } from '../../../../test/helpers/shapes.ts';
import { DEG } from '../../linalg/vec.ts';
import { makeMesh, vertexAdjacency, vertexNormals } from '../../mesh/mesh.ts';
import { seeded } from '../../statistics/random.ts';
import type { TargetRegion } from '../target.ts';
import { boxFloor, floorAt, floorsOf, LEVEL, sameLevel, sunken } from './floors.ts';

/** A surface of 8 × 8 mm over a grid of 0.1 mm, all of it prepared. */
function surface(height: (x: number, y: number) => number): TargetRegion {
  const { positions, triangles } = plate(4, 0, 80);
  const p = positions.slice();
  for (let i = 0; i < p.length; i += 3) p[i + 2] = height(p[i], p[i + 1]);
  const mesh = makeMesh('tooth', p, triangles);
  return {
    mesh,
    ...vertexNormals(mesh),
    adjacency: vertexAdjacency(mesh),
    prepared: new Uint8Array(p.length / 3).fill(1),
  } as unknown as TargetRegion;
}

/** Steep enough to be a wall: 45° from a floor is none. */
const step = (d: number, up: number): number => Math.min(up, Math.max(0, 6 * d));

describe('floors', () => {
  it('a plane is given back with its level, its slopes and nothing off it', () => {
    const r = surface((x, y) => 1.2 + Math.tan(3 * DEG) * x - Math.tan(5 * DEG) * y);
    const [f, ...others] = floorsOf(r, 0, LEVEL);
    expect(others).toEqual([]);
    expect(f.plane.a).toBeCloseTo(1.2, 9);
    expect(Math.atan(f.plane.b) / DEG).toBeCloseTo(3, 9);
    expect(Math.atan(f.plane.c) / DEG).toBeCloseTo(-5, 9);
    expect(f.plane.flat).toBeLessThan(1e-6);
    expect(floorAt(f.plane, 2, -1)).toBeCloseTo(1.2 + 2 * Math.tan(3 * DEG) + Math.tan(5 * DEG), 9);
    expect(f.area).toBeCloseTo(64 / Math.cos(3 * DEG) / Math.cos(5 * DEG), 0);
  });
  it('noise is not unevenness: what the scan adds is taken off', () => {
    const random = seeded(5);
    const r = surface(() => 0.01 * random.normal());
    // All of it is floor whatever its points' own normals say.
    const level = { ...r, normals: r.normals.map((_, i) => (i % 3 === 2 ? 1 : 0)) };
    expect(floorsOf(level, 0, LEVEL)[0].plane.flat).toBeCloseTo(0.01, 3);
    expect(floorsOf(level, 0.01, LEVEL)[0].plane.flat).toBeLessThan(0.002);
  });
  it('a wave of amplitude A leaves A / √2', () => {
    const r = surface((x) => 0.04 * Math.cos(Math.PI * x));
    expect(floorsOf(r, 0, Math.cos(20 * DEG))[0].plane.flat).toBeCloseTo(0.04 / Math.SQRT2, 3);
  });
  it('two levels with a wall between them are two floors, the larger first, and not one level', () => {
    const r = surface((x) => step(x - 1, 1.5));
    const [larger, smaller, ...others] = floorsOf(r, 0, LEVEL);
    expect(others).toEqual([]);
    expect(larger.plane.a).toBeCloseTo(0, 6);
    expect(smaller.centre[2]).toBeCloseTo(1.5, 6);
    expect(sameLevel(smaller, larger)).toBe(false);
    expect(sameLevel(larger, larger)).toBe(true);
  });
  it('what was not prepared is no floor', () => {
    const r = surface(() => 0);
    const p = r.mesh.positions;
    const [f] = floorsOf({ ...r, prepared: r.prepared.map((_, v) => (p[3 * v] > 0.05 ? 1 : 0)) }, 0, LEVEL);
    expect(f.centre[0]).toBeCloseTo(2, 0);
    expect(f.area).toBeLessThan(33);
  });
  it('a floor in a hole is sunken, a table over its surroundings is not', () => {
    const hole = surface((x, y) => step(Math.hypot(x, y) - 2, 1));
    const floor = floorsOf(hole, 0, LEVEL).find((f) => Math.abs(f.centre[2]) < 0.1);
    expect(floor && sunken(hole, floor)).toBe(true);
    const table = surface((x, y) => 1 - step(Math.hypot(x, y) - 2, 1));
    const top = floorsOf(table, 0, LEVEL).find((f) => f.centre[2] > 0.9);
    expect(top && sunken(table, top)).toBe(false);
  });
  it('a box’s floor lies on its own side, in the middle of it, and not on the other', () => {
    // A box open to mesial (+x), 3 mm across, 1.5 mm under the rest.
    const r = surface((x, y) => step(1 - x, 1.5) + step(Math.abs(y) - 1.5, 1.5));
    const floors = floorsOf(r, 0, LEVEL);
    const mesial = boxFloor(floors, r, 0, 1);
    expect(mesial?.centre[0]).toBeGreaterThan(1);
    expect(mesial?.centre[2]).toBeCloseTo(0, 2);
    expect(Math.abs(mesial?.centre[1] ?? 9)).toBeLessThan(0.2);
    expect(
      boxFloor(
        floors.filter((f) => f.centre[2] < 0.5),
        r,
        0,
        -1,
      ),
    ).toBeNull();
  });
});
