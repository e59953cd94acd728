import { describe, expect, it } from 'vitest';
import { leanMatrix, leanOf } from '../../anatomy/lean.ts';
import { applyPoint, IDENTITY } from '../../linalg/rigid.ts';
import { toRadians } from '../../linalg/vec.ts';
import { cavityParts } from '../cavity/cavity.ts';
import { type CavityRecipe, CLEAN_CLASS_I, cleanClassII } from '../cavity/recipe.ts';
import { CrownEnvelope } from '../crown/envelope.ts';
import { ANTERIOR_CERAMIC, CLEAN_CROWN, type CrownRecipe } from '../crown/recipe.ts';
import { CLEAN_ONLAY } from '../onlay/recipe.ts';
import { partialParts } from '../partial/partial.ts';
import { CLEAN_PARTIAL, type PartialRecipe, THREE_QUARTER_ANTERIOR } from '../partial/recipe.ts';
import type { Preparation } from '../preparation.ts';
import { defaultRecipe } from '../recipe.ts';
import { withFaults } from '../spoil.ts';
import { makeTypodont } from '../typodont.ts';
import { FAULT_NAMES, FAULTS, type FaultName, type FaultRecipe } from './faults.ts';

const spoil = (preparation: Preparation, ...faults: FaultRecipe[]) => withFaults({ ...defaultRecipe('16', 3, preparation), faults });
const crown = (...faults: FaultRecipe[]) => spoil(CLEAN_CROWN, ...faults).preparation as CrownRecipe;
const t = makeTypodont('16', 3);
const profile = (recipe: CrownRecipe, azimuth: number) => new CrownEnvelope(t, recipe).profile(toRadians(azimuth));

describe('faults of what only a partial crown has', () => {
  const partial = (...faults: FaultRecipe[]) => spoil(THREE_QUARTER_ANTERIOR, ...faults).preparation as PartialRecipe;
  it('a short groove ends that much higher, the other one as before', () => {
    const [mesial, distal] = partialParts(makeTypodont('13', 3), partial({ fault: 'groove-short', size: 0.8, at: 'mesial' })).grooves;
    const [clean, other] = partialParts(makeTypodont('13', 3), THREE_QUARTER_ANTERIOR).grooves;
    expect(mesial.from - clean.from).toBeCloseTo(0.8);
    expect(distal.from).toBeCloseTo(other.from);
  });
  it('a shallow groove, a leaning one and a pinhole near the margin move by their size', () => {
    const r = partial(
      { fault: 'groove-shallow', size: 0.2, at: 'distal' },
      { fault: 'groove-leaning', size: 7, at: 'mesial' },
      { fault: 'pin-near-margin', size: 0.6 },
    );
    expect(r.grooves.map((g) => [g.depth, g.leanFacial])).toEqual([
      [0.6, 7],
      [expect.closeTo(0.4), 0],
    ]);
    expect(r.pin?.lingual).toBeCloseTo(2.2);
  });
  it('a thinned plate brings its inner face nearer to facial', () => {
    const [t13, size] = [makeTypodont('13', 3), 0.2];
    const y = (p: PartialRecipe): number => partialParts(t13, p).plateY;
    expect(y(partial({ fault: 'thin-plate', size })) - y(THREE_QUARTER_ANTERIOR)).toBeCloseTo((size * t13.target.plan.fl) / 2);
  });
  it('are none of another kind', () => {
    expect(() => spoil(CLEAN_CROWN, { fault: 'groove-short', size: 1 })).toThrow(/no fault of a preparation of kind crown/);
    expect(() => spoil(CLEAN_PARTIAL, { fault: 'pin-near-margin', size: 1 })).toThrow(/no pinhole/);
  });
});

describe('a box askew and a dovetail left out', () => {
  it('tip both side walls the same way', () => {
    const { preparation } = spoil(cleanClassII('mesial'), { fault: 'box-askew', size: 6 });
    const [b] = (preparation as CavityRecipe).boxes;
    expect([b.facial, b.lingual]).toEqual([3 - 6, 2 + 6]);
  });
  it('leave the end as wide as the isthmus', () =>
    expect((spoil(CLEAN_CLASS_I, { fault: 'no-dovetail', size: 1 }).preparation as CavityRecipe).occlusal?.dovetail).toBe(0));
});

