import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import type { CutterItem } from '#contract/kit.ts';
import type { StepState } from '#core/plan/bench-clock.ts';
import type { PlannedStep } from '#core/plan/plan.ts';
import type { PlannedReading } from '#core/plan/planned-reading.ts';
import { Card } from '../../src/islands/at-bench/Card.tsx';
import { StepCard } from '../../src/islands/plan/StepCard.tsx';
import { wordsOf } from '../helpers/markup.ts';

const CUTTER = {
  id: 'round-taper',
  name: 'Tapered, round tip 1.2',
  form: 'taper',
  tip: 'round',
  tip_mm: 1.2,
  shank_mm: 1.8,
  length_mm: 6,
  cutsAtEnd: false,
} as unknown as CutterItem;
const width: PlannedReading = {
  reading: 'margin.width',
  zone: null,
  stat: 'median',
  unit: 'mm',
  band: { lo: 0.4, hi: 0.8 },
  expected: 0.6,
  final: 0.6,
  hand: 0.08,
  inside: 0.97,
  isFinal: true,
};
const step = (change: Partial<PlannedStep> = {}): PlannedStep => ({
  id: 'margin',
  number: 6,
  duty: null,
  cutter: 'round-taper',
  depth: 0.6,
  share: 0.5,
  shareOf: 'width',
  left: 0,
  tilt: null,
  passes: 1,
  readings: [width],
  watches: [],
  gauge: null,
  warnings: [],
  scan: null,
  canDamage: [],
  ...change,
});

describe('a step of the plan', () => {
  const card = (change: Partial<PlannedStep> = {}, open = true, cutter: CutterItem | null = CUTTER): string =>
    wordsOf(renderToStaticMarkup(<StepCard step={step(change)} cutter={cutter} check={null} open={open} onOpen={() => undefined} />));

  it('says at a glance with what and how deep; the rest when it is opened', () => {
    const closed = card({}, false);
    expect(closed).toContain('6');
    expect(closed).toContain('Tapered, round tip 1.2, 0.60 mm deep, 50 % of its width');
    expect(closed).not.toContain('Stop');
    expect(card()).toContain('Stop');
  });
  it('how often a hand like this ends inside stands beside what it should read', () => {
    const text = card();
    expect(text).toContain('0.60 ± 0.16');
    expect(text).toContain('0.4 to 0.8 mm; a hand like this ends inside 97 times in a hundred');
  });
  it('what cannot be put back, what is left for later, and what comes into reach are told', () => {
    const text = card({ left: 0.4, canDamage: ['Neighbour cut'], scan: 'axial' });
    expect(text).toMatch(/Cannot be put back: margin width/i);
    expect(text).toContain('0.40 mm left for the steps after it.');
    expect(text).toContain('From here on looked for: Neighbour cut.');
    expect(text).toContain('A scan may be taken after this step');
  });
  it('a warning shows before the step is opened', () => {
    const warnings = [{ kind: 'short', length: 4, depth: 5 }] as unknown as PlannedStep['warnings'];
    expect(card({ warnings }, false)).toContain('Mind');
    expect(card({ warnings })).toContain('The cutter is 4.00 mm long and is to be sunk 5.00 mm: too short.');
    expect(card({}, false)).not.toContain('Mind');
  });
  it('several passes and a tilt are part of how it is cut', () =>
    expect(card({ passes: 3, tilt: 4 }, false)).toMatch(/deep, 50 % of its width, .*4.*, .*3/));
  it('without a cutter of the list it says the depth alone', () => expect(card({}, false, null)).toContain('0.60 mm deep'));
});

describe('a step on the card at the bench', () => {
  const state = (change: Partial<StepState> = {}): StepState => ({
    id: 'margin',
    number: 6,
    minutes: 12,
    turns: 1,
    isDone: false,
    since: null,
    needsWord: false,
    words: [],
    isAsked: false,
    ...change,
  });
  const card = (change: Partial<StepState> = {}, more: { teeth?: number; blockedBy?: number | null } = {}): string =>
    wordsOf(
      renderToStaticMarkup(
        <Card
          step={step()}
          state={state(change)}
          of={9}
          teeth={more.teeth ?? 0}
          cutter={CUTTER}
          blockedBy={more.blockedBy ?? null}
          minutes="12 min at this step, 40 min in all"
        />,
      ),
    );
  it('says which of how many it is, which turn and which tooth', () => {
    expect(card()).toMatch(/^Step 6 of 9 /);
    expect(card({ turns: 2 }, { teeth: 1 })).toContain('Step 6 of 9, turn 2, tooth 2');
  });
  it('shows the clock and what it should read', () => {
    expect(card()).toContain('12 min at this step, 40 min in all');
    expect(card()).toContain('0.60 ± 0.16');
  });
  it('that needs an instructor’s word says so until there is one', () => {
    const word = { at: '2026-11-24T10:00:00Z', word: 'go-on', initials: 'MK', note: 'even' } as unknown as StepState['words'][number];
    expect(card({ needsWord: true })).toContain('An instructor’s word is needed after this step.');
    const given = card({ needsWord: true, words: [word] });
    expect(given).not.toContain('is needed after this step');
    expect(given).toContain('Go on (MK): even');
  });
  it('that waits for an earlier one names it', () =>
    expect(card({}, { blockedBy: 3 })).toContain('Step 3 of 9: An instructor’s word is needed after this step.'));
  it('says that somebody sees the question', () => expect(card({ isAsked: true })).toContain('Stay at the bench.'));
});
