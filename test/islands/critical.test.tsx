import { createRef, type ReactElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import { type Column, SortedTable } from '#components/table/SortedTable.tsx';
import type { CriticalView, ScoreView } from '#contract/views.ts';
import type { HandMethod } from '#core/catalogue/terms.ts';
import { BENCH } from '#words/bench.ts';
import { HAND } from '#words/hand.ts';
import { CriticalLine } from '../../src/islands/bench/CriticalLine.tsx';
import { HandForm } from '../../src/islands/bench/HandForm.tsx';
import type { LineProps } from '../../src/islands/bench/lines.ts';
import { wordsOf } from '../helpers/markup.ts';

const nothing = () => undefined;
const words = (e: ReactElement): string => wordsOf(renderToStaticMarkup(e));

const critical = (change: Partial<CriticalView> = {}): CriticalView => ({
  id: 'touched-mesial',
  title: 'Mesial neighbour touched',
  verdict: 'inside',
  made: false,
  decidedBy: 'readings' as CriticalView['decidedBy'],
  waived: false,
  reopened: false,
  methods: ['explorer', 'eye'],
  reading: 'neighbour.mesial',
  zone: null,
  stat: 'max',
  hand: null,
  allowed: 0.05,
  reason: null,
  value: 0,
  U: 0.03,
  unit: 'mm',
  azimuth: 90,
  point: [5, 0, 3],
  effect: 'the attempt is not passed',
  ...change,
});
const PROPS: LineProps = {
  score: { levels: [] } as unknown as ScoreView,
  focus: 0,
  asking: null,
  canGrade: true,
  onFocus: nothing,
  onLevel: nothing,
  onMade: nothing,
  onAnswer: nothing,
  onGiveUp: nothing,
  note: createRef<HTMLInputElement>(),
  phrases: [],
  byHand: null,
  onByHand: nothing,
  numbered: false,
  place: 0,
  onHand: nothing,
  commenting: false,
  onCommenting: nothing,
  onComment: nothing,
  onHover: nothing,
  onUnpin: nothing,
  at: null,
};
const line = (change: Partial<CriticalView> = {}, props: Partial<LineProps> = {}): string =>
  words(<CriticalLine c={critical(change)} index={0} {...PROPS} {...props} />);

describe('a critical error on the Bench', () => {
  it('that was looked for and not found says so, with what it was read as', () => {
    const text = line();
    expect(text).toContain(BENCH.notFound);
    expect(text).toContain('0.00 ± 0.03 mm');
  });
  it('that nobody could read is to be checked, and never “not found”', () => {
    const text = line({ made: null, verdict: 'unsure' as CriticalView['verdict'], value: null, U: null });
    expect(text).toContain(BENCH.toCheckLine);
    expect(text).toContain(BENCH.noReading);
    expect(text).not.toContain(BENCH.notFound);
  });
  it('says where it is and what it does only once it was made', () => {
    const made = line({ made: true, verdict: 'outside', value: 0.21 });
    expect(made).toContain('the attempt is not passed');
    expect(made).toContain('mesial');
    expect(line().replace('Mesial neighbour touched', '')).not.toContain('mesial');
  });
  it('that its grader waived is told apart from one that was not there', () => {
    const text = line({
      waived: true,
      verdict: 'outside',
      decidedBy: 'person' as CriticalView['decidedBy'],
      reason: 'the scratch is older',
    });
    expect(text).toContain(BENCH.waived);
    expect(text).toContain('the scratch is older');
    expect(text).toContain(BENCH.asMeasured);
  });
  it('offers its answers to whoever grades, and to nobody who looks', () => {
    expect(line()).toContain(BENCH.made);
    expect(line({}, { canGrade: false })).not.toContain(BENCH.made);
    expect(line({ verdict: 'skipped' })).not.toContain(BENCH.readByHand);
  });
  it('shut shows its finding alone', () => {
    const shut = line({ made: true, verdict: 'outside', value: 0.21 }, { focus: 3 });
    expect(shut).toContain('0.21');
    expect(shut).not.toContain('the attempt is not passed');
  });
});

describe('the form for a reading by hand', () => {
  const form = (methods: readonly HandMethod[], hand: { method: HandMethod; lo: number; hi: number } | null = null) => (
    <HandForm
      target={{ reading: 'margin.width', zone: 'mesial', stat: 'median', unit: 'mm', hand, methods }}
      onKeep={nothing}
      onTakeBack={nothing}
      onGiveUp={nothing}
    />
  );
  it.each([
    ['probe', 1],
    ['gauge', 2],
    ['wax', 1],
    ['eye', 2],
  ] as const)('asks for what a %s shows: %s figure(s), typed as text so that a comma stays one', (method, fields) => {
    const inputs = renderToStaticMarkup(form([method])).match(/<input[^>]*>/g) ?? [];
    expect(inputs).toHaveLength(fields);
    for (const i of inputs) expect(i).toMatch(/type="text"/);
  });
  it('asks an explorer whether it catches', () => {
    const text = words(form(['explorer']));
    expect(text).toContain(HAND.glides);
    expect(text).toContain(HAND.catches);
  });
  it('cannot be kept empty, and is taken back only where something stands', () => {
    const html = renderToStaticMarkup(form(['probe', 'eye']));
    expect(html).toMatch(/<button type="submit"[^>]*disabled/);
    expect(words(form(['probe']))).not.toContain(HAND.takeBack);
    expect(words(form(['probe'], { method: 'probe', lo: 0.5, hi: 1 }))).toContain(HAND.takeBack);
  });
  it('begins with the instrument that was used', () => {
    expect(renderToStaticMarkup(form(['probe', 'eye'], { method: 'eye', lo: 0.5, hi: 1 }))).toMatch(/<option value="eye" selected/);
  });
});

describe('a sorted table', () => {
  interface Row {
    readonly name: string;
    readonly score: number;
  }
  const COLUMNS: Column<Row>[] = [
    { accessorKey: 'name', header: 'Student' },
    { accessorKey: 'score', header: 'Points' },
  ];
  const rows = (n: number): Row[] => Array.from({ length: n }, (_, i) => ({ name: `H${i + 1}`, score: 50 + i }));
  const html = (n: number): string =>
    renderToStaticMarkup(<SortedTable rows={rows(n)} columns={COLUMNS} idOf={(r) => r.name} label="Grades" />);
  it('draws every line of a short one in the order given, under headings that sort', () => {
    const drawn = html(3);
    expect([...drawn.matchAll(/>H(\d)</g)].map((m) => Number(m[1]))).toEqual([1, 2, 3]);
    expect(drawn.match(/<button/g)).toHaveLength(2);
    expect(drawn).toContain('aria-label="Grades"');
  });
  it('of a long one draws no more than is in view', () => expect(html(400).match(/<tr/g)?.length ?? 0).toBeLessThan(60));
});
