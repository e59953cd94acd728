import { describe, expect, it } from 'vitest';
import { propose, widened } from './propose.ts';
import type { Standard } from './standard.ts';

const STANDARD: Standard = {
  id: 'metal',
  name: 'Metal crown',
  school: 'one school',
  kind: 'crown',
  lines: [
    {
      id: 'width',
      title: 'Margin width',
      why: 'room for the metal',
      fields: [
        {
          id: 'width-facial',
          reading: 'margin.width',
          zone: 'facial',
          stat: 'median',
          unit: 'mm',
          from: 'school',
          band: { lo: 0.3, hi: 0.7 },
          along: true,
        },
        { id: 'width-least', reading: 'margin.width', zone: null, stat: 'p05', unit: 'mm', from: 'course', band: { lo: 0.3, hi: null } },
      ],
    },
    {
      id: 'smooth',
      title: 'Smooth',
      why: 'nothing catches',
      fields: [],
      asks: {
        question: 'Explorer along it:',
        words: [
          { level: 3, word: 'glides' },
          { level: 0, word: 'catches' },
        ],
      },
    },
  ],
  critical: [
    {
      id: 'lip',
      title: 'Lip',
      why: 'breaks',
      reading: 'margin.lip',
      zone: null,
      stat: 'max',
      unit: 'mm',
      from: 'school',
      allowed: { lo: null, hi: 0.15 },
      effect: { kind: 'deduct', points: 10 },
    },
  ],
};
const AS = { id: 'metal-practice', name: 'Metal crown: practice', style: 'practice' } as const;

describe('bands one and two levels down', () => {
  it.each([
    // Half the band's width each time: 0.4 wide, so 0.2.
    [{ lo: 0.3, hi: 0.7 }, 'mm', { lo: 0.1, hi: 0.9 }, { lo: -0.1, hi: 1.1 }],
    // A fifth of the figure where there is one end only.
    [{ lo: 3, hi: null }, 'mm', { lo: 2.4, hi: null }, { lo: 1.8, hi: null }],
    // Never finer than an instructor can tell: 0.1 mm, 2 degrees.
    [{ lo: null, hi: 0.15 }, 'mm', { lo: null, hi: 0.25 }, { lo: null, hi: 0.35 }],
    [{ lo: 6, hi: 8 }, 'deg', { lo: 4, hi: 10 }, { lo: 2, hi: 12 }],
  ])('%j %s', (band, unit, fair, poor) => {
    expect(widened({ band, unit }, 1)).toEqual(fair);
    expect(widened({ band, unit }, 2)).toEqual(poor);
  });
});

describe('a proposed rubric', () => {
  const first = propose(STANDARD, AS);
  it('has a criterion for each line and an error for each critical one, each band traceable to its field', () => {
    expect(first.criteria.map((c) => [c.id, c.targets.map((t) => [t.field, t.band])])).toEqual([
      [
        'width',
        [
          ['width-facial', { lo: 0.3, hi: 0.7 }],
          ['width-least', { lo: 0.3, hi: null }],
        ],
      ],
      ['smooth', []],
    ]);
    expect(first.criteria[0].targets.map((t) => t.along)).toEqual([{ full: 0.9, fair: 0.75, poor: 0.5 }, undefined]);
    expect([first.criteria[1].asks, first.criteria[1].field]).toEqual([STANDARD.lines[1].asks, 'smooth']);
    expect(first.critical).toEqual([
      expect.objectContaining({ id: 'lip', allowed: { lo: null, hi: 0.15 }, field: 'lip', effect: { kind: 'deduct', points: 10 } }),
    ]);
  });
  it('follows its standard when that changes, and keeps what the course weighed and set itself', () => {
    const [width, smooth] = first.criteria;
    const weighed = {
      ...first,
      passMark: 70,
      criteria: [
        {
          ...width,
          weight: 5,
          targets: [width.targets[0], { ...width.targets[1], band: { lo: 0.4, hi: null }, own: 'our alloy is soft' }],
        },
        smooth,
      ],
      critical: [{ ...first.critical[0], effect: { kind: 'fail' } as const }],
    };
    const [line] = STANDARD.lines;
    const [facialField, leastField] = line.fields;
    const changed = {
      ...STANDARD,
      lines: [
        {
          ...line,
          fields: [
            { ...facialField, band: { lo: 0.4, hi: 0.8 } },
            { ...leastField, band: { lo: 0.35, hi: null } },
          ],
        },
        STANDARD.lines[1],
      ],
    };
    const again = propose(changed, AS, weighed);
    expect([again.passMark, again.criteria[0].weight, again.critical[0].effect]).toEqual([70, 5, { kind: 'fail' }]);
    const [facial, least] = again.criteria[0].targets;
    expect([facial.band, facial.fair]).toEqual([
      { lo: 0.4, hi: 0.8 },
      { lo: 0.2, hi: 1 },
    ]);
    expect([least.band, least.own]).toEqual([{ lo: 0.4, hi: null }, 'our alloy is soft']);
  });
  it('in examination style counts lapses instead of points', () => {
    const exam = propose(STANDARD, { ...AS, style: 'examination' });
    expect(exam.scoring).toEqual({ kind: 'examination', minor: 3, major: 1 });
    expect(exam.levels.map((l) => l.word)).toEqual(['meets', 'minor', 'major', 'critical']);
  });
});
