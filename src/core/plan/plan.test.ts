import { readFileSync } from 'node:fs';
import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import { Kit } from '#contract/kit.ts';
import { standardFrom } from '#contract/standard.ts';
import { within } from '../../../test/helpers/within.ts';
import type { Unit } from '../catalogue/terms.ts';
import { KIND_NAMES, type KindName } from '../kinds/kinds.ts';
import type { Reading } from '../result/reading.ts';
import { outOfReach, roomFor } from './box.ts';
import { causesOf, shareRead } from './causes.ts';
import { chooseCutter, type OwnCutter } from './choose.ts';
import { decide } from './decide.ts';
import { depthByWidth, grooveDepth, isLost, leftToCut } from './depth.ts';
import { shareInside } from './hand.ts';
import { lipHeight, passesFor } from './margin.ts';
import { planFor } from './plan.ts';
import { USUAL_CHOICES } from './steps.ts';
import { leanAt, tiltFor, tiltRoom } from './wall.ts';

const kit = v.parse(Kit, (({ format: _, ...k }) => k)(JSON.parse(readFileSync('data/kit.json', 'utf8'))));
const cutter = (id: string): OwnCutter => kit.cutters.find((c) => c.id === id) as OwnCutter;
const standard = (id: string) => standardFrom(JSON.parse(readFileSync(`data/standards/${id}.json`, 'utf8')), id);
const planOf = (id: string, tooth: string, kind: KindName, cutters: readonly string[], more: object = {}) =>
  planFor({ kind, tooth, standard: standard(id), cutters: cutters.map(cutter), gauges_mm: [1, 1.5, 2], ...more });

const ROUND = { tip: 'round', tip_mm: 1.2 } as const;

// Figures worked out by hand from the rules of the plan.
describe('the arithmetic of a cutter', () => {
  it('a groove is the target less what is left, and never past the upper limit less U', () => {
    within(grooveDepth({ lo: 1.5, hi: 2 }, 0.3, 0.1) as number, 1.45, 1e-9);
    within(grooveDepth({ lo: 0.8, hi: 1 }, 0, 0.15) as number, 0.85, 1e-9);
    within(grooveDepth({ lo: 1.5, hi: null }, 0.3, 0.1) as number, 1.3, 1e-9);
    expect(grooveDepth({ lo: null, hi: null }, 0.3, 0.1)).toBeNull();
  });
  it('a straight 1.0 cutter cuts 1.0 laid in its full width, 0.5 in half of it', () =>
    expect([1, 0.5].map((s) => depthByWidth(1, s))).toEqual([1, 0.5]));
  it('a round tip is clean up to half of it, a flat one up to its width, a pointed one never', () => {
    expect([0.5, 0.6, 0.61, 1.2, 1.21].map((w) => passesFor(w, ROUND))).toEqual([1, 1, 2, 2, 3]);
    expect([passesFor(1, { tip: 'flat', tip_mm: 1 }), passesFor(0.3, { tip: 'pointed', tip_mm: 0.2 })]).toEqual([1, null]);
  });
  it('the lip of a round tip is a circle’s height over its lowest point', () => {
    // R 0.6, sunk 1.0: 0.4 past its middle; 0.6 − √(0.36 − 0.16) = 0.1528.
    within(lipHeight(1, ROUND), 0.1528, 1e-3);
    expect([lipHeight(0.6, ROUND), lipHeight(1.3, ROUND), lipHeight(2, { tip: 'flat', tip_mm: 1 })]).toEqual([0, 0.6, 0]);
  });
  it('tilt is half the convergence less the half taper; the room is what is left on either side', () => {
    // atan(0.6 / 16) = 2.148°.
    within(tiltFor({ lo: 6, hi: 14 }, cutter('taper-round-12')) as number, 10 / 2 - 2.148, 1e-3);
    const room = tiltRoom(cutter('taper-round-12'), 2.852, 14);
    within(room.toUndercut, 5, 1e-3);
    within(room.toOver as number, 2, 1e-3);
    within(tiltRoom(cutter('taper-round-12'), 2.852, 14, 6).toOver as number, -4, 1e-3);
  });
  it('a tooth that leans to mesial has its mesial wall cut over more and its distal wall less', () => {
    expect([0, 90, 180, 270].map((a) => Math.round(leanAt([7, 0], a)))).toEqual([0, 7, 0, -7]);
    expect([0, 180].map((a) => Math.round(leanAt([0, -13], a)))).toEqual([-13, 13]);
  });
  it('what a box leaves to the hand, and what goes into it', () => {
    within(outOfReach(4.6, 4), 0.6, 1e-9);
    expect(outOfReach(3.9, 4)).toBe(0);
    within(roomFor(1.5, 1.3), -0.2, 1e-9);
  });
  it('left to cut is an interval, and lost only what is so for certain', () => {
    expect(leftToCut(1.5, 1.1, 0.1).map((x) => Number(x.toFixed(9)))).toEqual([0.3, 0.5]);
    expect([isLost(2.3, 0.1, 2), isLost(2.05, 0.1, 2), isLost(9, 0.1, null)]).toEqual([true, false, false]);
  });
  it('a hand aimed at the middle of a band as wide as two of its deviations ends inside 68.3 % of the time', () => {
    within(shareInside(1, 0.15, { lo: 0.85, hi: 1.15 }), 0.6827, 1e-3);
    within(shareInside(1, 0.15, { lo: 1, hi: null }), 0.5, 1e-6);
  });
});

