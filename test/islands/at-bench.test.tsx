import { renderToStaticMarkup } from 'react-dom/server';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { AtBench as View } from '#contract/at-bench.ts';
import type { StageView } from '#contract/views.ts';
import type { PlannedStep } from '#core/plan/plan.ts';
import { AT_BENCH } from '#words/at-bench.ts';
import { Looks } from '../../src/islands/at-bench/Looks.tsx';
import { OwnReading } from '../../src/islands/at-bench/OwnReading.tsx';
import { Photos } from '../../src/islands/at-bench/Photos.tsx';
import { StepScan } from '../../src/islands/at-bench/StepScan.tsx';
import { wordsOf } from '../helpers/markup.ts';

const nothing = () => undefined;
const NOON = Date.parse('2026-10-05T12:00:00Z');

beforeEach(() => {
  vi.useFakeTimers({ now: NOON });
});
afterEach(() => {
  vi.useRealTimers();
});

const line = (change: Partial<StageView['lines'][number]> = {}): StageView['lines'][number] =>
  ({
    reading: 'reduction.axial',
    zone: 'facial mid third',
    stat: 'median',
    unit: 'mm',
    value: 0.4,
    U: 0.05,
    reason: null,
    lo: 0.5,
    hi: 1.6,
    stands: 'cut-more',
    repair: null,
    ...change,
  }) as StageView['lines'][number];

const view = (change: Partial<View> = {}): View => ({
  attempt: { id: 5, exercise: 'Crown', exerciseId: 'x', title: 'Week 6', student: 'H01', name: 'Ada', tooth: '16', bench: 'B1' },
  plan: [{ id: 'axial' } as unknown as PlannedStep],
  cutters: [],
  steps: [{ id: 'axial', number: 1, needsWord: false }],
  events: [],
  words: [],
  stages: [],
  coming: [],
  photos: [],
  isOwn: true,
  ...change,
});
const stage = (change: Partial<StageView> = {}): StageView =>
  ({ step: 'axial', decision: 'go-on', costs: 0, critical: [], lines: [], ...change }) as StageView;

describe('the scan of a step', () => {
  const scan = (change: Partial<View> = {}): string => renderToStaticMarkup(<StepScan view={view(change)} step="axial" onSent={nothing} />);

  it('is brought by its student alone', () => {
    expect(scan()).toContain('type="file"');
    expect(scan({ isOwn: false })).not.toContain('type="file"');
  });
  it('while it is measured the last outcome is not shown: it speaks of another scan', () => {
    const html = scan({ stages: [stage({ decision: 'new-tooth' })], coming: [{ step: 'axial', state: 'measuring', fault: null }] });
    expect(html).toContain('data-decision="coming"');
    expect(wordsOf(html)).toContain(AT_BENCH.measuring);
    expect(wordsOf(html)).not.toContain('A new tooth');
  });
  it('that cannot be used says why', () =>
    expect(wordsOf(scan({ coming: [{ step: 'axial', state: 'failed', fault: 'It is in metres.' }] }))).toContain(
      'The scan cannot be used: It is in metres.',
    ));
  it('of another step says nothing here', () => {
    const html = scan({
      stages: [stage({ step: 'occlusal', decision: 'lost' })],
      coming: [{ step: 'final', state: 'measuring', fault: null }],
    });
    expect(html).toContain('data-decision="none"');
  });
  it.each(['go-on', 'correct', 'look', 'lost', 'new-tooth'] as const)('%s is said in words first, then what it costs', (decision) => {
    const words = wordsOf(scan({ stages: [stage({ decision, costs: decision === 'lost' ? 12.4 : 0 })] }));
    expect(words.length).toBeGreaterThan(30);
    expect(words.includes('It costs 12 of 100 points.')).toBe(decision === 'lost');
  });
  it('lines that are cut far enough are not listed; the others with what was read and its band', () => {
    const words = wordsOf(
      scan({ stages: [stage({ decision: 'correct', lines: [line(), line({ zone: 'distal mid third', stands: 'enough', value: 1 })] })] }),
    );
    expect(words).toContain('cut more');
    expect(words).toContain('0.40 ± 0.05 mm');
    expect(words).toContain('0.5 to 1.6 mm');
    expect(words).not.toContain('distal');
  });
  it('what was not read never counts as fine: it is named like a critical error', () => {
    const words = wordsOf(
      scan({
        stages: [
          stage({
            decision: 'look',
            critical: [
              { title: 'Neighbour cut', made: null },
              { title: 'Pulp near', made: false },
              { title: 'Gingiva cut', made: true },
            ] as StageView['critical'],
            lines: [line({ stands: 'not-read', value: null, U: null, reason: 'not-seen' } as never)],
          }),
        ],
      }),
    );
    expect(words).toContain('Not read: Neighbour cut');
    expect(words).toContain('Critical error: Gingiva cut');
    expect(words).not.toContain('Pulp near');
    expect(words).toContain('not read:');
  });
});

