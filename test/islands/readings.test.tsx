import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import type { ConcernView } from '#contract/cohort-view.ts';
import type { CriterionView, TargetView } from '#contract/views.ts';
import { Readings } from '../../src/islands/bench/Readings.tsx';
import { Concerns } from '../../src/islands/cohort/Concerns.tsx';
import { wordsOf } from '../helpers/markup.ts';
import { targetView } from '../helpers/views.ts';

const nothing = () => undefined;
const markup = (targets: readonly TargetView[], more: { canGrade?: boolean; numbered?: boolean; byHand?: string | null } = {}): string =>
  renderToStaticMarkup(
    <Readings
      c={{ id: 'width', title: 'Margin width', targets } as unknown as CriterionView}
      canGrade={more.canGrade ?? true}
      numbered={more.numbered ?? false}
      byHand={more.byHand ?? null}
      onByHand={nothing}
      onHand={async () => true}
      onHover={nothing}
    />,
  );

describe('a reading on the Bench', () => {
  it('shows what was read with its uncertainty, and the band that was wanted', () => {
    const text = wordsOf(markup([targetView()]));
    expect(text).toContain('mesial');
    expect(text).toContain('0.62 ± 0.04 mm');
    expect(text).toContain('0.4 to 0.8 mm');
  });
  it('that was refused says why, and is no figure', () => {
    const text = wordsOf(
      markup([targetView({ value: null, U: null, reason: 'the scan does not show it', verdict: 'unread' as TargetView['verdict'] })]),
    );
    expect(text).toContain('the scan does not show it');
    expect(text).not.toMatch(/\d\.\d+ ±/);
  });
  it('by hand stands as the interval that it is, with its instrument and the scan’s figure beside it', () => {
    const text = wordsOf(markup([targetView({ hand: { method: 'probe', lo: 0.5, hi: 1 }, scanned: { value: 0.62, U: 0.04 } })]));
    expect(text).toContain('0.50 to 1.00 mm');
    expect(text).toContain('probe, scan 0.62 ± 0.04 mm');
  });
  it('can be taken by hand by whoever grades, where an instrument exists, and by nobody else', () => {
    const button = /aria-label="Read by hand/;
    expect(markup([targetView()])).toMatch(button);
    expect(markup([targetView()], { canGrade: false })).not.toMatch(button);
    expect(markup([targetView({ methods: [] })])).not.toMatch(button);
    expect(markup([targetView({ verdict: 'skipped' })])).not.toMatch(button);
  });
  it('opens its form at its own place alone', () => {
    const [mesial, distal] = [targetView(), targetView({ zone: 'distal', azimuth: 270 })];
    const closed = markup([mesial, distal]);
    const place = /data-reading="([^"]+)"/.exec(closed)?.[1] as string;
    const open = markup([mesial, distal], { byHand: place });
    expect(open.length).toBeGreaterThan(closed.length);
    expect(open.match(/aria-expanded="true"/g)).toHaveLength(1);
  });
  it('along an edge says how much of it is inside, and its worst place', () => {
    const text = wordsOf(markup([targetView({ along: { inside: 0.83, worst: 0.31 }, verdict: 'outside', deciding: true })]));
    expect(text).toMatch(/83 ?%/);
    expect(text).toContain('0.31');
  });
  it('is numbered as on the tooth only where it has a place there', () => {
    const text = wordsOf(markup([targetView(), targetView({ zone: 'distal', point: null })], { numbered: true }));
    expect(text).toMatch(/1 [a-z ,]*margin/);
    expect(text).not.toMatch(/2 [a-z ,]*margin/);
  });
});

describe('who needs a word', () => {
  const concern = (change: Partial<ConcernView> = {}): ConcernView =>
    ({
      student: 'H04',
      name: 'Dario Venn',
      what: 'failed-twice',
      about: 'Margin width',
      attempt: null,
      aside: null,
      ...change,
    }) as ConcernView;
  const list = (all: readonly ConcernView[]): string => renderToStaticMarkup(<Concerns course="c" all={all} />);
  it('is nobody, in words', () => expect(wordsOf(list([]))).not.toBe(''));
  it('leads to the work that it is about, or to the student’s own page', () => {
    expect(list([concern({ attempt: 12 })])).toContain('href="/bench/12"');
    expect(list([concern()])).toContain('href="/trail/H04"');
  });
  it('put aside stands apart with what was said and by whom, and waits no more', () => {
    const html = list([
      concern({ aside: { note: 'seen on Tuesday', by: 'Ines Caldera' } }),
      concern({ name: 'Mina Okafor', student: 'H13' }),
    ]);
    const [waiting, aside] = html.split('<details');
    expect(wordsOf(waiting)).toContain('Mina Okafor');
    expect(wordsOf(waiting)).not.toContain('Dario Venn');
    expect(wordsOf(`<details${aside}`)).toMatch(/Dario Venn.*seen on Tuesday.*Ines Caldera/);
  });
});
