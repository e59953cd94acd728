import { describe, expect, it } from 'vitest';
import type { Stat } from '../catalogue/terms.ts';
import { EDGE_LENGTH } from '../result/curves.ts';
import { DOES_NOT_EXIST, REFUSALS, type Reading, type Refusal, reading, refusal } from '../result/reading.ts';
import { judgeAlong } from './along.ts';
import { forTooth } from './expand.ts';
import { withHand } from './hand.ts';
import type { Criterion, CriticalError, IfNotRead, Rubric, Scoring, Target } from './rubric.ts';
import { type Judgements, type Score, score } from './score.ts';
import { verdict } from './verdict.ts';

const band = (lo: number | null, hi: number | null) => ({ lo, hi });
const WIDTH: Target = {
  reading: 'margin.width',
  zone: null,
  stat: 'median',
  band: band(0.4, 0.8),
  fair: band(0.3, 1),
  poor: band(0.2, 1.2),
};
const CUSPS: Target = {
  reading: 'reduction.occlusal',
  zone: 'functional cusps',
  stat: 'median',
  band: band(1, 1.5),
  fair: band(0.8, 1.8),
  poor: band(0.6, 2),
};
const NEIGHBOUR: CriticalError = {
  id: 'neighbour',
  title: 'Neighbour',
  reading: 'neighbour.mesial',
  zone: null,
  stat: 'max',
  allowed: band(null, 0.2),
  effect: { kind: 'fail' },
};
const criterion = (id: string, weight: number, ...targets: Target[]): Criterion => ({ id, title: id, weight, why: '', targets });
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
  criteria: [criterion('width', 3, WIDTH), criterion('cusps', 1, CUSPS)],
  critical: [NEIGHBOUR],
};
const ours = forTooth(rubric, [
  { name: 'ML', role: 'functional' },
  { name: 'MB', role: 'non-functional' },
]);
const mm = (name: string, zone: string | null, stat: Stat, value: number, U = 0.03): Reading => reading({ name, zone, stat, value, U });
const clean = [
  mm('margin.width', null, 'median', 0.6),
  mm('reduction.occlusal', 'ML', 'median', 1.2),
  mm('neighbour.mesial', null, 'max', 0),
];
const scored = (readings: readonly Reading[], judgements: Judgements = {}, of: Rubric = ours): Score =>
  score(of, { readings, curves: {} }, judgements);
const wide = (value: number) => [mm('margin.width', null, 'median', value), ...clean.slice(1)];
const sum = (s: Score): number => s.lines.reduce((a, l) => a + l.points, 0);

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
  it('is 100 when everything is inside', () => expect(scored(clean)).toMatchObject({ total: 100, passed: true, undecided: [] }));
  it('weighs a criterion one level down', () => {
    // 3/4 of the weight at 0.8, 1/4 at 1.
    expect(scored(wide(0.9))).toMatchObject({ total: 85, criteria: [{ verdict: 'outside', decidedBy: 'measurement' }, {}] });
  });
  it('takes a person’s level over the measured one', () =>
    expect(scored(clean, { width: { level: 0 } })).toMatchObject({ total: 25, criteria: [{ overridden: true, decidedBy: 'person' }, {}] }));
  it('fails on a critical error, unless a person decides that it does not count', () => {
    const hurt = [...clean.slice(0, 2), mm('neighbour.mesial', null, 'max', 0.4)];
    expect(scored(hurt)).toMatchObject({ passed: false, failures: ['Neighbour'], total: 100 });
    expect(scored(hurt, { neighbour: { made: false } })).toMatchObject({ passed: true, critical: [{ waived: true }] });
  });
  it('a person’s “made” fails what the scan shows clean', () => expect(scored(clean, { neighbour: { made: true } }).passed).toBe(false));
  it('explains each point', () => expect(sum(scored(clean))).toBeCloseTo(100, 9));
});

