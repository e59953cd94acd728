import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import type { TrayRow } from '#contract/tray-view.ts';
import { TRAY } from '#words/tray.ts';
import { TrayLine } from '../../src/islands/tray/TrayLine.tsx';
import { wordsOf } from '../helpers/markup.ts';
import { trayRow } from '../helpers/views.ts';

const ROW = trayRow();
const STUDENTS = [
  { id: 'H04', name: 'Dario Venn' },
  { id: 'H05', name: 'Elin Thorsby' },
];
const html = (change: Partial<TrayRow> = {}, grades = true): string =>
  renderToStaticMarkup(
    <table>
      <tbody>
        <TrayLine
          row={{ ...ROW, ...change }}
          students={STUDENTS}
          grades={grades}
          steer={async () => true}
          onRemove={() => undefined}
          list="?of=mine"
          isFirst
          chosen={false}
          onChoose={() => undefined}
        />
      </tbody>
    </table>,
  );
const words = (change: Partial<TrayRow> = {}, grades = true): string => wordsOf(html(change, grades));

describe('an attempt in the Tray', () => {
  it('says whose it is and what is left to do, and leads to the Bench in the same list', () => {
    expect(words()).toMatch(/Dario Venn H04 B1-04.*to check.*13.*85–96.*Grade/);
    expect(html()).toContain('href="/bench/12?of=mine"');
    expect(html()).toContain('id="first-attempt"');
  });
  it('what is still to be graded stands out, what is signed does not', () => {
    const looks = (change: Partial<TrayRow>): string | undefined => /id="first-attempt" class="(\w+)/.exec(html(change))?.[1];
    expect(looks({})).toBe('act');
    expect(looks({ grade_total: 88, grade_passed: true, word: 'signed' })).toBe('quiet');
  });
  it('shows one figure once nothing is open, and the signed one before any other', () => {
    expect(words({ total: 90, range: null })).toContain('90');
    const signed = words({ total: 90, range: null, grade_total: 88, grade_passed: true, word: 'signed' });
    expect(signed).toContain('88');
    expect(signed).not.toContain('90');
    expect(signed).toContain('Open');
  });
  it('that does not pass says why, by the gravest reason', () => {
    expect(words({ failures: ['Mesial neighbour damaged', 'Too few points'] })).toContain('not passed: mesial neighbour damaged');
    expect(words({ grade_total: 55, grade_passed: false })).toContain('not passed');
    expect(words({ grade_total: 75, grade_passed: true, failures: ['Too few points'] })).not.toContain('not passed');
  });
  it('that was signed and reads otherwise today says so', () =>
    expect(words({ grade_total: 80, changed: true })).toContain('changed since'));
  it('on its way of being measured shows how far it is, and can be stopped', () => {
    const measuring = { state: 'measuring', word: 'measuring', progress: { stage: 'align', share: 0.4 }, counts: null, range: null };
    expect(words(measuring)).toMatch(/fitting to the master….*Cancel/);
    expect(html(measuring)).toMatch(/<progress[^>]*value="0.4"[^>]*aria-label="Progress of H04_crown.stl"/);
  });
  it('that could not be measured names the file and the fault, and can be graded by hand', () => {
    const failed = { state: 'failed', word: 'failed', fault: 'The scan shows another tooth.', counts: null, range: null };
    const text = words({ ...failed, fault_code: 'align.poor' });
    expect(text).toContain('H04_crown.stl : The scan shows another tooth.');
    expect(text).toMatch(/Grade by hand.*Align by three points.*Try again/);
    expect(html({ ...failed, fault_code: 'align.poor' })).toContain('href="/align/7"');
  });
  it('whose file is broken is not offered another try: it would end the same', () => {
    const text = words({ state: 'failed', word: 'failed', fault: 'No triangles.', fault_code: 'scan.empty', counts: null, range: null });
    expect(text).toContain(TRAY.cannotHelp);
    expect(text).not.toContain('Try again');
  });
  it('of nobody asks whose it is, by its file’s name', () => {
    const text = words({
      student_name: null,
      student_id: null,
      attempt_id: null,
      state: 'unmatched',
      word: 'unmatched',
      counts: null,
      range: null,
    });
    expect(text).toContain('H04_crown.stl');
    expect(text).toContain('whose is it?');
    expect(text).not.toContain('Grade');
  });
  it('scanned on the way is looked at and not graded; later scans and attempts are counted', () => {
    const text = words({ step: 'occlusal', version: 2, number: 3, word: 'stage' } as Partial<TrayRow>);
    expect(text).toMatch(/attempt 3 scan 2/);
    expect(text).toContain('Look');
    expect(text).not.toContain('Grade');
  });
  it('is neither chosen nor opened for grading by people who do not grade', () => {
    expect(html({}, false)).not.toContain('type="checkbox"');
    expect(html({}, false)).not.toContain('href="/bench/12');
    expect(html()).toContain('aria-label="Choose Dario Venn"');
  });
});
