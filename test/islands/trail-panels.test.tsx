import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import type { HabitView, ProgressView, SkillPointView, SkillView } from '#contract/progress-view.ts';
import type { TrailAttempt, TrailView } from '#contract/trail-view.ts';
import { USUAL_LIMITS } from '#core/progress/limits.ts';
import { type SkillPoint, skillOf } from '#core/progress/skill.ts';
import { PROGRESS } from '#words/progress.ts';
import { Attempts } from '../../src/islands/trail/Attempts.tsx';
import { Full } from '../../src/islands/trail/Full.tsx';
import { Habits } from '../../src/islands/trail/Habits.tsx';
import { wordsOf } from '../helpers/markup.ts';

const nothing = () => undefined;

describe('every attempt of a student', () => {
  const attempt = (id: number, change: Partial<TrailAttempt> = {}): TrailAttempt =>
    ({
      attempt_id: id,
      sitting_title: 'Crown practice, week 1',
      held_on: '2026-10-19',
      exercise_id: 'crown-16',
      exercise_title: 'Zirconia crown',
      tooth: '16',
      kind: 'crown',
      number: 1,
      minutes: null,
      isScanned: true,
      bands: {},
      total: 74,
      passed: true,
      version: 1,
      released: true,
      grader_name: 'Ines Tal',
      record: { criteria: [], critical: [] },
      ...change,
    }) as unknown as TrailAttempt;
  const table = (attempts: readonly TrailAttempt[]): string =>
    renderToStaticMarkup(<Attempts view={{ student: { id: 'h07', name: 'Ada Quill', bench: 'B1-07' }, attempts } as TrailView} />);

  it('the newest stands first and keeps its number', () => {
    const html = table([attempt(11), attempt(12, { total: 88 })]);
    expect(html.indexOf('/bench/12')).toBeLessThan(html.indexOf('/bench/11'));
    expect(wordsOf(html.slice(html.indexOf('<tbody')))).toMatch(/^2 ,/);
  });
  it('tells what decided: critical errors first, then what is below full marks or has a word, and nothing else', () => {
    const line = (change: object) => ({
      id: 'x',
      title: 'Margin width',
      level: 3,
      value: 0.62,
      U: 0.04,
      unit: 'mm',
      zone: null,
      reason: null,
      comment: null,
      lo: 0.4,
      hi: 0.8,
      points: 10,
      of: 10,
      verdict: 'inside',
      ...change,
    });
    const html = table([
      attempt(1, {
        passed: false,
        record: {
          criteria: [
            line({ id: 'a', title: 'Taper', level: 1, value: 17, U: 1, unit: 'deg', verdict: 'outside' }),
            line({ id: 'b', title: 'Height', level: 3 }),
            line({ id: 'c', title: 'Corners', level: 3, comment: 'Well done here.' }),
            line({ id: 'd', title: 'Path', level: null }),
          ] as never,
          critical: [
            { title: 'Neighbour cut', made: true },
            { title: 'Pulp opened', made: false },
          ],
        },
      }),
    ]);
    const text = wordsOf(html);
    expect(text.indexOf('Neighbour cut')).toBeLessThan(text.indexOf('Taper'));
    expect(text).toContain('17.0 ± 1.0');
    expect(text).toContain('Well done here.');
    for (const absent of ['Height', 'Path', 'Pulp opened']) expect(text).not.toContain(absent);
    expect(text).toContain('not passed');
  });
  it('offers a comparison only where another scan of its kind is there', () => {
    expect(table([attempt(1), attempt(2)]).match(/beside\?later=/g)).toHaveLength(2);
    expect(table([attempt(1), attempt(2, { isScanned: false })])).not.toContain('beside?later=');
  });
  it('says which try of a sitting it was, and how long it took', () =>
    expect(wordsOf(table([attempt(1, { number: 2, minutes: 85 })]))).toContain('try 2, 85 min'));
});

