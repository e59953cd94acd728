import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import type { CriterionView } from '#contract/views.ts';
import type { SelfForm as Form, OwnQuestion, WorkView } from '#contract/work.ts';
import { Result } from '../../src/islands/work/Result.tsx';
import { SelfForm } from '../../src/islands/work/SelfForm.tsx';
import { wordsOf } from '../helpers/markup.ts';
import { criterionView, LEVEL_WORDS, targetView } from '../helpers/views.ts';

const target = (verdict: 'inside' | 'outside') => targetView({ value: 0.25, verdict, deciding: true });
const criterion = (id: string, title: string, lost: number): CriterionView =>
  criterionView({
    id,
    title,
    verdict: lost > 0 ? 'outside' : 'inside',
    computed: lost > 0 ? 1 : 3,
    points: 10 - lost,
    lost,
    of: 10,
    targets: [target(lost > 0 ? 'outside' : 'inside')],
  });
const reported = (id: string, title: string, word: string) => ({
  id,
  title,
  why: 'metal needs 0.4 mm',
  word,
  reason: null,
  comment: null,
  own: null,
  readings: [
    {
      reading: 'margin.width',
      words: 'margin width, mesial, median',
      value: 0.25,
      U: 0.04,
      unit: 'mm',
      reason: null,
      lo: 0.4,
      hi: 0.8,
      isDeciding: true,
      byHand: null,
    },
  ],
});

function result(
  criteria: readonly CriterionView[],
  more: { passed?: boolean; critical?: object[]; scanned?: boolean; total?: number | null } = {},
): string {
  const view = {
    attempt: { id: 12, state: 'seen' },
    questions: [],
    drills: {},
    practice: [],
    own: null,
    result: {
      score: { criteria, critical: [], levels: LEVEL_WORDS },
      measurement: more.scanned === false ? null : { display: '/api/attempts/12/display' },
      bands: {},
    },
    report: {
      grade: {
        passed: more.passed ?? true,
        total: more.total === undefined ? 84 : more.total,
        grader: 'Ines Tal',
        failures: more.passed === false ? ['Neighbour cut'] : [],
      },
      critical: more.critical ?? [],
      lines: criteria.map((c) => reported(c.id, c.title, c.lost ? 'marginal' : 'secure')),
    },
  };
  return renderToStaticMarkup(<Result view={view as never} />);
}

describe('a result as its student reads it', () => {
  const three = [criterion('a', 'Margin width', 2), criterion('b', 'Taper', 5), criterion('c', 'Height', 0)];
  it('says first whether it passed, the points and who graded', () => {
    const text = wordsOf(result(three));
    expect(text).toMatch(/^Passed 84 of 100 points graded by Ines Tal/);
    expect(wordsOf(result(three, { passed: false }))).toMatch(/^Not passed: Neighbour cut/);
    expect(wordsOf(result(three, { total: null }))).toContain('no score');
  });
  it('what cost most stands first, numbered as on the tooth; what cost nothing is under what was good', () => {
    const html = result(three);
    const order = [...html.matchAll(/data-finding="(\w)"/g)].map((m) => m[1]);
    expect(order).toEqual(['b', 'a']);
    const text = wordsOf(html);
    expect(text).toContain('−5.0 of 10.0');
    expect(text).toContain('What was good (1)');
    expect(text.indexOf('Height')).toBeGreaterThan(text.indexOf('What was good'));
  });
  it('each loss has its word, what was read and what was wanted', () => {
    const text = wordsOf(result([criterion('a', 'Margin width', 2)]));
    expect(text).toContain('marginal');
    expect(text).toContain('0.25 ± 0.04 mm');
    expect(text).toContain('target 0.4 to 0.8 mm');
  });
  it('without any loss it says so', () => expect(wordsOf(result([three[2]]))).toContain('Nothing cost marks. Well done.'));
  it('critical errors that were made stand above everything that cost marks', () => {
    const error = { id: 'n', title: 'Neighbour cut', made: true, value: 0.22, U: 0.04, unit: 'mm', effect: 'not passed' };
    const text = wordsOf(result(three, { critical: [error, { ...error, id: 'p', title: 'Pulp opened', made: false }] }));
    expect(text).toContain('Neighbour cut 0.22 ± 0.04 mm not passed');
    expect(text).not.toContain('Pulp opened');
    expect(text.indexOf('Neighbour cut')).toBeLessThan(text.indexOf('What cost marks'));
  });
  it('offers the pictures’ files only where there is a scan', () => {
    const files = (scanned: boolean): string[] => [...result(three, { scanned }).matchAll(/report\?as=([\w-]+)/g)].map((m) => m[1]);
    expect(files(true)).toEqual(['pdf', 'csv', 'json', 'ply', 'glb', 'section-svg']);
    expect(files(false)).toEqual(['pdf', 'csv', 'json']);
  });
});

describe('judging own work', () => {
  const question = (id: string, change: Partial<OwnQuestion> = {}): OwnQuestion => ({
    id,
    title: `Line ${id}`,
    why: '',
    words: LEVEL_WORDS,
    byHand: null,
    ...change,
  });
  const stored = new Map<string, string>();
  const form = (state: string, own: Form | null, questions = [question('a'), question('b')]): string => {
    // The page keeps what is begun on the device.
    const before = globalThis.window;
    Object.assign(globalThis, { window: { localStorage: { getItem: (k: string) => stored.get(k) ?? null } } });
    try {
      return renderToStaticMarkup(
        <SelfForm view={{ attempt: { id: 12, state }, questions, own } as unknown as WorkView} onView={() => undefined} />,
      );
    } finally {
      Object.assign(globalThis, { window: before });
    }
  };
  it('asks line by line in the rubric’s words', () => {
    const text = wordsOf(form('grading', null));
    expect(text.match(/not yet marginal sound secure/g)).toHaveLength(2);
    expect(text).toContain('Line a');
  });
  it('nothing can be kept before something was said', () => {
    expect(form('grading', null)).toMatch(/disabled=""[^>]*>Keep/);
    const own: Form = { lines: [{ line: 'a', level: 2, figure: null }], minutes: 85 };
    expect(form('grading', own)).not.toMatch(/disabled=""[^>]*>Keep/);
  });
  it('what was given before is pressed, and the minutes stand there', () => {
    const html = form('grading', { lines: [{ line: 'b', level: 1, figure: null }], minutes: 85 });
    expect(html.match(/aria-pressed="true"/g)).toHaveLength(1);
    expect(html).toContain('value="85"');
  });
  it('what was begun on this device comes before what was kept', () => {
    stored.set('own work 12', JSON.stringify({ lines: [{ line: 'a', level: 3, figure: null }], minutes: 60 }));
    expect(form('grading', { lines: [], minutes: 85 })).toContain('value="60"');
    stored.set('own work 12', 'not json');
    expect(form('grading', { lines: [], minutes: 85 })).toContain('value="85"');
    stored.clear();
  });
  it('a graded attempt can be shown without judging it first, an open one has nothing to show', () => {
    expect(wordsOf(form('back', null))).toContain('Show the result without judging it first');
    expect(wordsOf(form('grading', null))).not.toContain('Show the result');
  });
  it('asks for an own reading only where the line is read with an instrument', () => {
    const byHand = { words: 'Margin width, mesial', unit: 'mm' };
    expect(wordsOf(form('grading', null, [question('a', { byHand })]))).toContain('Measured it yourself? Margin width, mesial, mm');
    expect(wordsOf(form('grading', null))).not.toContain('Measured it yourself');
  });
});
