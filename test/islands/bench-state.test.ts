import { describe, expect, it } from 'vitest';
import type { CriterionView, CriticalView, ScoreView, TargetView } from '#contract/views.ts';
import { implausible } from '../../src/islands/bench/hand.ts';
import { jawShift } from '../../src/islands/bench/Jaw.tsx';
import { actOf, keyOf, takenBy, USUAL, withKey } from '../../src/islands/bench/keys.ts';
import {
  asMeasured,
  type BenchAction,
  type BenchContext,
  confirmation,
  contradicts,
  opened,
  reduce,
} from '../../src/islands/bench/reducer.ts';

const target = (change: Partial<TargetView>): TargetView =>
  ({
    reading: 'margin.width',
    zone: null,
    stat: 'median',
    value: 0.6,
    hand: null,
    azimuth: null,
    deciding: false,
    methods: ['probe'],
    verdict: 'inside',
    ...change,
  }) as TargetView;
const line = (id: string, targets: TargetView[], change: Partial<CriterionView> = {}): CriterionView =>
  ({ id, title: id, targets, computed: 3, range: [3, 3], ...change }) as CriterionView;
const score = {
  criteria: [
    line('width', [target({ zone: 'facial', azimuth: 10 }), target({ zone: 'lingual', azimuth: 190, deciding: true })]),
    line('depth', [target({ reading: 'reduction.occlusal', zone: 'MB', value: null, azimuth: 40 })], { computed: null, range: [0, 3] }),
  ],
  critical: [{ id: 'lip', reading: 'margin.lip', zone: null, stat: 'max', verdict: 'close', made: null, decidedBy: 'nobody', azimuth: 90 }],
  undecided: ['depth', 'lip'],
} as unknown as ScoreView & { criteria: CriterionView[]; critical: CriticalView[] };
const context: BenchContext = { score, rings: [{ id: 'ring.margin.width' }] as never, drawn: { hollow: false, colours: ['axial'] } };
const following = (...acts: BenchAction[]) => acts.reduce((s, a) => reduce(s, a, context), opened(context));

describe('the bench’s state', () => {
  it('opens at the first line to check, turned to its place', () => expect(opened(context)).toMatchObject({ focus: 1, azimuth: 40 }));
  it('goes to a line’s deciding place, and closes what was open', () => {
    const s = following({ do: 'comment', open: true }, { do: 'go', to: 0 });
    expect(s).toMatchObject({ focus: 0, place: 1, azimuth: 190, camera: { azimuth: 190 }, commenting: false });
  });
  it('goes round its lines, critical errors included', () => {
    expect(following({ do: 'step', by: 1 }).focus).toBe(2);
    expect(following({ do: 'step', by: 1 }, { do: 'step', by: 1 }).focus).toBe(0);
  });
  it('walks through a line’s places by hand: the one in view first', () => {
    const first = following({ do: 'go', to: 0 }, { do: 'next-place' });
    expect(first.byHand).toBe('margin.width|lingual|median');
    const second = reduce(reduce(first, { do: 'by-hand', place: null }, context), { do: 'next-place' }, context);
    expect(second).toMatchObject({ byHand: 'margin.width|facial|median', azimuth: 10 });
  });
  it('goes on to the next place that nobody has read', () =>
    expect(following({ do: 'go', to: 0 }, { do: 'next-unread' })).toMatchObject({ focus: 1, byHand: 'reduction.occlusal|MB|median' }));
  it('stops at a question on the way that nobody has answered', () => {
    const asks = { question: 'Explorer:', words: [] };
    const asking = {
      ...score,
      criteria: [score.criteria[0], line('word', [], { asks } as never), score.criteria[1]],
      undecided: ['word', 'depth'],
    } as unknown as typeof score;
    const on = (undecided: string[]) => ({ ...context, score: { ...asking, undecided } as typeof score });
    const first = reduce(opened(on(['word', 'depth'])), { do: 'go', to: 0 }, on(['word', 'depth']));
    expect(reduce(first, { do: 'next-unread' }, on(['word', 'depth']))).toMatchObject({ focus: 1, byHand: null });
    expect(reduce(first, { do: 'next-unread' }, on(['depth']))).toMatchObject({ focus: 2, byHand: 'reduction.occlusal|MB|median' });
  });
  it('closes its forms where nothing is left to read', () =>
    expect(following({ do: 'next-place' }, { do: 'next-unread' })).toMatchObject({ focus: 1, byHand: null }));
  it('turns its section all the way round', () =>
    expect(following({ do: 'cut-at', azimuth: 2 }, { do: 'turn', by: -5 }).azimuth).toBe(357));
});

