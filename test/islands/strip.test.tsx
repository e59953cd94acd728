import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import { EDGE_LENGTH } from '#core/result/curves.ts';
import { judgeAlong } from '#core/score/along.ts';
import type { Target } from '#core/score/rubric.ts';
import { foundWords } from '#words/readings.ts';
import { Ring } from '../../src/charts/Ring.tsx';
import { Section } from '../../src/charts/Section.tsx';
import { RingPanel } from '../../src/islands/bench/RingPanel.tsx';

const TARGET: Target = {
  reading: 'margin.width',
  zone: null,
  stat: 'median',
  band: { lo: 0.5, hi: 0.9 },
  fair: { lo: 0.4, hi: 1 },
  poor: { lo: 0.3, hi: 1.2 },
  along: { full: 0.9, fair: 0.75, poor: 0.5 },
};
const STEP = 2;
/** A margin that swings about 0.7 mm `times` round the tooth; 0.2 mm of edge at each place. */
const margin = (swing: number, times: number): [number, number][] =>
  Array.from({ length: 360 / STEP }, (_, k) => [k * STEP, 0.7 + swing * Math.cos((times * k * STEP * Math.PI) / 180)]);

describe('the strip and the line that judges the same curve', () => {
  it.each([
    [0.1, 2],
    [0.25, 1],
    [0.4, 3],
  ])('mark the same share of it (swing %f mm, %i times round)', (swing, times) => {
    const points = margin(swing, times);
    const U = 0.03;
    const along = judgeAlong(TARGET, { 'margin.width': points, [EDGE_LENGTH]: points.map(([a]) => [a, 0.2]) }, U);
    if (!along) throw new Error('the whole edge was read');
    const html = renderToStaticMarkup(
      <RingPanel
        view={{
          rings: [{ id: 'margin.width', title: 'margin width', unit: 'mm', digits: 2, band: [0.5, 0.9], U, sign: null, stretch: null }],
          curves: { 'margin.width': points },
        }}
        ring={0}
        azimuth={0}
        onRing={() => undefined}
        onAzimuth={() => undefined}
      />,
    );
    const marked = html.split('fill-under').length - 1;
    expect(1 - marked / points.length).toBeCloseTo(along.inside, 9);
    // The worst millimetre lies where the strip is marked, if it is marked at all.
    const worst = points.find(([a]) => a === along.worstAt)?.[1] ?? Number.NaN;
    if (marked) expect(worst < 0.5 || worst > 0.9).toBe(true);
  });
});

describe('a contact in words', () => {
  const contact = { reading: 'contact.broken', U: 0.05, unit: 'mm' };
  it('says first whether it is open', () => {
    expect(foundWords({ ...contact, value: 1.43 })).toBe('open, 1.43 ± 0.05 mm');
    expect(foundWords({ ...contact, value: 0.02 })).toBe('not surely open, 0.02 ± 0.05 mm');
    expect(foundWords({ ...contact, value: null, U: null, reason: 'far-apart' })).not.toContain('open,');
  });
});

describe('a stretch that a reading of its own stands for', () => {
  const drawn = (from: number, to: number): string =>
    renderToStaticMarkup(
      <Ring
        title="Margin width"
        unit="mm"
        digits={2}
        points={margin(0.1, 2)}
        band={[0.5, 0.9]}
        out={() => false}
        U={0.03}
        azimuth={0}
        onAzimuth={() => undefined}
        stretch={{ from, to, words: 'thinnest 10°: 0.61 mm' }}
      />,
    );
  const boxes = (html: string) => html.match(/fill-under\/20/g)?.length ?? 0;
  it('is drawn once, with its words for the eye and for the ear', () => {
    const html = drawn(115, 125);
    expect(boxes(html)).toBe(1);
    expect(html.match(/thinnest 10°: 0.61 mm/g)).toHaveLength(2);
    expect(html).toContain('at 120 degrees');
  });
  it.each([
    [-3, 7],
    [355, 365],
  ])('that runs over facial (%i° to %i°) lies at both ends', (from, to) => {
    expect(boxes(drawn(from, to))).toBe(2);
  });
});

describe('a ring that ends where a partial cover ends', () => {
  const at = (azimuth: number, points: readonly (readonly number[])[]): string =>
    renderToStaticMarkup(
      <Ring
        title="Taper"
        unit="°"
        digits={1}
        points={points}
        band={[2, 6]}
        out={() => false}
        U={0.5}
        azimuth={azimuth}
        onAzimuth={() => undefined}
      />,
    );
  const covered = Array.from({ length: 100 }, (_, k) => [80 + 2 * k, 4.6]);
  it('says the value where one is read', () => {
    expect(at(180, covered)).toContain('at 180 degrees 4.6');
    expect(at(76, covered)).toContain('at 76 degrees 4.6');
  });
  it('says that nothing is read beyond, and gives no neighbour’s figure', () => {
    for (const azimuth of [0, 60, 300]) {
      expect(at(azimuth, covered)).toContain(`at ${azimuth} degrees nothing is read`);
      expect(at(azimuth, covered)).not.toContain('4.6 °');
    }
  });
  it('counts over facial as near as anywhere', () => {
    expect(at(358, [[0, 3.2]])).toContain('at 358 degrees 3.2');
  });
});

describe('a section', () => {
  const half = { azimuth: 0, scan: [1, 0, 2, 3], master: [], finish: null, foot: null, wall: null, width: null, taper: null, height: null };
  const lines = (opposing: boolean, own: number[] | undefined): number =>
    renderToStaticMarkup(
      <Section
        near={{ ...half, opposing: own }}
        far={half}
        names={['facial', 'lingual']}
        dimensions={false}
        opposing={opposing}
        onTurn={() => undefined}
      />,
    ).match(/stroke-width="2.4"/g)?.length ?? 0;
  it('shows the opposing arch only where it is asked for and was cut', () => {
    expect(lines(true, [0, 6, 3, 7])).toBe(1);
    expect(lines(false, [0, 6, 3, 7])).toBe(0);
    expect(lines(true, undefined)).toBe(0);
  });
});
