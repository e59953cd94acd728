import { readFileSync } from 'node:fs';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import { type RubricFile, rubricFrom } from '#contract/rubric.ts';
import { CATALOGUE } from '#core/catalogue/catalogue.ts';
import type { Concern } from '#core/score/concerns.ts';
import { LimitsForm } from '../../src/islands/cohort/LimitsForm.tsx';
import { Gradebook } from '../../src/islands/course/Gradebook.tsx';
import { Finish } from '../../src/islands/masters/Finish.tsx';
import { Proof } from '../../src/islands/masters/Proof.tsx';
import { Criterion } from '../../src/islands/rubric/Criterion.tsx';
import { EffectChoice } from '../../src/islands/rubric/EffectChoice.tsx';
import { Levels } from '../../src/islands/rubric/Levels.tsx';
import { wordsOf } from '../helpers/markup.ts';

const nothing = () => undefined;
const rubric = rubricFrom(JSON.parse(readFileSync('data/rubrics/metal-crown-practice.json', 'utf8')), 'metal-crown-practice');
const line = rubric.criteria.find((c) => c.targets.some((t) => t.reading === 'margin.width')) as RubricFile['criteria'][number];

/** The chosen value of a select by its accessible name. */
const chosen = (html: string, name: string): string | undefined => {
  const select = html.split('<select').find((s) => s.includes(`aria-label="${name}`));
  return select && /<option value="([^"]*)" selected=""/.exec(select)?.[1];
};

describe('a rubric’s line in its editor', () => {
  const shown = (
    change: Partial<RubricFile['criteria'][number]> = {},
    more: { concerns?: readonly Concern[]; mayKeep?: boolean; past?: Map<string, { place: string; values: number[]; U: number }> } = {},
  ): string =>
    renderToStaticMarkup(
      <Criterion
        criterion={{ ...line, ...change }}
        share="8 %"
        past={more.past ?? new Map()}
        concerns={more.concerns ?? []}
        mayKeep={more.mayKeep ?? true}
        act={nothing}
      />,
    );
  it('shows its weight and share, and every band of every reading with its unit', () => {
    const html = shown();
    expect(wordsOf(html)).toContain('8 % Weight');
    expect(html).toContain(`value="${line.weight}"`);
    for (const t of line.targets)
      for (const band of [t.band, t.fair, t.poor])
        for (const end of [band.lo, band.hi]) if (end !== null) expect(html).toContain(`value="${end}"`);
    expect(wordsOf(html)).toContain('full marks');
    expect(wordsOf(html)).toContain('two levels down');
  });
  it('offers a reading by hand only where an instrument reads it', () => {
    expect(wordsOf(shown())).toContain('What counts');
    const only = CATALOGUE.find((e) => e.hand.length === 0) as (typeof CATALOGUE)[number];
    const noInstrument = { ...line.targets[0], reading: only.name, zone: null, stat: Object.keys(only.stats)[0] as 'value' };
    expect(wordsOf(shown({ targets: [noInstrument] }))).not.toContain('What counts');
  });
  it('what follows where it cannot be read is chosen, a person unless the course said otherwise', () => {
    const name = 'When it cannot be read';
    expect(chosen(shown({ targets: [{ ...line.targets[0], ifNotRead: undefined }] }), name)).toBe('ask');
    expect(chosen(shown({ targets: [{ ...line.targets[0], ifNotRead: 'fail' }] }), name)).toBe('fail');
  });
  it('says what is wrong at the reading that it is wrong of, grave or not', () => {
    const target = line.targets.length - 1;
    const html = shown(
      {},
      {
        concerns: [
          { kind: 'narrow', criterion: line.id, target, width: 0.05, U: 0.06 },
          { kind: 'order', criterion: line.id, target, which: 'band' },
        ],
      },
    );
    const last = html.slice(html.lastIndexOf('pl-3'));
    expect(wordsOf(html)).toContain('The band is 0.05 mm wide, but the reading is usually sure to ± 0.06 only');
    expect(wordsOf(html)).toContain('The band ends before it begins.');
    expect(last.length).toBeGreaterThan(0);
    expect(html.split('border-bad').length + html.split('border-under').length).toBeGreaterThan(2);
  });
  it('cannot be changed by somebody who may not keep it', () => {
    const html = shown({}, { mayKeep: false });
    for (const input of html.match(/<(input|select)[^>]*>/g) ?? []) expect(input).toContain('disabled=""');
    expect(wordsOf(html)).not.toContain('Remove');
    expect(wordsOf(html)).not.toContain('Add a reading');
  });
  it('that asks a person says what, and has no readings to add', () => {
    const asks = { question: 'Is the surface smooth?', words: [0, 1, 2, 3].map((level) => ({ level, word: `word ${level}` })) };
    const text = wordsOf(shown({ targets: [], asks: asks as unknown as RubricFile['criteria'][number]['asks'] }));
    expect(text).toContain('Asks a person: Is the surface smooth? (word 0, word 1, word 2, word 3)');
    expect(text).not.toContain('Add a reading');
  });
});

