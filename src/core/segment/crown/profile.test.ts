import { describe, expect, it } from 'vitest';
import { chain, readHalfPlane, TAU, walk, wallOf } from '../../../../test/helpers/half-plane.ts';
import { readProfile } from './profile.ts';

const DEG = Math.PI / 180;

/** Uncut side up to z = 1, a floor 0.9 wide, a wall 3.5 high leaning `lean`, and a flat top. */
const shoulder = (lean: number, floor: readonly (readonly [number, number])[] = [[4.1, 1]]): [number, number][] => {
  const [foot, z] = floor[floor.length - 1];
  return walk([[5, -1.5], [5, 1], ...floor, [foot - 3.5 * Math.tan(lean * DEG), z + 3.5], [0, z + 3.5]]);
};
describe('the profile of a shoulder', () => {
  it.each([0, 3, 8, 15])('has its edge, its foot and a wall leaning %i°', (lean) => {
    const p = readHalfPlane([shoulder(lean)]);
    expect(p.finish.r).toBeCloseTo(5, 1);
    expect(p.finish.z).toBeCloseTo(1, 1);
    const wall = wallOf(p);
    expect(Math.abs(wall.lean - lean)).toBeLessThan(0.4);
    expect(wall.foot.r).toBeCloseTo(4.1, 1);
    expect(wall.foot.z).toBeCloseTo(1, 1);
    expect(wall.floorIsStraight).toBe(true);
    expect(wall.leavesZ).toBeGreaterThan(0.99);
    expect(wall.leavesZ).toBeLessThan(1.1);
  });
  it('is the same whichever end its chain begins with', () => {
    const there = readHalfPlane([shoulder(6)]);
    const back = readHalfPlane([shoulder(6).reverse()]);
    expect(back.finish.r).toBeCloseTo(there.finish.r, 6);
    expect(wallOf(back).lean).toBeCloseTo(wallOf(there).lean, 6);
  });
  it('has its floor run inward', () => {
    const { floor } = readHalfPlane([shoulder(6)]);
    expect(floor.dr).toBeLessThan(-0.97);
    expect(Math.hypot(floor.dr, floor.dz)).toBeCloseTo(1, 6);
  });
  it('ends its wall at the occlusoaxial edge', () => {
    const { top } = wallOf(readHalfPlane([shoulder(5)]));
    expect(top.z).toBeCloseTo(4.5, 1);
    expect(top.r).toBeCloseTo(4.1 - 3.5 * Math.tan(5 * DEG), 1);
  });
});

describe('other margins', () => {
  it('an undercut wall leans the other way', () => expect(wallOf(readHalfPlane([shoulder(-4)])).lean).toBeCloseTo(-4, 0));
  it('a chamfer has a curved floor; its wall line is carried down to the floor', () => {
    // A quarter of a circle of radius 0.8 from the edge into the wall.
    const arc = Array.from({ length: 16 }, (_, k): [number, number] => {
      const a = (k / 15) * 84 * DEG;
      return [5 - 0.8 * Math.sin(a), 1 + 0.8 * (1 - Math.cos(a))];
    });
    const p = readHalfPlane([shoulder(6, arc)]);
    const wall = wallOf(p);
    expect(wall.floorIsStraight).toBe(false);
    expect(Math.abs(wall.lean - 6)).toBeLessThan(0.6);
    expect(p.finish.r).toBeCloseTo(5, 1);
    expect(wall.foot.z).toBeLessThan(1.06);
    // The arc runs into the wall 0.72 mm over the floor, and has left it by a standard deviation of the noise a little below.
    expect(Math.abs(wall.leavesZ - (1 + 0.8 * (1 - Math.cos(84 * DEG))))).toBeLessThan(0.16);
  });
  it('a second plane is part of the side, but not of the primary wall', () => {
    const bent: [number, number][] = walk([
      [5, -1.5],
      [5, 1],
      [4.1, 1],
      [4.1 - 2 * Math.tan(4 * DEG), 3],
      [4.1 - 2 * Math.tan(4 * DEG) - 2 * Math.tan(25 * DEG), 5],
      [0, 5],
    ]);
    const both = wallOf(readHalfPlane([bent]));
    expect(Math.abs(both.lean - 4)).toBeLessThan(0.6);
    expect(both.top.z).toBeCloseTo(5, 1);
    expect(wallOf(readHalfPlane([bent], false)).top.z).toBeCloseTo(3, 1);
  });
  it('a side that only slopes has no wall', () => {
    const slope = walk([
      [5, -1.5],
      [5, 1],
      [2, 2.5],
      [0, 2.6],
    ]);
    expect(readHalfPlane([slope]).wall).toBeNull();
  });
});

