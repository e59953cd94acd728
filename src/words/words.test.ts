import { describe, expect, it } from 'vitest';
import { CATALOGUE, findEntry } from '#core/catalogue/catalogue.ts';
import type { Warning } from '#core/plan/warnings.ts';
import { REFUSALS } from '#core/result/reading.ts';
import { concernWords as classConcern } from './cohort.ts';
import { changeWords } from './course.ts';
import { checkWords, comparedWords, occlusionWords, trialWords } from './masters.ts';
import { causeWords, expectedWords, sunkWords, warningWords } from './plan.ts';
import { alongWords, bandWords, foundWords, handWords, readingWords, refusalWords, sentence, valueWords, wantedWords } from './readings.ts';
import { concernWords } from './rubric.ts';

describe('figures in words', () => {
  it('a value carries its uncertainty and unit; one that is missing carries its reason', () => {
    expect(valueWords(1.234, 0.041, 'mm')).toBe('1.23 ± 0.04 mm');
    expect(valueWords(7.26, 1.5, 'deg')).toBe('7.3 ± 1.5 °');
    expect(valueWords(3, 0, 'count')).toBe('3');
    expect(valueWords(null, null, 'mm', 'no-wall')).toBe(REFUSALS['no-wall']);
    expect(valueWords(null, null, 'mm')).toBe('not read');
  });
  it('an uncertainty is never shown smaller than the last digit that is shown', () =>
    expect(valueWords(1.2, 0.0004, 'mm')).toContain('± 0.01'));
  it('a band has one end or two, or any', () => {
    expect([
      bandWords(0.4, 0.8, 'mm'),
      bandWords(null, 0.1, 'mm'),
      bandWords(2, null, 'mm'),
      bandWords(null, null, 'mm'),
      bandWords(1, 1, 'mm'),
    ]).toEqual(['0.4 to 0.8 mm', 'up to 0.1 mm', '2 mm or more', 'any', '1 mm']);
  });
  it('a reading by hand is an interval, and degrees are whole', () => {
    expect(handWords(1.25, 1.75, 'mm')).toBe('1.25 to 1.75 mm');
    expect(handWords(8, 12.4, 'deg')).toBe('8 to 12 °');
    expect(handWords(1, 1, 'mm')).toBe('1.00 mm');
  });
  it('a contact is open only where it surely is', () => {
    const at = (value: number) => foundWords({ reading: 'contact.broken', value, U: 0.05, unit: 'mm' });
    expect(at(0.3)).toBe('open, 0.30 ± 0.05 mm');
    expect(at(0.04)).toBe('not surely open, 0.04 ± 0.05 mm');
  });
  it('a gauge passes or not, and is not called where it is close', () => {
    const at = (value: number, U: number) => foundWords({ reading: 'gauge.pass(1.5)', value, U, unit: 'none' });
    expect([at(1, 0), at(0, 0), at(1, 1)]).toEqual(['passes', 'does not pass', 'too close to call']);
    expect(wantedWords({ reading: 'gauge.pass(1.5)', lo: 1, hi: null, unit: 'none' })).toBe('passes');
  });
  it('an edge is judged along its length', () => expect(alongWords(0.923, 0.314, 'mm')).toBe('92 % inside, worst millimetre 0.31 mm'));
  it('a sentence has one full stop', () => {
    expect(sentence('seat it')).toBe('Seat it.');
    expect(sentence('Is it seated?')).toBe('Is it seated?');
  });
});

describe('every word that can be needed is there', () => {
  it.each(CATALOGUE.map((e) => [e.name, e] as const))('%s has a title for each of its figures', (_, e) => {
    for (const stat of Object.keys(e.stats)) {
      // Some are read once for each of several gauges or sizes.
      const words = readingWords(findEntry(e.name) ? e.name : `${e.name}(1.0)`, null, stat);
      expect(words.length).toBeGreaterThan(3);
      expect(words).not.toContain('undefined');
    }
  });
  it('every reason for a missing value is the end of a sentence', () => {
    for (const [reason, words] of Object.entries(REFUSALS)) {
      expect(refusalWords(reason)).toBe(words);
      expect(words).not.toMatch(/[.]$/);
      expect(words.length).toBeGreaterThan(8);
    }
  });
});

describe('what a plan says', () => {
  it('how deep a cutter is sunk, in mm and as a share of itself', () => {
    expect(sunkWords({ depth: 1.5, share: 0.75, shareOf: 'length' })).toBe('1.50 mm deep, 75 % of its length');
    expect(sunkWords({ depth: 1.2, share: 1, shareOf: 'width' })).toBe('1.20 mm deep, all of its width');
    expect(sunkWords({ depth: 0.6, share: null, shareOf: null })).toBe('0.60 mm deep');
    expect(sunkWords({ depth: null, share: null, shareOf: null })).toBeNull();
  });
  it('what should be read, with twice what the hand adds', () => {
    const r = { reading: 'margin.width', zone: null, stat: 'median', unit: 'mm', expected: 0.6, hand: 0.08 };
    expect(expectedWords(r as never)).toBe('Margin width, median: 0.60 ± 0.16 mm');
  });
  it('a margin that one pass would leave a lip at, and what to do', () => {
    const words = warningWords({ kind: 'lip', width: 1.2, widest: 0.6, passes: 2, lip: 0.2 } as Warning);
    expect(words).toContain('A margin of 1.20 mm is wider than this tip cuts clean (0.60 mm): take 2 passes.');
    expect(words).toContain('lip of 0.20 mm');
  });
  it('a likely cause is said as likely, with how well it fits', () =>
    expect(
      causeWords({ kind: 'two-passes', reading: 'margin.width', zone: 'mesial', figure: 2, made: 1.1, read: 1.15, fits: 'well' } as never),
    ).toBe(
      'Margin width, mesial: likely 2 passes of this cutter side by side. That would make 1.10 mm; 1.15 mm was read, which fits well.',
    ));
});

