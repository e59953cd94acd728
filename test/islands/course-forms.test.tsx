import { renderToStaticMarkup } from 'react-dom/server';
import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import { type CourseView, ExerciseChange, type ExerciseView, type MemberView } from '#contract/course.ts';
import { CutterItem, DrillItem, GaugeItem, type KitList, PhraseItem } from '#contract/kit.ts';
import { changeWords } from '#words/course.ts';
import { cutterWords } from '#words/kit.ts';
import { ExerciseEditor } from '../../src/islands/course/ExerciseEditor.tsx';
import { KitForm } from '../../src/islands/course/KitForm.tsx';
import { People } from '../../src/islands/course/People.tsx';
import { wordsOf } from '../helpers/markup.ts';

const nothing = () => undefined;
const CUTTER: CutterItem = {
  id: 'cutter-1',
  name: 'Round taper',
  form: 'taper',
  tip: 'round',
  cutsAtEnd: true,
  shank_mm: 1.6,
  tip_mm: 1.2,
  length_mm: 8,
  grit: 'coarse',
  material: 'diamond',
  nominal: '',
  ring: '#3a6ea5',
};
const GAUGE: GaugeItem = { id: 'g', name: 'Flat gauges', method: 'gauge', steps_mm: [1, 1.5, 2] };
const PHRASE: PhraseItem = { id: 'p', about: 'margin', side: 'under', body: 'Widen the margin {place}.' };
const DRILL: DrillItem = {
  id: 'd',
  about: 'taper',
  title: 'Ten walls',
  body: 'Cut a wall.',
  cutter: 'cutter-1',
  times: 10,
  check: 'By gauge.',
  minutes: 20,
};

describe('what a cutter’s figures mean', () => {
  it('a taper is half of what its sides close by, over its length', () =>
    // atan(0.2 mm over 8 mm) = 1.43°.
    expect(cutterWords(CUTTER)).toContain('half taper 1.4°'));
  it('parallel sides say so', () =>
    expect(cutterWords({ ...CUTTER, form: 'cylinder', tip_mm: 1.2, shank_mm: 1.2 })).toContain('parallel sides'));
  it('a tip that does not cut is named', () => {
    expect(cutterWords({ ...CUTTER, cutsAtEnd: false })).toContain('does not cut at its end');
    expect(cutterWords(CUTTER)).not.toContain('does not cut');
  });
  it('a rounded tip leaves a margin of half its width at the most', () =>
    expect(cutterWords(CUTTER)).toContain('clean margin up to 0.6 mm'));
});

describe('the form of a kit’s item', () => {
  const form = (list: KitList, item: Parameters<typeof KitForm>[0]['item'] = null): string =>
    renderToStaticMarkup(
      <KitForm list={list} item={item} freshId="x-1" cutters={[CUTTER]} onKeep={async () => null} onCancel={nothing} onRemove={nothing} />,
    );
  it.each([
    [
      'cutters',
      CUTTER,
      ['Name', 'Form', 'Tip', 'Diameter at the tip, mm', 'Diameter at the shank, mm', 'Cutting length, mm', 'Cuts at its end'],
    ],
    ['gauges', GAUGE, ['Name', 'Used as', 'Steps, mm (with commas between them)']],
    ['phrases', PHRASE, ['Sentence', 'Speaks of', 'When the reading is']],
    ['drills', DRILL, ['Title', 'Speaks of', 'What is to be done', 'With which cutter', 'How many times', 'Minutes']],
  ] as const)('of %s has a label for each field', (list, item, labels) => {
    for (const html of [form(list), form(list, item)]) for (const label of labels) expect(wordsOf(html)).toContain(label);
  });
  it('a new item can only be kept; one that is there can be removed and left as it is', () => {
    expect(wordsOf(form('gauges'))).toContain('Add a gauge');
    expect(form('gauges').match(/<button/g)).toHaveLength(1);
    const there = wordsOf(form('gauges', GAUGE));
    expect(there).toContain('Change: Flat gauges');
    for (const word of ['Keep', 'Cancel', 'Remove']) expect(there).toContain(word);
  });
  it('a cutter is drawn once its figures are there', () => {
    expect(form('cutters')).not.toContain('<figure');
    expect(form('cutters', CUTTER)).toContain('<figure');
    expect(wordsOf(form('cutters', CUTTER))).toContain(cutterWords(CUTTER));
  });
  it('a drill may be cut with any cutter of the course, or none in particular', () => {
    const html = form('drills', DRILL);
    expect(wordsOf(html)).toContain('any Round taper');
  });
  it('a gauge’s steps are written as they are said', () => expect(form('gauges', GAUGE)).toContain('value="1, 1.5, 2"'));
});

