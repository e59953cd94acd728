import { describe, expect, it } from 'vitest';
import { at, type Contour, PLACE, underChords } from './contour.ts';

/** A wall along y at x = 5 with a notch of a depth over a stretch; azimuth grows from facial to lingual, so y falls. */
const wall = (depth: number, half = 0.5, hole: (y: number) => boolean = () => false): Contour =>
  Array.from({ length: 121 }, (_, k) => {
    const y = PLACE * (60 - k);
    return hole(y) ? null : ([5 - (Math.abs(y) < half ? depth : 0), y] as const);
  });

const underChord = (line: Contour, k: number): number => underChords(line)[k];

describe('how far a place of a contour lies under its surroundings', () => {
  it.each([0.2, 0.5, 0.9])('in a notch %s mm deep it is that', (depth) => expect(underChord(wall(depth), 60)).toBeCloseTo(depth, 9));
  it('on a straight wall it is nothing, at a step outward as well', () => {
    expect(underChord(wall(0), 60)).toBeCloseTo(0, 9);
    expect(underChord(wall(-0.4), 60)).toBeCloseTo(0, 9);
  });
  it('of a notch wider than is looked at nothing is seen', () => {
    expect(underChord(wall(0.5, 2.6), 60)).toBeLessThan(0.01);
  });
  it('a gap of the scan within reach takes nothing away', () => {
    expect(
      underChord(
        wall(0.5, 0.5, (y) => y > 0.8 && y < 1),
        60,
      ),
    ).toBeCloseTo(0.5, 9);
  });
  it.each([0.095, 0.12])('a notch of %s mm, less than one, is told as well', (depth) =>
    expect(underChord(wall(depth), 60)).toBeCloseTo(depth, 9),
  );
  it('on a round wall of 4 mm a groove lies under its lips, the wall under nothing', () => {
    // Chords of the whole circle lie inside of it; across the groove from lip to lip the middle lies 4 cos 5° − 3.4 under.
    const round: Contour = Array.from({ length: 141 }, (_, k) => {
      const azimuth = ((k - 70) / 70) * (Math.PI / 4);
      const r = Math.abs(azimuth) < (5.0001 * Math.PI) / 180 ? 3.4 : 4;
      return [r * Math.sin(azimuth + Math.PI / 2), r * Math.cos(azimuth + Math.PI / 2)];
    });
    const under = underChords(round);
    expect(under[70]).toBeGreaterThan(4 * Math.cos((7 * Math.PI) / 180) - 3.4);
    expect(under[70]).toBeLessThan(4 * Math.cos((5 * Math.PI) / 180) - 3.4);
    expect(under[20]).toBe(0);
    expect(under[120]).toBe(0);
  });
  it('of no place there is none', () => {
    expect(
      underChord(
        wall(0.5, 0.5, (y) => Math.abs(y) < 0.01),
        60,
      ),
    ).toBe(0);
    expect(at(wall(0.5), 500)).toBeNull();
  });
});