describe('what is wrong with a rubric, and the way out', () => {
  it('a band that is narrower than the reading is sure', () =>
    expect(concernWords({ kind: 'narrow', criterion: 'c', target: 0, width: 0.1, U: 0.12 }, 'mm')).toContain(
      'Widen it, take another statistic, or ask a person.',
    ));
  it('bands in disorder, levels worth alike, limits that limit nothing, lines that weigh nothing', () => {
    expect(concernWords({ kind: 'order', criterion: 'c', target: 0, which: 'fair' }, 'mm')).toContain('“one level down”');
    expect(concernWords({ kind: 'shares', criterion: '', level: 1 }, '')).toBe('Level 1 has to be worth less than the level above it.');
    expect(concernWords({ kind: 'limitless', criterion: 'c', target: 0 }, '')).toContain('Give at least one.');
    expect(concernWords({ kind: 'empty', criterion: 'c' }, '')).toBe('It weighs nothing.');
  });
});

describe('what a master’s file is like', () => {
  it('lengths that are not millimetres are asked about, whichever way they are off', () => {
    expect(checkWords({ what: 'unit', state: 'ask', figure: 0.045, factors: [1000] } as never)).toContain(
      '0.045 mm long. Say what its lengths are in.',
    );
    expect(checkWords({ what: 'unit', state: 'stop', figure: 3, factors: [] } as never)).toContain('which no unit makes a quadrant');
  });
  it('pieces, holes and coarseness say what to do', () => {
    expect(checkWords({ what: 'pieces', state: 'ask', figure: 2 } as never)).toContain('bring it as a file of its own');
    expect(checkWords({ what: 'holes', state: 'stop', figure: 1 } as never)).toBe(
      '1 hole, one of them large. Where a hole meets the tooth nothing can be read: scan these places again.',
    );
    expect(checkWords({ what: 'coarse', state: 'stop', figure: 0.61 } as never)).toContain('too coarse for a master');
  });
  it('a lacking neighbour names what cannot be read', () => {
    const words = checkWords({ what: 'coverage', state: 'ask', figure: 0.98, missing: ['mesial'] } as never);
    expect(words).toContain('No mesial neighbour was found; contacts, gaps and damage there cannot be read');
    expect(words).toContain('or go on without these readings');
    expect(checkWords({ what: 'coverage', state: 'stop', figure: 0.4, missing: ['mesial', 'distal'] } as never)).toContain(
      'it cannot carry the readings',
    );
  });
  it('how the jaws were brought together, and on how many contacts they stand', () => {
    const o = { by: 'bite', contacts: [{}], settled: true, moved_mm: 0.12, turned_deg: 0.4 };
    expect(occlusionWords(o as never)).toBe(
      'The jaws were brought together by the bite scan, and settled: 0.12 mm across and 0.4° from there. They touch at 1 contact.',
    );
    expect(occlusionWords({ ...o, by: 'file', settled: false, contacts: [{}, {}] } as never)).toContain('2 contacts');
  });
  it('a trial counts what agrees, what does not and what was not given', () => {
    const line = (value: number | null) => ({ cut: 1, value, U: value === null ? null : 0.1, unit: 'mm' });
    const trial = (...values: (number | null)[]) => trialWords({ lines: values.map(line) } as never);
    expect(trial(1, 1.05)).toBe('All 2 readings say what was cut.');
    expect(trial(1, 1.5, null)).toBe('1 of 3 readings say what was cut; 1 do not; 1 could not be given.');
  });
  it('a new version against the old one: axis, surface, tips and what would read otherwise', () => {
    const words = comparedWords({
      name: 'Series H',
      axis_deg: 1.25,
      mesial_deg: 0.5,
      surface_mm: 0.04,
      margin_mm: 0.12,
      cusps: [
        { name: 'MB', off_mm: 0.1 },
        { name: 'DB', off_mm: 0.3 },
        { name: 'D', off_mm: null },
      ],
      scans: [{ name: 'Attempt 4', fault: null, differ: [], readings: 300, lost: 2, gained: 0 }],
    } as never);
    expect(words[0]).toBe('Against “Series H” its axis is 1.3° off and its mesial direction 0.5°.');
    expect(words).toContain('Cusp tips moved by up to 0.30 mm.');
    expect(words).toContain('Without D.');
    expect(words.at(-1)).toBe('Attempt 4: 0 of 300 readings differ by more than both U; 2 no longer given.');
  });
});

describe('people in words', () => {
  it('a change of a roster names what changes, and nothing else', () => {
    const before = { name: 'Ada Quill', signIn: 'ada', email: null, bench: 'B1-01', group: null };
    expect(changeWords({ before, after: { ...before, bench: 'B2-07' } } as never)).toMatch(/: B1-01 → B2-07$/);
    expect(changeWords({ before: null, after: before } as never)).toBe('Ada Quill, ada, B1-01');
    expect(changeWords({ before, after: null } as never)).toBe('');
  });
  it('why somebody wants a look', () => {
    expect(classConcern({ what: 'misjudges', about: '+1.2' } as never)).toBe('judges own work 1.2 levels too kindly');
    expect(classConcern({ what: 'misjudges', about: '-0.9' } as never)).toBe('judges own work 0.9 levels too hard');
    expect(classConcern({ what: 'time', about: '140, 85' } as never)).toBe('took 140 minutes where 85 are usual');
    expect(classConcern({ what: 'absent', about: '' } as never)).toBe('nothing handed in yet');
  });
});
