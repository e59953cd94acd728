import { beforeAll, describe, expect, it } from 'vitest';
import { applyPoint, invertRigid, multiply } from '#core/linalg/rigid.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import { PART } from '#core/master/master.ts';
import { triangleNeighbours } from '#core/mesh/mesh.ts';
import { CLEAN_CLASS_I } from '#core/simulate/cavity/recipe.ts';
import { CrownEnvelope } from '#core/simulate/crown/envelope.ts';
import { CLEAN_CROWN } from '#core/simulate/crown/recipe.ts';
import { fileFrame } from '#core/simulate/master.ts';
import { CLEAN_PREFORMED } from '#core/simulate/preformed/recipe.ts';
import type { Preparation } from '#core/simulate/preparation.ts';
import { defaultRecipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { cavityTruth } from '#core/simulate/truth/cavity-truth.ts';
import { crownTruth } from '#core/simulate/truth/crown-truth.ts';
import { makeTypodont } from '#core/simulate/typodont.ts';
import { makeSurface, signedDistance } from '#core/spatial/surface.ts';
import { solidKernel } from '../../src/files/solid-kernel.ts';
import { sameNumbers } from '../helpers/within.ts';

let shop: Workshop;
beforeAll(async () => {
  shop = new Workshop('45', 6, await solidKernel(), { caries: { site: 'distal', depth: 1.2, width: 1.5 } });
});
const scan = { ...defaultRecipe('45', 6).scan, triangles: 20_000 };
const carve = (preparation: Preparation) => shop.carve({ preparation, neighbourDamage: { mesial: 0, distal: 0 }, scan });

describe('a master', () => {
  it('names every part, carries every inner body and its opposing teeth', () => {
    const { arch, ...bodies } = shop.master.meshes;
    for (const part of [PART.target, PART.mesial, PART.distal, PART.gingiva]) expect(arch.parts.includes(part)).toBe(true);
    for (const b of Object.values(bodies)) expect(b?.triangles.length).toBeGreaterThan(1000);
  });
  it('has decay that starts at its distal side', () => {
    const p = shop.master.meshes.caries?.positions as Float64Array;
    for (let i = 0; i < p.length; i += 3) expect(p[i]).toBeLessThan(-1);
  });
});

describe.each<[string, Preparation]>([
  ['a crown', CLEAN_CROWN],
  ['a cavity', CLEAN_CLASS_I],
  ['slices for a preformed crown', CLEAN_PREFORMED],
])('%s, carved', (_, preparation) => {
  it('is one closed surface that lies nowhere outside of the tooth it was cut from', () => {
    const { solid } = carve(preparation);
    const neighbours = triangleNeighbours(solid.triangles, solid.positions.length / 3);
    expect(neighbours.filter((n) => n < 0)).toHaveLength(0);
    // Everything but the cut faces lies on the unprepared surface; cut faces lie under it.
    const { mesh } = shop.master.meshes.arch;
    const whole = makeSurface(mesh);
    const frame = fileFrame('45');
    let out = 0;
    for (let v = 0; v < solid.positions.length / 3; v += 7) {
      const own: Vec3 = [solid.positions[3 * v], solid.positions[3 * v + 1], solid.positions[3 * v + 2]];
      const [x, y, z] = applyPoint(frame, own);
      if (own[2] > -1 && (signedDistance(whole, x, y, z) as number) > 0.02) out++;
    }
    expect(out).toBe(0);
  });
});

it('the same seed scans the same points; another pose leaves the truth alone', () => {
  const cut = carve(CLEAN_CLASS_I);
  const [a, b, c] = [shop.scan(cut, scan, 4), shop.scan(cut, scan, 4), shop.scan(cut, { ...scan, noise: 0.03 }, 9)];
  expect(sameNumbers(a.scan.mesh.positions, b.scan.mesh.positions)).toBe(true);
  expect(sameNumbers(c.scan.mesh.positions, a.scan.mesh.positions)).toBe(false);
  expect(a.truth()).toEqual(c.truth());
  // Where the scan was put and where it should be found undo each other.
  const there = applyPoint(multiply(a.scanToMaster, a.scan.pose), [1, 2, 3]);
  expect(there.map((v) => Number(v.toFixed(9)))).toEqual([1, 2, 3]);
  expect(applyPoint(invertRigid(a.scanToMaster), [1, 2, 3])).not.toEqual([1, 2, 3]);
});

describe('a mirrored quadrant', () => {
  const [right, left] = [makeTypodont('16', 5), makeTypodont('26', 5)];
  it('gives the same truth of a crown on its mirrored side', () =>
    expect(crownTruth(left, new CrownEnvelope(left, CLEAN_CROWN))).toEqual(crownTruth(right, new CrownEnvelope(right, CLEAN_CROWN))));
  it('gives the same truth of a cavity', () => expect(cavityTruth(left, CLEAN_CLASS_I)).toEqual(cavityTruth(right, CLEAN_CLASS_I)));
});
