import { describe, expect, it } from 'vitest';
import { DEG, type Vec3 } from '../../linalg/vec.ts';
import { drawDirection, drawLean, insertion, wallsFaceEachOther } from './draw-direction.ts';

/** Outward normal of a plane wall at an azimuth that converges occlusally by `taper` degrees. */
const wall = (azimuth: number, taper: number): Vec3 => [
  Math.cos(taper * DEG) * Math.sin(azimuth * DEG),
  Math.cos(taper * DEG) * Math.cos(azimuth * DEG),
  Math.sin(taper * DEG),
];
const ring = (taper: (azimuth: number) => number): Vec3[] => Array.from({ length: 72 }, (_, k) => wall(5 * k, taper(5 * k)));
const draw = (normals: readonly Vec3[], blur = 0) => {
  const d = drawDirection(normals, blur);
  if (!d) throw new Error('walls give a direction');
  return d;
};

describe('the direction of insertion', () => {
  it('is the axis of a frustum, whose smallest taper is its own', () => {
    const d = draw(ring(() => 6));
    expect(d.tilt).toBeLessThan(0.01);
    expect(d.smallestTaper).toBeCloseTo(6, 2);
  });

  it.each([
    { tilt: 3, azimuth: 90 },
    { tilt: 8, azimuth: 217 },
    { tilt: 12, azimuth: 340 },
  ])('follows a frustum that leans $tilt° to $azimuth°', ({ tilt, azimuth }) => {
    // Rotates the axis [0, 0, 1] to the tilt, about the horizontal line across it.
    const h: Vec3 = [Math.sin(azimuth * DEG), Math.cos(azimuth * DEG), 0];
    const leaning = ring(() => 7).map((n): Vec3 => {
      const along = n[0] * h[0] + n[1] * h[1];
      const turned = along * Math.cos(tilt * DEG) + n[2] * Math.sin(tilt * DEG);
      return [n[0] + (turned - along) * h[0], n[1] + (turned - along) * h[1], n[2] * Math.cos(tilt * DEG) - along * Math.sin(tilt * DEG)];
    });
    const d = draw(leaning);
    expect(d.tilt).toBeCloseTo(tilt, 1);
    expect(Math.abs(d.azimuth - azimuth)).toBeLessThan(0.5);
    expect(d.smallestTaper).toBeCloseTo(7, 1);
  });

  it('shares two opposite walls’ convergence evenly: it leans to the side of the steeper wall', () => {
    // 2° mesially and 10° distally are 6° each from 4° towards mesial.
    const d = draw([wall(90, 2), wall(270, 10), wall(0, 30), wall(180, 30)]);
    expect(d.tilt).toBeCloseTo(4, 1);
    expect(d.azimuth).toBeCloseTo(90, 0);
    expect(d.smallestTaper).toBeCloseTo(6, 1);
  });

  it('has the least undercut where no direction is free', () => {
    // Walls that diverge by 5° together leave 2.5° under each, whatever one does.
    const d = draw([wall(0, -4), wall(180, -1), wall(90, 3), wall(270, 3)]);
    expect(d.smallestTaper).toBeCloseTo(-2.5, 1);
    expect(drawLean(d, 0)).toBeCloseTo(1.5, 1);
  });

  it('stays within 15° of the axis, however far the walls lean', () =>
    expect(draw([wall(180, 60), wall(0, -35)]).tilt).toBeLessThan(15.01));

  it('lies in the middle of the directions that noise cannot separate', () => {
    // Only the facial and the lingual wall decide; mesially and distally anything within their slack is as good.
    const d = draw([wall(0, 3), wall(180, 3), wall(90, 8), wall(270, 4)], 0.5);
    expect(Math.abs(drawLean(d, 0))).toBeLessThan(0.1);
    // Down to 2.5° each, 1.5° may be given away distally and 5.5° mesially: the middle is 2° towards the lesser taper.
    expect(Math.abs(drawLean(d, 270) - 2)).toBeLessThan(0.3);
  });

  it('is refused without walls', () => expect(drawDirection([])).toBeNull());

  it('leans out at its azimuth, in by as much opposite, and not across', () => {
    const d = draw([wall(90, 2), wall(270, 10), wall(0, 30), wall(180, 30)]);
    expect(drawLean(d, 90)).toBeCloseTo(4, 1);
    expect(drawLean(d, 270)).toBeCloseTo(-4, 1);
    expect(drawLean(d, 0)).toBeCloseTo(0, 1);
  });
});

describe('the balanced path', () => {
  const N = 180;
  const leans = (of: (azimuth: number) => number) => Array.from({ length: N }, (_, k) => of((360 * k) / N));
  const normals = (of: (azimuth: number) => number) => leans(of).map((lean, k) => wall((360 * k) / N, lean));
  const path = (of: (azimuth: number) => number) => insertion(leans(of), normals(of)) as NonNullable<ReturnType<typeof insertion>>;
  it.each([
    { tilt: 2, azimuth: 30 },
    { tilt: 5, azimuth: 200 },
  ])('is found again from walls of 7° that were tilted by $tilt° towards $azimuth°', ({ tilt, azimuth }) => {
    const d = path((a) => 7 - tilt * Math.cos((a - azimuth) * DEG));
    expect(d.tilt).toBeCloseTo(tilt, 1);
    expect(Math.abs(d.azimuth - azimuth)).toBeLessThan(1);
    expect(Math.abs(d.smallestTaper - 7)).toBeLessThan(0.1);
  });
  it('does not follow one short steep wall, as the widest direction does', () => {
    // One place at 1° in walls of 8°: balancing all pairs barely moves; the widest direction leans away from it.
    const of = (a: number): number => (Math.abs(a - 90) < 6 ? 1 : 8);
    expect(path(of).tilt).toBeLessThan(0.7);
    expect((drawDirection(normals(of)) as { tilt: number }).tilt).toBeGreaterThan(2.5);
  });
  it('gives way where it would catch on a guide', () => {
    // A groove whose walls stand along a line that leans 3° mesially: only that line is free.
    const guide: Vec3[] = [wall(0, 0), wall(180, 0), wall(90, -3), wall(270, 3)];
    const all = [...normals(() => 6), ...guide];
    const d = insertion(
      leans(() => 6),
      all,
    ) as NonNullable<ReturnType<typeof insertion>>;
    expect(d.smallestTaper).toBeGreaterThan(-0.1);
    expect(d.tilt).toBeCloseTo(3, 0);
  });
  it('has the least undercut where walls undercut each other', () => {
    const d = path((a) => (Math.abs(a - 180) < 40 ? -6 : 2));
    expect(d.smallestTaper).toBeGreaterThan(-3.5);
  });
});

describe('walls that face each other', () => {
  const all = Array.from({ length: 180 }, () => 6);
  const without = (from: number, to: number) => all.map((v, k) => (k >= from && k < to ? null : v));
  it.each([
    ['all round', all, true],
    ['all but a contact’s 60°', without(30, 60), true],
    ['with one half unseen', without(0, 90), false],
    ['with none', without(0, 180), false],
  ] as const)('%s', (_, leans, held) => expect(wallsFaceEachOther(leans)).toBe(held));
});
