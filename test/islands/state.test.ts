import { describe, expect, it } from 'vitest';
import { valueWords } from '#words/readings.ts';
import { placeWords, profileIndex } from '#words/sides.ts';
import { filled, handInterval, phrasesFor, sideOf } from '../../src/islands/bench/hand.ts';
import { repairWords } from '../../src/islands/bench/repair.ts';
import { azimuthOnStrip, firstToLookAt, move, nextOpen, ringOf } from '../../src/islands/bench/state.ts';
import { azimuthAt, passing } from '../../src/islands/bench/tools.ts';
import { trendWords } from '../../src/islands/trail/state.ts';

describe('the score of the trail in words', () => {
  it('says a change only where chance would not make it', () => {
    expect(trendWords([60, 70, 80, 90])).toMatch(/^Up by 10.0 points an attempt/);
    expect(trendWords([60, 90, 55, 85])).toMatch(/^Over 4 attempts no change of the score that chance would not make/);
  });
  it('says from when on it can say something', () => {
    expect(trendWords([])).toBe('No score yet.');
    expect(trendWords([80])).toMatch(/One attempt so far/);
    expect(trendWords([80, null, 90])).toMatch(/2 attempts so far/);
  });
});

describe('the bench', () => {
  const score = { criteria: [{ id: 'a' }, { id: 'b' }], critical: [{ id: 'c' }], undecided: ['b'] };
  it('opens at a measured critical error, otherwise at the first open line, otherwise at the top', () => {
    const critical = (made: boolean | null, decidedBy: 'person' | 'measurement' | null) => [{ id: 'c', made, decidedBy }];
    const at = { criteria: score.criteria, undecided: ['b'] };
    expect(firstToLookAt({ ...at, critical: critical(true, 'measurement') })).toBe(2);
    expect(firstToLookAt({ ...at, critical: critical(true, 'person') })).toBe(1);
    expect(firstToLookAt({ ...at, critical: critical(false, 'measurement'), undecided: [] })).toBe(0);
  });
  it('goes round its lines', () => {
    expect([move(score, 2, 1), move(score, 0, -1)]).toEqual([0, 2]);
    expect(nextOpen(score, 0)).toBe(1);
    expect(nextOpen({ ...score, undecided: [] }, 2)).toBe(2);
  });
  it('finds the curve that shows a reading', () => {
    expect([ringOf('toc.mean'), ringOf('undercut.depth'), ringOf('box.clearance.facial'), ringOf('margin.width')]).toEqual([
      'taper.wall',
      'taper.wall',
      'clearance',
      'margin.width',
    ]);
  });
  it('names places by azimuth, and finds profiles round the corner', () => {
    expect([0, 91, 134, 268, 359].map(placeWords)).toEqual(['facial', 'mesial', 'mesiolingual', 'distal', 'facial']);
    expect(profileIndex(359.5, 180)).toBe(0);
    expect(profileIndex(-2, 180)).toBe(179);
  });
  it('converts a place of the strip to a place on the tooth', () =>
    expect(
      azimuthOnStrip(
        [
          [0, 3],
          [120, 91],
          [240, 181],
        ],
        130,
      ),
    ).toBe(91));
});

it('a value is written with its U and unit, or with the reason for its absence', () => {
  expect(valueWords(1.234, 0.05, 'mm')).toBe('1.23 ± 0.05 mm');
  expect(valueWords(9.96, 0.71, 'deg')).toBe('10.0 ± 0.7 °');
  expect(valueWords(2, 0.5, 'count')).toBe('2 ± 1');
  // A count that is sure is a count.
  expect(valueWords(2, 0, 'count')).toBe('2');
  expect(valueWords(null, null, 'mm', 'not-seen')).toBe('less than half of this place was scanned');
});

describe('readings by hand', () => {
  it('a gauge is an interval, a probe a mark with half a step each side, wax a count of sheets', () => {
    expect(handInterval('gauge', { first: '1', second: '1.5' })).toEqual([1, 1.5]);
    expect(handInterval('probe', { first: '2', second: '' })).toEqual([1.75, 2.25]);
    expect(handInterval('wax', { first: '3', second: '' })).toEqual([0.96, 1.28]);
    expect(handInterval('eye', { first: '0,5', second: '0,8' })).toEqual([0.5, 0.8]);
  });
  it('an explorer says whether it catches', () => {
    expect(handInterval('explorer', { first: 'no', second: '' })?.[1]).toBeLessThan(0.1);
    expect(handInterval('explorer', { first: 'yes', second: '' })?.[0]).toBeGreaterThan(0);
    expect(handInterval('explorer', { first: '', second: '' })).toBeNull();
  });
  it('an incomplete or reversed entry is no reading', () => {
    expect(handInterval('gauge', { first: '1', second: '' })).toBeNull();
    expect(handInterval('gauge', { first: '2', second: '1.5' })).toBeNull();
    expect(handInterval('probe', { first: 'x', second: '' })).toBeNull();
  });
});

