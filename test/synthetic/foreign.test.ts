import { describe, expect, it } from 'vitest';
import { align } from '#core/align/align.ts';
import { isSizeOff } from '#core/align/size.ts';
import { measure } from '#core/pipeline.ts';
import type { Reading } from '#core/result/reading.ts';
import type { ForeignCase, ScanOptions } from '../../study/foreign/case.ts';
import { coarser } from '../../study/foreign/coarse-master.ts';
import { FOREIGN } from '../../study/foreign/families.ts';
import { loftCrown } from '../../study/foreign/loft.ts';
import { LOFT_CROWN, type LoftCrown } from '../../study/foreign/loft-crown.ts';
import { surfaceTruths } from '../../study/foreign/loft-surface.ts';
import { LOFT_TEETH } from '../../study/foreign/loft-tooth.ts';

/** Crowns lofted round their axis; what is expected is what they were made with. */
const crown = (own: Partial<LoftCrown> = {}, scan: Partial<ScanOptions> = {}, form = 'molar46') =>
  loftCrown('crown', form, { ...LOFT_CROWN, ...own }, { seed: 4, spacing: 0.16, ...scan });

const readings = (...of: Parameters<typeof crown>) => readingsOf(crown(...of));

const readingsOf = (c: Pick<ForeignCase, 'kind' | 'scan' | 'master'>) => {
  const all = measure(c.kind, c.scan, c.master).readings;
  return (name: string, zone: string | null, stat: string): Extract<Reading, { reason: null }> => {
    const r = all.find((q) => q.name === name && q.zone === zone && q.stat === stat);
    if (!r || r.value === null) throw new Error(`${name} ${zone} ${stat}: ${r ? r.reason : 'is missing'}`);
    return r;
  };
};

describe('a clean crown of another construction', () => {
  const read = readings();
  it('has a margin as wide everywhere: noise does not spread its 5 % and 95 %', () => {
    for (const stat of ['min', 'p05', 'median', 'p95', 'max'])
      expect(Math.abs(read('margin.width', null, stat).value - 0.8), stat).toBeLessThan(0.03);
  });
  it('has no lip and no damage beside it, with the detection limit as U', () => {
    for (const [name, limit] of [
      ['margin.lip', 0.1],
      ['neighbour.mesial', 0.05],
      ['neighbour.distal', 0.05],
    ] as const) {
      const r = read(name, null, 'max');
      expect(r.value, name).toBe(0);
      expect(r.U, name).toBeGreaterThan(0.01);
      expect(r.U, name).toBeLessThan(limit);
    }
  });
  it('leans as it was made to, and shows no sharp edge at a radius of 0.3', () => {
    expect(Math.abs(read('toc.faciolingual', null, 'mean').value - 12)).toBeLessThan(0.5);
    expect(read('edge.sharp', null, 'value').value).toBeLessThan(1);
  });
});

describe('its surface, by the shortest way between the two lofts', () => {
  // The master ends in a tip of triangles that are no more than lines.
  const read = readings({ floor: 'chamfer' }, {}, 'molar26');
  const told = surfaceTruths(LOFT_TEETH.molar26, { ...LOFT_CROWN, floor: 'chamfer' });
  const depths = told.filter((t) => t.name.startsWith('reduction.'));
  it.each(depths.map((t) => [t.name, t.zone, t.stat, t.value] as const))('%s %s %s', (name, zone, stat, value) => {
    const r = read(name, zone, stat);
    expect(Math.abs(r.value - value)).toBeLessThan(Math.max(0.04, r.U));
    expect(r.U).toBeLessThan(0.15);
  });
  it('has a depth told in every zone', () => expect(depths.length).toBe(3 * (4 * 3 + 4 + 1)));

  /** Largest U with which each may be given. */
  const sure = {
    'contact.broken': 0.12,
    'form.occlusal.flattened': 0.6,
    'margin.form': 0.2,
    'margin.step': 0.3,
    'margin.wander': 0.05,
    'resistance.share': 0.1,
  } as const;
  const others = told.filter((t) => t.name in sure);
  it.each(others.map((t) => [t.name, t.zone, t.stat, t.value] as const))('%s %s %s', (name, zone, stat, value) => {
    const r = read(name, zone, stat);
    expect(Math.abs(r.value - value)).toBeLessThan(r.U);
    expect(r.U).toBeLessThan(sure[name as keyof typeof sure]);
  });
  it('follows the uncut one as it was made to', () => {
    const over = told.find((t) => t.name === 'form.occlusal' && t.zone === null);
    expect(Math.abs(read('form.occlusal', null, 'median').value - (over?.value ?? 0))).toBeLessThan(1);
  });
});

