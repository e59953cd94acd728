import { renderToStaticMarkup } from 'react-dom/server';
import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import { FirstForm } from '#contract/course.ts';
import type { DraftView, Occlusion } from '#contract/master-draft.ts';
import { Settings as SettingsFile, USUAL_SETTINGS } from '#contract/settings.ts';
import { CATALOGUE } from '#core/catalogue/catalogue.ts';
import { USUAL_CONDITIONS } from '#core/occlusion/excursion.ts';
import { FAMILIES } from '#words/families.ts';
import { BENCH_KEYS, FIXED_KEYS } from '#words/keys.ts';
import { MASTERS, PART_WORDS } from '#words/masters.ts';
import { setWriting } from '#words/writing.ts';
import { Glide } from '../../src/components/Glide.tsx';
import { StudentPicker } from '../../src/components/picker/StudentPicker.tsx';
import { Keys } from '../../src/islands/bench/Keys.tsx';
import { actOf, keyOf, takenBy, USUAL, withKey } from '../../src/islands/bench/keys.ts';
import { Bite } from '../../src/islands/masters/Bite.tsx';
import { Import } from '../../src/islands/masters/Import.tsx';
import { Colours, Looks } from '../../src/islands/masters/Looks.tsx';
import { NewLine } from '../../src/islands/rubric/NewLine.tsx';
import { PickReading } from '../../src/islands/rubric/PickReading.tsx';
import { Settings } from '../../src/islands/settings/Settings.tsx';
import { NewRubric } from '../../src/islands/standard/NewRubric.tsx';
import { wordsOf } from '../helpers/markup.ts';

const nothing = () => undefined;
const optionsOf = (html: string): string[] => [...html.matchAll(/<option[^>]*>([^<]*)</g)].map((m) => m[1]);

describe('a reading is chosen from what the catalogue has', () => {
  const html = renderToStaticMarkup(<PickReading label="Add" onPick={nothing} />);
  it('every reading is offered, in the order of its words', () => {
    const offered = optionsOf(html).slice(1);
    expect(offered).toHaveLength(CATALOGUE.filter((e) => !e.sized).length);
    expect(offered).toEqual([...offered].sort((a, b) => a.localeCompare(b)));
  });
  it('families that have a reading are drawn, each once', () => {
    for (const { title } of Object.values(FAMILIES)) expect(html.split(`${title}</button>`).length - 1, title).toBeLessThanOrEqual(1);
    expect(html.match(/aria-pressed="false"/g)?.length).toBeGreaterThan(8);
  });
  it('nothing is added before all of it is chosen', () => expect(html).toMatch(/<button[^>]*disabled=""[^>]*>[^<]*<\/button><\/fieldset>/));
  it('a line of the course’s own is a reading or a question; neither is added unnamed', () => {
    const line = renderToStaticMarkup(<NewLine act={nothing} />);
    expect(line.match(/disabled=""/g)).toHaveLength(2);
  });
});

describe('a rubric made from a standard', () => {
  it('is made once it has a name; its short name is made from that', () => {
    const html = renderToStaticMarkup(<NewRubric course="c1" standard="onlay" />);
    expect(html).toMatch(/<button[^>]*disabled=""/);
    expect(optionsOf(html)).toHaveLength(2);
  });
});

describe('a student is chosen', () => {
  const students = [{ id: 'H01', name: 'Ada Quill' }];
  it('the act waits for a choice; without one the choice itself is the act', () => {
    const html = renderToStaticMarkup(<StudentPicker students={students} label="Student of a.stl" act="Give it" onChoose={nothing} />);
    expect(html).toContain('aria-label="Student of a.stl"');
    expect(html).toMatch(/<button[^>]*disabled=""[^>]*>Give it</);
    expect(renderToStaticMarkup(<StudentPicker students={students} label="Student" onChoose={nothing} />).match(/<button/g)).toHaveLength(
      1,
    );
  });
});