describe('an item that is kept', () => {
  const problem = (schema: v.GenericSchema, value: unknown): string => {
    const r = v.safeParse(schema, value);
    return r.success ? '' : `${v.getDotPath(r.issues[0]) ?? ''}: ${r.issues[0].message}`;
  };
  it('is taken as it should be', () => {
    for (const [schema, item] of [
      [CutterItem, CUTTER],
      [GaugeItem, GAUGE],
      [PhraseItem, PHRASE],
      [DrillItem, DRILL],
    ] as const)
      expect(problem(schema as v.GenericSchema, item)).toBe('');
  });
  it.each([
    ['a taper wider at its tip', CutterItem, { ...CUTTER, tip_mm: 2 }, 'tip_mm: A tapered cutter is no wider at its tip'],
    ['a cutter without a length', CutterItem, { ...CUTTER, length_mm: null }, 'length_mm: Give a number.'],
    ['a ring that is no colour', CutterItem, { ...CUTTER, ring: 'blue' }, 'ring'],
    ['a gauge without steps', GaugeItem, { ...GAUGE, steps_mm: [] }, 'steps_mm: Give at least one step.'],
    ['a gauge with a word for a step', GaugeItem, { ...GAUGE, steps_mm: [Number('one')] }, 'steps_mm.0: Give a number.'],
    ['an empty phrase', PhraseItem, { ...PHRASE, body: '  ' }, 'body: Give the sentence.'],
    ['a phrase about no reading’s name', PhraseItem, { ...PHRASE, about: 'margin width!' }, 'about: The beginning of a reading’s name'],
    ['a drill done no times', DrillItem, { ...DRILL, times: 0 }, 'times'],
  ] as const)('%s is sent back with the reason', (_, schema, value, reason) =>
    expect(problem(schema as v.GenericSchema, value)).toContain(reason),
  );
});

const member = (id: string, change: Partial<MemberView> = {}): MemberView => ({
  id,
  name: `Person ${id}`,
  sign_in_name: id.toLowerCase(),
  email: null,
  role: 'student',
  bench: 'B1-01',
  group_name: 'A',
  has_password: true,
  attempts: 3,
  ...change,
});
const exercise = (id: string, change: Partial<ExerciseView> = {}): ExerciseView => ({
  id,
  title: `Crown ${id}`,
  tooth: '16',
  kind: 'crown',
  master: 'm',
  rubric: 'r',
  rubric_id: 'r',
  rubric_version: 1,
  minutes: 90,
  steps: [{ step: 'final', check: '', needsWord: false }],
  cutters: [],
  abutment: null,
  sittings: 1,
  ...change,
});
const course = (people: MemberView[], more: Partial<CourseView> = {}): CourseView => ({
  id: 'c1',
  name: 'Course',
  term: 'spring',
  starts_on: null,
  ends_on: null,
  people,
  imports: [],
  exercises: [],
  sittings: [],
  masters: [],
  rubrics: [],
  ...more,
});