describe('the phrase bank', () => {
  const bank = [
    { about: '', side: '', body: 'Well done at {place}.' },
    { about: 'box', side: 'over', body: 'Box.' },
    { about: 'box.clearance', side: 'under', body: 'Gap {value}.' },
  ] as const;
  it('offers phrases about the reading, the most specific first', () =>
    expect(phrasesFor(bank, 'box.clearance.facial', '').map((p) => p.about)).toEqual(['box.clearance', 'box', '']));
  it('offers no phrase about the other side of the band', () => {
    expect(phrasesFor(bank, 'box.clearance.facial', 'under').map((p) => p.about)).toEqual(['box.clearance', '']);
    expect(sideOf({ value: 0.9, lo: 1, hi: 2 })).toBe('under');
    expect(sideOf({ value: 2.1, lo: 1, hi: 2 })).toBe('over');
    expect(sideOf({ value: 1.5, lo: 1, hi: 2 })).toBe('inside');
    expect(phrasesFor(bank, 'box.clearance.facial', 'inside').map((p) => p.about)).toEqual(['']);
    expect(sideOf({ value: null, lo: 1, hi: 2 })).toBe('');
  });
  it('fills in place and value', () => {
    expect(filled('{place}: {value}', 'distolingual', '0.3 mm')).toBe('distolingual: 0.3 mm');
    expect(filled('{place}', null, null)).toBe('this place');
  });
});

describe('instruments on the picture', () => {
  it('a slab passes, does not, or is too close to call, by the gap and its uncertainty', () => {
    const gap = (value: number) => ({ value, U: 0.06, to: [0, 0, 0] as const });
    expect(passing(gap(1.6), 1.5)).toBe('passes');
    expect(passing(gap(1.4), 1.5)).toBe('does not pass');
    expect(passing(gap(1.52), 1.5)).toBe('too close to call');
  });
  it('knows where on the tooth a place of the picture is, left and right', () => {
    expect(azimuthAt([2, 0, 1], 1)).toBeCloseTo(90);
    expect(azimuthAt([2, 0, 1], -1)).toBeCloseTo(270);
    expect(azimuthAt([0, -2, 1], 1)).toBeCloseTo(180);
    expect(azimuthAt([-1, 1, 0], 1)).toBeCloseTo(315);
  });
});

describe('what it would take, in words', () => {
  it('says how much more and from where to where', () =>
    expect(repairWords({ can: true, by: 0.34, depth: null, where: 'here', from: 0.7, to: 1.04, volume: null, cutter: null }, 'mm')).toBe(
      '0.34 mm more (0.70 to 1.04 mm).',
    ));
  it('gives a lean as a cut at one end of the wall', () =>
    expect(repairWords({ can: true, by: 6, depth: 0.42, where: 'wall top', from: -3, to: 3, volume: null, cutter: null }, 'deg')).toContain(
      '0.42 mm at the top of the wall',
    ));
  it('says how much is removed, with which cutter and how it is held', () => {
    const cut = (tilt: number | null, diameter: number | null = 1.2) =>
      repairWords(
        {
          can: true,
          by: 0.34,
          depth: null,
          where: 'here',
          from: 0.7,
          to: 1.04,
          volume: 4.25,
          cutter: { shape: 'round-end taper', diameter, tilt },
        },
        'mm',
      );
    expect(cut(3)).toBe('0.34 mm more (0.70 to 1.04 mm): about 4.3 mm³, round-end taper 1.2 mm, leaned in by 3°.');
    expect(cut(-2)).toContain('leaned out by 2°');
    expect(cut(0)).toContain('held along the axis');
    expect(cut(null, null)).toMatch(/round-end taper\.$/);
  });
  it('names the criterion that a cut would break', () =>
    expect(repairWords({ can: false, why: 'breaks-other', other: 'Wall height' }, 'mm')).toBe('Cutting more would break “Wall height”.'));
});
