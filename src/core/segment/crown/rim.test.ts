import { describe, expect, it } from 'vitest';
import { readHalfPlane, walk, wallOf } from '../../../../test/helpers/half-plane.ts';
import { within } from '../../../../test/helpers/within.ts';
import { AZIMUTHS } from './crown.ts';
import type { Profile } from './profile.ts';
import { leanOf, rimOf, settleRims } from './rim.ts';

const DEG = Math.PI / 180;
const NOISE = 0.01;

/** A bevel from the edge at r = 5, z = 1, so wide and so far off the axis, then a level floor to r = 3.9 and a wall leaning 5°. */
const bevelled = (width: number, angle: number): Profile => {
  const corner = [5 - width * Math.sin(angle * DEG), 1 + width * Math.cos(angle * DEG)] as const;
  const top = corner[1] + 3;
  return readHalfPlane([walk([[5, -1.5], [5, 1], corner, [3.9, corner[1]], [3.9 - 3 * Math.tan(5 * DEG), top], [0, top]])]);
};
const shoulder = readHalfPlane([
  walk([
    [5, -1.5],
    [5, 1],
    [3.9, 1],
    [3.9 - 3 * Math.tan(5 * DEG), 4],
    [0, 4],
  ]),
]);
const round = (p: (k: number) => Profile | null): (Profile | null)[] => Array.from({ length: AZIMUTHS }, (_, k) => p(k));
const settled = (p: (k: number) => Profile | null): Profile => settleRims(round(p), NOISE, () => true)[0] as Profile;

describe('a bevel between finish line and floor', () => {
  it.each([
    [0.4, 40],
    [0.5, 55],
    [0.6, 30],
  ])('%f mm wide at %i° is the first piece of its profile', (width, angle) => {
    const rim = rimOf(bevelled(width, angle));
    within(rim ? leanOf(rim) : 0, angle, 3);
    within(rim ? rim.length : 0, width, 0.09);
  });
  it('is none where the floor runs level from the edge, steepens like a chamfer, or turns after a step of the scan', () => {
    expect(rimOf(shoulder)).toBeNull();
    const arc = Array.from({ length: 12 }, (_, k): [number, number] => [
      5 - 0.9 * Math.sin(7.5 * k * DEG),
      1.9 - 0.9 * Math.cos(7.5 * k * DEG),
    ]);
    expect(rimOf(readHalfPlane([walk([[5, -1.5], ...arc, [3.9, 5], [0, 5]])]))).toBeNull();
    expect(rimOf(bevelled(0.08, 45))).toBeNull();
  });
});

describe('what lies over a bevel', () => {
  it.each([
    [0.3, 45],
    [0.4, 38],
    [0.5, 52],
  ])('%f mm wide at %i°: the floor begins at its corner, and the wall’s foot stands on the floor', (width, angle) => {
    const p = settled(() => bevelled(width, angle));
    const corner = [5 - width * Math.sin(angle * DEG), 1 + width * Math.cos(angle * DEG)] as const;
    within(p.floorFrom.r, corner[0], 0.04);
    within(p.floorFrom.z, corner[1], 0.04);
    within(p.edgeRise, 0, 0.05);
    within(wallOf(p).foot.r, 3.9, 0.02);
    within(wallOf(p).foot.z, corner[1], 0.02);
    expect(wallOf(p).floorIsStraight).toBe(true);
  });
  it('the edge is where the bevel runs out, not the floor behind it', () => {
    const { finish } = settled(() => bevelled(0.3, 45));
    within(finish.r, 5, 0.015);
    within(finish.z, 1, 0.02);
  });
  it('is told by most of the half planes round about: one alone is noise, and one without it keeps what it has', () => {
    const own = bevelled(0.4, 40);
    expect(settled((k) => (k === 0 ? own : shoulder))).toBe(own);
    expect(settled((k) => (k === 0 ? shoulder : own))).toBe(shoulder);
    expect(settled((k) => (k < 6 || k > AZIMUTHS - 6 ? own : shoulder))).not.toBe(own);
  });
  it('changes nothing where no half plane shows a bevel', () => {
    const all = round(() => shoulder);
    expect(settleRims(all, NOISE, () => true)).toEqual(all);
  });
});
