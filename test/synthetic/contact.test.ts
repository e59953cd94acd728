import { beforeAll, describe, expect, it } from 'vitest';
import { type Master, PART, prepareMaster } from '#core/master/master.ts';
import { contactBroken } from '#core/measure/arch/contact-broken.ts';
import { crownContext } from '#core/measure/crown/context.ts';
import { makeMesh } from '#core/mesh/mesh.ts';
import { measure } from '#core/pipeline.ts';
import { takeCrownApart } from '#core/segment/crown/crown.ts';
import { CrownEnvelope } from '#core/simulate/crown/envelope.ts';
import { type CrownRecipe, ZIRCONIA_POSTERIOR } from '#core/simulate/crown/recipe.ts';
import type { FaultRecipe } from '#core/simulate/faults/faults.ts';
import { defaultRecipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { withFaults } from '#core/simulate/spoil.ts';
import { contactTruth } from '#core/simulate/truth/contact-truth.ts';
import { solidKernel } from '../../src/files/solid-kernel.ts';
import { archMaster, archScan, cylinderMaster, frustum, placed } from '../helpers/bench-crown.ts';

const master = archMaster();
const stump = frustum(0.8, 6);
const readings = contactBroken(crownContext(takeCrownApart(placed(archScan(stump)), master)));
const gap = (of: typeof readings, zone: string) => of.find((r) => r.zone === zone);

/** Both are round: the gap is the neighbour's least distance from the axis less the radius, up to a height that both have. */
function expected(side: 'mesial' | 'distal', upTo: number): number {
  const p = (master[side] as NonNullable<typeof master.mesial>).mesh.positions;
  let least = Infinity;
  for (let i = 0; i < p.length; i += 3) if (p[i + 2] > 0.3 && p[i + 2] < upTo) least = Math.min(least, Math.hypot(p[i], p[i + 1]) - 5);
  return least;
}

describe('the gap to a neighbour', () => {
  it.each(['mesial', 'distal'] as const)('is the least distance between the two: %s', (side) => {
    const r = gap(readings, side);
    expect(r?.value).not.toBeNull();
    expect(Math.abs((r?.value as number) - expected(side, 1))).toBeLessThan(0.04);
    expect(r?.at?.point?.[0]).toSatisfy((x: number) => (side === 'mesial' ? x > 3 : x < -3));
  });
  it('is refused where the tooth stands alone', () => {
    const alone = cylinderMaster();
    const [r] = contactBroken(crownContext(takeCrownApart(placed(stump), alone)));
    expect([r.value, r.reason]).toEqual([null, 'no-neighbour']);
  });
});

describe('what is no gap to the neighbour', () => {
  const context = crownContext(takeCrownApart(placed(archScan(stump)), master));
  it('a point or two that a scan puts at the neighbour', () => {
    const before = gap(contactBroken(context), 'mesial')?.value as number;
    const stray = Float64Array.from(context.steady);
    const own = [...context.anatomy.region.prepared.keys()].filter((v) => context.anatomy.region.prepared[v] && stray[3 * v] > 3);
    const p = (master.mesial as NonNullable<typeof master.mesial>).mesh.positions;
    for (const v of own.slice(0, 2)) for (let k = 0; k < 3; k++) stray[3 * v + k] = p[3 * 40 + k];
    const after = gap(contactBroken({ ...context, steady: stray }), 'mesial')?.value as number;
    expect(Math.abs(after - before)).toBeLessThan(0.05);
  });
  it('the gum beside it: what bridges neighbour and papilla belongs to neither', () => {
    // A sheet of gum from the neighbour's lowest row straight to the tooth, sharing the neighbour's vertices.
    const { whole, wholeParts } = master;
    const { positions, triangles } = whole.mesh;
    const n = positions.length / 3;
    const side = [...wholeParts.keys()].filter(
      (v) => wholeParts[v] === PART.mesial && positions[3 * v + 2] > 0.3 && positions[3 * v + 2] < 1.2,
    );
    const nearest = side.reduce((a, b) =>
      Math.hypot(positions[3 * b], positions[3 * b + 1]) < Math.hypot(positions[3 * a], positions[3 * a + 1]) ? b : a,
    );
    const beside = side.find((v) => v !== nearest) as number;
    const gum = [0.8 * positions[3 * nearest], 0.8 * positions[3 * nearest + 1], positions[3 * nearest + 2]];
    const bridged = prepareMaster(master.description, {
      arch: {
        mesh: makeMesh('master', Float64Array.from([...positions, ...gum]), Uint32Array.from([...triangles, nearest, beside, n])),
        parts: Uint8Array.from([...wholeParts, PART.gingiva]),
      },
      opposing: null,
      dej: null,
      caries: null,
      pulp: null,
    });
    const read = (m: Master) => gap(contactBroken({ ...context, anatomy: { ...context.anatomy, master: m } }), 'mesial')?.value as number;
    expect(bridged.mesial?.mesh.triangles.length).toBe((master.mesial?.mesh.triangles.length as number) + 3);
    expect(read(bridged)).toBeCloseTo(read(master), 6);
  });
});

describe('a shell left standing at a contact, and a tooth that was not asked for', () => {
  let shop: Workshop;
  let tooth: Master;
  beforeAll(async () => {
    shop = new Workshop('36', 8, await solidKernel());
    tooth = prepareMaster(shop.master.description, shop.master.meshes);
  });
  const clean = defaultRecipe('36', 8, ZIRCONIA_POSTERIOR);
  const faulty = (fault: FaultRecipe) => withFaults({ ...clean, scan: { ...clean.scan, triangles: 40_000 }, faults: [fault] });
  it('reads nearly nothing there, and the other side as it is', () => {
    const recipe = faulty({ fault: 'contact-left', size: 0.35, at: 'distal' });
    const cut = shop.cut(recipe, 5);
    const { readings: all } = measure('crown', cut.scan.mesh, tooth);
    const of = (zone: string) => all.find((r) => r.name === 'contact.broken' && r.zone === zone);
    expect(of('distal')?.value as number).toBeLessThan(0.1);
    const truth = contactTruth(cut.typodont, new CrownEnvelope(cut.typodont, recipe.preparation as CrownRecipe));
    const mesial = truth.find((t) => t.zone === 'mesial')?.value as number;
    expect(Math.abs((of('mesial')?.value as number) - mesial)).toBeLessThan(0.15);
  });
  it.each(['mesial', 'distal'] as const)('the %s neighbour cut in its place is named, and nothing is claimed true of the target', (at) => {
    const cut = shop.cut(faulty({ fault: 'wrong-tooth', size: 1, at }), 6);
    expect(cut.truth()).toEqual([]);
    expect(() => measure('crown', cut.scan.mesh, tooth)).toThrow(expect.objectContaining({ code: 'align.wrong-tooth' }));
  });
});
