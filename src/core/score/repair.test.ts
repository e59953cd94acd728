import { describe, expect, it } from 'vitest';
import { entryOf } from '../catalogue/catalogue.ts';
import type { Stat } from '../catalogue/terms.ts';
import { type Reading, reading } from '../result/reading.ts';
import { cutterFor, HALF_TAPER } from './cutters.ts';
import { repairOf } from './repair.ts';
import type { Rubric, Target } from './rubric.ts';
import { score } from './score.ts';

const open = { lo: null, hi: null };
const target = (name: string, lo: number | null, hi: number | null, zone: string | null = null): Target => ({
  reading: name,
  zone,
  stat: statOf(name),
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
/** The statistic asked for here: the median, or the reading's first statistic. */
const statOf = (name: string): Stat => (entryOf(name).stats.median ? 'median' : (Object.keys(entryOf(name).stats)[0] as Stat));
const read = (name: string, value: number, U = 0.04): Reading => reading({ name, stat: statOf(name), value, U });
/** Repair of the first criterion. */
const first = (targets: Target[], readings: Reading[], height: number | null = 4) => {
  const s = score(rubric(...targets), { readings, curves: {} });
  const wall = height === null ? [] : [read('wall.height', height)];
  return repairOf(s.criteria[0].targets[0], s, [...readings, ...wall]);
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
  it('sharp edges are rounded by further cutting', () =>
    expect(first([target('edge.sharp', null, 1)], [read('edge.sharp', 6, 0.5)])).toMatchObject({
      can: true,
      cutter: { shape: 'fine-grit finisher' },
    }));
  it('a scratch on the neighbour is none of the tooth’s', () =>
    expect(first([target('neighbour.mesial', null, 0.1)], [read('neighbour.mesial', 0.4)])).toMatchObject({
      can: false,
      why: 'not-by-cutting',
    }));
});

describe('a lean', () => {
  it('is increased at the top of the wall, by its height times the tangent', () => {
    const r = first([target('taper.wall', 2, 8)], [read('taper.wall', -3, 1)]);
    expect(r).toMatchObject({ can: true, where: 'wall top' });
    if (r?.can) expect(r.depth).toBeCloseTo(4 * Math.tan((6 * Math.PI) / 180), 6);
  });
  it('is decreased at its foot, unless that makes the margin too wide', () => {
    const taper = target('taper.wall', 2, 8);
    expect(first([taper], [read('taper.wall', 14, 1)])).toMatchObject({ can: true, where: 'wall foot' });
    const margin = target('margin.width', 0.4, 0.8);
    expect(first([taper, margin], [read('taper.wall', 14, 1), read('margin.width', 0.7)])).toEqual({
      can: false,
      why: 'breaks-other',
      other: 'margin.width criterion',
    });
  });
  it('has no depth without a wall’s height', () => {
    const r = first([target('toc.mean', 6, 10)], [read('toc.mean', 2, 1)], null);
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

describe('how much is to be taken away', () => {
  const zone = (name: string, stat: Reading['stat'], value: number) => reading({ name, zone: 'MB', stat, value, U: 0.04 });
  const depths = (p05: number, median: number, p95: number, area: number) => [
    zone('reduction.occlusal', 'p05', p05),
    zone('reduction.occlusal', 'median', median),
    zone('reduction.occlusal', 'p95', p95),
    zone('reduction.occlusal.area', 'value', area),
  ];
  const cusp = target('reduction.occlusal', 1, 1.5, 'MB');
  const volume = (...r: Reading[]) => {
    const repair = first([cusp], r);
    return repair?.can ? repair.volume : null;
  };
  it('a zone of one depth: its area times what is missing', () => expect(volume(...depths(0.7, 0.7, 0.7, 5))).toBeCloseTo(5 * 0.34, 6));
  it('a slope: only what is thinner than the aim', () => {
    // Straight from 0.5 through 0.8 to 1.1; thinner than 1.04 are the shares below 0.5 + 0.45 · 0.24 / 0.3 = 0.86.
    const flat = 0.05 * 0.54;
    const ramp = (0.86 - 0.05) * (0.54 / 2);
    expect(volume(...depths(0.5, 0.8, 1.1, 10))).toBeCloseTo(10 * (flat + ramp), 1);
  });
  it('is not guessed where no area was read', () => expect(volume(zone('reduction.occlusal', 'median', 0.7))).toBeNull());
  const walls = ['facial gingival third', 'facial mid third', 'lingual mid third', 'mesiofacial mid third'].map((z) =>
    reading({ name: 'reduction.axial.area', zone: z, value: 6, U: 0.3 }),
  );
  it('a margin: a slab of its wall, in its sector or on all four sides', () => {
    const of = (z: string | null) => {
      const r = first(
        [target('margin.width', 0.6, 1, z)],
        [reading({ name: 'margin.width', zone: z, stat: 'median', value: 0.4, U: 0.05 }), ...walls],
      );
      return r?.can ? r.volume : null;
    };
    expect(of('facial')).toBeCloseTo(0.25 * 12, 6);
    expect(of(null)).toBeCloseTo(0.25 * 18, 6);
  });
  it('a lean: half of that, since nothing is cut at the wall’s other end', () => {
    const r = first([target('taper.wall', 2, 8)], [read('taper.wall', -3, 1), ...walls]);
    expect(r?.can && r.volume).toBeCloseTo((4 * Math.tan((6 * Math.PI) / 180) * 18) / 2, 6);
  });
});

describe('with which cutter', () => {
  const cutter = (name: string, to: number, ...r: Reading[]) => cutterFor({ name }, to, r);
  const form = (f: string, value: number) => reading({ name: 'margin.form', zone: f, stat: 'share', value, U: 0.1 });
  it('a chamfer wants a tip of twice its width, a shoulder one of its own', () => {
    expect(cutter('margin.width', 0.5, form('chamfer', 0.9))).toMatchObject({ shape: 'round-end taper', diameter: 1 });
    expect(cutter('margin.width', 0.55, form('chamfer', 0.9))).toMatchObject({ diameter: 1.2 });
    expect(cutter('margin.width', 1, form('rounded shoulder', 0.8))).toMatchObject({ shape: 'flat-end taper', diameter: 1 });
  });
  it('a wall leans by half taper and tilt: a sum of two by half of it', () => {
    expect(cutter('taper.wall', 5)?.tilt).toBe(Math.round(5 - HALF_TAPER));
    expect(cutter('toc.mean', 10)?.tilt).toBe(Math.round(5 - HALF_TAPER));
    expect(cutter('taper.wall', -HALF_TAPER)?.tilt).toBe(-5);
  });
  it('a floor is deepened by what goes through the isthmus', () => {
    const isthmus = (v: number) => reading({ name: 'outline.isthmus', stat: 'min', value: v, U: 0.05 });
    expect(cutter('depth.pulpal', 1.8, isthmus(1.15))).toEqual({ shape: 'pear', diameter: 1, tilt: null });
    expect(cutter('depth.pulpal', 1.8, isthmus(0.7))?.diameter).toBe(0.8);
  });
  it('names nothing for what no cutter mends', () => expect(cutter('neighbour.mesial', 0)).toBeNull());
});
