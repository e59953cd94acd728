import { describe, expect, it } from 'vitest';
import type { Reading } from '../result/reading.ts';
import { reading } from '../result/reading.ts';
import { forTooth } from './expand.ts';
import { unitOf, withHand } from './hand.ts';
import type { Rubric } from './rubric.ts';
import { score } from './score.ts';
import { verdict } from './verdict.ts';

const band = (lo: number | null, hi: number | null) => ({ lo, hi });
const rubric: Rubric = {
  format: 'veritor-rubric/1',
  id: 'r',
  name: 'r',
  standard: 's',
  passMark: 60,
  levels: [
    { level: 3, word: 'secure', share: 1 },
    { level: 2, word: 'sound', share: 0.8 },
    { level: 1, word: 'marginal', share: 0.5 },
    { level: 0, word: 'not yet', share: 0 },
  ],
  criteria: [
    {
      id: 'width',
      title: 'Width',
      weight: 3,
      why: '',
      targets: [{ reading: 'margin.width', zone: null, stat: 'median', band: band(0.4, 0.8), fair: band(0.3, 1), poor: band(0.2, 1.2) }],
    },
    {
      id: 'cusps',
      title: 'Cusps',
      weight: 1,
      why: '',
      targets: [
        {
          reading: 'reduction.occlusal',
          zone: 'functional cusps',
          stat: 'median',
          band: band(1, 1.5),
          fair: band(0.8, 1.8),
          poor: band(0.6, 2),
        },
      ],
    },
  ],
  critical: [
    {
      id: 'neighbour',
      title: 'Neighbour',
      reading: 'neighbour.mesial',
      zone: null,
      stat: 'max',
      allowed: band(null, 0.2),
      effect: { kind: 'fail' },
    },
  ],
};
const ours = forTooth(rubric, [
  { name: 'ML', role: 'functional' },
  { name: 'MB', role: 'non-functional' },
]);
const mm = (name: string, zone: string | null, stat: Reading['stat'], value: number, U = 0.03): Reading =>
  reading({ name, zone, stat, unit: 'mm', value, U });
const clean = [
  mm('margin.width', null, 'median', 0.6),
  mm('reduction.occlusal', 'ML', 'median', 1.2),
  mm('neighbour.mesial', null, 'max', 0),
];

describe('the decision rule', () => {
  it.each([
    [1.0, 0.05, 'inside'],
    [0.92, 0.05, 'close'],
    [0.88, 0.05, 'close'],
    [0.8, 0.05, 'outside'],
    [1.3, 0.05, 'outside'],
    [0.95, 0.05, 'inside'],
  ])('%f ± %f in [0.9, 1.2] is %s', (value, U, expected) => expect(verdict({ value, U }, band(0.9, 1.2))).toBe(expected));
  it('an open end never refuses', () => expect(verdict({ value: 99, U: 1 }, band(0, null))).toBe('inside'));
  it('a refused reading has no verdict', () => expect(verdict({ value: null, U: null }, band(0, 1))).toBe('none'));
});

describe('the score', () => {
  it('is 100 when everything is inside', () => expect(score(ours, clean, {}).total).toBe(100));
  it('weighs a criterion one level down', () => {
    const s = score(ours, [mm('margin.width', null, 'median', 0.9), ...clean.slice(1)], {});
    // 3/4 of the weight at 0.8, 1/4 at 1.
    expect(s.total).toBe(85);
    expect(s.criteria[0].verdict).toBe('outside');
  });
  it('takes the instructor’s level over the computed one', () => {
    const s = score(ours, clean, { width: { level: 0 } });
    expect(s.total).toBe(25);
    expect(s.criteria[0].overridden).toBe(true);
  });
  it('fails on a critical error, unless it is struck out', () => {
    const hurt = [...clean.slice(0, 2), mm('neighbour.mesial', null, 'max', 0.4)];
    expect(score(ours, hurt, {}).passed).toBe(false);
    expect(score(ours, hurt, {}, new Set(['neighbour'])).passed).toBe(true);
  });
  it('leaves what is too close to call to the instructor’s eye', () => {
    const near = [mm('margin.width', null, 'median', 0.41), ...clean.slice(1)];
    expect(score(ours, near, {}).open).toEqual(['width']);
    expect(score(ours, near, { width: { level: 3 } }).open).toEqual([]);
  });
  it('gives no total while a criterion has no level', () => {
    expect(score(ours, clean.slice(1), {}).total).toBeNull();
    expect(score(ours, clean.slice(1), { width: { level: 2 } }).total).toBe(85);
  });
  it('says where each point comes from', () => expect(score(ours, clean, {}).lines.reduce((a, l) => a + l.points, 0)).toBeCloseTo(100));
});

describe('places that a preparation turned out to have', () => {
  const target = (zone: string) => ({
    reading: 'box.axialdepth',
    zone,
    stat: 'value' as const,
    band: band(1, 1.5),
    fair: band(0.8, 1.7),
    poor: band(0.6, 1.9),
  });
  const asked = (zone: string): Rubric => ({
    ...rubric,
    criteria: [{ id: 'axial', title: 'axial', weight: 1, why: '', targets: [target(zone)] }],
  });
  const found = ['box distal facial third', 'box distal lingual third'].map((zone) =>
    reading({ name: 'box.axialdepth', zone, unit: 'mm', value: 1.2, U: 0.05 }),
  );
  const zones = (zone: string, readings: Reading[]) => forTooth(asked(zone), [], readings).criteria[0].targets.map((t) => t.zone);
  it('become one target each', () => {
    expect(zones('every place', found)).toEqual(found.map((r) => r.zone));
    expect(zones('every box', [...found, reading({ name: 'box.axialdepth', zone: 'elsewhere', unit: 'mm', value: 1, U: 0.1 })])).toEqual(
      found.map((r) => r.zone),
    );
  });
  it('leave the target as it is when there is none, so that it shows', () => expect(zones('every place', [])).toEqual(['every place']));
});

