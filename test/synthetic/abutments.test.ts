import { beforeAll, describe, expect, it } from 'vitest';
import { prepareMaster } from '#core/master/master.ts';
import { abutmentsParallel } from '#core/measure/arch/abutments-parallel.ts';
import { type Measured, measure } from '#core/pipeline.ts';
import { CLEAN_CROWN } from '#core/simulate/crown/recipe.ts';
import { defaultRecipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { abutmentTruth } from '#core/simulate/truth/abutment-truth.ts';
import { solidKernel } from '../../src/files/solid-kernel.ts';
import { within } from '../helpers/within.ts';

const leaning = (degrees: number, azimuth: number) => {
  const [t, a] = [(degrees * Math.PI) / 180, (azimuth * Math.PI) / 180];
  return { direction: [Math.sin(t) * Math.sin(a), Math.sin(t) * Math.cos(a), Math.cos(t)] as const, U: 0.6 };
};

describe('paths of two abutments', () => {
  it('an angle, and where the other one leans to', () => {
    const [r] = abutmentsParallel(leaning(0, 0), leaning(4, 90));
    within(r.value, 4, 1e-6);
    within(r.at?.azimuth ?? null, 90, 1e-6);
    // Two that lean 3° to opposite sides stand 6° apart; their errors add as squares.
    const [s] = abutmentsParallel(leaning(3, 270), leaning(3, 90));
    within(s.value, 6, 1e-6);
    within(s.U, 0.6 * Math.SQRT2, 1e-6);
  });
  it('says which of them is missing', () => {
    expect(abutmentsParallel(leaning(0, 0), 'none')[0].reason).toBe('no-abutment');
    expect(abutmentsParallel(null, leaning(0, 0))[0].reason).toBe('no-wall');
    expect(abutmentsParallel(leaning(0, 0), null)[0].reason).toBe('abutment-not-read');
  });
});

describe('two crowns of one scan', () => {
  // Opposite walls of 2° and 12° are drawn 5° towards the steeper one.
  const own = { ...CLEAN_CROWN, kind: 'crown' as const, taper: { facial: 6, mesial: 12, lingual: 6, distal: 2 } };
  const other = { ...CLEAN_CROWN, kind: 'crown' as const, taper: { facial: 6, mesial: 6, lingual: 6, distal: 6 } };
  let m: Measured;
  let truth: number | undefined;
  beforeAll(async () => {
    const base = defaultRecipe('44', 3, own);
    const c = new Workshop('44', 3, await solidKernel()).cut(
      { ...base, abutment: { tooth: '45', preparation: other }, scan: { ...base.scan, triangles: 60_000 } },
      4,
    );
    truth = abutmentTruth(c.typodont, own, { tooth: '45', preparation: other })[0]?.value;
    if (!c.abutment) throw new Error('no second master was made');
    const abutment = { kind: 'crown', master: prepareMaster(c.abutment.description, c.abutment.meshes) } as const;
    m = measure('crown', c.scan.mesh, prepareMaster(c.master.description, c.master.meshes), { abutment });
  }, 300_000);
  const reading = (name: string) => m.readings.find((r) => r.name === name);

  it('each against its own master, compared through the scan they share', () => {
    const r = reading('abutments.parallel');
    if (truth === undefined || r?.value == null) throw new Error(`not read: ${r?.reason}`);
    within(r.value, truth, r.U);
  });
  it('the neighbour that is the other abutment was not damaged, the other neighbour is looked at as ever', () => {
    expect(reading('neighbour.distal')?.reason).toBe('is-abutment');
    expect(reading('neighbour.mesial')?.value).toBe(0);
  });
});
