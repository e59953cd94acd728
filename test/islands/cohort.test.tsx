import fc from 'fast-check';
import { renderToStaticMarkup } from 'react-dom/server';
import * as v from 'valibot';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type CohortView, ConcernNote, type HeatCell, LimitsForm } from '#contract/cohort-view.ts';
import type { PracticeView, ProgressView } from '#contract/progress-view.ts';
import { USUAL_LIMITS } from '#core/progress/limits.ts';
import { COHORT } from '#words/cohort.ts';
import { Cohort } from '../../src/islands/cohort/Cohort.tsx';
import { fromAddress, rowOf, SHOWN, toAddress } from '../../src/islands/cohort/filters.ts';
import { First } from '../../src/islands/trail/First.tsx';
import { Practice } from '../../src/islands/trail/Practice.tsx';
import { wordsOf } from '../helpers/markup.ts';

describe('what of a cohort is looked at', () => {
  const word = fc.string({ maxLength: 12 });
  it('is the same again from its address', () =>
    fc.assert(
      fc.property(fc.record({ exercise: word, group: word, bench: word, grader: word, show: fc.constantFrom(...SHOWN) }), (f) => {
        expect(fromAddress(toAddress(f))).toEqual(f);
      }),
    ));
  it('nothing chosen leaves the address bare; a word that there is not is none', () => {
    expect(toAddress(fromAddress(''))).toBe('');
    expect(fromAddress('?show=tea&exercise=').show).toBe('last');
  });
  it('a bench stands in the row that its name begins with', () => {
    expect([rowOf('B2-04'), rowOf('Window'), rowOf(null)]).toEqual(['B2', 'Window', '']);
  });
});

const cell = (skill: string, change: Partial<HeatCell> = {}): HeatCell => ({
  skill,
  last: 2,
  mean: 1.67,
  isMastered: false,
  attempts: 4,
  attempt: 12,
  ...change,
});
const cohort = (change: Partial<CohortView> = {}): CohortView => ({
  skills: [
    { key: 'width', title: 'Margin width', students: 2 },
    { key: 'taper', title: 'Taper', students: 1 },
  ],
  rows: [
    {
      student: 'H01',
      name: 'Ada Quill',
      bench: 'B1-01',
      group: 'A',
      cells: [cell('width'), cell('taper', { last: 0, mean: 0.5, attempt: 13 })],
    },
    { student: 'H02', name: 'Bo Fenn', bench: 'B2-04', group: 'B', cells: [cell('width', { isMastered: true, last: 3, attempt: 21 })] },
    { student: 'H03', name: 'Cy Marsh', bench: 'B2-05', group: 'B', cells: [] },
  ],
  exercises: [{ id: 'crown', title: 'Crown', attempts: 6 }],
  groups: ['A', 'B'],
  concerns: [],
  items: null,
  alpha: null,
  spread: [],
  limits: USUAL_LIMITS,
  drift: [],
  graders: [],
  ...change,
});

describe('a cohort', () => {
  let search = '';
  beforeEach(() => {
    vi.stubGlobal('window', {
      location: {
        get search() {
          return search;
        },
      },
    });
  });
  afterEach(() => {
    vi.unstubAllGlobals();
    search = '';
  });
  const html = (change: Partial<CohortView> = {}, address = '', mayKeep = false): string => {
    search = address;
    return renderToStaticMarkup(<Cohort course="c1" view={cohort(change)} mayKeep={mayKeep} />);
  };
  const names = (h: string): string[] => [...h.matchAll(/href="\/trail\/(H\d+)"/g)].map((m) => m[1]);

  it('every cell leads to the attempt that it rests on, and says its level in words', () => {
    const h = html();
    expect([...h.matchAll(/href="\/bench\/(\d+)"/g)].map((m) => m[1])).toEqual(['12', '13', '21']);
    expect(wordsOf(h)).toContain('2 sound');
    expect(wordsOf(h)).toContain('0 not yet');
  });
  it('cells show the newest level, the mean of three, or mastery', () => {
    expect(wordsOf(html({}, '?show=mean'))).toContain('1.7 sound');
    const mastered = wordsOf(html({}, '?show=mastered'));
    expect(mastered).toContain('● mastered');
    expect(mastered).toContain('· not yet');
  });
  it('is looked at by group and by row of benches', () => {
    expect(names(html())).toEqual(['H01', 'H02', 'H03']);
    expect(names(html({}, '?group=A'))).toEqual(['H01']);
    expect(names(html({}, '?bench=B2'))).toEqual(['H02', 'H03']);
    expect(names(html({}, '?bench=B2&group=A'))).toEqual([]);
  });
  it('of one exercise or one grader only those who did it are shown', () => {
    expect(names(html({}, '?exercise=crown'))).toEqual(['H01', 'H02']);
    expect(names(html({}, '?grader=ines'))).toEqual(['H01', 'H02']);
  });
  it('asks for a grader only where there are several', () => {
    expect(wordsOf(html({ graders: [{ id: 'a', name: 'Ines' }] }))).not.toContain(COHORT.grader);
    const two = [
      { id: 'a', name: 'Ines' },
      { id: 'b', name: 'Oke' },
    ];
    expect(wordsOf(html({ graders: two }))).toContain(COHORT.grader);
  });
  it('says what is missing: no grade yet, too few attempts for its criteria', () => {
    expect(wordsOf(html({ skills: [], rows: [] }))).toContain(COHORT.none);
    expect(wordsOf(html())).toContain(COHORT.fewItems);
  });
  it('a criterion that never varies, or cannot be told, has no correlation', () => {
    const half = { value: 0.5, lo: 0.3, hi: 0.7 };
    const item = (id: string, more: object) => ({ id, title: id, difficulty: half, discrimination: null, never: null, ...more }) as never;
    const words = wordsOf(
      html({
        items: [item('width', { discrimination: half }), item('path', { never: 'varies' }), item('edges', {})],
        alpha: { value: 0.71, lo: 0.5, hi: 0.84 },
      }),
    );
    expect(words).toContain(COHORT.never);
    expect(words).toContain(COHORT.cannot);
    expect(words).toContain('α = 0.71 (0.50 to 0.84)');
  });
  it('only who may keep it sets what counts as mastered', () => {
    expect(wordsOf(html())).not.toContain(COHORT.limits);
    expect(wordsOf(html({}, '', true))).toContain(COHORT.limits);
  });
  it('limits of mastery keep apart, and a word on a concern is a word', () => {
    const said = (schema: v.GenericSchema, value: unknown): string => {
      const r = v.safeParse(schema, value);
      return r.success ? 'taken' : r.issues[0].message;
    };
    expect(said(LimitsForm, { acceptable: 0.1, unacceptable: 0.3 })).toBe('taken');
    expect(said(LimitsForm, { acceptable: 0.1, unacceptable: 0.12 })).toContain('5 % or more above');
    expect(said(LimitsForm, { acceptable: 0, unacceptable: 0.3 })).toContain('At least 1 %');
    const note = { student: 'H01', what: 'lost', about: 'taper', attempt: 3, note: ' talked ' };
    expect(v.parse(ConcernNote, note).note).toBe('talked');
    expect(said(ConcernNote, { ...note, note: '  ' })).toBe('Say what was done about it.');
    expect(said(ConcernNote, { ...note, what: 'rumour' })).not.toBe('taken');
  });
});

