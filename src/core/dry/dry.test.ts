import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { standardFrom } from '#contract/standard.ts';
import type { OwnCutter } from '../plan/choose.ts';
import { planFor } from '../plan/plan.ts';
import type { CavityRecipe } from '../simulate/cavity/recipe.ts';
import type { CrownRecipe } from '../simulate/crown/recipe.ts';
import { cutAfter, stopsOf } from './cut.ts';
import { nextFit, UNFITTED } from './fitted.ts';
import { expectedAfter, speaksAfter } from './so-far.ts';
import { AS_PLANNED } from './way.ts';

const cutter = (id: string, c: Partial<OwnCutter>): OwnCutter => ({
  id,
  name: id,
  form: 'taper',
  tip: 'round',
  cutsAtEnd: true,
  shank_mm: 1.8,
  tip_mm: 1.2,
  length_mm: 8,
  grit: 'coarse',
  ...c,
});
/** 1.2 to 1.8 over 8 mm: a half taper of atan(0.3 / 8) = 2.148°. */
const cutters = [
  cutter('groove', { form: 'cylinder', tip: 'flat', shank_mm: 1, tip_mm: 1, length_mm: 4 }),
  cutter('taper', {}),
  cutter('needle', { tip: 'pointed', tip_mm: 0.2 }),
];
const HALF_TAPER = 2.1476;
const plan = (kind: 'crown' | 'cavity' | 'partial' | 'onlay' | 'restoration', id: string, tooth: string) =>
  planFor({
    kind,
    tooth,
    standard: standardFrom(JSON.parse(readFileSync(`data/standards/${id}.json`, 'utf8')), id),
    cutters,
    gauges_mm: [1, 1.5, 2],
    boxes: ['mesial'],
  });
const crown = plan('crown', 'metal-mid', '46');
const cutBy = (step: Parameters<typeof cutAfter>[3], way = AS_PLANNED) => cutAfter(crown, cutters, way, step);
const recipe = (step: Parameters<typeof cutAfter>[3], way = AS_PLANNED) => cutBy(step, way)?.preparation as CrownRecipe;

