import { createRef } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import type { AllowanceView, CriterionView, StageView, TargetView } from '#contract/views.ts';
import { Comment } from '../../src/islands/bench/Comment.tsx';
import { CriterionLine } from '../../src/islands/bench/CriterionLine.tsx';
import type { LineProps } from '../../src/islands/bench/lines.ts';
import { Stages } from '../../src/islands/bench/Stages.tsx';
import { wordsOf } from '../helpers/markup.ts';
import { criterionView, LEVEL_WORDS, targetView } from '../helpers/views.ts';

const nothing = () => undefined;

describe('steps that were scanned on the way', () => {
  const line = (change: Partial<AllowanceView>): AllowanceView =>
    ({
      reading: 'reduction.occlusal',
      zone: 'MB',
      stat: 'median',
      unit: 'mm',
      value: 1.1,
      U: 0.04,
      title: 'Functional cusps',
      reason: null,
      lo: 1.3,
      hi: 1.7,
      azimuth: 40,
      stands: 'cut-more',
      repair: null,
      ...change,
    }) as AllowanceView;
  const stage = (change: Partial<StageView> = {}): StageView => ({
    scan: 7,
    step: 'occlusal',
    version: 1,
    check: 'room over every cusp',
    needsWord: false,
    lines: [],
    critical: [],
    decision: 'correct',
    costs: 0,
    ...change,
  });
  const words = (stages: readonly StageView[], finished = true): string =>
    wordsOf(renderToStaticMarkup(<Stages stages={stages} finished={finished} onPlace={nothing} />));

  it('tell first what can no longer be corrected, then what is still to be cut, then the rest', () => {
    const text = words([
      stage({
        lines: [
          line({ stands: 'enough', zone: 'DB', value: 1.5 }),
          line({ stands: 'cut-more', zone: 'MB' }),
          line({ stands: 'too-much', zone: 'ML', value: 2.4 }),
          line({ stands: 'not-read', zone: 'DL', value: null, U: null, reason: 'the scan does not show it' }),
        ],
      }),
    ]);
    const places = ['ML', 'MB', 'DL', 'DB'].map((z) => text.lastIndexOf(z));
    expect(places).toEqual([...places].sort((a, b) => a - b));
    expect(text).toContain('too deep, cannot be corrected');
    expect(text).toContain('1 too deep, cannot be corrected, 1 cut more, 1 not read, 1 enough');
  });
  it('say what to do with the tooth, and what the course looks at there', () => {
    const text = words([stage({ needsWord: true })]);
    expect(text).toContain('Correct this first');
    expect(text).toContain('room over every cusp');
    expect(text).toContain('only with an instructor’s word');
  });
  it('how much more is to be cut stands beside what is to be cut, and nowhere else', () => {
    const repair = {
      can: true,
      where: 'here',
      by: -0.25,
      from: 1.1,
      to: 1.35,
      depth: 0.25,
      volume: null,
      cutter: null,
    } as unknown as AllowanceView['repair'];
    expect(words([stage({ lines: [line({ repair })] })])).toContain('0.25 mm more (1.10 to 1.35 mm)');
    expect(words([stage({ lines: [line({ stands: 'enough', repair })] })])).not.toContain('mm more');
  });
  it('only the last one is open; a second scan of a step says so', () => {
    const text = words([stage({ scan: 1, check: 'first check' }), stage({ scan: 2, step: 'axial', version: 2, check: 'second check' })]);
    expect(text).not.toContain('first check');
    expect(text).toContain('second check');
    expect(text).toContain('scan 2');
  });
  it('while the finished work has no scan they are not taken for it', () => {
    expect(words([stage()], false)).toContain('has not been scanned yet');
    expect(words([stage()], true)).not.toContain('has not been scanned yet');
  });
});