describe('levels and effects in the editor', () => {
  const levels = (isByShares: boolean, concerns: readonly Concern[] = []): string =>
    renderToStaticMarkup(<Levels levels={rubric.levels} concerns={concerns} isByShares={isByShares} disabled={false} act={nothing} />);
  it('levels have their own words, and a share where points come from shares', () => {
    for (const l of rubric.levels) expect(levels(true)).toContain(`value="${l.word}"`);
    expect(levels(true).match(/type="number"/g)).toHaveLength(rubric.levels.length);
    expect(levels(false)).not.toContain('type="number"');
    expect(levels(true)).toContain('value="80"');
  });
  it('a level that is worth as much as the one above it says so', () =>
    expect(wordsOf(levels(true, [{ kind: 'shares', criterion: '', level: 2 }]))).toContain(
      'Level 2 has to be worth less than the level above it.',
    ));
  const effect = (e: RubricFile['critical'][number]['effect']): string =>
    renderToStaticMarkup(<EffectChoice title="Pulp opened" effect={e} disabled={false} onEffect={nothing} />);
  it('a critical error that fails needs no figure, one that caps or takes off has its own', () => {
    expect(effect({ kind: 'fail' })).not.toContain('<input');
    expect(effect({ kind: 'cap', at: 59 })).toContain('value="59"');
    expect(effect({ kind: 'deduct', points: 20 })).toContain('value="20"');
    expect(chosen(effect({ kind: 'cap', at: 59 }), 'Effect')).toBe('cap');
  });
});

describe('marks of a course', () => {
  const students = [
    { id: 'h01', name: 'Ada Quill', bench: 'B1-01' },
    { id: 'h02', name: 'Bo Reed', bench: 'B1-02' },
    { id: 'h03', name: 'Cy Finch', bench: 'B1-03' },
  ];
  const sittings = [{ id: 's1', exercise_title: 'Zirconia crown', held_on: '2026-10-19' }];
  const marks = [
    { student_id: 'h01', sitting_id: 's1', total: 91, passed: true, released: true },
    { student_id: 'h02', sitting_id: 's1', total: 42, passed: false, released: false },
  ];
  const html = renderToStaticMarkup(
    <Gradebook
      students={students as never}
      sittings={sittings as never}
      marks={marks as never}
      absences={[{ student_id: 'h03', sitting_id: 's1', reason: 'ill' }] as never}
    />,
  );
  const rowOf = (name: string): string => html.split('<tr').find((r) => r.includes(name)) ?? '';
  it('stand in their student’s row, and lead to trail and Tray', () => {
    expect(wordsOf(`<tr${rowOf('Ada Quill')}`)).toContain('91');
    expect(rowOf('Ada Quill')).toContain('/trail/h01');
    expect(rowOf('Ada Quill')).toContain('/tray/s1');
  });
  it('a failed one is told in words and shape as well as in colour; one that is not released is in italics', () => {
    expect(wordsOf(`<tr${rowOf('Bo Reed')}`)).toContain('42 not passed ▴');
    expect(rowOf('Bo Reed')).toContain('italic');
    expect(rowOf('Ada Quill')).not.toContain('italic');
  });
  it('a student who was away has no mark and is not failed', () => {
    const row = wordsOf(`<tr${rowOf('Cy Finch')}`);
    expect(row).toContain('absent');
    expect(row).not.toContain('passed');
  });
});

