import { describe, expect, it } from 'vitest';
import type { DraftView } from '#contract/master-draft.ts';
import { painted } from '#core/annotate/paint.ts';
import { type Act, begin, pointsOf, reduce, type State, withPoint } from '../../src/islands/masters/state.ts';

const ring = Array.from({ length: 12 }, (_, i): [number, number, number] => [
  4 * Math.sin((i * Math.PI) / 6),
  4 * Math.cos((i * Math.PI) / 6),
  0,
]);
const marks: NonNullable<DraftView['marks']> = {
  axis: [0, 0, 1],
  mesial: [1, 0, 0],
  facial: [0, 1, 0],
  cusps: [{ name: 'MB', role: 'functional', at: [2, 2, 6] }],
  grooves: [
    {
      name: 'central',
      rank: 'primary',
      line: [
        [-2, 0, 5],
        [2, 0, 5],
      ],
    },
  ],
  ridges: {
    mesial: [
      [4, -1, 5],
      [4, 1, 5],
    ],
    distal: [],
    oblique: [],
  },
  contacts: { mesial: [5, 0, 4], distal: null },
  gingivalMargin: ring,
};
const trust = {
  parts: 'sure',
  axis: 'look',
  mesial: 'ask',
  cusps: 'look',
  grooves: 'sure',
  ridges: 'sure',
  contacts: 'look',
  gingivalMargin: 'sure',
} as const;
const draft = { marks, trust, strokes: [], version: 3 } as unknown as Parameters<typeof begin>[0];
const played = (...acts: Act[]): State => acts.reduce(reduce, begin(draft));

describe('a master being annotated', () => {
  it('begins at what a person has to say', () => expect(begin(draft).item).toBe('mesial'));
  it('every point has a place in the marks: moved and read again it is where it was put', () => {
    for (const item of ['cusps', 'grooves', 'ridges', 'contacts', 'gingivalMargin'] as const)
      for (const p of pointsOf(marks, item)) {
        const there = pointsOf(withPoint(marks, p.key, [9, 9, 9]), item).find((q) => q.key === p.key);
        expect(there?.at, p.key).toEqual([9, 9, 9]);
      }
  });
  it('what a person moved is sure', () => expect(played({ type: 'move', key: 'cusps/0', at: [1, 1, 1] }).drawn.trust.cusps).toBe('sure'));
  it('a drag is one step to take back, whatever it passed', () => {
    const drag: Act[] = [1, 2, 3].map((x) => ({ type: 'move', key: 'cusps/0', at: [x, 0, 0], live: x < 3 }));
    const s = played(...drag);
    expect(s.past).toHaveLength(1);
    expect(s.drawn.marks.cusps[0].at).toEqual([3, 0, 0]);
    const back = reduce(s, { type: 'undo' });
    expect(back.drawn.marks).toEqual(marks);
    expect(reduce(back, { type: 'redo' }).drawn.marks.cusps[0].at).toEqual([3, 0, 0]);
  });
  it('a change after an undo forgets what was undone', () => {
    const s = played({ type: 'right', item: 'axis' }, { type: 'undo' }, { type: 'right', item: 'cusps' });
    expect(s.future).toHaveLength(0);
    expect(s.drawn.trust).toMatchObject({ axis: 'look', cusps: 'sure' });
  });
  it('the margin follows a handle and stays closed', () => {
    const m = withPoint(marks, 'gingivalMargin/0', [0, 4, 1]);
    // A third of the way is lost from point to point: 1, ⅔, ⅓, nothing.
    expect(m.gingivalMargin.map((p) => Math.round(3 * p[2]))).toEqual([3, 2, 1, 0, 0, 0, 0, 0, 0, 0, 1, 2]);
  });
  it('another axis keeps the three at right angles and facial on its side', () => {
    const { axis, mesial, facial } = played({ type: 'axis', axis: [0.1, 0.2, 1] }).drawn.marks;
    const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((s, v, k) => s + v * b[k], 0);
    for (const [a, b] of [
      [axis, mesial],
      [axis, facial],
      [mesial, facial],
    ] as const)
      expect(Math.abs(dot(a, b))).toBeLessThan(1e-12);
    expect(dot(facial, [0, 1, 0])).toBeGreaterThan(0.9);
  });
  it('half a turn about the axis turns mesial and facial over', () => {
    const { mesial, facial } = played({ type: 'turn', degrees: 180 }).drawn.marks;
    expect([mesial[0], facial[1]].map((v) => Math.round(v))).toEqual([-1, -1]);
  });
  it('strokes paint in their order, within their reach', () => {
    const p = [0, 0, 0, 1, 0, 0, 3, 0, 0];
    const dab = (part: number, radius: number) => ({ at: [0, 0, 0] as const, radius, part });
    expect([...painted(p, new Uint8Array([1, 1, 1]), [dab(4, 2), dab(2, 0.5)])]).toEqual([2, 4, 1]);
  });
  it('knows what has been kept', () => {
    const s = played({ type: 'right', item: 'axis' });
    expect(s.drawn === s.saved).toBe(false);
    const kept = reduce(s, { type: 'kept', drawn: s.drawn, version: 4 });
    expect([kept.drawn === kept.saved, kept.version]).toEqual([true, 4]);
  });
});
