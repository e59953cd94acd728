import { describe, expect, test } from 'vitest';
import { measure } from '#core/pipeline.ts';
import type { Reading } from '#core/result/reading.ts';
import { build, CASES, type Outsider } from '../../study/foreign/level-set.ts';

/** Shapes that the simulator did not make; expected values are the cutters' own numbers. Coarse bodies keep it quick. */
const read = (
  name: string,
  fine = 0.26,
): { case: Outsider; value: (n: string, zone: string | null, stat: string) => number; all: readonly Reading[] } => {
  const own = CASES.find((c) => c.name === name) as Outsider;
  const b = build(own, 5, 0.015, 0.34, fine);
  const { readings } = measure(own.kind, b.scan, b.master);
  return {
    case: own,
    all: readings,
    value: (n, zone, stat) => {
      const r = readings.find((q) => q.name === n && q.zone === zone && q.stat === stat);
      if (!r || r.value === null) throw new Error(`${n} ${zone} ${stat}: ${r ? r.reason : 'is missing'}`);
      return r.value;
    },
  };
};

describe('an onlay that covers the facial cusps', () => {
  const o = read('onlay molar');
  const cut = o.case.onlay as NonNullable<Outsider['onlay']>;

  test('has its shoulder only where cusps are covered', () => {
    expect(Math.abs(o.value('margin.width', 'facial', 'median') - cut.cover.width)).toBeLessThan(0.03);
    const lingual = o.all.find((r) => r.name === 'margin.width' && r.zone === 'lingual' && r.stat === 'median');
    expect(lingual).toMatchObject({ value: null, reason: 'not-covered' });
  });

  test('reads reduction on covered cusps and refuses it on the others', () => {
    expect(o.value('reduction.occlusal', 'MB', 'median')).toBeGreaterThan(1.3);
    const kept = o.all.find((r) => r.name === 'reduction.occlusal' && r.zone === 'ML' && r.stat === 'median');
    expect(kept).toMatchObject({ value: null, reason: 'nothing-prepared' });
  });

  test('opens between its internal walls', () => {
    const lean = -cut.slot.lean;
    expect(Math.abs(o.value('wall.angle', 'lingual', 'mean') + lean)).toBeLessThan(1);
    expect(Math.abs(o.value('divergence', 'box distal', 'value') - 2 * lean)).toBeLessThan(2);
    expect(Math.abs(o.value('divergence', 'axial', 'value') - 2 * lean)).toBeLessThan(2);
  });

  test('has both boxes as wide as they were cut', () => {
    expect(Math.abs(o.value('box.width', 'box mesial floor', 'value') - cut.boxes[0].width)).toBeLessThan(0.04);
    expect(Math.abs(o.value('box.width', 'box distal floor', 'value') - cut.boxes[1].width)).toBeLessThan(0.04);
  });
});

describe('a three-quarter crown with grooves', () => {
  const o = read('partial canine', 0.16);
  const cut = o.case.partial as NonNullable<Outsider['partial']>;

  test('leaves the facial side alone and measures the rest', () => {
    const facial = o.all.find((r) => r.name === 'taper.wall' && r.zone === 'facial' && r.stat === 'median');
    expect(facial).toMatchObject({ value: null, reason: 'not-covered' });
    expect(Math.abs(o.value('margin.width', 'lingual', 'median') - cut.crown.width)).toBeLessThan(0.03);
    expect(Math.abs(o.value('slice.angle', 'mesial', 'median') - cut.crown.taper.m)).toBeLessThan(1);
    expect(Math.abs(o.value('slice.angle', 'distal', 'median') - cut.crown.taper.d)).toBeLessThan(1);
  });

  test('finds one groove each side, as wide as the cutter where it meets the wall, and along the axis', () => {
    expect(o.all.filter((r) => r.name === 'groove.depth').map((r) => r.zone)).toEqual(['mesial', 'distal']);
    for (const g of ['mesial', 'distal']) {
      const width = o.value('groove.width', g, 'median');
      expect(width).toBeGreaterThan(1.8 * cut.grooves[0].radius);
      expect(width).toBeLessThan(2.25 * cut.grooves[0].radius);
    }
    expect(o.value('draw.tilt', null, 'value')).toBeLessThan(1);
    expect(o.value('groove.parallel', 'mesial distal', 'value')).toBeLessThan(3);
  });

  test('reads the pinhole from its ledge to its bottom', () => {
    const pin = cut.pin as NonNullable<typeof cut.pin>;
    expect(Math.abs(o.value('pin.depth', 'pin', 'value') - (pin.ledge - pin.bottom))).toBeLessThan(0.06);
  });
});

describe('a crown on a tooth of another make', () => {
  const o = read('premolar UL shoulder');
  const cut = o.case.crown as NonNullable<Outsider['crown']>;

  test('gives back width, convergence and height over the gingiva', () => {
    expect(Math.abs(o.value('margin.width', null, 'median') - cut.width)).toBeLessThan(0.03);
    expect(Math.abs(o.value('margin.gingiva', null, 'median') - cut.over)).toBeLessThan(0.03);
    expect(Math.abs(o.value('toc.faciolingual', null, 'mean') - cut.taper.f - cut.taper.l)).toBeLessThan(1);
    expect(Math.abs(o.value('toc.mesiodistal', null, 'mean') - cut.taper.m - cut.taper.d)).toBeLessThan(1);
  });

  test('invents neither undercut, lip nor damage', () => {
    expect(o.value('undercut.depth', null, 'max')).toBeLessThan(0.05);
    expect(o.value('margin.lip', null, 'max')).toBeLessThan(0.05);
    expect(o.value('neighbour.mesial', null, 'max')).toBeLessThan(0.05);
    expect(o.value('neighbour.distal', null, 'max')).toBeLessThan(0.05);
  });
});

describe('a crown on a lower incisor', () => {
  const o = read('incisor LR', 0.18);
  const cut = o.case.crown as NonNullable<Outsider['crown']>;

  test('is as short and as wide at its margin as it was cut', () => {
    expect(Math.abs(o.value('reduction.incisal', null, 'value') - cut.down)).toBeLessThan(0.03);
    expect(Math.abs(o.value('margin.width', null, 'median') - cut.width)).toBeLessThan(0.03);
    expect(Math.abs(o.value('toc.faciolingual', null, 'mean') - cut.taper.f - cut.taper.l)).toBeLessThan(1);
    expect(Math.abs(o.value('toc.mesiodistal', null, 'mean') - cut.taper.m - cut.taper.d)).toBeLessThan(1);
  });

  test('has no undercut, however its edge runs along the half planes, and no damage beside it', () => {
    for (const zone of [null, 'long axis']) expect(o.value('undercut.depth', zone, 'max')).toBe(0);
    expect(o.value('neighbour.mesial', null, 'max')).toBeLessThan(0.05);
    expect(o.value('neighbour.distal', null, 'max')).toBeLessThan(0.05);
  });
});