describe('faults of crowns, at their place and by their size', () => {
  it('a shallow cusp keeps that much more than the others', () => {
    const r = crown({ fault: 'shallow-cusp', size: 0.5, at: 'ML' });
    expect(r.occlusal.cusps?.ML).toBeCloseTo(CLEAN_CROWN.occlusal.functional - 0.5);
    expect(r.occlusal.functional).toBe(CLEAN_CROWN.occlusal.functional);
  });
  it('gross over-reduction lowers everything', () =>
    expect(new CrownEnvelope(t, crown({ fault: 'over-reduced', size: 1 })).topAt(0, 0)).toBeLessThan(
      new CrownEnvelope(t, CLEAN_CROWN).topAt(0, 0) - 0.9,
    ));
  it('an over-tapered wall leans in there and nowhere else', () => {
    const r = crown({ fault: 'over-taper', size: 8, at: 'distolingual' });
    expect(profile(r, 225).lean - profile(CLEAN_CROWN, 225).lean).toBeCloseTo(8);
    expect(profile(r, 45).lean).toBeCloseTo(profile(CLEAN_CROWN, 45).lean);
  });
  it('an undercut wall leans out by its size from upright', () =>
    expect(profile(crown({ fault: 'undercut', size: 4, at: 'distolingual' }), 225).lean).toBeCloseTo(-4, 0));
  it('a tilted preparation leans in on one side by what it leans out on the other', () => {
    const r = crown({ fault: 'whole-tilt', size: 6, at: 'lingual' });
    expect(r.taper.lingual - CLEAN_CROWN.taper.lingual).toBeCloseTo(6);
    expect(r.taper.facial - CLEAN_CROWN.taper.facial).toBeCloseTo(-6);
    expect(r.taper.mesial).toBeCloseTo(CLEAN_CROWN.taper.mesial);
  });
  it('a lip’s trough sinks under the edge, not at it', () => {
    const { line, finish, width } = profile(crown({ fault: 'lip', size: 0.2, at: 'facial' }), 0);
    const inside = line.filter((p) => p[0] < finish[0] - 1e-9 && p[0] > finish[0] - width);
    expect(finish[1] - Math.min(...inside.map((p) => p[1]))).toBeGreaterThan(0.12);
    const clean = profile(crown({ fault: 'lip', size: 0.2, at: 'facial' }), 180);
    expect(Math.min(...clean.line.filter((p) => p[0] < clean.finish[0] - 1e-9).map((p) => p[1]))).toBeGreaterThanOrEqual(
      clean.finish[1] - 1e-9,
    );
  });
  it('a step jumps within a few degrees', () => {
    const e = new CrownEnvelope(t, crown({ fault: 'margin-step', size: 0.3, at: 'mesiolingual' }));
    const z = (a: number) => e.finishAt(toRadians(a))[1] - new CrownEnvelope(t, CLEAN_CROWN).finishAt(toRadians(a))[1];
    expect(z(159)).toBeCloseTo(0.3, 6);
    expect(z(163)).toBeCloseTo(0, 6);
  });
  it('a margin below the gingiva is below it by its size', () => {
    const e = new CrownEnvelope(t, crown({ fault: 'margin-below', size: 0.4, at: 'facial' }));
    expect(e.finishAt(0)[1] - t.margin(0)).toBeCloseTo(-0.4, 6);
  });
  it('a narrow margin, a high one and an under-reduced line angle are so at their places', () => {
    expect(profile(crown({ fault: 'margin-narrow', size: 0.3, at: 'lingual' }), 180).width).toBeCloseTo(
      CLEAN_CROWN.margin.width.lingual - 0.3,
    );
    expect(profile(crown({ fault: 'line-angle', size: 0.3, at: 'mesiofacial' }), 45).width).toBeLessThan(
      profile(CLEAN_CROWN, 45).width - 0.29,
    );
    const high = crown({ fault: 'margin-high', size: 1, at: 'mesial' });
    expect(profile(high, 90).finish[1] - profile(CLEAN_CROWN, 90).finish[1]).toBeCloseTo(1);
  });
  it('an incisal edge cut at an angle falls to lingual', () => {
    const front = makeTypodont('11', 3);
    const short = { ...ANTERIOR_CERAMIC, incisal: 3.5 };
    const e = new CrownEnvelope(front, spoil(short, { fault: 'incisal-angle', size: 30 }).preparation as CrownRecipe);
    const flat = new CrownEnvelope(front, short);
    // Where the level cut shows, the other lies by so much lower as the place lies lingual of the edge.
    const level = flat.edgeHeight() - short.incisal;
    const ys = Array.from({ length: 80 }, (_, i) => -2 + 0.05 * i).filter((y) => Math.abs(flat.topAt(0, y) - level) < 1e-9);
    expect(ys.length).toBeGreaterThan(5);
    const fall = (y: number) => flat.topAt(0, y) - e.topAt(0, y);
    const [from, to] = [ys[0], ys[ys.length - 1]];
    expect(fall(from)).toBeGreaterThan(0);
    expect(Math.max(...ys.slice(1).map((y, i) => fall(ys[i]) - fall(y)))).toBeCloseTo(0.05 * Math.tan(toRadians(30)), 6);
    expect(to).toBeGreaterThan(from);
  });
  it('a second plane that is too shallow, a flat top, a sharp edge and a wandering line are the recipe’s own parameters', () => {
    const front = spoil(ANTERIOR_CERAMIC, { fault: 'single-plane', size: 0.5 }).preparation as CrownRecipe;
    expect(front.planes[0].depth).toBeCloseTo(ANTERIOR_CERAMIC.planes[0].depth - 0.5);
    const r = crown({ fault: 'flat-top', size: 1 }, { fault: 'sharp-edge', size: 0.3 }, { fault: 'wander', size: 0.1 });
    expect([r.flatten, r.edgeRadius, r.margin.wander]).toEqual([1, 0, 0.1]);
  });
});

