import { describe, expect, it } from 'vitest';
import { toRadians } from '../../linalg/vec.ts';
import { marginBevelTruth } from '../truth/margin-bevel-truth.ts';
import { makeTypodont } from '../typodont.ts';
import { CrownEnvelope } from './envelope.ts';
import { CLEAN_CROWN, type CrownRecipe } from './recipe.ts';

const t = makeTypodont('16', 3);
const margin = (change: Partial<CrownRecipe['margin']>): CrownRecipe => ({ ...CLEAN_CROWN, margin: { ...CLEAN_CROWN.margin, ...change } });
const profile = (recipe: CrownRecipe, azimuth: number) => new CrownEnvelope(t, recipe).profile(toRadians(azimuth));
type Place = readonly [number, number];
/** Degrees to the long axis of the way from one place of a profile to another. */
const leanOf = (from: Place, to: Place): number => (Math.atan2(Math.abs(to[0] - from[0]), Math.abs(to[1] - from[1])) * 180) / Math.PI;

describe('the profile of a crown at one azimuth', () => {
  it('has its foot a margin’s width inside the finish line, at its height over a level floor and higher over one that rises', () => {
    const level = profile(CLEAN_CROWN, 0);
    expect(level.finish[0] - level.foot[0]).toBeCloseTo(CLEAN_CROWN.margin.width.facial, 12);
    expect(level.foot[1]).toBeCloseTo(level.finish[1], 12);
    const rising = profile(margin({ slope: 10 }), 0);
    expect(rising.foot[1] - rising.finish[1]).toBeCloseTo(CLEAN_CROWN.margin.width.facial * Math.tan(toRadians(10)), 12);
  });
  it.each([0, 0.4, 1])('has as many places at every azimuth, rounded by %f or not', (rounding) => {
    const e = new CrownEnvelope(t, margin({ rounding }));
    expect(new Set([0, 37, 90, 180, 271].map((a) => e.profile(toRadians(a)).line.length)).size).toBe(1);
  });
  it('runs straight up the wall from its foot to the occlusal edge', () => {
    const { line, foot, wallFoot, wallTop, lean } = profile({ ...CLEAN_CROWN, edgeRadius: 0 }, 90);
    const rTop = foot[0] - (wallTop - foot[1]) * Math.tan(toRadians(lean));
    const wall = line.filter(([r, z]) => r > rTop - 1e-9 && z > wallFoot + 1e-9);
    expect(wall.length).toBeGreaterThan(20);
    expect(lean).toBe(CLEAN_CROWN.taper.mesial);
    for (let i = 1; i < wall.length; i++) expect(leanOf(wall[i - 1], wall[i])).toBeCloseTo(lean, 6);
  });
});

describe('a bevel along the margin', () => {
  const bevel = { width: 0.4, angle: 40 };
  const p = profile(margin({ bevel, width: { facial: 0.9, mesial: 0.9, lingual: 0.9, distal: 0.9 }, rounding: 0 }), 0);
  const at = p.line.findIndex((q) => Math.hypot(q[0] - p.finish[0], q[1] - p.finish[1]) < 1e-9);
  it('runs in and up from the finish line, as wide and as steep as the recipe says, and goes on out of the tooth', () => {
    const corner = p.line[at - 1];
    expect(Math.hypot(corner[0] - p.finish[0], corner[1] - p.finish[1])).toBeCloseTo(0.4, 12);
    expect(leanOf(corner, p.finish)).toBeCloseTo(40, 9);
    expect(corner[1]).toBeGreaterThan(p.finish[1]);
    expect(leanOf(p.finish, p.line[at + 1])).toBeCloseTo(40, 9);
  });
  it('leaves finish line and whole width where they were and raises the floor', () => {
    expect(p.finish).toEqual(profile(CLEAN_CROWN, 0).finish);
    expect(p.width).toBeCloseTo(0.9, 12);
    expect(p.foot[1] - p.finish[1]).toBeCloseTo(0.4 * Math.cos(toRadians(40)), 12);
  });
  it('leaves some floor where it would take the whole of it', () => {
    const wide = profile(margin({ bevel: { width: 1.4, angle: 60 } }), 0);
    expect(wide.foot[0]).toBeLessThan(wide.finish[0] - 1.4 * Math.sin(toRadians(60)));
    expect(wide.line.every(([r, z]) => Number.isFinite(r) && Number.isFinite(z))).toBe(true);
  });
  it('is true of every side, and of none where a lip is sunk inside it', () => {
    expect(marginBevelTruth(margin({ bevel })).map((q) => [q.name, q.zone, q.value])).toEqual(
      ['facial', 'mesial', 'lingual', 'distal'].flatMap((zone) => [
        ['bevel.width', zone, 0.4],
        ['bevel.angle', zone, 40],
      ]),
    );
    expect(marginBevelTruth(CLEAN_CROWN)).toEqual([]);
    expect(marginBevelTruth(margin({ bevel, places: [{ azimuth: 0, halfWidth: 20, over: 12, lip: 0.2 }] }))).toEqual([]);
  });
});
