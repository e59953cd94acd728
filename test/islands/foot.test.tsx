import type { ReactElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it, vi } from 'vitest';
import type { ScoreView } from '#contract/views.ts';
import { Foot } from '../../src/islands/bench/Foot.tsx';
import { Legend, Parts } from '../../src/islands/bench/Legend.tsx';
import { Readout } from '../../src/islands/bench/Readout.tsx';
import { Preview } from '../../src/islands/tray/Preview.tsx';
import { Share } from '../../src/islands/tray/Share.tsx';
import { wordsOf } from '../helpers/markup.ts';

const html = (e: ReactElement): string => renderToStaticMarkup(e);
const words = (e: ReactElement): string => wordsOf(html(e));
const nothing = () => undefined;
const never = (): Promise<boolean> => Promise.resolve(true);

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
