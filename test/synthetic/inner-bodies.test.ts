import { describe, expect, it } from 'vitest';
import { caries, cariesPlace, cariesSolid, dentine, dentineSolid, pulp, pulpSolid } from '#core/anatomy/inner.ts';
import { tessellateStar } from '#core/anatomy/tessellate.ts';
import { makeTooth } from '#core/anatomy/tooth.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import type { Master } from '#core/master/master.ts';
import { cariesLeft } from '#core/measure/surroundings/caries-left.ts';
import { pulpDistance } from '#core/measure/surroundings/pulp-distance.ts';
import { makeMesh } from '#core/mesh/mesh.ts';
import type { Reading } from '#core/result/reading.ts';
import { targetRegion } from '#core/segment/target.ts';
import { CLEAN_CLASS_I } from '#core/simulate/cavity/recipe.ts';
import { CLEAN_CROWN } from '#core/simulate/crown/recipe.ts';
import { innerTruth } from '#core/simulate/truth/inner-truth.ts';
import { makeTypodont } from '#core/simulate/typodont.ts';
import { makeSurface } from '#core/spatial/surface.ts';
import { tableMaster, trough } from '../helpers/bench-cavity.ts';
import { placed } from '../helpers/bench-crown.ts';

const ball = (at: Vec3, radius: number) => {
  const s = tessellateStar((x, y, z) => radius - Math.hypot(x - at[0], y - at[1], z - at[2]), at, 24);
  return makeSurface(makeMesh('tooth', s.positions, s.triangles));
};
/** A trough 2 mm deep from a table at z = 7: its floor lies at z = 5. */
const alignment = placed(trough(4, 1.6, 2, 5));
const master = tableMaster();
const region = targetRegion(alignment, master);
const value = (readings: Reading[], name: string): number | null | undefined => readings.find((r) => r.name === name)?.value;

describe('distance to the pulp', () => {
  const over = (pulp: Master['pulp']) => value(pulpDistance(region, alignment, { ...master, pulp }), 'pulp.distance');
  it.each([
    [1, 3],
    [0.4, 3.6],
    [2.3, 1.7],
  ])('is %s mm over a roof that lies so far under the floor', (distance, centre) =>
    expect(over(ball([0, 0, centre], 1))).toBeCloseTo(distance, 2),
  );
  it('is nothing once the cut is through the roof', () => expect(over(ball([0, 0, 4.5], 1))).toBe(0));
  it('is not read without a pulp', () => expect(pulpDistance(region, alignment, master).map((r) => r.reason)).toEqual(['no-pulp']));
  it('is refused on a tooth that nobody cut', () => {
    const whole = placed(master.target.mesh);
    const [r] = pulpDistance(targetRegion(whole, master), whole, { ...master, pulp: ball([0, 0, 3], 1) });
    expect([r.value, r.reason]).toEqual([null, 'nothing-prepared']);
  });
});

describe('decay left behind', () => {
  const left = (at: Vec3, radius: number) => cariesLeft(region, alignment, { ...master, caries: ball(at, radius) });
  it('is half a ball whose middle lies in the floor', () => {
    const r = left([0, 0, 5], 0.6);
    const volume = (2 / 3) * Math.PI * 0.6 ** 3;
    expect(Math.abs((value(r, 'caries.left') as number) - volume)).toBeLessThan(r[0].U as number);
    expect(Math.abs((value(r, 'caries.left.depth') as number) - 0.6)).toBeLessThan(0.07);
  });
  it('is a whole ball under the floor, as deep as its lowest point', () => {
    const r = left([0, 0, 4], 0.6);
    expect(Math.abs((value(r, 'caries.left') as number) - (4 / 3) * Math.PI * 0.6 ** 3)).toBeLessThan(0.02);
    expect(Math.abs((value(r, 'caries.left.depth') as number) - 1.6)).toBeLessThan(0.07);
  });
  it('counts what stands under uncut enamel, far from the edge', () =>
    expect(value(left([0, 3.2, 5.5], 0.5), 'caries.left') as number).toBeCloseTo((4 / 3) * Math.PI * 0.5 ** 3, 1));
  it('is none where the cavity holds it all', () => expect(value(left([0, 0, 6], 0.4), 'caries.left')).toBe(0));
  it('is not read of a sound tooth', () =>
    expect(cariesLeft(region, alignment, master).map((r) => r.reason)).toEqual(['no-caries', 'no-caries']));
});

describe.each(['11', '13', '24', '36', '47', '51', '74'])('the layers of tooth %s', (tooth) => {
  const shape = makeTooth(tooth);
  it('lie one inside the other', () => {
    const inside = (p: Float64Array, within: (x: number, y: number, z: number) => number, slack: number) => {
      for (let i = 0; i < p.length; i += 3) if (p[i + 2] > -2.5 && within(p[i], p[i + 1], p[i + 2]) < -slack) return false;
      return true;
    };
    expect(inside(dentineSolid(shape).positions, shape.inside, 0.02)).toBe(true);
    expect(inside(pulpSolid(shape).positions, dentine(shape), 0)).toBe(true);
  });
  it('leave a millimetre and more of dentine over the pulp', () => {
    const p = pulpSolid(shape).positions;
    let least = Infinity;
    for (let i = 0; i < p.length; i += 3) least = Math.min(least, shape.top(p[i], p[i + 1]) - p[i + 2]);
    expect(least).toBeGreaterThan(2);
  });
  it('decay goes in from the surface as far as its recipe says', () => {
    const recipe = { site: 'mesial', depth: 1.5, width: 2 } as const;
    const at = cariesPlace(shape, recipe, null);
    const { within } = caries(shape, recipe, at);
    expect(within(at[0] - 1.45, at[1], at[2])).toBeGreaterThan(0);
    expect(within(at[0] - 1.55, at[1], at[2])).toBeLessThan(0);
    const p = cariesSolid(shape, recipe, at).positions;
    let out = 0;
    for (let i = 0; i < p.length; i += 3) if (shape.inside(p[i], p[i + 1], p[i + 2]) < -0.02) out++;
    expect(out).toBe(0);
  });
});

describe('truth of inner bodies', () => {
  const t = makeTypodont('36', 4);
  const recipe = { site: 'occlusal', depth: 2.6, width: 3 } as const;
  const at = cariesPlace(t.target, recipe, null);
  const reported = (depth: number) => {
    const o = CLEAN_CLASS_I.occlusal as NonNullable<typeof CLEAN_CLASS_I.occlusal>;
    const truth = innerTruth(t, { ...CLEAN_CLASS_I, occlusal: { ...o, depth } }, { recipe, at });
    return (name: string) => truth.find((q) => q.name === name)?.value as number;
  };
  it('a deeper floor leaves less decay and comes as much nearer to the pulp', () => {
    const [a, b] = [reported(1.6), reported(2.1)];
    expect(a('caries.left')).toBeGreaterThan(b('caries.left'));
    expect(a('caries.left.depth')).toBeCloseTo(2.6 - 1.6, 1);
    expect(a('pulp.distance') - b('pulp.distance')).toBeGreaterThan(0.3);
  });
  it('a crown is measured too, and knows no decay that is not there', () => {
    const truth = innerTruth(t, CLEAN_CROWN, null);
    expect(truth.map((q) => q.name)).toEqual(['pulp.distance']);
    expect(truth[0].value).toBeGreaterThan(0.8);
    expect(pulp(t.target)(0, 0, 0)).toBeGreaterThan(0);
  });
});
