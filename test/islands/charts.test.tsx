import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import { CutterPicture } from '#charts/Cutter.tsx';
import { FamilyPicture } from '#charts/Family.tsx';
import { FromAbove } from '#charts/FromAbove.tsx';
import { HabitRing } from '#charts/HabitRing.tsx';
import { type ChartPoint, EvidenceChart, SkillChart } from '#charts/SkillChart.tsx';
import type { Guide } from '#core/plan/guide.ts';
import { FAMILIES } from '#words/families.ts';
import { wordsOf } from '../helpers/markup.ts';

/** Every element of one kind with its attributes. */
const all = (html: string, tag: string): Record<string, string>[] =>
  [...html.matchAll(new RegExp(`<${tag}\\b([^>]*)>`, 'g'))].map((m) =>
    Object.fromEntries([...m[1].matchAll(/([\w:-]+)="([^"]*)"/g)].map((a) => [a[1], a[2]])),
  );
const numbers = (points: string): number[][] => points.split(' ').map((p) => p.split(',').map(Number));

describe('attempts on a chart', () => {
  const point = (value: number | null, level: number | null, more: Partial<ChartPoint> = {}): ChartPoint => ({
    value,
    U: value === null ? null : 0.1,
    lo: 0.4,
    hi: 0.8,
    level,
    ...more,
  });
  const chart = (points: readonly ChartPoint[], digits?: number): string =>
    renderToStaticMarkup(
      <SkillChart points={points} width={300} height={100} label="Margin width" {...(digits === undefined ? {} : { digits })} />,
    );

  it('stand from left to right, higher the more was read', () => {
    const at = all(chart([point(0.5, 3), point(0.6, 3), point(0.75, 2)]), 'circle').map((c) => [Number(c.cx), Number(c.cy)]);
    expect(at).toHaveLength(3);
    expect(at[0][0]).toBeLessThan(at[1][0]);
    expect(at[1][0]).toBeLessThan(at[2][0]);
    expect(at[0][1]).toBeGreaterThan(at[1][1]);
    expect(at[1][1]).toBeGreaterThan(at[2][1]);
  });
  it('carry their uncertainty to both sides alike, and lie in their band where they are inside', () => {
    const html = chart([point(0.6, 3)]);
    const [line] = all(html, 'line').map((l) => [Number(l.y1), Number(l.y2)]);
    const [dot] = all(html, 'circle').map((c) => Number(c.cy));
    expect((line[0] + line[1]) / 2).toBeCloseTo(dot, 6);
    const [band] = all(html, 'rect').map((r) => [Number(r.y), Number(r.y) + Number(r.height)]);
    expect(dot).toBeGreaterThan(band[0]);
    expect(dot).toBeLessThan(band[1]);
  });
  it('differ in shape as well as in colour: round where it is sound, square and on its corner below', () => {
    const html = chart([point(0.6, 3), point(0.85, 1), point(1.2, 0)]);
    expect(all(html, 'circle').map((c) => c.class)).toEqual(['fill-good']);
    const marks = all(html, 'rect').filter((r) => r.class !== 'fill-wash');
    expect(marks.map((r) => [r.class, 'transform' in r])).toEqual([
      ['fill-under', false],
      ['fill-bad', true],
    ]);
  });
  it('an attempt without a reading leaves a gap, its number stays', () => {
    const html = chart([point(0.5, 3), point(null, null), point(0.6, 3)], 2);
    expect(all(html, 'circle')).toHaveLength(2);
    expect(numbers(all(html, 'polyline')[0].points)).toHaveLength(2);
    // The third attempt is told as the third.
    expect(wordsOf(html)).toMatch(/3$/);
  });
  it('without any reading the levels are drawn, bands and uncertainties are not', () => {
    const html = chart([point(null, 0), point(null, 2), point(null, 3)]);
    expect(all(html, 'line')).toHaveLength(0);
    expect(all(html, 'rect').filter((r) => r.class === 'fill-wash')).toHaveLength(0);
    const heights = numbers(all(html, 'polyline')[0].points).map((p) => p[1]);
    expect([...heights].sort((a, b) => b - a)).toEqual(heights);
  });
  it('a scale names the ends and the middle of what is drawn', () => {
    // Band 0.4 to 0.8, reading 0.6 ± 0.1.
    expect(wordsOf(chart([point(0.6, 3)], 2))).toContain('0.40 0.60 0.80');
  });
});

describe('the evidence of mastery', () => {
  const chart = (heights: readonly number[], limit: number): string =>
    renderToStaticMarkup(<EvidenceChart heights={heights} limit={limit} label="evidence" />);
  it('crosses the limit where it is higher', () => {
    const html = chart([1, 3, 6], 5);
    const limit = Number(all(html, 'line')[0].y1);
    expect(all(html, 'circle').map((c) => Number(c.cy) < limit)).toEqual([false, false, true]);
  });
  it('starts from nothing', () => {
    const html = chart([2], 5);
    expect(numbers(all(html, 'polyline')[0].points)[0][1]).toBe(Number(all(html, 'line')[1].y1));
  });
});

describe('where an error returns', () => {
  const mean = Array.from({ length: 72 }, (_, b) => (b >= 16 && b <= 20 ? 0.4 : -0.05));
  const ring = (from: number, to: number, values: readonly number[] = mean): string =>
    renderToStaticMarkup(<HabitRing mean={values} limit={0.2} from={from} to={to} label="returns at mesial" />);
  it('stands out past what chance allows, on the side it returns at', () => {
    const bad = all(ring(16, 20), 'polyline').filter((p) => p.class === 'stroke-bad');
    expect(bad).toHaveLength(5);
    for (const p of bad) {
      const [[x0, y0], [x1, y1]] = numbers(p.points);
      // 80 to 105° from facial: to the right, where mesial is written, and outward.
      expect(x0).toBeGreaterThan(95 + 40);
      expect(Math.hypot(x1 - 95, y1 - 95)).toBeGreaterThan(Math.hypot(x0 - 95, y0 - 95));
    }
  });
  it('too little points inward', () => {
    const low = all(ring(16, 20), 'polyline').filter((p) => p.class === 'stroke-soft');
    const [[x0, y0], [x1, y1]] = numbers(low[0].points);
    expect(Math.hypot(x1 - 95, y1 - 95)).toBeLessThan(Math.hypot(x0 - 95, y0 - 95));
  });
  it('runs over facial, where the circle begins again', () => {
    const over = Array.from({ length: 72 }, (_, b) => (b >= 70 || b <= 1 ? 0.4 : 0));
    expect(all(ring(70, 1, over), 'polyline').filter((p) => p.class === 'stroke-bad')).toHaveLength(4);
  });
  it('has a word for what it shows', () => expect(ring(16, 20)).toContain('aria-label="returns at mesial"'));
});

describe('a tooth from above', () => {
  const guide = (mesialSign: 1 | -1): Guide =>
    ({
      outline: [
        [5, 0],
        [0, 5],
        [-5, 0],
        [0, -5],
      ],
      neck: [
        [4, 0],
        [0, 4],
        [-4, 0],
      ],
      grooves: [],
      cusps: [{ name: 'MB', at: [2, 2] }],
      mesialSign,
    }) as unknown as Guide;
  const picture = (mesialSign: 1 | -1, current: number | null = null): string =>
    renderToStaticMarkup(
      <FromAbove
        guide={guide(mesialSign)}
        numbers={[
          { number: 1, at: [3, 0] },
          { number: 2, at: [0, 3] },
        ]}
        current={current}
        label="where the plan cuts"
      />,
    );
  it('has facial up, and mesial on the side that the tooth has it on', () => {
    for (const sign of [1, -1] as const) {
      const html = picture(sign);
      const size = Number(all(html, 'svg')[0].viewBox.split(' ')[2]);
      const [mesial, facial] = all(html, 'circle').map((c) => [Number(c.cx), Number(c.cy)]);
      expect(mesial[0] > size / 2).toBe(sign === 1);
      expect(facial[1]).toBeLessThan(size / 2);
      const word = all(html, 'text').at(-1);
      expect(Number(word?.x) > size / 2).toBe(sign === 1);
    }
  });
  it('fades what is not to be cut now', () => {
    expect(all(picture(1, 2), 'g').map((g) => g.opacity)).toEqual(['0.35', '1']);
    expect(all(picture(1), 'g').map((g) => g.opacity)).toEqual(['1', '1']);
  });
});

describe('a cutter drawn from its own figures', () => {
  const drawn = (change: object) =>
    renderToStaticMarkup(
      <CutterPicture
        cutter={{ form: 'taper', tip: 'round', shank_mm: 1.8, tip_mm: 1.2, length_mm: 6, ...change } as never}
        label="tapered, round tip"
      />,
    );
  const span = (html: string, k: 0 | 1): number => {
    const v = numbers(all(html, 'polygon')[0].points).map((p) => p[k]);
    return Math.max(...v) - Math.min(...v);
  };
  it('is as long and as thick as it is, to one scale', () => {
    const html = drawn({});
    expect(span(html, 0) / span(html, 1)).toBeCloseTo(6 / 1.8, 1);
    expect(span(drawn({ length_mm: 8 }), 0) / span(html, 0)).toBeCloseTo(8 / 6, 1);
  });
  it('wears its ring where it has one', () => {
    expect(all(drawn({}), 'rect')).toHaveLength(1);
    expect(all(drawn({ ring: '#a33' }), 'rect').map((r) => r.fill)).toEqual([undefined, '#a33']);
  });
});

it.each(Object.keys(FAMILIES))('readings of the family “%s” have a picture: the tooth as it is cut, and what is measured', (family) => {
  const paths = all(renderToStaticMarkup(<FamilyPicture family={family as never} />), 'path');
  expect(paths.filter((p) => p.class?.includes('stroke-bad'))).toHaveLength(1);
  expect(paths.filter((p) => p.class?.includes('fill-wash'))).toHaveLength(1);
});