describe('a master that is being drawn', () => {
  const foot = (draft: object, more: object = {}): string =>
    wordsOf(
      renderToStaticMarkup(
        <Finish
          draft={{ id: 'd', master_id: null, tooth: '46', compared: null, ...draft } as never}
          asked={false}
          busy={false}
          exercises={[{ id: 'e1', title: 'Crown on 46' }]}
          mayUse
          onFinish={async () => true}
          onCompare={async () => true}
          onUse={async () => true}
          {...more}
        />,
      ),
    );
  it('can be finished, compared and used in this order', () => {
    expect(foot({})).toBe('Finish this master');
    const done = foot({ master_id: 'm1' });
    expect(done).toContain('It stays as it is from now on.');
    expect(done).toContain('Measure this exercise on it');
  });
  it('is used only by those who may, and only where there is an exercise on its tooth', () => {
    expect(foot({ master_id: 'm1' }, { mayUse: false })).not.toContain('Measure this exercise on it');
    expect(foot({ master_id: 'm1' }, { exercises: [] })).toContain('No exercise of this course is on');
  });
  const trial = {
    of_version: 3,
    lines: [
      { name: 'margin.width', zone: 'mesial', stat: 'median', unit: 'mm', cut: 0.6, value: 0.61, U: 0.04, reason: null },
      { name: 'margin.width', zone: 'distal', stat: 'median', unit: 'mm', cut: 0.6, value: 0.9, U: 0.04, reason: null },
      { name: 'draw.tilt', zone: null, stat: 'value', unit: 'deg', cut: 1, value: null, U: null, reason: 'no wall was found' },
    ],
  };
  const proof = (version: number, more: object = {}): string =>
    wordsOf(renderToStaticMarkup(<Proof draft={{ version, trial, ...more } as never} busy={false} isOpen={false} onTry={nothing} />));
  it('a trial in it tells first what does not agree, then what was not given', () => {
    const text = proof(3);
    const at = ['0.90 ± 0.04', 'no wall was found', '0.61 ± 0.04'].map((w) => text.indexOf(w));
    expect(at.every((i) => i >= 0)).toBe(true);
    expect(at).toEqual([...at].sort((a, b) => a - b));
  });
  it('a trial of marks that were changed since says so', () => {
    expect(proof(4)).toContain('The marks were changed since. Try it again.');
    expect(proof(3)).not.toContain('changed since');
  });
  it('cannot be tried while something is open', () =>
    expect(
      wordsOf(renderToStaticMarkup(<Proof draft={{ version: 1, trial: null } as never} busy={false} isOpen onTry={nothing} />)),
    ).toContain('First say what is still open under Marks.'));
});

describe('limits of mastery', () => {
  const form = (p0: number, p1: number): string => renderToStaticMarkup(<LimitsForm course="c1" now={{ p0, p1 } as never} />);
  it('say before they are kept what they would do', () =>
    expect(wordsOf(form(0.1, 0.3))).toMatch(/\d+ successes in a row are enough\. Within \d+ attempts/));
  it('the two rates must lie apart, or nothing can be told from a few attempts', () => {
    expect(wordsOf(form(0.2, 0.22))).toContain('The second rate has to lie 5 % or more above the first.');
    expect(form(0.2, 0.22)).toMatch(/class="act" disabled=""/);
  });
});