describe('too close to call', () => {
  const near = wide(0.41);
  it('gives no points before a person has decided: a range and what it would give', () => {
    const s = scored(near);
    expect(s).toMatchObject({ total: null, passed: null, undecided: ['width'] });
    expect(s.criteria[0]).toMatchObject({ verdict: 'close', computed: 3, level: null, points: null, provisional: 75, range: [2, 3] });
    expect([s.range.least.total, s.range.most.total]).toEqual([85, 100]);
  });
  it.each([
    [3, 100],
    [2, 85],
  ] as const)('level %i once decided gives %i', (level, total) =>
    expect(scored(near, { width: { level } })).toMatchObject({
      total,
      undecided: [],
      criteria: [{ overridden: false, decidedBy: 'person' }, {}],
    }),
  );
});

describe('a criterion counts as read only when every target was', () => {
  const two = { ...ours, criteria: [criterion('cusps', 1, { ...CUSPS, zone: 'ML' }, { ...CUSPS, zone: 'DL' })], critical: [] };
  it('one of two cusps inside does not make the line inside', () => {
    const s = scored([clean[1]], {}, two);
    expect(s).toMatchObject({
      total: null,
      undecided: ['cusps'],
      criteria: [{ verdict: 'none', level: null, computed: null, range: [0, 3] }],
    });
  });
  it('one of two at the lowest level decides it: the other cannot raise it', () =>
    expect(scored([mm('reduction.occlusal', 'ML', 'median', 0.2)], {}, two)).toMatchObject({ total: 0, undecided: [] }));
});

/** The truth table: what a reading says × what the rubric does without one × where it is asked × how levels become a result. */
describe('the truth table', () => {
  const MODELS: readonly Scoring[] = [
    { kind: 'levels' },
    { kind: 'deduct', off: { sound: 20, marginal: 50, notYet: 100 } },
    { kind: 'examination', minor: 1, major: 0 },
  ];
  const states: Readonly<Record<string, readonly Reading[]>> = {
    inside: [mm('neighbour.mesial', null, 'max', 0)],
    close: [mm('neighbour.mesial', null, 'max', 0.19)],
    outside: [mm('neighbour.mesial', null, 'max', 0.9)],
    'refused: not seen': refusal('neighbour.mesial', null, ['max'], 'not-seen'),
    'refused: no such place': refusal('neighbour.mesial', null, ['max'], 'no-neighbour'),
    missing: [],
  };
  const target: Target = {
    reading: 'neighbour.mesial',
    zone: null,
    stat: 'max',
    band: band(null, 0.2),
    fair: band(null, 0.3),
    poor: band(null, 0.4),
  };
  const asCriterion = (scoring: Scoring, ifNotRead: IfNotRead): Rubric => ({
    ...ours,
    scoring,
    criteria: [criterion('width', 1, WIDTH), criterion('neighbour', 1, { ...target, ifNotRead })],
    critical: [],
  });
  const asError = (scoring: Scoring, ifNotRead: IfNotRead): Rubric => ({
    ...ours,
    scoring,
    criteria: [criterion('width', 1, WIDTH)],
    critical: [{ ...NEIGHBOUR, ifNotRead }],
  });
  const outcome = (s: Score): string => (s.passed === null ? 'open' : s.passed ? 'passes' : 'fails');
  // A criterion at its lowest level takes half of the weight; 50 of 100 is below the pass mark.
  const EXPECTED: Readonly<Record<string, Readonly<Record<IfNotRead, string>>>> = {
    inside: { ask: 'passes', skip: 'passes', fail: 'passes' },
    close: { ask: 'open', skip: 'open', fail: 'open' },
    outside: { ask: 'fails', skip: 'fails', fail: 'fails' },
    'refused: not seen': { ask: 'open', skip: 'open', fail: 'fails' },
    'refused: no such place': { ask: 'open', skip: 'passes', fail: 'fails' },
    missing: { ask: 'open', skip: 'open', fail: 'fails' },
  };
  for (const [state, own] of Object.entries(states))
    for (const ifNotRead of ['ask', 'skip', 'fail'] as const)
      it.each(MODELS)(`${state}, ${ifNotRead}: $kind`, (scoring) => {
        const readings = [clean[0], ...own];
        const expected = EXPECTED[state][ifNotRead];
        expect(outcome(scored(readings, {}, asCriterion(scoring, ifNotRead)))).toBe(expected);
        expect(outcome(scored(readings, {}, asError(scoring, ifNotRead)))).toBe(expected);
      });
  it('a criterion that does not apply leaves its weight to the others', () => {
    const s = scored(
      [mm('margin.width', null, 'median', 0.9), ...states['refused: no such place']],
      {},
      asCriterion({ kind: 'levels' }, 'skip'),
    );
    expect(s).toMatchObject({ total: 80, criteria: [{ of: 100 }, { verdict: 'skipped', of: 0, points: null }] });
  });
  it('of all refusals only those are skipped that say that the tooth has no such place', () => {
    const skipped = (Object.keys(REFUSALS) as Refusal[]).filter(
      (why) =>
        scored([clean[0], ...refusal('neighbour.mesial', null, ['max'], why)], {}, asError({ kind: 'levels' }, 'skip')).undecided.length ===
        0,
    );
    expect(new Set(skipped)).toEqual(DOES_NOT_EXIST);
    expect(skipped).not.toContain('no-pair');
    expect(skipped).not.toContain('no-box');
  });
});