const target = (change: Partial<TargetView> = {}): TargetView => targetView({ deciding: true, ...change });
describe('a criterion’s line', () => {
  const line = (change: Partial<CriterionView> = {}, more: Partial<LineProps> = {}): string =>
    renderToStaticMarkup(
      <CriterionLine
        c={criterionView(change)}
        index={2}
        score={{ levels: LEVEL_WORDS } as unknown as LineProps['score']}
        focus={-1}
        asking={null}
        canGrade
        onFocus={nothing}
        onLevel={nothing}
        onMade={nothing}
        onAnswer={nothing}
        onGiveUp={nothing}
        note={createRef<HTMLInputElement>()}
        phrases={[]}
        byHand={null}
        onByHand={nothing}
        numbered={false}
        place={0}
        onHand={nothing}
        commenting={false}
        onCommenting={nothing}
        onComment={nothing}
        onHover={nothing}
        onUnpin={nothing}
        at={null}
        {...more}
      />,
    );
  const words = (change: Partial<CriterionView> = {}, more: Partial<LineProps> = {}): string => wordsOf(line(change, more));

  it('shows level and points, what was read and what was wanted', () => {
    const text = words();
    expect(text).toContain('secure');
    expect(text).toContain('12.0/12.0');
    expect(text).toContain('0.62 ± 0.04 mm');
    expect(text).toContain('target 0.4 to 0.8');
  });
  it('that cannot be called has no points of its own, and says that it is to be checked', () => {
    const text = words({
      verdict: 'close',
      computed: null,
      points: null,
      provisional: null,
      lost: null,
      decidedBy: null as unknown as CriterionView['decidedBy'],
      targets: [target({ value: 0.41, verdict: 'close' })],
    });
    expect(text).toContain('–/12.0');
    expect(text).toContain('to check');
    expect(text).not.toContain('12.0/12.0');
  });
  it('on which a person decided against the measurement says whose level it is', () => {
    expect(words({ level: 1, overridden: true, decidedBy: 'person' })).toContain('the grader’s level');
    expect(words({ level: 2, decidedBy: 'person' })).toContain('decided by the grader');
    expect(words({ reopened: true })).toContain('reopened: the reading has changed');
  });
  it('that does not apply has neither level nor points', () => {
    const text = words({ verdict: 'skipped', points: null, provisional: null });
    expect(text).not.toMatch(/\d\/12/);
    expect(text).not.toContain('secure');
  });
  it('is marked where the cut goes through a finding that is not inside, and only there', () => {
    const off = { verdict: 'outside' as const, targets: [target({ verdict: 'outside', value: 1.1 })] };
    expect(line(off, { at: 95 })).toContain('border-under/60 ');
    expect(line(off, { at: 120 })).not.toContain('border-under/60 ');
    expect(line({}, { at: 95 })).not.toContain('border-under/60 ');
    // Over facial, where the circle begins again.
    expect(line({ ...off, targets: [target({ verdict: 'outside', azimuth: 356 })] }, { at: 3 })).toContain('border-under/60 ');
  });
  it('opened says why, offers every level from the best down, and which one was measured', () => {
    const text = words({}, { focus: 2 });
    expect(text).toContain('Metal needs 0.4 mm.');
    expect(text).toMatch(/3 secure measured 2 sound 1 marginal 0 not yet/);
    expect(text).toContain('Here: mesial');
  });
  it('opened by a student offers nothing to decide, and shows the instructor’s word', () => {
    const text = words({ comment: 'Hold the bur upright.' }, { focus: 2, canGrade: false });
    expect(text).toContain('Hold the bur upright.');
    expect(text).not.toContain('measured');
  });
  it('asks for the reason of a level that the measurement does not give', () =>
    expect(words({}, { focus: 2, asking: { level: 1, made: null } })).toContain('Why “marginal” and not “secure”?'));
  it('a question has its own words for its levels', () => {
    const asks = { question: 'Is the outline smooth?', words: LEVEL_WORDS.map((l) => ({ ...l, word: `${l.word}, by eye` })) };
    const text = words(
      { targets: [], asks: asks as unknown as CriterionView['asks'], computed: null, level: 2, decidedBy: 'person' },
      { focus: 2 },
    );
    expect(text).toContain('Is the outline smooth?');
    expect(text).toContain('sound, by eye');
  });
});

describe('a word to the student', () => {
  const form = (open: boolean, comment: string | null = null): string =>
    renderToStaticMarkup(
      <Comment
        comment={comment}
        title="Margin width"
        reading="margin.width"
        place="mesial"
        value="0.25 ± 0.04 mm"
        side="under"
        phrases={[
          { about: 'margin.width', side: 'under', body: 'Too narrow at {place}: {value}.' },
          { about: 'margin.width', side: 'over', body: 'Too wide.' },
          { about: '', side: '', body: 'Look again under the lamp.' },
          { about: 'taper', side: '', body: 'Keep the bur upright.' },
        ]}
        open={open}
        onOpen={nothing}
        onKeep={nothing}
      />,
    );
  it('offers the phrases that speak of this reading on this side, filled in, the most particular first', () => {
    const text = wordsOf(form(true));
    expect(text).toContain('1 Too narrow at mesial: 0.25 ± 0.04 mm.');
    expect(text).toContain('2 Look again under the lamp.');
    expect(text).not.toContain('Too wide');
    expect(text).not.toContain('upright');
  });
  it('that was given stands there and can be changed', () => {
    expect(wordsOf(form(false, 'Good.'))).toBe('Good. Change the comment k');
    expect(wordsOf(form(false))).toBe('Comment k');
    expect(form(true, 'Good.')).toContain('>Good.</textarea>');
  });
});
