import { describe, expect, it } from 'vitest';
import { type Reading, reading } from '../result/reading.ts';
import { repairOf } from './repair.ts';
import type { Rubric, Target } from './rubric.ts';
import { score } from './score.ts';

const open = { lo: null, hi: null };
const target = (name: string, lo: number | null, hi: number | null, zone: string | null = null): Target => ({
  reading: name,
  zone,
  stat: 'median',
  band: { lo, hi },
  fair: open,
  poor: open,
});
const rubric = (...targets: Target[]): Rubric => ({
  format: 'veritor-rubric/1',
  id: 'r',
  name: 'r',
  standard: 's',
  passMark: 60,
  levels: [3, 2, 1, 0].map((level) => ({ level: level as 0 | 1 | 2 | 3, word: `${level}`, share: level / 3 })),
  criteria: targets.map((t, i) => ({ id: `${i}`, title: `${t.reading} criterion`, weight: 1, why: '', targets: [t] })),
  critical: [],
});
const read = (name: string, value: number, U = 0.04, unit: Reading['unit'] = 'mm'): Reading =>
  reading({ name, stat: 'median', unit, value, U });
/** Repair of the first criterion. */
const first = (targets: Target[], readings: Reading[], height: number | null = 4) => {
  const s = score(rubric(...targets), readings, {});
  return repairOf(s.criteria[0].targets[0], s, height);
};

describe('what it would take', () => {
  it('to deepen: from the reading to just inside the band', () => {
    const r = first([target('reduction.occlusal', 1, 1.5)], [read('reduction.occlusal', 0.7)]);
    expect(r).toMatchObject({ can: true, where: 'here', from: 0.7 });
    if (r?.can) {
      expect(r.to).toBeCloseTo(1.04, 6);
      expect(r.by).toBeCloseTo(0.34, 6);
    }
  });
  it('is the middle of a band that is narrower than the uncertainty', () => {
    const r = first([target('margin.width', 0.5, 0.6)], [read('margin.width', 0.2, 0.2)]);
    expect(r?.can && r.to).toBeCloseTo(0.55, 6);
  });
  it('is nothing where the reading is inside or cannot be told', () => {
    expect(first([target('margin.width', 0.5, 0.8)], [read('margin.width', 0.6)])).toBeNull();
    expect(first([target('margin.width', 0.5, 0.8)], [read('margin.width', 0.49)])).toBeNull();
    expect(first([target('margin.width', 0.5, 0.8)], [])).toBeNull();
  });
});

describe('what cutting cannot do', () => {
  it.each([
    ['reduction.occlusal', 2],
    ['depth.pulpal', 2],
    ['margin.width', 2],
    ['outline.isthmus', 2],
  ])('%s beyond its band cannot be put back', (name, value) =>
    expect(first([target(name, 1, 1.5)], [read(name, value)])).toEqual({ can: false, why: 'too-much', other: null }),
  );
  it('a finish line under the gingiva cannot be lifted', () =>
    expect(first([target('margin.gingiva', 0, 1)], [read('margin.gingiva', -0.4)])).toMatchObject({ can: false, why: 'too-much' }));
  it('a scratch on the neighbour is none of the tooth’s', () =>
    expect(first([target('neighbour.mesial', null, 0.1)], [read('neighbour.mesial', 0.4)])).toMatchObject({
      can: false,
      why: 'not-by-cutting',
    }));
});

describe('a lean', () => {
  it('is increased at the top of the wall, by its height times the tangent', () => {
    const r = first([target('taper.wall', 2, 8)], [read('taper.wall', -3, 1, 'deg')]);
    expect(r).toMatchObject({ can: true, where: 'wall top' });
    if (r?.can) expect(r.depth).toBeCloseTo(4 * Math.tan((6 * Math.PI) / 180), 6);
  });
  it('is decreased at its foot, unless that makes the margin too wide', () => {
    const taper = target('taper.wall', 2, 8);
    expect(first([taper], [read('taper.wall', 14, 1, 'deg')])).toMatchObject({ can: true, where: 'wall foot' });
    const margin = target('margin.width', 0.4, 0.8);
    expect(first([taper, margin], [read('taper.wall', 14, 1, 'deg'), read('margin.width', 0.7)])).toEqual({
      can: false,
      why: 'breaks-other',
      other: 'margin.width criterion',
    });
  });
  it('has no depth without a wall’s height', () => {
    const r = first([target('toc.mean', 6, 10)], [read('toc.mean', 2, 1, 'deg')], null);
    expect(r).toMatchObject({ can: true, depth: null });
  });
});

describe('no cut is proposed that breaks another criterion', () => {
  it('occlusal reduction takes wall height', () => {
    const both = (height: number) =>
      first(
        [target('reduction.occlusal', 1.5, 2), target('wall.height', 3, null)],
        [read('reduction.occlusal', 1), read('wall.height', height)],
      );
    expect(both(4)).toMatchObject({ can: true });
    expect(both(3.2)).toEqual({ can: false, why: 'breaks-other', other: 'wall.height criterion' });
  });
  it('a wider margin deepens the axial wall', () =>
    expect(
      first([target('margin.width', 1, 1.3), target('reduction.axial', 0.5, 1)], [read('margin.width', 0.6), read('reduction.axial', 0.9)]),
    ).toMatchObject({ can: false, why: 'breaks-other' }));
});
