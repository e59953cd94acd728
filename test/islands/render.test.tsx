import type { ReactElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it, vi } from 'vitest';
import { ToleranceBar } from '#components/ToleranceBar.tsx';
import { VerdictMark } from '#components/Verdict.tsx';
import type { ScoreView } from '#contract/views.ts';
import { Across } from '../../src/charts/Across.tsx';
import { Plan } from '../../src/charts/Plan.tsx';
import { Ring } from '../../src/charts/Ring.tsx';
import { Section } from '../../src/charts/Section.tsx';
import { Foot } from '../../src/islands/bench/Foot.tsx';
import { Legend, Parts } from '../../src/islands/bench/Legend.tsx';
import { Readout } from '../../src/islands/bench/Readout.tsx';
import { Preview } from '../../src/islands/tray/Preview.tsx';
import { Share } from '../../src/islands/tray/Share.tsx';
import { wordsOf } from '../helpers/markup.ts';

const html = (e: ReactElement): string => renderToStaticMarkup(e);
const words = (e: ReactElement): string => wordsOf(html(e));
const attribute = (markup: string, name: string): string[] => [...markup.matchAll(new RegExp(`${name}="([^"]*)"`, 'g'))].map((m) => m[1]);
const nothing = () => undefined;
const never = (): Promise<boolean> => Promise.resolve(true);

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

describe('the foot of the Bench', () => {
  const score: ScoreView = {
    total: 84,
    passed: true,
    range: { least: 84, most: 84 },
    failures: [],
    undecided: [],
    lines: [],
    criteria: [],
    critical: [],
    levels: [],
    seen: 's',
  };
  const foot = (
    change: Partial<ScoreView>,
    released: number | null = null,
    signed = 0,
    isChanged = false,
    nextUnsigned: number | null = null,
  ) =>
    words(
      <Foot
        grading={{
          score: { ...score, ...change },
          grades: Array.from({ length: signed }, (_, i) => ({
            version: i + 1,
            round: 1,
            total: 84,
            passed: true,
            grader: 'x',
            signedAt: '',
            digest: '',
            seen: 's',
          })),
          released,
          isChanged,
          busy: false,
          withdraw: never,
        }}
        canGrade
        keys={{ on: true, own: {} }}
        view={{ next: null, previous: 1, nextUnsigned }}
        onSign={nothing}
        onRelease={nothing}
        onOpen={nothing}
        onHelp={nothing}
      />,
    );
  it('says score, what is to check, and what to do next', () => {
    expect(foot({})).toMatch(/^84 of 100 passed Why 84 ?\? nothing in dispute .* Sign s$/);
    expect(foot({ undecided: ['a'] })).toContain('1 line to check');
    expect(foot({ undecided: ['a', 'b'] })).toContain('2 lines to check');
  });
  it('signs and goes on while somebody is left, and only signs at the end', () => {
    expect(foot({}, null, 0, false, 7)).toMatch(/Sign s Sign and next w$/);
    expect(foot({})).not.toContain('Sign and next');
  });
  it('gives a range and no figure while anything is undecided', () =>
    expect(foot({ total: null, passed: null, range: { least: 60, most: 85 }, undecided: ['a'] })).toMatch(
      /^60–85 of 100, provisional Why 60–85/,
    ));
  it('names what prevents a pass before any figure', () =>
    expect(foot({ total: 100, passed: false, failures: ['Mesial neighbour damaged'] })).toMatch(
      /^Not passed: mesial neighbour damaged 100 of 100/,
    ));
  it('offers release once per signed version', () => {
    expect(foot({})).not.toContain('Release');
    expect(foot({}, null, 2)).toMatch(/version 2 signed .*Release r.*Sign again/);
    expect(foot({}, 2, 2)).not.toContain('Release r');
    expect(foot({}, 2, 2)).toContain('Take back');
    expect(foot({}, 1, 2)).toMatch(/version 1 is released.*Release r/);
  });
  it('marks what changed since it was signed, with the figure that was signed', () => {
    expect(foot({}, null, 1, true)).toContain('changed since');
    expect(foot({ total: 90 }, null, 1, true)).toMatch(/^90 of 100 .*version 1 signed with 84 ?, changed since/);
  });
});