describe('deduct from 100', () => {
  const deduct: Rubric = { ...ours, scoring: { kind: 'deduct', off: { sound: 2, marginal: 5, notYet: 10 } } };
  it('deducts nothing from a clean attempt and states its starting value', () => {
    const s = scored(clean, {}, deduct);
    expect([s.total, s.lines[0]]).toEqual([100, { text: 'Every attempt begins with', points: 100 }]);
  });
  it('takes points by level and weight', () => {
    // Width at the second level (weight 3), cusps at the lowest (weight 1): 100 − 3 × 2 − 10.
    const s = scored([wide(0.9)[0], mm('reduction.occlusal', 'ML', 'median', 0.3), clean[2]], {}, deduct);
    expect([s.total, sum(s)]).toEqual([84, 84]);
  });
});

describe('examination style', () => {
  const exam: Rubric = { ...ours, scoring: { kind: 'examination', minor: 1, major: 0 } };
  it('passes with as many minor findings as are allowed', () => expect(scored(wide(0.9), {}, exam).passed).toBe(true));
  it('does not pass with a major one, whatever the figure', () => {
    const s = scored(wide(1.1), {}, exam);
    expect(s.total).toBeGreaterThan(60);
    expect(s).toMatchObject({ passed: false, failures: [expect.stringContaining('1 major of at most 0')] });
  });
  it('knows the pass mark', () => expect(scored(wide(0.9), {}, { ...exam, passMark: 90 }).passed).toBe(false));
  it('knows the caps of critical errors', () => {
    const capped: Rubric = { ...exam, critical: [{ ...NEIGHBOUR, effect: { kind: 'cap', at: 40 } }] };
    expect(scored([...clean.slice(0, 2), mm('neighbour.mesial', null, 'max', 0.4)], {}, capped)).toMatchObject({
      total: 40,
      passed: false,
    });
  });
});

describe('a critical error’s effect', () => {
  const hurt = [...clean.slice(0, 2), mm('neighbour.mesial', null, 'max', 0.4)];
  it.each([
    [{ kind: 'cap', at: 55 } as const, 55, false],
    [{ kind: 'cap', at: 75 } as const, 75, true],
    [{ kind: 'deduct', points: 30 } as const, 70, true],
    [{ kind: 'deduct', points: 130 } as const, 0, false],
  ])('%o', (effect, total, passed) =>
    expect(scored(hurt, {}, { ...ours, critical: [{ ...NEIGHBOUR, effect }] })).toMatchObject({ total, passed }),
  );
});

describe('places that a preparation turned out to have', () => {
  const asked = (zone: string): Rubric => ({
    ...rubric,
    criteria: [criterion('axial', 1, { ...WIDTH, reading: 'box.axialdepth', stat: 'value', zone })],
  });
  const found = ['box distal facial third', 'box distal lingual third'].map((zone) =>
    reading({ name: 'box.axialdepth', zone, value: 1.2, U: 0.05 }),
  );
  const zones = (zone: string, readings: Reading[]) => forTooth(asked(zone), [], readings).criteria[0].targets.map((t) => t.zone);
  it('become one target each', () => expect(zones('every place', found)).toEqual(found.map((r) => r.zone)));
  it('“every box” means boxes alone', () =>
    expect(zones('every box', [...found, { ...found[0], zone: 'elsewhere' }])).toEqual(found.map((r) => r.zone)));
  it('leave the target as it is when there is none, so that a person is asked', () => {
    expect(zones('every place', [])).toEqual(['every place']);
    expect(scored(clean, {}, asked('every place')).undecided).toEqual(['axial']);
  });
  it('say why there is none, where the reading as a whole says it', () => {
    const none = refusal('groove.depth', null, ['median'], 'no-groove-cut');
    const r = forTooth({ ...rubric, criteria: [criterion('g', 1, { ...WIDTH, reading: 'groove.depth', zone: 'every place' })] }, [], none);
    expect(scored(none, {}, r).criteria[0].targets[0].reading?.reason).toBe('no-groove-cut');
  });
});