describe('signing with open lines', () => {
  it('is asked about once where each of them can stand as measured', () => {
    const close = { ...score, criteria: [{ ...score.criteria[0], computed: 2 }, score.criteria[1]], undecided: ['width'] } as typeof score;
    expect(asMeasured(close)).toEqual([{ line: 'width', title: 'width', word: { level: 2 } }]);
    const s = following({ do: 'sign-open', andGo: true });
    expect(s.signing).toEqual({ andGo: true });
    expect(reduce(s, { do: 'close' }, context).signing).toBeNull();
  });
  it('is not where one was not read, or a critical error is too close to call', () => {
    expect(asMeasured(score)).toBeNull();
    expect(asMeasured({ ...score, undecided: ['lip'] } as typeof score)).toBeNull();
  });
});

describe('Enter', () => {
  it('confirms nothing that was not measured, and nothing that is decided', () => {
    expect(confirmation(score, 0)).toBeNull();
    expect(confirmation(score, 1)).toBeNull();
    expect(confirmation(score, 2)).toBeNull();
  });
  it('confirms the measured level of a line to check, and a critical error that was measured', () => {
    const open = { ...score, undecided: ['width', 'lip'], critical: [{ ...score.critical[0], verdict: 'outside' }] } as typeof score;
    expect(confirmation(open, 0)).toEqual({ level: 3 });
    expect(confirmation(open, 2)).toEqual({ made: true });
  });
});

it('a judgement wants its reason only where it contradicts what was measured', () => {
  expect(contradicts(score, 0, { level: 3 })).toBe(false);
  expect(contradicts(score, 0, { level: 1 })).toBe(true);
  expect(contradicts(score, 2, { made: true })).toBe(false);
  const clean = { ...score, critical: [{ ...score.critical[0], verdict: 'inside' }] } as typeof score;
  expect(contradicts(clean, 2, { made: true })).toBe(true);
});

describe('keys', () => {
  it('may be other letters, but never two acts on one', () => {
    const own = withKey(USUAL, 'sign', 'q');
    expect([actOf(own, 'q'), actOf(own, 's'), keyOf(own, 'sign')]).toEqual(['sign', null, 'q']);
    expect(takenBy(USUAL, 'sign', 'n')).toBe('next');
    expect(withKey(USUAL, 'sign', 'n')).toEqual(USUAL);
    expect(withKey(USUAL, 'sign', '7')).toEqual(USUAL);
  });
  it('can be switched off', () => expect(actOf({ ...USUAL, on: false }, 's')).toBeNull());
});

describe('a figure read by hand', () => {
  const band = { lo: 0.8, hi: 1.2, value: 1 };
  it('is questioned when a decimal sign was lost', () => {
    expect(implausible([12, 12], 'mm', band)).toMatch(/more than 8 mm/);
    expect(implausible([7, 7], 'mm', band)).toMatch(/many times the target/);
    expect(implausible([-1, -0.5], 'mm', band)).toMatch(/less than nothing/);
  });
  it('is taken when it may be so, far outside of the band as well', () => {
    expect(implausible([0.2, 0.4], 'mm', band)).toBeNull();
    expect(implausible([2.5, 3], 'mm', band)).toBeNull();
    expect(implausible([-0.3, 0.2], 'mm', { lo: null, hi: 0.5, value: null })).toBeNull();
  });
});

describe('the jaw on its way', () => {
  const jaw = { isUpper: false, turned_deg: 90, conditions: { path_mm: 2, condylar_deg: 30, bennett_deg: 10 } };
  it('closed, nothing is moved; without an opposing arch neither', () => {
    expect(jawShift({ jaw, mesialSign: 1 }, { which: 'protrusive', share: 0 })).toBeNull();
    expect(jawShift({ mesialSign: 1 }, { which: 'protrusive', share: 1 })).toBeNull();
  });
  it('glides two millimetres at the end, opening by the condyle’s path, and mirrors with the picture', () => {
    const right = jawShift({ jaw, mesialSign: 1 }, { which: 'protrusive', share: 1 }) as readonly number[];
    const left = jawShift({ jaw, mesialSign: -1 }, { which: 'protrusive', share: 1 }) as readonly number[];
    expect(Math.hypot(right[0], right[1])).toBeCloseTo(2 * Math.cos(Math.PI / 6), 6);
    expect(right[2]).toBeCloseTo(2 * Math.sin(Math.PI / 6), 6);
    expect(left).toEqual([-right[0], right[1], right[2]]);
  });
});