describe('the plan of', () => {
  it('a metal crown on 46 by the mid school', () => {
    const p = planOf('metal-mid', '46', 'crown', ['depth-10', 'taper-round-12', 'needle', 'fine-round-12']);
    expect(p.steps.map((s) => s.id)).toEqual([
      'depth-cuts',
      'occlusal',
      'functional-bevel',
      'check-occlusion',
      'axial',
      'contacts',
      'margin',
      'smooth',
      'final',
    ]);
    const [grooves, , , , axial, , margin] = p.steps;
    // 1.0 to 1.6 aims at 1.3; a medium diamond leaves 0.3: the straight 1.0 cutter lies in its full width.
    expect([grooves.cutter, grooves.depth?.toFixed(2), grooves.share?.toFixed(2), grooves.shareOf]).toEqual([
      'depth-10',
      '1.00',
      '1.00',
      'width',
    ]);
    // 6° to 14° aims at 10°: half of it less 2.15° of half taper.
    within(axial.tilt as number, 2.852, 1e-3);
    within(axial.readings.find((r) => r.reading === 'toc.faciolingual')?.expected as number, 10, 1e-6);
    // A margin of 0.75 is wider than half of a round tip of 1.2.
    expect(margin.warnings).toEqual([expect.objectContaining({ kind: 'lip', passes: 2, widest: 0.6 })]);
    // Lower first molars lean in by 13°: held by the arch, the facial wall is undercut.
    expect(axial.warnings).toEqual([expect.objectContaining({ kind: 'undercut', sides: ['facial', 'distal'] })]);
    expect(p.tilt.find((t) => t.side === 'facial')?.byArch.toUndercut).toBeCloseTo(5 - 13, 3);
  });
  it('the same with the margin first, and cut in two', () => {
    const choices = { ...USUAL_CHOICES, first: 'margin', depth: 'in two' } as const;
    const p = planOf('lithium-disilicate-posterior', '36', 'crown', ['depth-10', 'taper-flat-10', 'needle', 'fine-round-12'], { choices });
    expect(p.steps.slice(0, 4).map((s) => s.id)).toEqual(['axial', 'contacts', 'margin', 'depth-cuts']);
    const grooves = p.steps.find((s) => s.id === 'depth-cuts');
    expect(grooves?.readings.map((r) => r.expected)).toEqual([1, 1, 1]);
    // A flat tip of 1.0 for a rounded shoulder of 1.05: two passes.
    expect(p.steps.find((s) => s.id === 'margin')?.passes).toBe(2);
  });
  it('an anterior all-ceramic crown', () => {
    const p = planOf('anterior-all-ceramic', '21', 'crown', [
      'depth-10',
      'taper-round-16',
      'taper-flat-10',
      'needle',
      'flame',
      'fine-round-12',
    ]);
    expect(p.steps.map((s) => s.id)).toEqual([
      'incisal',
      'facial-planes',
      'contacts',
      'lingual-wall',
      'lingual-fossa',
      'margin',
      'smooth',
      'final',
    ]);
    expect(p.steps[0].depth).toBeCloseTo(1.75, 6);
    expect(p.steps[0].gauge).toEqual({ passes: 1.5, stops: 2 });
    expect([p.steps[4].cutter, p.steps[5].cutter]).toEqual(['flame', 'taper-flat-10']);
  });
  it('a Class II with a short pear', () => {
    const p = planOf('class2-amalgam-access', '24', 'cavity', ['pear-10', 'straight-09'], { ridgeToFloor: 4.6 });
    const outline = p.steps[0];
    // 1.5 to 2.0 aims at 1.75; plain-cut carbide leaves 0.2: 1.55 of a pear 2.0 long is 78 %.
    expect([outline.cutter, outline.depth?.toFixed(2), outline.share?.toFixed(3), outline.shareOf]).toEqual([
      'pear-10',
      '1.55',
      '0.775',
      'length',
    ]);
    const box = p.steps.find((s) => s.id === 'box-shell');
    expect(box?.warnings).toEqual([{ kind: 'out-of-reach', by: expect.closeTo(0.6, 6) }]);
  });
  it('a box that the condenser asked for does not go into', () => {
    const s = standard('class2-amalgam-access');
    const narrow = {
      lines: s.lines.map((l) => ({
        ...l,
        fields: l.fields.map((f) => (f.reading === 'box.axialdepth' ? { ...f, band: { lo: 0.6, hi: 0.9 } } : f)),
      })),
    };
    const p = planFor({ kind: 'cavity', tooth: '24', standard: narrow, cutters: kit.cutters, gauges_mm: [] });
    expect(p.steps.find((q) => q.id === 'box-shell')?.warnings).toContainEqual({ kind: 'no-room', instrument: 1, opening: 0.75 });
    expect([
      p.boxes,
      planFor({ kind: 'cavity', tooth: '24', standard: s, cutters: kit.cutters, gauges_mm: [], boxes: ['distal'] }).boxes,
    ]).toEqual([['mesial', 'distal'], ['distal']]);
  });
  it('an onlay, whose box comes before its cusps', () => {
    const ids = planOf('onlay-ceramic', '46', 'onlay', ['straight-09', 'taper-flat-10', 'pear-10']).steps.map((s) => s.id);
    expect(ids.indexOf('box-open')).toBeLessThan(ids.indexOf('cover'));
  });
  it('a list without the cutter that a step needs says so', () => {
    const p = planOf('metal-mid', '46', 'crown', ['taper-round-12']);
    expect(p.steps.find((s) => s.id === 'contacts')?.warnings).toEqual([{ kind: 'no-cutter', duty: 'contact' }]);
  });
  it('a cutter too short, and one more tapered than is allowed', () => {
    const stub = { ...cutter('pear-10'), length_mm: 1 };
    const p = planFor({ kind: 'cavity', tooth: '46', standard: standard('class1-amalgam'), cutters: [stub], gauges_mm: [] });
    expect(p.steps[0].warnings).toEqual([{ kind: 'short', depth: expect.closeTo(1.55, 6), length: 1 }]);
    const cone = { ...cutter('taper-round-12'), shank_mm: 3.4 };
    const q = planFor({ kind: 'crown', tooth: '46', standard: standard('metal-mid'), cutters: [cone], gauges_mm: [] });
    expect(q.steps.find((s) => s.id === 'axial')?.warnings).toContainEqual(expect.objectContaining({ kind: 'too-tapered', hi: 14 }));
  });
  it('every standard that ships has a plan: a step at least, and every figure a number', () => {
    for (const kind of KIND_NAMES as KindName[])
      for (const s of [
        'metal-mid',
        'onlay-metal',
        'three-quarter-posterior',
        'preformed-steel-molar',
        'amalgam-restoration',
        'class2-composite-slot',
        'mod-inlay',
      ].map(standard)) {
        if (s.kind !== kind) continue;
        const p = planFor({ kind, tooth: '26', standard: s, cutters: kit.cutters, gauges_mm: [1] });
        expect(p.steps.length).toBeGreaterThan(2);
        for (const r of p.steps.flatMap((q) => q.readings))
          expect([r.expected, r.final, r.hand, r.inside].every(Number.isFinite)).toBe(true);
      }
  });
});

