import { describe, expect, it } from 'vitest';
import { notchedWall, type Place, R, round, wall } from '../../../../test/helpers/notched-wall.ts';
import { DEG } from '../../linalg/vec.ts';
import { vertexNormals } from '../../mesh/mesh.ts';
import type { CrownAnatomy } from '../crown/crown.ts';
import { groovesOf } from './grooves.ts';

const HEIGHT = 4;

/** What grooves are looked for on: a prepared wall between finish line and occlusal surface, covered from azimuth 30 to 150°. */
function anatomy(cut: readonly Place[], lip: number, twist = 0): CrownAnatomy {
  const mesh = notchedWall(cut, lip, HEIGHT, twist);
  const azimuths = Array.from({ length: 120 }, (_, k) => 3 * k);
  return {
    covered: azimuths.map((a) => a >= 30 && a <= 150),
    finishZ: azimuths.map(() => 0),
    wallTop: azimuths.map(() => HEIGHT),
    region: { mesh, normals: vertexNormals(mesh).normals, prepared: new Uint8Array(mesh.positions.length / 3).fill(1) },
    master: { target: wall },
    alignment: { noise: 0.01 },
  } as unknown as CrownAnatomy;
}

describe('grooves up a wall', () => {
  it.each([
    [0.5, 0.7],
    [0.4, 0.6],
    [0.6, 0.5],
  ])('one by a cutter of radius %s, %s mm deep, is as wide and deep as it was cut, and stands along the axis', (r, deep) => {
    const { cut, lip } = round(r, deep);
    const [groove, ...others] = groovesOf(anatomy(cut, lip));
    expect(others).toEqual([]);
    expect(Math.abs(groove.width - 2 * lip)).toBeLessThan(0.05);
    expect(Math.abs(groove.depth - deep)).toBeLessThan(0.05);
    expect(groove.direction[2]).toBeGreaterThan(Math.cos(0.5 * DEG));
    expect(groove.azimuth).toBeCloseTo(90, 0);
    // It runs over nearly all of the wall.
    expect(groove.to[2] - groove.from[2]).toBeGreaterThan(0.9 * HEIGHT);
  });
  it.each([3, 6, 9])('one that leans by %s° round the tooth reads that', (lean) => {
    const { cut, lip } = round(0.5, 0.7);
    // Its cutter's middle stands this far from the axis: so much turn a millimetre carries that sideways by the tangent of its lean.
    const middle = Math.sqrt(R * R - lip * lip) - 0.7 + 0.5;
    const [groove] = groovesOf(anatomy(cut, lip, Math.tan(lean * DEG) / middle));
    expect(Math.abs(Math.acos(groove.direction[2]) / DEG - lean)).toBeLessThan(0.6);
    // Azimuth grows with height: at 90° that is towards −y, lingual.
    expect(groove.direction[1]).toBeLessThan(0);
  });
  it('a wall without one has none', () => {
    const bare = round(0.5, 0.7).lip;
    const smooth = Array.from({ length: 101 }, (_, i): Place => {
      const a = Math.PI / 2 + Math.asin(bare / R) * (i / 50 - 1);
      return [R * Math.sin(a), R * Math.cos(a)];
    });
    expect(groovesOf(anatomy(smooth, bare))).toEqual([]);
  });
  it('one of less than 0.8 mm of height is no groove', () => {
    const { cut, lip } = round(0.5, 0.7);
    const a = anatomy(cut, lip);
    const p = a.region.mesh.positions;
    const prepared = a.region.prepared.map((_, v) => (p[3 * v + 2] > 1 && p[3 * v + 2] < 1.6 ? 1 : 0));
    expect(groovesOf({ ...a, region: { ...a.region, prepared } })).toEqual([]);
  });
  it('what leans more than a groove may is none', () => {
    const { cut, lip } = round(0.5, 0.7);
    expect(groovesOf(anatomy(cut, lip, Math.tan(25 * DEG) / 4.2))).toEqual([]);
  });
});
