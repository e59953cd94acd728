import { describe, expect, it } from 'vitest';
import type { Reading } from '../result/reading.ts';
import { reading } from '../result/reading.ts';
import type { Rubric, Target } from './rubric.ts';
import { allowances, stepOf } from './stage.ts';

const target = (name: string, zone: string | null, lo: number | null, hi: number | null): Target =>
  ({
    reading: name,
    zone,
    stat: 'median',
    band: { lo, hi },
    fair: { lo: null, hi: null },
    poor: { lo: null, hi: null },
  }) as Target;
const rubric: Rubric = {
  levels: [{ level: 3, word: 'secure', share: 1 }],
  passMark: 60,
  criteria: [
    {
      id: 'top',
      title: 'Occlusal reduction',
      weight: 1,
      targets: [target('reduction.occlusal', 'MB', 1, 1.5), target('reduction.occlusal', 'ML', 1, 1.5)],
    },
    { id: 'width', title: 'Margin width', weight: 1, targets: [target('margin.width', 'facial', 0.4, 0.8)] },
  ],
  critical: [],
} as unknown as Rubric;
const mm = (name: string, zone: string, value: number): Reading => reading({ name, zone, stat: 'median', value, U: 0.04 });
const at = (step: 'occlusal' | 'axial', ...readings: Reading[]) =>
  allowances(rubric, { readings, curves: {} }, step).map((a) => [a.target.target.reading, a.target.target.zone, a.stands]);

describe('the step that a file name says', () => {
  it.each([
    ['H07_occlusal.stl', 'occlusal'],
    ['B2-04 axial 2.ply', 'axial'],
    ['H07_16_box.stl.gz', 'box'],
    ['folder-axial/H07.stl', 'final'],
    ['H07.stl', 'final'],
    ['H07_boxer.stl', 'final'],
    ['H07_occlusal_axial.stl', 'final'],
  ])('%s: %s', (name, step) => expect(stepOf(name)).toBe(step));
});

describe('what a step leaves', () => {
  it('asks only for parts cut by that step', () =>
    expect(at('occlusal', mm('reduction.occlusal', 'MB', 1.2), mm('reduction.occlusal', 'ML', 1.2))).toEqual([
      ['reduction.occlusal', 'MB', 'enough'],
      ['reduction.occlusal', 'ML', 'enough'],
    ]));
  it('says what may still be cut, by how much, and what cannot be corrected', () => {
    const [short, deep] = allowances(
      rubric,
      { readings: [mm('reduction.occlusal', 'MB', 0.7), mm('reduction.occlusal', 'ML', 1.9)], curves: {} },
      'occlusal',
    );
    expect([short.stands, short.repair]).toEqual(['cut-more', expect.objectContaining({ can: true, from: 0.7, to: 1.04 })]);
    expect([deep.stands, deep.repair]).toEqual(['too-much', { can: false, why: 'too-much', other: null }]);
    expect(short.title).toBe('Occlusal reduction');
  });
  it('leaves lines too close to call to a person, and names lines without a reading', () =>
    expect(at('axial', mm('reduction.occlusal', 'MB', 1.02), mm('reduction.occlusal', 'ML', 1.2))).toEqual([
      ['reduction.occlusal', 'MB', 'to-check'],
      ['reduction.occlusal', 'ML', 'enough'],
      ['margin.width', 'facial', 'not-read'],
    ]));
});