describe('faults of where and how the tooth stands', () => {
  it('a preparation cut upright leans back by what the tooth leans in its arch', () => {
    const r = crown({ fault: 'upright', size: 1 });
    const [mesial, facial] = leanOf('16');
    expect(r.taper.mesial - CLEAN_CROWN.taper.mesial).toBeCloseTo(mesial);
    expect(r.taper.facial - CLEAN_CROWN.taper.facial).toBeCloseTo(facial);
    expect(r.taper.distal - CLEAN_CROWN.taper.distal).toBeCloseTo(-mesial);
  });
  it('the axis leans in the arch as the table says, and turns nothing else about it', () => {
    const axis = applyPoint(leanMatrix([8, -13]), [0, 0, 1]);
    expect((Math.atan2(axis[0], axis[2]) * 180) / Math.PI).toBeCloseTo(8);
    expect((Math.atan2(axis[1], axis[2]) * 180) / Math.PI).toBeCloseTo(-13);
    expect(leanMatrix([0, 0])).toEqual(IDENTITY);
  });
  it('a functional bevel is taken off its own side only', () => {
    const plane = (azimuth: number) => ({ azimuth, halfWidth: 45, angle: 45, depth: 1.4 });
    const both = { ...CLEAN_CROWN, planes: [plane(0), plane(180)] };
    const depths = (fault: FaultRecipe) => (spoil(both, fault).preparation as CrownRecipe).planes.map((p) => p.depth);
    expect(depths({ fault: 'functional-bevel', size: 1 })).toEqual([1.4, expect.closeTo(0.4)]);
    expect(depths({ fault: 'functional-bevel', size: 9, at: 'facial' })).toEqual([0, 1.4]);
  });
  it('a shell, another surface and another tooth are named by their side', () => {
    expect(crown({ fault: 'contact-left', size: 0.3, at: 'distal' }).shell).toEqual({ side: 'distal', thickness: 0.3 });
    const swapped = spoil(cleanClassII('mesial'), { fault: 'wrong-surface', size: 1 }).preparation;
    expect(swapped.kind === 'cavity' && swapped.boxes.map((b) => b.side)).toEqual(['distal']);
    const other = spoil(CLEAN_CROWN, { fault: 'wrong-tooth', size: 1, at: 'distal' });
    expect([other.cut, other.neighbourDamage]).toEqual(['distal', { mesial: 0, distal: 0 }]);
  });
});