describe('everybody of a course', () => {
  const people = (view: CourseView, mayKeep = true): string =>
    renderToStaticMarkup(<People view={view} mayKeep={mayKeep} onChange={nothing} />);
  it('students lead to their trail, staff do not', () => {
    const html = people(course([member('H01'), member('I1', { role: 'instructor' })]));
    expect(html).toContain('href="/trail/H01"');
    expect(html).not.toContain('href="/trail/I1"');
  });
  it('who has no password yet is said, and is counted once though they have two roles', () => {
    const html = wordsOf(
      people(
        course([
          member('H01', { has_password: false }),
          member('I1', { has_password: false, role: 'instructor' }),
          member('I1', { has_password: false, role: 'director' }),
        ]),
      ),
    );
    expect(html).toContain('no password yet');
    expect(html).toContain('Make links for 2 without a password');
  });
  it('who may not keep the course sees nobody’s link and takes in no roster', () => {
    const html = wordsOf(people(course([member('H01', { has_password: false })]), false));
    for (const word of ['New link', 'Make links', 'Take in a roster']) expect(html).not.toContain(word);
    expect(html).toContain('Roster as CSV');
  });
  it('a course of its director alone says what comes next', () =>
    expect(wordsOf(people(course([member('D1', { role: 'director' })])))).toContain('Nobody is enrolled yet. Take in a roster.'));
  it('rosters that were taken in can be taken back, once', () => {
    const taken = { id: 'i1', file_name: 'class.csv', made_at: '2026-09-01T08:00:00Z', by: 'Maren', written: 36, undone: false };
    const html = wordsOf(people(course([member('H01')], { imports: [taken, { ...taken, id: 'i2', file_name: 'old.csv', undone: true }] })));
    expect(html).toContain('class.csv');
    expect(html.match(/Take back/g)).toHaveLength(1);
    expect(html).toContain('taken back');
  });
});

describe('how an exercise is done', () => {
  const editor = (old: ExerciseView, exercises: ExerciseView[] = [old]): string =>
    renderToStaticMarkup(<ExerciseEditor course="c1" old={old} exercises={exercises} onDone={nothing} onCancel={nothing} />);
  it('the finished work is always shown: its step cannot be taken out', () => {
    const html = editor(exercise('1', { steps: [] }));
    expect(html.match(/checked=""/g)).toHaveLength(1);
    expect(html).toMatch(/<input[^>]*disabled=""[^>]*checked=""|<input[^>]*checked=""[^>]*disabled=""/);
  });
  it('a step before it may need a word, the finished work does not', () => {
    const html = wordsOf(editor(exercise('1', { steps: [{ step: 'axial', check: 'walls', needsWord: true }] as never })));
    expect(html.match(/goes on only with an instructor’s word/g)).toHaveLength(1);
  });
  it('another abutment is a tooth of the same jaw that is set down along a path', () => {
    const old = exercise('1', { tooth: '14' });
    const html = editor(old, [
      old,
      exercise('2', { tooth: '16', title: 'Second' }),
      exercise('3', { tooth: '46', title: 'Below' }),
      exercise('4', { tooth: '17', title: 'Filled', kind: 'cavity' }),
      exercise('5', { tooth: '14', title: 'Same tooth' }),
    ]);
    const options = [...html.matchAll(/<option[^>]*>([^<]*)</g)].map((m) => m[1]);
    expect(options[0]).toBe('no other preparation');
    expect(options.slice(1).map((o) => o.split(',')[0])).toEqual(['Second']);
  });
  it('a cavity has no path to share', () => expect(wordsOf(editor(exercise('1', { kind: 'cavity' })))).not.toContain('Shares its path'));
  it('is not kept without the finished work', () => {
    const change = { title: 'Crown', minutes: '', cutters: [], steps: [{ step: 'axial', check: '', needsWord: false }] };
    const r = v.safeParse(ExerciseChange, change);
    expect(r.success ? '' : r.issues[0].message).toBe('The finished work is always handed in.');
    const whole = v.parse(ExerciseChange, { ...change, steps: [...change.steps, { step: 'final', check: ' x ', needsWord: false }] });
    expect(whole).toMatchObject({ minutes: null, abutment: null, steps: [{ step: 'axial' }, { step: 'final', check: 'x' }] });
  });
});

describe('what a roster’s line changes', () => {
  const line = { name: 'Ada Quill', signIn: 'ada', email: null, bench: 'B1-02', group: null };
  const words = (before: typeof line | null, after: typeof line | null): string => changeWords({ before, after } as never);
  it('a new person is named, with the bench', () => expect(words(null, line)).toBe('Ada Quill, ada, B1-02'));
  it('of somebody who is there only what differs, from what to what', () => {
    expect(words(line, { ...line, bench: 'B2-05' })).toBe('Bench: B1-02 → B2-05');
    expect(words(line, { ...line, group: 'B' } as never)).toBe('Group: – → B');
    expect(words(line, line)).toBe('');
  });
  it('a line that is left out changes nothing', () => expect(words(line, null)).toBe(''));
});