describe('one skill in full', () => {
  const point = (i: number, value: number, level: 0 | 1 | 2 | 3): SkillPointView =>
    ({
      attempt: 100 + i,
      exercise: 'Zirconia crown',
      heldOn: `2026-10-${10 + i}`,
      tooth: '16',
      zone: 'mesial',
      isRepeat: i === 2,
      minutes: null,
      value,
      U: 0.05,
      lo: 0.4,
      hi: 0.8,
      level,
    }) as unknown as SkillPointView;
  const points = [point(0, 1.3, 0), point(1, 1.1, 1), point(2, 0.9, 2), point(3, 0.7, 3), point(4, 0.62, 3), point(5, 0.6, 3)];
  const skill = (of: readonly SkillPointView[]): SkillView => ({
    key: 'width',
    title: 'Margin width',
    unit: 'mm',
    points: of,
    skill: skillOf(of as unknown as SkillPoint[], USUAL_LIMITS, { mean: [0, 0.1], cov: [2, 0, 0.05] }),
  });
  const full = (of: readonly SkillPointView[]): string =>
    renderToStaticMarkup(<Full skill={skill(of)} limits={USUAL_LIMITS} own onClose={nothing} />);

  it('has every attempt as a row with its reading, its band and its level', () => {
    const html = full(points);
    expect(html.match(/href="\/bench\/10\d"/g)).toHaveLength(6);
    const text = wordsOf(html.slice(html.lastIndexOf('<tbody')));
    expect(text).toMatch(/^1 Zirconia crown 1\.30 ± 0\.05 mm 0\.4 to 0\.8/);
    expect(text).toContain('0.60 ± 0.05 mm');
  });
  it('says that levels rise where they do', () => expect(wordsOf(full(points))).toMatch(/Levels rise \(p = 0\.0/));
  it('of too few attempts it says from how many on it could tell', () =>
    expect(wordsOf(full(points.slice(0, 2)))).toMatch(/can be told from \d+ attempts on; there are 2\./));
  it('a repeated try is called one', () => expect(full(points).match(new RegExp(PROGRESS.repeat, 'g'))).toHaveLength(1));
});

describe('habits', () => {
  const habit = (change: Partial<HabitView> = {}): HabitView =>
    ({
      reading: 'margin.width',
      title: 'Margin width',
      unit: 'mm',
      own: { p: 0.002, mean: new Array(72).fill(0.02), limit: 0.1, at: 18, from: 16, to: 20, size: 0.31, times: 5, of: 6 },
      p: 0.004,
      isTold: true,
      frame: 'bench',
      everyones: null,
      ...change,
    }) as HabitView;
  const shown = (habits: readonly HabitView[], more: Partial<ProgressView> = {}): string =>
    wordsOf(renderToStaticMarkup(<Habits progress={{ habits, allRound: [], ...more } as unknown as ProgressView} attempts={[]} />));

  it('say where, how much, how often, whose habit, and what chance would do', () => {
    const text = shown([habit()]);
    expect(text).toContain('Mesial: margin width 0.31 mm more than others’, outside in 5 of 6.');
    expect(text).toContain('a habit of the hand');
    expect(text).toContain('Chance would do this in 0.4 of 100.');
  });
  it('that chance might make are not told as habits', () => {
    const text = shown([habit({ isTold: false })]);
    expect(text).not.toContain('Mesial: margin width');
  });
  it('of everyone are the course’s and not this student’s', () => {
    const text = shown([habit({ isTold: false, everyones: 54 })]);
    expect(text).toContain('margin width, distal');
  });
  it('too little of something is said as less', () =>
    expect(shown([habit({ own: { ...habit().own, size: -0.2 } })])).toContain('0.20 mm less than others’'));
  it('at most two are told at once: what to mind must fit into a head', () => {
    const text = shown([habit(), habit({ reading: 'taper.wall', title: 'Taper' }), habit({ reading: 'wall.height', title: 'Height' })]);
    expect(text).toContain('taper 0.31');
    expect(text).not.toContain('height 0.31');
  });
  it('that go all round have a line of their own', () =>
    expect(
      shown([], { allRound: [{ reading: 'margin.width', title: 'Margin width', unit: 'mm', size: 0.21, p: 0.0004, times: 5, of: 6 }] }),
    ).toContain('All round: margin width 0.21 mm more than others’, outside in 5 of 6. Chance would do this in fewer than one of 1,000.'));
});