describe('faults of cavities', () => {
  const II = cleanClassII('mesial');
  const cavity = (...faults: FaultRecipe[]) => spoil(II, ...faults).preparation as typeof II;
  it.each([
    ['dished-floor', 0.2, (c: typeof II) => c.occlusal?.dish, 0.2],
    ['tilted-floor', 8, (c: typeof II) => c.occlusal?.tiltMesial, 8],
    ['too-deep', 0.7, (c: typeof II) => c.occlusal?.depth, 2.5],
    ['too-shallow', 0.7, (c: typeof II) => c.occlusal?.depth, 1.1],
    ['wide-isthmus', 0.8, (c: typeof II) => c.occlusal?.isthmus, 2],
    ['thin-ridge', 0.3, (c: typeof II) => c.occlusal?.distal, 0.8],
    ['crossed-ridge', 0.3, (c: typeof II) => c.occlusal?.distal, 0.8],
    ['converging-wall', 7, (c: typeof II) => c.occlusal?.walls.facial, 7],
    ['undermined-enamel', 12, (c: typeof II) => c.occlusal?.walls.lingual, 16],
    ['flared-wall', 20, (c: typeof II) => c.boxes[0].facial, -17],
    ['closed-contact', 0.5, (c: typeof II) => c.boxes[0].width, 2.4],
    ['gingival-contact', 1, (c: typeof II) => c.boxes[0].overGingiva, 1.7],
    ['shallow-axial', 0.5, (c: typeof II) => c.boxes[0].axialDepth, 0.8],
    ['sharp-axiopulpal', 0.3, (c: typeof II) => c.axiopulpal, 0],
    ['rough-walls', 0.03, (c: typeof II) => c.chatter?.height, 0.03],
  ] as const)('%s of %s', (fault, size, of, expected) => expect(of(cavity({ fault, size }))).toBeCloseTo(expected));
  it('a gingival bevel gets narrower, but is not left out', () => {
    const bevelled = cleanClassII('mesial', { bevel: { along: 0.6, angle: 40 } });
    const along = (size: number) => {
      const p = spoil(bevelled, { fault: 'bevel-narrow', size }).preparation;
      return p.kind === 'cavity' && p.boxes[0].bevel?.along;
    };
    expect([along(0.2), along(3)]).toEqual([expect.closeTo(0.4), 0.1]);
  });
  it('a bevel takes the corner between pulpal floor and axial wall, and a sharp one is not cut', () => {
    expect(cavityParts(t, II).bevels).toHaveLength(1);
    expect(cavityParts(t, cavity({ fault: 'sharp-axiopulpal', size: 1 })).bevels).toHaveLength(0);
  });
});

describe('where faults do not fit', () => {
  it.each<[string, Preparation, FaultRecipe]>([
    ['a crown has no ridge', CLEAN_CROWN, { fault: 'thin-ridge', size: 0.2 }],
    ['a Class I has no box', CLEAN_CLASS_I, { fault: 'closed-contact', size: 0.2 }],
    ['a cavity has no cusp cover', CLEAN_CLASS_I, { fault: 'flat-top', size: 1 }],
    ['a slot has no pulpal floor', { ...cleanClassII('mesial'), occlusal: null }, { fault: 'dished-floor', size: 0.2 }],
    ['a place that is no sector', CLEAN_CROWN, { fault: 'lip', size: 0.2, at: 'upstairs' }],
    ['a crown has no bevel to leave out', CLEAN_CROWN, { fault: 'functional-bevel', size: 1 }],
    ['a contact on the facial side', CLEAN_CROWN, { fault: 'contact-left', size: 0.3, at: 'facial' }],
    ['a box without a bevel has none to be narrow', cleanClassII('mesial'), { fault: 'bevel-narrow', size: 0.2 }],
    ['a Class I is on no wrong surface', CLEAN_CLASS_I, { fault: 'wrong-surface', size: 1 }],
    ['a side without a neighbour', CLEAN_CROWN, { fault: 'neighbour', size: 0.2, at: 'facial' }],
  ])('%s', (_, preparation, fault) => expect(() => spoil(preparation, fault)).toThrow(RangeError));
  it('onlays and partial crowns take both kinds where they have them', () => {
    const onlay = spoil(CLEAN_ONLAY, { fault: 'lip', size: 0.2 }, { fault: 'dished-floor', size: 0.2 }).preparation;
    expect(onlay.kind === 'onlay' && [onlay.cover.margin.places?.length, onlay.inside.occlusal?.dish]).toEqual([1, 0.2]);
    const partial = spoil(CLEAN_PARTIAL, { fault: 'over-taper', size: 5 }).preparation;
    expect(partial.kind === 'partial' && partial.crown.tilts).toHaveLength(1);
  });
  it('a scratched neighbour is the surroundings’, whatever was cut', () =>
    expect(spoil(CLEAN_CLASS_I, { fault: 'neighbour', size: 0.2, at: 'distal' }).neighbourDamage).toEqual({ mesial: 0, distal: 0.2 }));
  it('every fault has its words and its unit', () => {
    for (const name of FAULT_NAMES) expect(FAULTS[name as FaultName].words.length).toBeGreaterThan(5);
    expect(withFaults(defaultRecipe('16', 1))).toEqual(defaultRecipe('16', 1));
  });
});