describe('a rubric for what covers only some cusps', () => {
  const partial = (ifNotRead: IfNotRead): Rubric =>
    forTooth({ ...rubric, partial: true, criteria: [criterion('cusps', 1, { ...CUSPS, ifNotRead })], critical: [] }, [
      { name: 'ML', role: 'functional' },
    ]);
  const uncovered = refusal('reduction.occlusal', 'ML', ['median'], 'nothing-prepared');
  it('skips a cusp that was left as it was only where the rubric says that it may be', () => {
    expect(scored(uncovered, {}, partial('skip')).criteria[0].verdict).toBe('skipped');
    expect(scored(uncovered, {}, partial('ask')).undecided).toEqual(['cusps']);
  });
});

describe('a line that asks for a word', () => {
  const asks = {
    question: 'Explorer at the margin:',
    words: [
      { level: 3, word: 'does not enter' },
      { level: 1, word: 'enters once' },
      { level: 0, word: 'catches' },
    ],
  } as const;
  const asking = { ...ours, criteria: [ours.criteria[0], { ...criterion('explorer', 3), asks }] };
  it('is open until somebody has said one, whatever was measured', () => {
    const s = score(asking, { readings: clean, curves: {} });
    expect([s.undecided, s.total, s.criteria[1].computed, s.criteria[1].range]).toEqual([['explorer'], null, null, [0, 3]]);
    expect([s.range.least.total, s.range.most.total]).toEqual([50, 100]);
  });
  it('takes the word’s level as a person’s', () => {
    const s = score(asking, { readings: clean, curves: {} }, { explorer: { level: 1 } });
    // 3 of 6 in full, the other 3 at half.
    expect([s.undecided, s.total, s.criteria[1].decidedBy, s.criteria[1].overridden]).toEqual([[], 75, 'person', false]);
  });
});