describe('photographs of a step', () => {
  const photos = (own: boolean, all: View['photos']): string =>
    renderToStaticMarkup(<Photos attempt={5} step="axial" photos={all} isOwn={own} onSent={async () => undefined} />);
  const two = [
    { id: 8, step: 'axial', at: '2026-10-05T11:00:00Z' },
    { id: 9, step: 'margin', at: '2026-10-05T11:00:00Z' },
  ];
  it('are those of this step, each opening in full size', () => {
    const html = photos(true, two);
    expect(html).toContain('data-photo="8"');
    expect(html).not.toContain('data-photo="9"');
    expect(html).toContain('Photograph 1 of this step');
  });
  it('only their student takes one or takes one away', () => {
    expect(photos(true, two)).toContain(`aria-label="${AT_BENCH.photoAway}"`);
    const seen = photos(false, two);
    expect(seen).not.toContain(AT_BENCH.photoAway);
    expect(seen).not.toContain('type="file"');
  });
  it('of which there are none take no room where somebody else looks', () => {
    expect(photos(false, [])).toBe('');
    expect(photos(true, [])).toContain(AT_BENCH.takePhoto);
  });
});

describe('what a student reads by hand', () => {
  const entry = { method: 'gauge', place: 'facial', lo: 1, hi: 1.5, felt: '' } as const;
  it('is written down in words: from which gauge passes to which one does not', () => {
    expect(AT_BENCH.entry(entry)).toBe('gauge, facial, passes 1.0, not 1.5');
    expect(AT_BENCH.entry({ ...entry, lo: null })).toBe('gauge, facial, not 1.5');
    expect(AT_BENCH.entry({ method: 'feel', place: '', lo: null, hi: null, felt: 'catches' })).toBe('by feel, catches');
  });
  it('is added by its student alone', () => {
    const form = (mine: boolean): string => renderToStaticMarkup(<OwnReading entries={[entry]} onAdd={mine ? nothing : null} />);
    expect(wordsOf(form(false))).toContain('passes 1.0');
    expect(form(false)).not.toContain('<form');
    expect(form(true)).toContain('<form');
  });
});

describe('who asks for a look', () => {
  const asked = (id: number, minutes: number) => ({
    attempt: id,
    student: `H0${id}`,
    name: `Student ${id}`,
    bench: `B1-0${id}`,
    exercise: 'Crown',
    step: 'axial',
    since: new Date(NOON - minutes * 60_000).toISOString(),
    photos: id === 2 ? [4] : [],
  });
  const looks = (...of: ReturnType<typeof asked>[]): string => renderToStaticMarkup(<Looks first={of} initials="MH" />);
  it('nobody is said', () => expect(wordsOf(looks())).toContain(AT_BENCH.nobody));
  it('with bench, step and how long they have waited', () => {
    const words = wordsOf(looks(asked(1, 14.5), asked(2, 0.4)));
    expect(words).toContain('Student 1');
    expect(words).toContain('B1-01');
    expect(words).toContain('14 min');
    expect(words).toContain('just now');
  });
  it('each can be told to go on, to correct or to take a new tooth', () => {
    const words = wordsOf(looks(asked(1, 3)));
    for (const word of Object.values(AT_BENCH.word)) expect(words).toContain(word);
  });
  it('the photographs of the step stand beside the question', () => expect(looks(asked(2, 1))).toContain('<img'));
});