describe('keys of the Bench', () => {
  it('each letter does one thing, and none is taken by what stays as it is', () => {
    const letters = BENCH_KEYS.map(([, letter]) => letter);
    expect(new Set(letters).size).toBe(letters.length);
    for (const letter of letters) expect(FIXED_KEYS.some(([k]) => k.split(' ').includes(letter))).toBe(false);
  });
  it('a letter goes to an act only when no other has it', () => {
    expect(takenBy(USUAL, 'sign', 'e')).toBe('next-open');
    expect(withKey(USUAL, 'sign', 'e')).toBe(USUAL);
    const own = withKey(USUAL, 'sign', 'Q');
    expect([keyOf(own, 'sign'), actOf(own, 'q'), actOf(own, 's')]).toEqual(['q', 'sign', null]);
    // The letter that became free can be given on.
    expect(actOf(withKey(own, 'next', 's'), 's')).toBe('next');
  });
  it('is no key that is no letter, and nothing acts while letters are off', () => {
    for (const k of ['', '7', 'ab', 'é', ' ']) expect(withKey(USUAL, 'sign', k), k).toBe(USUAL);
    expect(actOf({ ...USUAL, on: false }, 's')).toBeNull();
  });
  it('are shown with what they do; switched off they are said to be, and cannot be changed', () => {
    const keys = (on: boolean): string => renderToStaticMarkup(<Keys choice={{ ...USUAL, on }} onChoice={nothing} onClose={nothing} />);
    for (const [, letter, what] of BENCH_KEYS) {
      expect(keys(true)).toContain(`aria-label="Letter for: ${what}"`);
      expect(keys(true)).toContain(`value="${letter}"`);
    }
    expect(keys(true)).not.toContain('disabled=""');
    expect(keys(false).match(/disabled=""/g)).toHaveLength(BENCH_KEYS.length);
    expect(wordsOf(keys(false))).toContain('switched off');
  });
});

describe('one’s own settings', () => {
  it('show by example how a tooth, a reading and a day are written', () => {
    const words = wordsOf(renderToStaticMarkup(<Settings first={USUAL_SETTINGS} />));
    expect(words).toContain('16, 21, 36, 44, 55, 75');
    expect(words).toContain('1.27 ± 0.02 mm');
    const other = wordsOf(renderToStaticMarkup(<Settings first={{ ...USUAL_SETTINGS, numbering: 'universal', digits: 1 }} />));
    // 16 is the third from the upper right, 36 the nineteenth.
    expect(other).toContain('3, 9, 19, 28, A, K');
    expect(other).toContain('1.3 ± 0.1 mm');
    setWriting(USUAL_SETTINGS);
  });
  it('what somebody leaves out is as usual; what there is not is refused', () => {
    expect(v.parse(SettingsFile, {})).toEqual({ numbering: 'fdi', digits: 2, dates: 'en-GB', keys: null });
    for (const bad of [{ digits: 3 }, { numbering: 'roman' }, { dates: 'xx' }, { keys: { on: true, own: { sign: 'ss' } } }])
      expect(v.safeParse(SettingsFile, bad).success, JSON.stringify(bad)).toBe(false);
  });
});

describe('the first page of an empty installation', () => {
  const whole = {
    school: 'Harbour Lane',
    course: 'Preclinical II',
    term: 'autumn',
    name: 'Maren Holt',
    signIn: 'maren.holt',
    password: 'ten letters',
  };
  const wrong = (change: object): string => {
    const r = v.safeParse(FirstForm, { ...whole, ...change });
    return r.success ? '' : `${v.getDotPath(r.issues[0])}: ${r.issues[0].message}`;
  };
  it('takes a whole form, and names what is missing in another', () => {
    expect(wrong({})).toBe('');
    expect(wrong({ school: ' ' })).toBe('school: Give the school a name.');
    expect(wrong({ password: 'short' })).toContain('at least 10 characters');
    expect(wrong({ signIn: 'maren holt' })).toContain('letters, digits, dots and dashes only');
    expect(wrong({ signIn: 'märta-2' })).toBe('');
    expect(wrong({ term: 'x'.repeat(61) })).toContain('at most 60 letters');
  });
});