describe('an edge judged along its length', () => {
  const target: Target = { ...WIDTH, along: { full: 0.9, fair: 0.75, poor: 0.5 } };
  /** An edge 20 mm long in 0.1 mm steps; the first `bad` mm have another width than the rest. */
  const edge = (bad: number, width: number) => {
    const places = Array.from({ length: 200 }, (_, i) => i);
    return {
      [EDGE_LENGTH]: places.map((i) => [1.8 * i, 0.1]),
      'margin.width': places.map((i) => [1.8 * i, i < 10 * bad ? width : 0.6]),
    };
  };
  it.each([
    // mm out of band, its width, share inside, level: a short place that is still fair costs nothing.
    [0, 0.6, 1, 3],
    [1.5, 0.35, 0.925, 3],
    [3, 0.35, 0.85, 2],
    // One millimetre beyond “poor” is where a restoration breaks, whatever the rest.
    [1, 0.1, 0.95, 1],
    [8, 0.35, 0.6, 1],
    [14, 0.35, 0.3, 0],
  ])('%f mm at %f: share %f, level %i', (bad, width, inside, level) => {
    const a = judgeAlong(target, edge(bad, width), 0.001);
    expect(a?.inside).toBeCloseTo(inside, 9);
    expect(a?.level).toBe(level);
  });
  it('a median would have forgiven it', () => {
    const evidence = { readings: [mm('margin.width', null, 'median', 0.6), ...clean.slice(1)], curves: edge(1.2, 0.1) };
    expect(score(ours, evidence, {}).criteria[0].level).toBe(3);
    const along = { ...ours, criteria: [criterion('width', 3, target), ours.criteria[1]] };
    expect(score(along, evidence, {}).criteria[0]).toMatchObject({ level: 1, verdict: 'outside' });
    expect(score(along, evidence, {}).criteria[0].deciding?.along?.worst).toBeCloseTo(0.1, 9);
  });
  it('the worst stretch is a millimetre and not a point', () =>
    expect(judgeAlong(target, edge(0.3, 0.1), 0.001)?.worst).toBeCloseTo(0.45, 9));
  it('the uncertainty shifts the curve as a whole: an edge right at the end of the band is too close to call', () => {
    const s = score(
      { ...ours, criteria: [criterion('width', 3, target)], critical: [] },
      { readings: [mm('margin.width', null, 'median', 0.41)], curves: edge(20, 0.41) },
    );
    expect(s).toMatchObject({ undecided: ['width'], criteria: [{ verdict: 'close' }] });
  });
  it('an edge of which a quarter was not read is asked for', () => {
    const curves = edge(0, 0.6);
    const gap = { ...curves, 'margin.width': curves['margin.width'].slice(50) };
    expect(judgeAlong(target, gap, 0.01)).toBeNull();
    const s = score({ ...ours, criteria: [criterion('width', 3, target)], critical: [] }, { readings: [clean[0]], curves: gap });
    expect(s.undecided).toEqual(['width']);
  });
  it('a sector has its own share', () => {
    const curves = edge(5, 0.35);
    // Facial ± 45° is a quarter of the edge: its first half (0 to 45°) lies in the bad stretch, the other does not.
    expect(judgeAlong({ ...target, zone: 'facial' }, curves, 0.001)?.inside).toBeCloseTo(0.5, 1);
    expect(judgeAlong({ ...target, zone: 'lingual' }, curves, 0.001)?.inside).toBe(1);
  });
  it('an interval by hand counts in place of the curve', () => {
    const readings = withHand([clean[0]], [{ name: 'margin.width', zone: null, stat: 'median', method: 'probe', lo: 1.3, hi: 1.5 }]);
    const s = score({ ...ours, criteria: [criterion('width', 3, target)], critical: [] }, { readings, curves: edge(0, 0.6) });
    expect(s.criteria[0].level).toBe(0);
  });
});

describe('readings by hand', () => {
  const gauge = { name: 'reduction.occlusal', zone: 'ML', stat: 'median', method: 'gauge', lo: 1, hi: 1.5 } as const;
  it('count where they were taken, and the scan counts elsewhere', () => {
    const both = withHand(clean, [gauge]);
    expect(both.find((r) => r.zone === 'ML')).toMatchObject({ value: 1.25, U: 0.25, unit: 'mm' });
    expect(both.find((r) => r.name === 'margin.width')).toMatchObject({ value: 0.6, U: 0.03 });
  });
  it('are inside only when the whole interval is', () => {
    const judged = (lo: number, hi: number) => scored(withHand(clean, [{ ...gauge, lo, hi }])).criteria[1].verdict;
    expect([judged(1, 1.5), judged(0.9, 1.2), judged(0.2, 0.7)]).toEqual(['inside', 'close', 'outside']);
  });
  it('are all that counts where the rubric says so: the scan’s own reading decides nothing', () => {
    const byHand = { ...ours, criteria: [criterion('width', 3, { ...WIDTH, evidence: 'hand' })], critical: [] };
    const probe = { name: 'margin.width', zone: null, stat: 'median', method: 'probe' } as const;
    const said = (readings: readonly Reading[]) => score(byHand, { readings, curves: {} });
    expect(said(clean)).toMatchObject({ undecided: ['width'], total: null });
    expect(said(withHand(clean, [{ ...probe, lo: 0.5, hi: 0.7 }])).total).toBe(100);
    expect(said(withHand(clean, [{ ...probe, lo: 1.3, hi: 1.5 }])).total).toBe(0);
  });
  it('make a grade without any scan, once the critical errors are decided', () => {
    const hand = [gauge, { ...gauge, name: 'margin.width', zone: null, method: 'probe', lo: 0.4, hi: 0.8 } as const];
    expect(scored(withHand([], hand)).undecided).toEqual(['neighbour']);
    expect(scored(withHand([], hand), { neighbour: { made: false } }).total).toBe(100);
  });
});
