import { renderToStaticMarkup } from 'react-dom/server';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import type { SittingView, TrayRow } from '#contract/tray-view.ts';
import { TRAY } from '#words/tray.ts';
import { Notes } from '../../src/islands/tray/Notes.tsx';
import { Progress } from '../../src/islands/tray/Progress.tsx';
import { Share } from '../../src/islands/tray/Share.tsx';
import { Tray } from '../../src/islands/tray/Tray.tsx';
import { wordsOf } from '../helpers/markup.ts';
import { trayRow } from '../helpers/views.ts';

const nothing = () => undefined;
const sitting = (id: string, change: Partial<SittingView> = {}): SittingView => ({
  id,
  course_id: 'c1',
  title: `Week ${id}`,
  held_on: '2026-10-19',
  exercise_id: 'crown',
  exercise_title: 'Crown on 16',
  tooth: '16',
  minutes: 90,
  steps: ['axial', 'final'],
  ...change,
});

describe('the Tray', () => {
  beforeAll(() => {
    vi.stubGlobal('document', { querySelector: () => null });
  });
  const tray = (more: Partial<Parameters<typeof Tray>[0]> = {}): string =>
    renderToStaticMarkup(
      <Tray
        sitting={sitting('1')}
        sittings={[sitting('1'), sitting('2')]}
        rows={[]}
        students={[{ id: 'H01', name: 'Ada Quill' }]}
        grades
        graders={[{ id: 'I2', name: 'Ines Caldera' }]}
        me="I2"
        scanner={false}
        query=""
        {...more}
      />,
    );
  const row = (id: number, change: Partial<TrayRow> = {}): TrayRow =>
    trayRow({ scan_id: id, attempt_id: id, student_name: `Student ${id}`, word: 'ready', ...change });

  it('says which sitting it is, how long the work may take and at which steps it is shown', () => {
    const words = wordsOf(tray());
    expect(words).toContain('Week 1');
    expect(words).toContain('Crown on 16 , 90 min');
    expect(tray()).toContain('title="may be shown');
    expect(wordsOf(tray({ sitting: sitting('1', { minutes: null }) }))).not.toContain('min Week');
  });
  it('leads to the course’s other sittings by their day', () => {
    const options = [...tray().matchAll(/<option value="([^"]*)"/g)].map((m) => m[1]);
    expect(options.slice(0, 2)).toEqual(['1', '2']);
  });
  it('the page’s first link always has somewhere to lead: the first attempt, or the table where none can be graded', () => {
    const places = (of: Parameters<typeof tray>[0]): number => tray(of).match(/id="first-attempt"/g)?.length ?? 0;
    for (const grades of [true, false])
      for (const rows of [[], [row(1), row(2)], [row(1, { state: 'failed' })]]) expect(places({ grades, rows })).toBe(1);
  });
  it('who does not grade brings scans, and neither grades without one nor releases', () => {
    const words = wordsOf(tray({ grades: false, rows: [row(1)] }));
    expect(words).toContain(TRAY.bring);
    for (const w of [TRAY.noScan, TRAY.reports, TRAY.release]) expect(words, w).not.toContain(w);
    expect(wordsOf(tray({ rows: [row(1, { word: 'signed', grade_total: 84, grade_passed: true })] }))).toContain(TRAY.release);
  });
  it('the simulated scanner is offered only for a tooth that it can cut', () => {
    expect(wordsOf(tray())).not.toContain(TRAY.scanner);
    expect(wordsOf(tray({ scanner: true }))).toContain(TRAY.scanner);
  });
  it('its list is as the address says', () => {
    const rows = [row(1), row(2, { word: 'eye' }), row(3, { word: 'signed' })];
    const names = (query: string): string[] => [...tray({ rows, query }).matchAll(/Student (\d)/g)].map((m) => m[1]);
    expect(new Set(names(''))).toEqual(new Set(['1', '2', '3']));
    expect(new Set(names('?show=eye'))).toEqual(new Set(['2']));
  });
  it('an empty sitting says what to do', () => expect(wordsOf(tray())).toContain(TRAY.empty));
  it('takes any kind of file that it can read', () => expect(tray()).toContain('accept=".stl,.ply,.obj,.gz,.zip"'));
});

describe('what the Tray says of work under way', () => {
  it('nothing where nothing is measured; else how many scans are left', () => {
    expect(renderToStaticMarkup(<Progress left={0} />)).toBe('');
    expect(wordsOf(renderToStaticMarkup(<Progress left={1} />))).toBe('1 scan to measure');
    expect(wordsOf(renderToStaticMarkup(<Progress left={38} />))).toBe('38 scans to measure');
    expect([TRAY.timeLeft(null), TRAY.timeLeft(40), TRAY.timeLeft(150)]).toEqual(['', ', less than a minute left', ', about 3 min left']);
  });
  it('what went wrong is read out, file by file', () => {
    const html = renderToStaticMarkup(<Notes error="Not sent." problems={[{ fileName: 'a.stl', message: 'a.stl is in metres.' }]} />);
    expect(html).toContain('role="alert"');
    expect(wordsOf(html)).toBe('Not sent. a.stl is in metres.');
    expect(renderToStaticMarkup(<Notes error={null} problems={[]} />)).toBe('');
  });
  it('chosen attempts are given to somebody, or to nobody', () => {
    const html = renderToStaticMarkup(<Share count={6} graders={[{ id: 'a', name: 'Ines' }]} onShare={nothing} onDrop={nothing} />);
    expect(wordsOf(html)).toContain('6 chosen, for Ines');
    // Until somebody is named there is nobody to give them to.
    expect(html.match(/disabled=""/g)).toHaveLength(1);
  });
});
