import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import type { DraftView } from '#contract/master-draft.ts';
import { type TrayList, WHOLE_LIST } from '#contract/tray-list.ts';
import type { TrayRow } from '#contract/tray-view.ts';
import { Checklist } from '../../src/islands/masters/Checklist.tsx';
import { ITEMS, type State } from '../../src/islands/masters/state.ts';
import { Filters } from '../../src/islands/tray/Filters.tsx';
import { TrayTable } from '../../src/islands/tray/TrayTable.tsx';
import { wordsOf } from '../helpers/markup.ts';
import { trayRow } from '../helpers/views.ts';

const nothing = () => undefined;
const row = (id: number, change: Partial<TrayRow> = {}): TrayRow =>
  trayRow({
    scan_id: id,
    attempt_id: id,
    student_id: `h${id}`,
    student_name: `Student ${id}`,
    word: 'ready',
    picture: null,
    open: 0,
    ...change,
  });

describe('the table of a sitting', () => {
  const table = (rows: readonly TrayRow[], more: { shown?: readonly TrayRow[]; chosen?: number[]; grades?: boolean } = {}): string =>
    renderToStaticMarkup(
      <TrayTable
        rows={rows}
        shown={more.shown ?? rows}
        list=""
        students={[]}
        grades={more.grades ?? true}
        steer={async () => true}
        onRemove={nothing}
        chosen={new Set(more.chosen ?? [])}
        onChoose={nothing}
        onChooseAll={nothing}
      />,
    );
  const many = Array.from({ length: 100 }, (_, i) => row(i + 1));

  it('draws forty rows at once and says how many more there are', () => {
    const html = table(many);
    expect(html.match(/<tr/g)).toHaveLength(41);
    expect(html).toContain('60 more below');
    expect(table(many.slice(0, 12))).not.toContain('more below');
  });
  it('all are chosen only when every one that can be graded is', () => {
    const box = (chosen: number[]): string =>
      /<input[^>]*aria-label="Choose all that are shown"[^>]*>/.exec(table(many.slice(0, 3), { chosen }))?.[0] ?? '';
    expect(box([1, 2])).not.toContain('checked');
    expect(box([1, 2, 3])).toContain('checked=""');
  });
  it('an empty list says whether nothing came or nothing is shown', () => {
    const [none, hidden] = [wordsOf(table([])), wordsOf(table(many, { shown: [] }))];
    expect(none).not.toBe(hidden);
    expect(table([])).toContain('id="first-attempt"');
  });
  it('who does not grade has nothing to choose', () => expect(table(many, { grades: false })).not.toContain('Choose all'));
  it('the page’s first link leads to the first attempt that can be graded', () => {
    const html = table([row(1, { state: 'measuring', word: 'measuring' }), row(2)]);
    expect(html.match(/id="first-attempt"/g)).toHaveLength(1);
    expect(html.indexOf('id="first-attempt"')).toBeGreaterThan(html.indexOf('Student 1'));
  });
});

describe('what the Tray shows', () => {
  const rows = [row(1), row(2), row(3, { word: 'eye' }), row(4, { word: 'signed' })];
  const filters = (list: Partial<TrayList> = {}, me = 'maren'): string =>
    renderToStaticMarkup(
      <Filters
        rows={rows}
        list={{ ...WHOLE_LIST, ...list }}
        onList={nothing}
        graders={[
          { id: 'maren', name: 'Maren K' },
          { id: 'ines', name: 'Ines T' },
        ]}
        me={me}
      />,
    );
  it('each state has its number, those that nobody is in have no button', () => {
    const text = wordsOf(filters());
    expect(text).toMatch(/4 to check 1 ready to sign 2 signed 1/);
    expect(text).not.toContain('could not be measured');
  });
  it('the one that is shown is pressed, and only that', () => {
    const pressed = filters({ filter: 'eye' }).match(/aria-pressed="true"[^>]*>[^<]*/g) ?? [];
    expect(pressed).toHaveLength(1);
    expect(pressed[0]).toContain('to check');
  });
  it('who grades can see their own by a word, and the others by name; who does not, all by name', () => {
    const options = (me: string): string[] => [...filters({}, me).matchAll(/<option value="([^"]*)"/g)].map((m) => m[1]);
    expect(options('maren')).toEqual(['everyone', 'maren', 'nobody', 'ines']);
    expect(options('piet')).toEqual(['everyone', 'nobody', 'maren', 'ines']);
  });
});

describe('what a master needs', () => {
  const MARKS = {
    axis: [0, 0, 1],
    mesial: [1, 0, 0],
    facial: [0, 1, 0],
    cusps: [],
    grooves: [],
    ridges: { mesial: [], distal: [], oblique: [] },
    contacts: { mesial: null, distal: null },
    gingivalMargin: [],
  };
  const trust = (change: object) => ({ ...Object.fromEntries(ITEMS.map((i) => [i, 'sure'])), ...change });
  const list = (change: Partial<State> = {}, of: object = {}, finished = false): string =>
    renderToStaticMarkup(
      <Checklist
        draft={{ opposing_name: null, inner: [], teeth: [{ tooth: '46', rms: 0.21 }] } as unknown as DraftView}
        state={
          {
            drawn: { marks: MARKS, strokes: [], trust: trust(of) },
            past: [],
            future: [],
            item: 'cusps',
            point: null,
            brush: null,
            version: 1,
            saved: null,
            ...change,
          } as unknown as State
        }
        act={nothing}
        points={[{ key: 'cusps/MB', at: [1, 1, 5], label: 'MB' }]}
        parts={new Uint8Array([1, 2, 3, 4])}
        finished={finished}
        others={[{ id: 'm2', name: 'Series H, 36', tooth: '36' }]}
        busy={false}
        isDrawingCej={false}
        onAxis={nothing}
        onRetouch={nothing}
        onCarry={nothing}
        onCej={nothing}
      />,
    );
  it('says of every mark how sure it is, and what only a person can say', () => {
    const text = wordsOf(list({}, { axis: 'look', contacts: 'ask' }));
    expect(text).toContain('Long axis look at it');
    expect(text).toContain('Contacts yours to say');
    expect(text).toContain('Before it can be finished, a person has to say: contacts.');
  });
  it('asks nothing where all is sure', () => expect(wordsOf(list())).not.toContain('Before it can be finished'));
  it('has the tools of the mark in hand: a brush for parts, a turn for mesial, a look for the axis, points for the rest', () => {
    expect(wordsOf(list({ item: 'mesial' }))).toContain('Turn mesial by 1°');
    expect(wordsOf(list({ item: 'axis' }))).toContain('Axis: as I look now');
    expect(list({ item: 'parts' })).toContain('type="number"');
    expect(list()).not.toContain('type="number"');
    expect(wordsOf(list())).toContain('MB');
  });
  it('can be taken back and done again only where there is something to', () => {
    const undo = (past: unknown[]): string =>
      /<button[^>]*>Undo/.exec(list({ past } as Partial<State>))?.[0] ??
      /<button[^>]*disabled=""[^>]*>/.exec(list({ past } as Partial<State>))?.[0] ??
      '';
    expect(undo([])).toContain('disabled');
  });
  it('that is finished is shown and no longer changed', () => {
    const text = wordsOf(list({}, {}, true));
    expect(text).toContain('Cusp tips');
    expect(text).not.toContain('Series H, 36');
  });
  it('tells what it can give and how many readings lack for what it cannot', () => {
    const text = wordsOf(list());
    expect(text).toContain('mesial neighbour there');
    expect(text).toMatch(/opposing arch \d+ readings not given/);
    expect(text).toContain('0.21 mm');
  });
});