it('a groove takes the straight cutter nearest to its depth that is long enough', () => {
  const two = [cutter('straight-09'), cutter('depth-10')];
  const task = { depth: 1, width: null, squareMargin: false };
  expect(chooseCutter('groove', two, task)?.id).toBe('depth-10');
  expect(chooseCutter('groove', two, { ...task, depth: 5 })).toBeNull();
});

describe('likely causes', () => {
  const read = (name: string, zone: string | null, stat: Reading['stat'], value: number, U: number): Reading =>
    ({ name, zone, stat, unit: 'deg' as Unit, value, U, at: null, coverage: 1, samples: 9, reason: null }) as Reading;
  const c = cutter('taper-round-12');
  const plan = { tilt: 2.852, width: 0.55, convergence: 10 };
  it('a convergence of 16° with both walls at 8° is a hand tilted by 3°', () => {
    const rows = [
      read('toc.mesiodistal', null, 'mean', 16, 1),
      read('taper.wall', 'mesial', 'median', 8, 1),
      read('taper.wall', 'distal', 'median', 8, 1),
    ];
    expect(causesOf(rows, c, plan)).toEqual([
      expect.objectContaining({ kind: 'tilted', figure: 3, reading: 'toc.mesiodistal', fits: 'well' }),
    ]);
  });
  it('with one wall at 11° and the other as planned it is that wall’s', () => {
    const rows = [
      read('toc.mesiodistal', null, 'mean', 16, 1),
      read('taper.wall', 'mesial', 'median', 5, 1),
      read('taper.wall', 'distal', 'median', 11, 1),
    ];
    expect(causesOf(rows, c, plan)).toEqual([expect.objectContaining({ kind: 'tilted', figure: 6, zone: 'distal' })]);
  });
  it('a margin of 1.2 is two passes of half a tip; with a lip of the tip’s own height one pass past its middle', () => {
    const wide = read('margin.width', 'facial', 'median', 1.18, 0.05);
    expect(causesOf([wide], c, plan)).toEqual([expect.objectContaining({ kind: 'two-passes', figure: 2, fits: 'well' })]);
    const past = read('margin.width', 'facial', 'median', 1, 0.05);
    const found = causesOf([past, read('margin.lip', 'facial', 'p95', 0.15, 0.03)], c, plan);
    expect(found).toEqual([expect.objectContaining({ kind: 'past-half-tip', figure: expect.closeTo(0.4, 9), fits: 'well' })]);
  });
  it('what fits neither is not told', () => expect(causesOf([read('margin.width', 'facial', 'median', 0.9, 0.05)], c, plan)).toEqual([]));
  it('expected 1.0 of a 1.0 cutter, 0.7 read: sunk to seven tenths', () => within(shareRead(0.7, cutter('depth-10'), 'width'), 0.7, 1e-9));
});

describe('what to do after a step', () => {
  const line = (stands: Parameters<typeof decide>[0][number]['stands'], of = 8) => ({ stands, of });
  it.each([
    [[line('enough'), line('enough')], [], 'go-on'],
    [[line('enough'), line('cut-more')], [], 'correct'],
    [[line('enough'), line('to-check')], [], 'look'],
    [[line('not-read')], [], 'look'],
    [[], [], 'look'],
    [[line('enough')], [{ made: null }], 'look'],
    [[line('too-much'), line('cut-more')], [], 'lost'],
    [[line('too-much', 30)], [], 'new-tooth'],
    [[line('enough')], [{ made: true }], 'new-tooth'],
  ] as const)('%j with %j: %s', (lines, critical, decision) => expect(decide(lines, critical, 75).decision).toBe(decision));
  it('says what is lost', () => expect(decide([line('too-much', 8), line('enough')], [], 75)).toEqual({ decision: 'lost', costs: 8 }));
});