const progress = (change: Partial<ProgressView>): ProgressView =>
  ({
    attempts: 3,
    errors: [],
    repeated: [],
    practice: [],
    skills: [],
    habits: [],
    allRound: [],
    limits: USUAL_LIMITS,
    ...change,
  }) as ProgressView;

describe('what to look at first', () => {
  const first = (change: Partial<ProgressView>): string => renderToStaticMarkup(<First progress={progress(change)} own={false} />);
  const weak = (n: number) => ({ title: `Skill ${n}`, times: 2, of: 4, zone: n === 1 ? 'mesial' : null, attempt: n });
  it('nothing is said as such', () => expect(wordsOf(first({}))).toContain('No critical error'));
  it('critical errors stand before what was weak again and again', () => {
    const html = first({ errors: [{ title: 'Neighbour cut', times: 1, of: 6, last: '2026-10-01', attempt: 40 }], repeated: [weak(1)] });
    expect(html.indexOf('Neighbour cut')).toBeLessThan(html.indexOf('Skill 1'));
    expect(wordsOf(html)).toContain('critical, in 1 of 6');
    expect(wordsOf(html)).toContain('below sound in 2 of the last 4');
    expect(html).toContain('href="/bench/40"');
  });
  it('of many weak skills the first five are enough', () => {
    const words = wordsOf(first({ repeated: [1, 2, 3, 4, 5, 6, 7].map(weak) }));
    expect(words).toContain('Skill 5');
    expect(words).not.toContain('Skill 6');
  });
});

describe('what to practise next', () => {
  beforeEach(() => {
    vi.useFakeTimers({ now: Date.parse('2026-10-10T09:00:00Z') });
  });
  afterEach(() => {
    vi.useRealTimers();
  });
  const item = (change: Partial<PracticeView> = {}): PracticeView =>
    ({
      id: 'taper',
      title: 'Taper',
      gain: 6.4,
      times: 3,
      of: 4,
      lostOnAverage: 7.2,
      after: null,
      drill: null,
      on: '2026-10-14',
      done: [],
      ...change,
    }) as PracticeView;
  const list = (...practice: PracticeView[]): string => wordsOf(renderToStaticMarkup(<Practice progress={progress({ practice })} />));
  it('nothing loses points: another exercise is suggested', () => expect(list()).toContain('Try an exercise you have not done.'));
  it('says what it is worth, why, and when to try again', () => {
    const words = list(item());
    expect(words).toContain('about 6 points');
    expect(list(item({ gain: 1.3 }))).toContain('about 1 point ');
    expect(words).toContain('Lost points in 3 of the last 4, 7.2 on average.');
    expect(words).toContain('Try it again on');
  });
  it('one attempt is said as one', () => expect(list(item({ of: 1, times: 1 }))).toContain('Lost 7.2 points in the one attempt so far.'));
  it('a day that has passed is due now; today is not yet', () => {
    expect(list(item({ on: '2026-10-09' }))).toContain('do it now');
    expect(list(item({ on: '2026-10-10' }))).not.toContain('do it now');
  });
  it('what has to come first is named, and the drill with its check', () => {
    const drill = { id: 'd', about: '', title: 'Ten walls', body: 'Cut ten.', cutter: '', times: 10, check: 'Gauge passes.', minutes: 15 };
    const words = list(item({ after: 'Margin width', drill }));
    expect(words).toContain('First: Margin width.');
    expect(words).toContain('Ten walls, 10 times');
    expect(words).toContain('Check before handing in: Gauge passes.');
  });
});