describe('masters', () => {
  it('an arch needs its file, its name and a tooth that there is; a shared master its archive', () => {
    const html = renderToStaticMarkup(<Import course="c1" />);
    for (const name of ['arch', 'name', 'tooth', 'shared'])
      expect(new RegExp(`<input[^>]*name="${name}"[^>]*required=""|<input[^>]*required=""[^>]*name="${name}"`).test(html), name).toBe(true);
    expect(html).toContain('pattern="[1-8][1-8]"');
    expect(html).not.toMatch(/name="opposing"[^>]*required/);
  });
  it('are looked at from five sides; the cut asks along which way only while it is used', () => {
    const looks = (cutting: boolean): string =>
      renderToStaticMarkup(
        <Looks look="facial" isCutting={cutting} across="mesiodistal" onLook={nothing} onCut={nothing} onAcross={nothing} />,
      );
    expect(looks(false).match(/<button/g)).toHaveLength(6);
    expect(looks(false).match(/aria-pressed="true"/g)).toHaveLength(1);
    expect(optionsOf(looks(false))).toEqual([]);
    expect(optionsOf(looks(true))).toEqual(['faciolingual', 'mesiodistal']);
  });
  it('the colours’ legend names the parts, or how near the other jaw is', () => {
    const parts = wordsOf(renderToStaticMarkup(<Colours isBite={false} />));
    for (const w of PART_WORDS) expect(parts).toContain(w);
    expect(wordsOf(renderToStaticMarkup(<Colours isBite />))).toContain('touches');
  });
});

describe('the bite', () => {
  const occlusion = (change: Partial<Occlusion> = {}): Occlusion => ({
    by: 'bite',
    matrix: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1],
    settled: false,
    contacts: [],
    deepest_mm: 0,
    moved_mm: 0,
    turned_deg: 0,
    isRocking: false,
    ...change,
  });
  const bite = (draft: Partial<DraftView>, more: { finished?: boolean; overlap?: number | null } = {}): string =>
    wordsOf(
      renderToStaticMarkup(
        <Bite
          draft={{ opposing_name: 'lower.stl', bite_name: null, occlusion: null, ...draft } as DraftView}
          finished={more.finished ?? false}
          busy={false}
          moved={{ which: 'protrusive', share: 0.5 }}
          conditions={null}
          overlap={more.overlap ?? null}
          onMove={nothing}
          onConditions={nothing}
          onPlace={nothing}
          onPoints={nothing}
        />,
      ),
    );
  it('without an opposing arch there is nothing to bring together', () => {
    expect(bite({ opposing_name: null })).toBe(MASTERS.noOpposing);
  });
  it('jaws that do not stand against each other yet cannot be glided', () => {
    expect(bite({})).toContain(MASTERS.notPlaced);
    expect(bite({})).not.toContain(MASTERS.along);
    expect(bite({ occlusion: occlusion() })).toContain(MASTERS.along);
  });
  it('a scan of the bite is offered only where there is one', () => {
    expect(bite({})).not.toContain(MASTERS.byBite);
    expect(bite({ bite_name: 'bite.stl' })).toContain(MASTERS.byBite);
  });
  it('settles once, but not where a hand set the places', () => {
    expect(bite({ occlusion: occlusion() })).toContain(MASTERS.settle);
    expect(bite({ occlusion: occlusion({ settled: true }) })).not.toContain(MASTERS.settle);
    expect(bite({ occlusion: occlusion({ by: 'points' }) })).not.toContain(MASTERS.settle);
  });
  it('a finished master’s bite is looked at and not moved; one that rocks says so', () => {
    const done = bite({ occlusion: occlusion({ isRocking: true }) }, { finished: true, overlap: 0.12 });
    expect(done).not.toContain(MASTERS.asInFile);
    expect(done).toContain(MASTERS.rocking);
    expect(done).toContain(MASTERS.overlap(0.12));
  });
  it('glides by its path’s share', () => {
    const html = renderToStaticMarkup(
      <Glide glided={{ which: 'protrusive', share: 0.5 }} path_mm={USUAL_CONDITIONS.path_mm} onGlide={nothing} />,
    );
    expect(wordsOf(html)).toContain(`${(USUAL_CONDITIONS.path_mm / 2).toFixed(1)} mm`);
    expect(html.match(/aria-pressed="true"/g)).toHaveLength(1);
  });
});