describe('a plan followed dry', () => {
  it('cuts a crown in the order of its plan, and stops only where something changed', () => {
    expect(stopsOf(crown, cutters)).toEqual([
      'depth-cuts',
      'occlusal',
      'functional-bevel',
      'axial',
      'contacts',
      'margin',
      'smooth',
      'final',
    ]);
    expect(cutBy('depth-cuts')?.standing).toEqual(['facial', 'lingual', 'mesial', 'distal']);
    expect(cutBy('axial')?.standing).toEqual(['mesial', 'distal']);
    expect(cutBy('contacts')?.standing).toEqual([]);
    expect(recipe('depth-cuts').top).toEqual({ along: 'grooves', radius: expect.any(Number) });
    expect(recipe('occlusal').top).toBeUndefined();
    expect(recipe('occlusal').planes).toEqual([]);
    // Lower teeth bite with their facial cusps.
    expect(recipe('functional-bevel').planes).toMatchObject([{ azimuth: 0, angle: 47.5 }]);
  });
  it('walls stand at the cutter’s half taper and its tilt; what is left for the margin is taken by it', () => {
    const tilt = crown.steps.find((s) => s.id === 'axial')?.tilt as number;
    const left = crown.steps.find((s) => s.id === 'axial')?.left as number;
    expect(left).toBeGreaterThan(0);
    expect(recipe('axial').taper.facial).toBeCloseTo(HALF_TAPER + tilt, 3);
    expect(recipe('axial', { ...AS_PLANNED, tilt_deg: 4 }).taper.distal).toBeCloseTo(HALF_TAPER + tilt + 4, 3);
    expect(recipe('margin').margin.width.facial - recipe('contacts').margin.width.facial).toBeCloseTo(left, 9);
    expect(recipe('margin', { ...AS_PLANNED, sunk_mm: 0.3 }).margin.width.lingual - recipe('margin').margin.width.lingual).toBeCloseTo(
      0.3,
      9,
    );
  });
  it('a reading is due once no later step brings it further', () => {
    const key = 'reduction.occlusal functional cusps median';
    const [cuts, joined] = [expectedAfter(crown, 'depth-cuts').get(key), expectedAfter(crown, 'occlusal').get(key)];
    expect(cuts?.isDue).toBe(false);
    expect(joined?.isDue).toBe(true);
    expect((joined?.value as number) - (cuts?.value as number)).toBeCloseTo(crown.steps[0].left, 9);
    expect(expectedAfter(crown, 'occlusal').has('margin.width facial median')).toBe(false);
    const asked = { reading: 'margin.width', zone: 'facial' };
    expect(speaksAfter(crown, 'occlusal', asked)).toBe(false);
    expect(speaksAfter(crown, 'margin', asked)).toBe(true);
    expect(speaksAfter(crown, 'final', { reading: 'anything', zone: null })).toBe(true);
  });
  it('a Class II keeps a shell beside its neighbour until the contact is opened', () => {
    const p = plan('cavity', 'class2-amalgam-minimal', '36');
    const cut = (step: Parameters<typeof cutAfter>[3]) => cutAfter(p, cutters, AS_PLANNED, step)?.preparation as CavityRecipe;
    expect(cut('outline').boxes).toEqual([]);
    expect(cut('box-shell')).toMatchObject({ shell: 0.5, boxes: [{ side: 'mesial' }] });
    expect(cut('box-open').shell).toBeUndefined();
    const left = p.steps.find((s) => s.id === 'outline')?.left as number;
    expect((cut('even-depth').occlusal?.depth as number) - (cut('outline').occlusal?.depth as number)).toBeCloseTo(left, 9);
  });
  it('a partial crown is sliced first, at the angle that its standard asks for; a filling cannot be cut dry', () => {
    const p = plan('partial', 'three-quarter-posterior', '15');
    const slice = p.steps.flatMap((s) => s.readings).find((r) => r.reading === 'slice.angle')?.final as number;
    expect(cutAfter(p, cutters, AS_PLANNED, 'slices')?.preparation).toMatchObject({
      kind: 'preformed',
      mesial: { lean: slice },
      occlusal: 0,
    });
    expect(cutAfter(p, cutters, AS_PLANNED, 'lingual-wall')?.preparation).toMatchObject({
      kind: 'partial',
      grooves: [],
      crown: { top: 'stands' },
    });
    expect(stopsOf(plan('restoration', 'amalgam-restoration', '16'), cutters)).toEqual([]);
  });
  it('an onlay’s cusps carry depth cuts, then lose their tops, then have a shoulder', () => {
    const p = plan('onlay', 'onlay-ceramic', '36');
    const cut = (step: Parameters<typeof cutAfter>[3]) => cutAfter(p, cutters, AS_PLANNED, step)?.preparation;
    expect(cut('box-open')).toMatchObject({ kind: 'cavity' });
    expect(cut('depth-cuts')).toMatchObject({ kind: 'onlay', shoulder: false, cover: { top: { along: 'grooves' } } });
    expect(cut('cover')).toMatchObject({ shoulder: false });
    expect(cut('margin')).toMatchObject({ shoulder: true });
  });
});

describe('a recipe fitted to a tooth', () => {
  it('finds, by the secant, the box whose slanted wall shows half of every change', () => {
    const wanted = 0.4;
    const read = (over: number) => ({ ...UNFITTED, mesialOverGingiva: wanted - 0.5 * over });
    const first = { fit: UNFITTED, off: read(0) };
    const second = nextFit([first]);
    expect(second.mesialOverGingiva).toBeCloseTo(0.4, 9);
    expect(nextFit([first, { fit: second, off: read(second.mesialOverGingiva) }]).mesialOverGingiva).toBeCloseTo(0.8, 9);
  });
});