describe('a master of few, large triangles', () => {
  // Between two teeth its gum has no vertex left: triangles run from tooth to tooth at the gingival margin.
  const swept = FOREIGN.find((c) => c.name === 'swept round end')?.make();
  if (!swept) throw new Error('no such case');
  const read = readingsOf({ ...swept, master: coarser(swept.master) });
  it.each(swept.truths().map((t) => [t.name, t.zone, t.stat, t.value] as const))('%s %s %s', (name, zone, stat, value) => {
    const r = read(name, zone, stat);
    expect(Math.abs(r.value - value)).toBeLessThan(1.2 * r.U);
    expect(r.U).toBeLessThan(name.startsWith('toc') || name.startsWith('draw') || name.includes('lean') ? 2.5 : 0.25);
  });
});

describe('a finish line under the gingiva', () => {
  const lingually = (p: number): number => (Math.abs(p - 180) < 50 ? -0.4 : 0.4);
  it.each([
    ['beside a gum that stands where the tooth was', 0.1],
    ['beside a gum that leans in over the floor', -0.2],
    ['beside a gum that was pushed out', 0.5],
  ])('%s is found on the tooth, and the gum is no lip', (_, gum) => {
    const read = readings({ over: lingually, gum });
    expect(Math.abs(read('margin.gingiva', 'lingual', 'median').value + 0.4)).toBeLessThan(0.08);
    expect(Math.abs(read('margin.gingiva', 'facial', 'median').value - 0.4)).toBeLessThan(0.05);
    expect(read('margin.lip', 'lingual', 'max').value).toBeLessThan(0.05);
    expect(Math.abs(read('margin.width', 'lingual', 'median').value - 0.8)).toBeLessThan(0.06);
  });
});

describe('a bevel', () => {
  it('ends where the direction is midway: the rounding takes nothing off it', () => {
    const read = readings({ bevel: { angle: 45, width: 1.2 }, down: 1.6 });
    expect(Math.abs(read('bevel.functional.angle', null, 'value').value - 45)).toBeLessThan(2);
    expect(Math.abs(read('bevel.functional.width', null, 'value').value - 1.2)).toBeLessThan(0.08);
  });
});

describe('damage to a neighbour', () => {
  it.each([
    [0.06, 1.2],
    [0.15, 1],
  ])('of %s mm, %s mm across, is found', (depth, across) => {
    const r = readings({ nick: { side: 'mesial', depth, across } })('neighbour.mesial', null, 'max');
    expect(Math.abs(r.value - depth)).toBeLessThan(0.03);
  });
});

describe('a scan that is not what it seems', () => {
  it('is refused when it is mirrored, although its neighbours look alike', () => {
    const c = crown({}, { mirrored: true });
    expect(() => align(c.scan, c.master)).toThrow(/mirrored/);
  });
  it('is reported when 1 % too large, with wider U of places; a good one is not', () => {
    const c = crown({}, { scale: 1.01 });
    const large = align(c.scan, c.master);
    expect(Math.abs((large.size?.factor ?? 0) - 1.01)).toBeLessThan(0.001);
    expect(large.size && isSizeOff(large.size)).toBe(true);
    expect(large.pointError).toBeGreaterThan(0.04);
    const good = align(crown().scan, crown().master);
    expect(good.size && isSizeOff(good.size)).toBe(false);
    expect(good.pointError).toBeLessThan(0.01);
  });
  it('reads as the true size once a person asks for the correction', () => {
    const c = crown({}, { scale: 1.01 });
    const m = measure(c.kind, c.scan, c.master, { tooLargeBy: 1.01 });
    const width = m.readings.find((r) => r.name === 'margin.width' && r.zone === null && r.stat === 'median');
    expect(Math.abs((width?.value ?? 0) - 0.8)).toBeLessThan(0.03);
    expect(m.corrected).toBe(1.01);
    expect(m.alignment.size && isSizeOff(m.alignment.size)).toBe(false);
  });
});