describe('legend and parts', () => {
  const bands = { occlusal: [1, 1.5], axial: [0.4, 0.8] } as never;
  it('show the bands in mm; what a rubric does not ask for has no colours', () => {
    expect(words(<Legend bands={bands} colours={['occlusal', 'axial']} marked={false} lines={[]} />)).toMatch(
      /Removed, mm occlusal 1\.0 1\.5 axial 0\.4 0\.8/,
    );
    expect(
      words(<Legend bands={{ occlusal: [1, 1.5], axial: [0, 99] } as never} colours={['occlusal', 'axial']} marked={false} lines={[]} />),
    ).not.toContain('axial');
    expect(words(<Legend bands={bands} colours={['occlusal']} marked={true} lines={['dashed: row of the neighbours’ cusps']} />)).toMatch(
      /floor.*red: damage, closed contact.*dashed: row of the neighbours’ cusps/,
    );
  });
  it('name every part but nothing', () =>
    expect(words(<Parts names={['', 'pulpal floor', 'axial mesial']} />)).toMatch(/pulpal floor.*axial mesial/));
});

describe('what an instrument says', () => {
  const probed = {
    at: [0, -3, 2],
    depth: { value: 1.234, U: 0.04 },
    lean: { value: 6.4, U: 3 },
    gap: { value: 1.62, U: 0.06, to: [0, -3, 4] },
  } as never;
  const say = (tool: 'probe' | 'gauge', change: object = {}) =>
    words(
      <Readout
        tool={tool}
        probed={probed}
        from={null}
        mesialSign={1}
        thickness={1.5}
        onThickness={nothing}
        onFrom={nothing}
        pinTo={null}
        onPin={nothing}
        {...change}
      />,
    );
  it('depth, lean and place, with how sure they are', () => {
    expect(say('probe')).toContain('removed 1.23 ± 0.04 mm wall, from the axis 6° ± 3° where lingual');
    expect(say('probe', { from: [0, 0, 2] })).toContain('from the first place 3.00 mm');
    expect(say('probe', { probed: { ...(probed as object), lean: { value: 85, U: 3 } } })).toContain('floor, from level 5°');
  });
  it('whether a slab passes', () => {
    expect(say('gauge')).toContain('1.5 mm passes here: gap 1.62 ± 0.06 mm, lingual');
    expect(say('gauge', { thickness: 2 })).toContain('2.0 mm does not pass here');
    expect(say('gauge', { thickness: 1.6 })).toContain('is too close to call here');
    expect(say('gauge', { probed: { ...(probed as object), gap: null } })).toContain('Nothing stands against the tooth');
  });
  it('says what to do before it is set down, and offers a pin only to graders', () => {
    expect(say('probe', { probed: null })).toContain('Click the tooth');
    expect(say('gauge', { probed: null })).toContain('Drag over the tooth');
    expect(say('probe')).not.toContain('Pin it');
    expect(say('probe', { pinTo: 'Margin width' })).toContain('Pin it');
  });
});

describe('sharing out and bringing', () => {
  it('asks for a grader before anything can be given', () => {
    const markup = html(<Share count={3} graders={[{ id: 'I2', name: 'Ines Caldera' }]} onShare={vi.fn()} onDrop={nothing} />);
    expect(markup).toContain('Ines Caldera');
    expect(/<button[^>]*disabled=""[^>]*>Give<\/button>/.test(markup)).toBe(true);
  });
  it('names each file’s student, the word that says so, and the step', () => {
    const waiting = [
      { file: { name: 'H07_axial.stl' }, says: { fileName: 'H07_axial.stl', student: 'H07', by: 'number', step: 'axial', version: 2 } },
      { file: { name: 'nobody.stl' }, says: { fileName: 'nobody.stl', student: null, by: null, step: 'final', version: 1 } },
    ] as never;
    const text = words(<Preview waiting={waiting} students={[{ id: 'H07', name: 'Greta Pohl' }]} onBring={nothing} onDrop={nothing} />);
    expect(text).toContain('1 of 2 files name their student; the other waits in the tray');
    expect(text).toMatch(/H07_axial\.stl Greta Pohl H07 by number, after axial reduction, becomes scan 2/);
    expect(text).toContain('Bring these 2');
  });
});
