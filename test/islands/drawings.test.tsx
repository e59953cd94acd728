import type { ReactElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import { ToleranceBar } from '#components/ToleranceBar.tsx';
import { VerdictMark } from '#components/Verdict.tsx';
import { Across } from '../../src/charts/Across.tsx';
import { Plan } from '../../src/charts/Plan.tsx';
import { Ring } from '../../src/charts/Ring.tsx';
import { Section } from '../../src/charts/Section.tsx';
import { wordsOf } from '../helpers/markup.ts';

const html = (e: ReactElement): string => renderToStaticMarkup(e);
const words = (e: ReactElement): string => wordsOf(html(e));
const attribute = (markup: string, name: string): string[] => [...markup.matchAll(new RegExp(`${name}="([^"]*)"`, 'g'))].map((m) => m[1]);
const nothing = () => undefined;

describe('a tolerance bar', () => {
  const bar = (value: number | null, U: number | null, lo: number | null, hi: number | null) =>
    html(<ToleranceBar value={value} U={U} lo={lo} hi={hi} label="x" />);
  /** Band's ends, whisker's ends, and where the value stands, in pixels. */
  const read = (markup: string) => {
    const rect = /<rect x="([\d.]+)" width="([\d.]+)"/.exec(markup) as RegExpExecArray;
    const lines = [...markup.matchAll(/<line x1="([\d.]+)" x2="([\d.]+)"/g)].map((m) => [Number(m[1]), Number(m[2])]);
    return { lo: Number(rect[1]), hi: Number(rect[1]) + Number(rect[2]), whisker: lines[1], value: lines[2]?.[0] };
  };
  it('stands inside, outside or across its band as the figures do', () => {
    const inside = read(bar(1.2, 0.05, 1, 1.5));
    expect(inside.value).toBeGreaterThan(inside.lo);
    expect(inside.value).toBeLessThan(inside.hi);
    const over = read(bar(1.8, 0.05, 1, 1.5));
    expect(over.whisker[0]).toBeGreaterThan(over.hi);
    const across = read(bar(1.02, 0.05, 1, 1.5));
    expect(across.whisker[0]).toBeLessThan(across.lo);
    expect(across.whisker[1]).toBeGreaterThan(across.lo);
  });
  it('keeps one scale for band and whisker', () => {
    const { lo, hi, whisker } = read(bar(1.25, 0.1, 1, 1.5));
    expect((whisker[1] - whisker[0]) / (hi - lo)).toBeCloseTo(0.2 / 0.5, 6);
  });
  it('shows the band alone where nothing was read, and runs to the end where it is open', () => {
    expect(read(bar(null, null, 1, 1.5)).value).toBeUndefined();
    expect(read(bar(0.05, 0.01, null, 0.2)).lo).toBe(2);
    expect(read(bar(3, 0.1, 2, null)).hi).toBe(118);
  });
});

describe('a verdict', () => {
  it('is a shape of its own with its word', () => {
    const all = (['inside', 'close', 'outside', 'critical', 'none'] as const).map((v) => html(<VerdictMark verdict={v} />));
    expect(new Set(all.map((m) => /<svg.*<\/svg>/.exec(m)?.[0])).size).toBe(5);
    expect(all.map((m) => m.replace(/<svg.*<\/svg>/, '').replace(/<[^>]+>/g, ''))).toEqual(
      expect.arrayContaining(['inside', 'too close to call', 'outside']),
    );
  });
  it('has a text alternative where the shape stands alone', () =>
    expect(attribute(html(<VerdictMark verdict="outside" word={false} />), 'aria-label')).toEqual(['outside']));
});

describe('the ring', () => {
  const points = Array.from({ length: 180 }, (_, k) => [2 * k, 0.6 + 0.2 * Math.sin((k * Math.PI) / 90)]);
  const ring = (band: readonly [number | null, number | null], own = points) =>
    html(
      <Ring
        title="Margin width"
        unit="mm"
        digits={2}
        points={own}
        band={band}
        out={(v) => (band[0] !== null && v < band[0]) || (band[1] !== null && v > band[1])}
        U={0.04}
        azimuth={90}
        onAzimuth={nothing}
      />,
    );
  it('says in words what it draws, and the value where it is cut', () => {
    const text = words(
      <Ring
        title="Margin width"
        unit="mm"
        digits={2}
        points={points}
        band={[0.5, 0.7]}
        out={() => false}
        U={0.04}
        azimuth={90}
        onAzimuth={nothing}
      />,
    );
    expect(text).toContain('Margin width round the tooth in mm: from 0.40 to 0.80; at 90 degrees 0.80');
    for (const side of ['facial', 'mesial', 'lingual', 'distal']) expect(text).toContain(side);
  });
  it('marks as many places as lie out of the band', () => {
    const marked = (markup: string) => [...markup.matchAll(/fill-under/g)].length;
    const out = points.filter((p) => p[1] > 0.7 || p[1] < 0.5).length;
    expect(marked(ring([0.5, 0.7]))).toBe(out);
    expect(marked(ring([null, null]))).toBe(0);
  });
  it('leaves a gap where nothing was read instead of drawing across it', () => {
    const lines = (own: typeof points) => [...ring([0.5, 0.7], own).matchAll(/fill-none stroke-accent/g)].length;
    expect(lines(points)).toBe(1);
    expect(lines(points.filter((p) => p[0] < 100 || p[0] > 160))).toBe(2);
  });
});

const square = (r: number) => [
  [r, -r],
  [r, r],
  [-r, r],
  [-r, -r],
];

describe('the plan', () => {
  const curves = {
    'plan.tooth': square(5),
    'plan.outline': square(1),
    'plan.cusps': [[3, 3]],
    'plan.groove.central': [
      [-3, 0],
      [3, 0],
    ],
    'plan.isthmus': [
      [0, -1],
      [0, 1],
    ],
    'plan.condenser': [[0, 0, 0.9]],
    'plan.mark.ridge mesial': [
      [1, 0],
      [2.6, 0],
    ],
    'plan.mark.gap distal gingival': [
      [-1, 0, 0.45],
      [-1.1, 0, 0.45],
    ],
  };
  it('gives every width in mm, the gap as it is in space and not as it looks from above', () => {
    const text = words(<Plan curves={curves} mesialSign={1} />);
    for (const part of ['isthmus 2.00 mm', 'widest condenser 1.80 mm', '1.60', '0.45']) expect(text).toContain(part);
    expect(attribute(html(<Plan curves={curves} mesialSign={1} />), 'aria-label')[0]).toContain('ridge mesial 1.60 mm');
  });
  it('turns over with the quadrant: mesial is where the tooth has it', () => {
    const ends = (sign: number) =>
      /<line x1="([\d.]+)" y1="[\d.]+" x2="([\d.]+)"[^>]*stroke-bad/.exec(
        html(<Plan curves={curves} mesialSign={sign} />),
      ) as RegExpExecArray;
    expect(Number(ends(1)[2])).toBeGreaterThan(Number(ends(1)[1]));
    expect(Number(ends(-1)[2])).toBeLessThan(Number(ends(-1)[1]));
  });
  it('names what was not read', () =>
    expect(
      attribute(html(<Plan curves={{ 'plan.tooth': square(5), 'plan.outline': square(1) }} mesialSign={1} />), 'aria-label')[0],
    ).toContain('no isthmus was read, no floor was read'));
});

describe('the plan as a hand on the tooth', () => {
  const curves = { 'plan.tooth': square(5), 'plan.outline': square(1) };
  it('draws where the tooth is cut, mesial on its own side', () => {
    const at = (mesialSign: number) =>
      /x1="([\d.]+)"[^>]*x2="([\d.]+)"[^>]*data-cut="90"/.exec(
        html(<Plan curves={curves} mesialSign={mesialSign} azimuth={90} />),
      ) as RegExpExecArray;
    expect(Number(at(1)[2])).toBeGreaterThan(Number(at(1)[1]));
    expect(Number(at(-1)[2])).toBeLessThan(Number(at(-1)[1]));
  });
  it('shows the place that is looked at where the picture has it, whichever the quadrant', () => {
    const dot = (mesialSign: number) =>
      Number(/<circle cx="([\d.]+)"[^>]*fill-ink/.exec(html(<Plan curves={curves} mesialSign={mesialSign} pin={[3, 0, 2]} />))?.[1]);
    expect(dot(1)).toBeGreaterThan(130);
    expect(dot(-1)).toBe(dot(1));
  });
});

describe('a cut through the probe', () => {
  const lines = {
    scan: [
      [
        [-3, 4],
        [-1, 2],
        [1, 2],
        [3, 4],
      ],
    ],
    master: [
      [
        [-3, 4],
        [3, 4],
      ],
    ],
    opposing: [],
  } as never;
  const shown = (wide: readonly [number, number] | null) =>
    html(
      <Across
        lines={lines}
        z={2}
        wide={wide}
        over={0.4}
        ends={['distal', 'mesial']}
        removed={{ value: 1.987, U: 0.04 }}
        opposing={false}
      />,
    );
  it('says in words what was removed and how wide it is', () =>
    expect(attribute(shown([-1.4, 1.4]), 'aria-label')[0]).toBe(
      'Cut from distal to mesial through the probe: removed 1.99 ± 0.04 mm, 2.80 mm from wall to wall 0.4 mm over it.',
    ));
  it('gives no width where no wall bounds one', () => expect(shown(null)).not.toContain('from wall to wall'));
  it('is drawn in mm: both walls as far from the probe as they are', () => {
    const [, left, right] = /<g class="stroke-under"[^>]*><line x1="([\d.]+)" x2="([\d.]+)"/.exec(shown([-1, 2])) as RegExpExecArray;
    expect(130 - Number(left)).toBeCloseTo((Number(right) - 130) / 2, 6);
  });
});

describe('the section', () => {
  const profile = {
    scan: [0, 5, 4, 5, 4, 1],
    master: [0, 7, 5, 7, 5, 0],
    finish: [5, 1],
    foot: [4.2, 1],
    wall: [4.2, 1, 4, 4],
    width: 0.8,
    taper: 3.8,
  };
  const near = profile as never;
  const far = { ...profile, finish: null, foot: null, wall: null, width: null, taper: null } as never;
  it('says the dimensions of both sides, or that they were not read', () => {
    const e = <Section near={near} far={far} names={['facial', 'lingual']} dimensions onTurn={nothing} />;
    expect(words(e)).toContain('margin 0.80 mm taper 3.8°');
    expect(words(e)).toContain('no margin read no wall read');
    expect(attribute(html(e), 'aria-label')[0]).toContain('lingual: margin not read mm');
  });
});