describe('deduct from 100', () => {
  const deduct: Rubric = { ...ours, scoring: { kind: 'deduct', off: { sound: 2, marginal: 5, notYet: 10 } } };
  it('takes nothing for a clean attempt and says where it began', () => {
    const s = score(deduct, clean, {});
    expect(s.total).toBe(100);
    expect(s.lines[0]).toEqual({ text: 'Every attempt begins with', points: 100 });
  });
  it('takes points by level and weight', () => {
    // Width at the second level (weight 3), cusps at the lowest (weight 1): 100 − 3 × 2 − 10.
    const s = score(deduct, [mm('margin.width', null, 'median', 0.9), mm('reduction.occlusal', 'ML', 'median', 0.3), clean[2]], {});
    expect(s.total).toBe(84);
    expect(s.lines.reduce((sum, l) => sum + l.points, 0)).toBe(84);
  });
});

describe('examination style', () => {
  const exam: Rubric = { ...ours, scoring: { kind: 'examination', minor: 1, major: 0 } };
  it('passes with as many minor findings as are allowed', () => {
    const s = score(exam, [mm('margin.width', null, 'median', 0.9), clean[1], clean[2]], {});
    expect(s.passed).toBe(true);
    expect(s.lines.at(-1)?.text).toContain('1 minor of at most 1');
  });
  it('does not pass with a major one, whatever the figure', () => {
    const s = score(exam, [mm('margin.width', null, 'median', 1.1), clean[1], clean[2]], {});
    expect(s.total).toBeGreaterThan(60);
    expect(s.passed).toBe(false);
  });
});

describe('a rubric for what covers only some cusps', () => {
  const uncovered = { name: 'reduction.occlusal', zone: 'ML', stat: 'median', reason: 'nothing-prepared' } as const;
  it('does not ask for cusps that were left as they were', () => {
    const cusps = [{ name: 'ML', role: 'functional' } as const];
    expect(forTooth({ ...rubric, partial: true }, cusps, [uncovered]).criteria.map((c) => c.id)).toEqual(['width']);
    expect(forTooth(rubric, cusps, [uncovered]).criteria.map((c) => c.id)).toEqual(['width', 'cusps']);
  });
});

describe('critical errors about what only some masters have inside', () => {
  const pulp = { id: 'pulp', title: 'Pulp', reading: 'pulp.distance', zone: null, stat: 'min', allowed: { lo: 0.5, hi: null } } as const;
  const deep: Rubric = { ...rubric, critical: [{ ...pulp, effect: { kind: 'fail' } }] };
  const asked = (readings: Reading[]) => forTooth(deep, [], readings).critical.map((e) => e.id);
  it('do not apply where the master has no such body', () => expect(asked([...clean])).toEqual([]));
  it('apply where it has, and where nothing was scanned', () => {
    expect(asked([mm('pulp.distance', null, 'min', 0.3)])).toEqual(['pulp']);
    expect(asked([])).toEqual(['pulp']);
    expect(score(deep, [mm('pulp.distance', null, 'min', 0.3)], {}).critical[0].made).toBe(true);
  });
});

describe('readings by hand', () => {
  const blank = (h: { name: string; zone: string | null; stat: string }) => mm(h.name, h.zone, h.stat as Reading['stat'], 0);
  const gauge = { name: 'reduction.occlusal', zone: 'ML', stat: 'median', method: 'gauge', unit: 'mm', lo: 1, hi: 1.5 } as const;
  it('count where they were taken, and the scan counts elsewhere', () => {
    const both = withHand([...clean], [gauge], blank);
    expect(both.find((r) => r.zone === 'ML')).toMatchObject({ value: 1.25, U: 0.25 });
    expect(both.find((r) => r.name === 'margin.width')).toMatchObject({ value: 0.6, U: 0.03 });
  });
  it('are inside only when the whole interval is', () => {
    const judged = (lo: number, hi: number) =>
      score(ours, withHand<Reading>([...clean], [{ ...gauge, lo, hi }], blank), {}).criteria[1].verdict;
    expect(judged(1, 1.5)).toBe('inside');
    expect(judged(0.9, 1.2)).toBe('close');
    expect(judged(0.2, 0.7)).toBe('outside');
  });
  it('make a grade without any scan', () => {
    const hand = [gauge, { ...gauge, name: 'margin.width', zone: null, method: 'probe', lo: 0.4, hi: 0.8 } as const];
    expect(score(ours, withHand<Reading>([], hand, blank), {}).total).toBe(100);
  });
  it('know their unit without a scan', () => {
    expect(['toc.mean', 'wall.angle', 'floor.pulpal.tilt', 'groove.parallel', 'margin.exit', 'divergence'].map(unitOf)).toEqual(
      new Array(6).fill('deg'),
    );
    expect(['margin.width', 'depth.pulpal', 'box.clearance.facial', 'margin.lip', 'pin.depth'].map(unitOf)).toEqual(
      new Array(5).fill('mm'),
    );
  });
});
