import { beforeAll, describe, expect, it } from 'vitest';
import { dentineSolid, pulpSolid } from '#core/anatomy/inner.ts';
import type { Solid } from '#core/anatomy/tessellate.ts';
import { gingivaSolid, toothSolid } from '#core/simulate/bodies.ts';
import { cavityParts } from '#core/simulate/cavity/cavity.ts';
import { loftSolid } from '#core/simulate/cavity/loft.ts';
import { CLEAN_CLASS_I, cleanClassII } from '#core/simulate/cavity/recipe.ts';
import { CrownEnvelope } from '#core/simulate/crown/envelope.ts';
import { ANTERIOR_CERAMIC, CLEAN_CROWN } from '#core/simulate/crown/recipe.ts';
import { CLEAN_ONLAY } from '#core/simulate/onlay/recipe.ts';
import { grooveSolid, partialParts } from '#core/simulate/partial/partial.ts';
import { CLEAN_PARTIAL } from '#core/simulate/partial/recipe.ts';
import type { Preparation } from '#core/simulate/preparation.ts';
import { defaultRecipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { makeTypodont } from '#core/simulate/typodont.ts';
import { solidKernel } from '../../src/files/solid-kernel.ts';
import { selfIntersections } from '../helpers/self-intersections.ts';

const crossings = (s: Pick<Solid, 'positions' | 'triangles'>): number => selfIntersections(s.positions, s.triangles);

describe('the count of crossings', () => {
  it('finds two triangles that cross, and none where they share a corner or lie apart', () => {
    const flat = [0, 0, 0, 2, 0, 0, 0, 2, 0];
    const upright = [0.5, 0.5, -1, 0.5, 0.5, 1, 3, 3, 0];
    expect(selfIntersections([...flat, ...upright], [0, 1, 2, 3, 4, 5])).toBe(1);
    expect(selfIntersections([...flat, ...upright.map((v) => v + 9)], [0, 1, 2, 3, 4, 5])).toBe(0);
    expect(selfIntersections([...flat, 0, 0, 3], [0, 1, 2, 0, 1, 3])).toBe(0);
  });
});

describe.each(['16', '43'])('the bodies of tooth %s', (tooth) => {
  const t = makeTypodont(tooth, 4);
  it('have no self-intersections: tooth, dentine, pulp, gingiva', () => {
    expect(crossings(toothSolid(t.teeth[0], 16))).toBe(0);
    expect(crossings(dentineSolid(t.target))).toBe(0);
    expect(crossings(pulpSolid(t.target))).toBe(0);
    expect(crossings(gingivaSolid(t, 0.8))).toBe(0);
  });
});

describe('what cutters leave or take', () => {
  it('the envelope of a crown on 22 does not cross itself', () =>
    expect(crossings(new CrownEnvelope(makeTypodont('22', 4), ANTERIOR_CERAMIC).solid(96))).toBe(0));
  it('cavities, boxes and grooves have none', () => {
    const t = makeTypodont('46', 4);
    const { occlusal, boxes } = cavityParts(t, cleanClassII('mesial'));
    for (const loft of [occlusal, ...boxes.map((b) => b.loft)]) expect(crossings(loftSolid(loft as NonNullable<typeof occlusal>))).toBe(0);
    for (const g of partialParts(makeTypodont('26', 4), CLEAN_PARTIAL).grooves) expect(crossings(grooveSolid(g, 12))).toBe(0);
  });
});

describe('prepared teeth', () => {
  let shop: Workshop;
  beforeAll(async () => {
    shop = new Workshop('46', 4, await solidKernel(), { detail: 0.6 });
  });
  it.each<[string, Preparation]>([
    ['a crown with a shell left at its contact', { ...CLEAN_CROWN, shell: { side: 'distal', thickness: 0.3 } }],
    ['a Class I', CLEAN_CLASS_I],
    ['an onlay', CLEAN_ONLAY],
  ])('%s does not cross itself', (_, preparation) => {
    const scan = { ...defaultRecipe('46', 4).scan, triangles: 10_000 };
    const { solid } = shop.carve({ preparation, neighbourDamage: { mesial: 0, distal: 0 }, scan });
    // Neighbours meet the gingiva along the same lines in every scene: what lies round the target is looked at.
    const near: number[] = [];
    for (let f = 0; f < solid.triangles.length; f += 3)
      if (
        [0, 1, 2].every((k) => Math.hypot(solid.positions[3 * solid.triangles[f + k]], solid.positions[3 * solid.triangles[f + k] + 1]) < 7)
      )
        near.push(solid.triangles[f], solid.triangles[f + 1], solid.triangles[f + 2]);
    expect(near.length / 3).toBeGreaterThan(5000);
    expect(selfIntersections(solid.positions, near)).toBe(0);
  });
});