describe('where the side ends', () => {
  /** Corner of wall and top rounded by a circle that touches both. */
  const rounded = (lean: number, radius: number): [number, number][] => {
    const foot = 4.1;
    const l = lean * DEG;
    // The circle lies `radius` inside of the wall line and under the top at z = 4.5.
    const centre = [foot - (4.5 - radius - 1) * Math.tan(l) - radius / Math.cos(l), 4.5 - radius];
    const arc = Array.from({ length: 13 }, (_, i): [number, number] => {
      const a = l + ((90 - lean) * DEG * i) / 12;
      return [centre[0] + radius * Math.cos(a), centre[1] + radius * Math.sin(a)];
    });
    return walk([[5, -1.5], [5, 1], [foot, 1], ...arc, [0, 4.5]], 0.03);
  };
  it.each([0.2, 0.35, 0.5])('a rounding of %f mm ends it where it has turned by 45°', (radius) => {
    const { top } = wallOf(readHalfPlane([rounded(5, radius)]));
    expect(Math.abs(top.z - (4.5 - radius + radius * Math.sin(45 * DEG)))).toBeLessThan(0.03);
  });
  it('a bevel of less than 45° from upright belongs to it, a flatter one does not', () => {
    const bevelled = (angle: number): [number, number][] => {
      const r = 4.1 - 2.5 * Math.tan(5 * DEG);
      return walk([
        [5, -1.5],
        [5, 1],
        [4.1, 1],
        [r, 3.5],
        [r - Math.tan(angle * DEG), 4.5],
        [0, 4.5],
      ]);
    };
    // A direction is taken over a third of a millimetre, and so turns a little before a sharp corner.
    expect(Math.abs(wallOf(readHalfPlane([bevelled(35)])).top.z - 4.5)).toBeLessThan(0.1);
    expect(Math.abs(wallOf(readHalfPlane([bevelled(55)])).top.z - 3.5)).toBeLessThan(0.1);
  });
  it('before a fossa it is the corner of the two, though it is rounded', () => {
    // The wall leans 5°; behind a rounded corner the fossa falls back at 60° from upright.
    const wallAt = (z: number): number => 4.1 - (z - 1) * Math.tan(5 * DEG);
    const corner: [number, number] = [wallAt(3.5), 3.5];
    const back = (d: number): [number, number] => [corner[0] - d * Math.sin(60 * DEG), corner[1] + d * Math.cos(60 * DEG)];
    const cut = walk([[5, -1.5], [5, 1], [4.1, 1], [wallAt(3.3), 3.3], back(0.2), back(2.4), [0, 4.8]]);
    expect(wallOf(readHalfPlane([cut], false)).top.z).toBeCloseTo(3.5, 1);
  });
});

describe('a floor’s own direction', () => {
  it('is level, or rises as it was cut', () => {
    expect(readHalfPlane([shoulder(6)]).edgeRise / DEG).toBeCloseTo(0, 0);
    const rising = walk([
      [5, -1.5],
      [5, 1],
      [4.2, 1 + 0.8 * Math.tan(20 * DEG)],
      [3.9, 4.5],
      [0, 4.5],
    ]);
    expect(Math.abs(readHalfPlane([rising]).edgeRise / DEG - 20)).toBeLessThan(2);
    expect(Math.abs((wallOf(readHalfPlane([rising])).floorRise as number) / DEG - 20)).toBeLessThan(1);
  });
  it('bows where it is a curve, and not where it is straight', () => {
    expect(Math.abs(wallOf(readHalfPlane([shoulder(6)])).floorBow as number)).toBeLessThan(0.005);
    const arc = Array.from({ length: 9 }, (_, k): [number, number] => [5 - 0.1 * k, 1 + 0.25 * (0.1 * k) ** 2]);
    const bow = wallOf(readHalfPlane([walk([[5, -1.5], ...arc, [3.9, 4.5], [0, 4.5]], 0.02)])).floorBow;
    expect(bow as number).toBeGreaterThan(0.01);
  });
});

describe('what cannot be read, or only in part', () => {
  it('an uncut side has no profile', () =>
    expect(
      readProfile(
        0,
        [
          chain(
            walk([
              [5, -1.5],
              [5, 7],
              [0, 7],
            ]),
          ),
        ],
        TAU,
        0.01,
      ),
    ).toBeNull());
  it('nothing at all has none', () => expect(readProfile(0, [], TAU, 0.01)).toBeNull());
  it('a hole in the wall of up to a millimetre is carried across', () => {
    const all = shoulder(6);
    const low = all.filter(([r, z]) => r > 4.02 || z < 2.2);
    const high = all.filter(([r, z]) => r <= 4.02 && z > 2.9);
    const wall = wallOf(readHalfPlane([low, high]));
    expect(Math.abs(wall.lean - 6)).toBeLessThan(0.6);
    expect(wall.top.z).toBeCloseTo(4.5, 1);
  });
  it('a wider one is not: the wall over it has no finish line of its own', () => {
    const all = shoulder(6);
    const low = all.filter(([r, z]) => r > 4.02 || z < 2);
    const high = all.filter(([r, z]) => r <= 4.02 && z > 3.4);
    expect(readProfile(0, [chain(low), chain(high)], TAU, 0.01)).toBeNull();
  });
  it('where the hole took the edge nobody saw a finish line', () => {
    const all = shoulder(6);
    const outside = all.filter(([r, z]) => r > 4.99 && z < 0.8);
    const inside = all.filter(([r]) => r < 4.7);
    expect(readProfile(0, [chain(outside), chain(inside)], TAU, 0.01)).toBeNull();
  });
});
