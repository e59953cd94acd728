import { strFromU8, unzipSync } from 'fflate';
import Papa from 'papaparse';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type DisplayMesh, packDisplay } from '#contract/display.ts';
import type { AttemptReport } from '#contract/report.ts';
import { lostPoints } from '#core/score/lost.ts';
import { decideAccess } from '#server/access/gate.ts';
import { SUBJECTS } from '#server/access/subjects.ts';
import type { Person, Subject } from '#server/access/table.ts';
import { gradedOf } from '#server/grading/evidence.ts';
import { attemptById } from '#server/grading/rows.ts';
import { classList, classListCsv, classListPdf } from '#server/report/class-list.ts';
import { runs } from '#server/report/fonts.ts';
import { type Reported, reportOf } from '#server/report/model.ts';
import { ownData } from '#server/report/own-data.ts';
import { attemptPdf } from '#server/report/pdf.ts';
import { apart, pictureOf, placeOn } from '#server/report/pictures.ts';
import { attemptReport, sittingReport } from '#server/report/send.ts';
import { Sheet } from '#server/report/sheet.ts';
import { termOf, termPdf } from '#server/report/term.ts';
import { assess } from '#server/student/assess.ts';
import { signedIn } from '../../src/islands/tray/Reports.tsx';
import { readPdf as read } from '../helpers/read-pdf.ts';
import { openSchool, PEOPLE, type School, SOUND } from '../helpers/school.ts';

const { ines, greta, hugo, piet } = PEOPLE;
let school: School;
let attempt: number;
beforeAll(async () => {
  school = await openSchool();
  attempt = await school.measured(greta, [{ ...SOUND[0], value: 0.1 }, ...SOUND.slice(1)]);
  const id = { id: String(attempt) };
  await school.call('/api/attempts/[id]/comment', ines, id, { line: 'width', comment: '=Widen it, Łukasz.' });
  const seen = (await gradedOf(school.app.db, (await attemptById(school.app.db, attempt)) as never, 1)).seen;
  expect((await school.call('/api/attempts/[id]/sign', ines, id, { seen })).status).toBe(200);
});
afterAll(() => school.close());

const reported = async (): Promise<Reported> => (await reportOf(school.app.db, attempt, false)) as Reported;

const square = (name: string): DisplayMesh => ({
  name,
  positions: Float32Array.from([-4, -4, 0, 4, -4, 0, 4, 4, 0, -4, 4, 0]),
  indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
  depth: Float32Array.from([1, 1, 1, 1]),
  surface: Uint8Array.from([3, 3, 3, 3]),
});
const DISPLAY = packDisplay({ mesialSign: 1, parts: [], finishLine: [] }, [square('scan')]);
const PROFILES = [0, 90, 180, 270].map((azimuth) => ({
  azimuth,
  scan: [0, 4, 2, 4, 3, 0],
  master: [0, 5, 3, 5, 4, 0],
  finish: [3, 0] as [number, number],
  foot: null,
  wall: null,
  width: 0.5,
  taper: 6,
  height: 0,
}));

describe('a report of a signed attempt', () => {
  it('says what the record says: result, lines with readings and bands, comments, what it rests on', async () => {
    const { report } = await reported();
    expect(report).toMatchObject({
      student: { id: 'H07', name: 'Greta Pohl' },
      grade: { grader: 'Ines Caldera', total: 75, passed: true, released: false },
      lines: [
        {
          id: 'width',
          level: 0,
          lost: 25,
          comment: '=Widen it, Łukasz.',
          readings: [{ value: 0.1, lo: 0.4, hi: 0.8, verdict: 'outside' }],
        },
        { id: 'taper', level: 3, lost: 0 },
      ],
      critical: [{ id: 'neighbour', made: false }],
    });
    expect(report.grade.digest).toMatch(/^[0-9a-f]{64}$/);
    expect(report.basis.rubric.sha256).toMatch(/^[0-9a-f]{64}$/);
  });
  it('as PDF is tagged, in its language, with its fonts in it; headings, table cells and figures are what they are', async () => {
    const pdf = await attemptPdf(await reported(), { display: DISPLAY, profiles: PROFILES }, 'a4');
    const { doc, text, roles, alts, pages, sizes } = await read(pdf);
    expect(text).toContain('Greta Pohl');
    expect(text).toContain('75 of 100 points; passed from 60.');
    expect(text).toContain('Widen it, Łukasz.');
    expect(text).toContain('0.10 ± 0.03 mm');
    expect(roles).toEqual(expect.arrayContaining(['H1', 'H2', 'P', 'Table', 'TR', 'TH', 'TD', 'Figure']));
    expect(roles.filter((r) => r === 'H1')).toHaveLength(1);
    // Two figures at least: the tooth from two sides, and the section; each has words.
    expect(alts.length).toBe(roles.filter((r) => r === 'Figure').length);
    expect(alts.length).toBeGreaterThanOrEqual(2);
    const { info } = (await doc.getMetadata()) as unknown as { info: Record<string, unknown> };
    expect([info.Title, info.Language, (await doc.getMarkInfo())?.Marked]).toEqual([expect.stringContaining('Greta Pohl'), 'en', true]);
    const raw = Buffer.from(pdf).toString('latin1');
    expect(raw).toMatch(/\/FontFile2? /);
    expect(raw).not.toMatch(/\/BaseFont \/(Helvetica|Times|Courier)/);
    expect([pages, sizes[0].map(Math.round)]).toEqual([expect.any(Number), [0, 0, 595, 842]]);
  });
  it('is made for Letter too, and without a scan says so', async () => {
    const { sizes, text } = await read(await attemptPdf(await reported(), null, 'letter'));
    expect(sizes[0]).toEqual([0, 0, 612, 792]);
    expect(text).toContain('has not been drawn yet');
  });
  it('goes to graders, to its student once released and judged, to nobody else', async () => {
    const subject = async () => (await SUBJECTS.attempt(school.app.db, attempt)) as Subject;
    const get = async (who: Person) => attemptReport(school.app, who, await subject(), attempt, { as: 'json', paper: 'a4', at: 0 });
    expect((await get(ines)).type).toBe('application/json');
    const address = ['/api/attempts/[id]/report', 'GET', { id: String(attempt) }] as const;
    const refused = (who: Person) => decideAccess(school.app.db, who, ...address);
    await expect(refused(piet)).rejects.toThrow(/not open to you/);
    for (const who of [greta, hugo]) await expect(refused(who)).rejects.toThrow(/no such page/);
    await school.call('/api/attempts/[id]/release', ines, { id: String(attempt) }, { version: 1 });
    await expect(get(greta)).rejects.toThrow(/judge your own work first/);
    await assess(school.app, greta, attempt, { lines: [{ line: 'width', level: 2, figure: 0.3 }], minutes: 40 });
    expect((await get(greta)).type).toBe('application/json');
    await expect(refused(hugo)).rejects.toThrow(/no such page/);
    expect((await reportOf(school.app.db, attempt, true))?.report).toMatchObject({
      own: { minutes: 40 },
      lines: [{ own: { level: 2, figure: 0.3 } }, { own: null }],
    });
  });
  it('of a whole sitting is one table and one list; what is not signed is named on it', async () => {
    await school.measured(hugo, SOUND);
    const csv = await sittingReport(school.app, 'w1', 'csv', 'a4');
    const { data, errors } = Papa.parse<Record<string, string>>(
      String(csv.content)
        .replace(/^\ufeff/, '')
        .trim(),
      { header: true },
    );
    expect(errors).toEqual([]);
    expect(data.find((r) => r.reading === 'margin.width')).toMatchObject({
      student: 'H07',
      value: '0.1',
      U: '0.03',
      bandFrom: '0.4',
      verdict: 'outside',
      level: '0',
    });
    const list = await read((await sittingReport(school.app, 'w1', 'pdf', 'a4')).content as Uint8Array);
    expect(list.text).toContain('1 signed, 1 passed, 0 not passed, 1 not signed yet.');
    expect(list.text).toContain('Not signed yet: Hugo Lind.');
    await expect(sittingReport(school.app, 'w2', 'csv', 'a4')).rejects.toThrow(/Nothing is signed/);
  });
  it('counts in the class list, which says what everybody still has to pass', async () => {
    const list = await classList(school.app.db, 'c1');
    const of = (id: string) => list.students.find((s) => s.id === id);
    expect(list.exercises).toEqual(['Crown on 16']);
    expect(of('H07')).toMatchObject({ signed: 1, mean: 75, passed: ['Crown on 16'], open: [], missing: [], absent: 0 });
    expect(of('H08')).toMatchObject({ signed: 0, mean: null, passed: [], missing: ['Crown on 16'] });
    const { data } = Papa.parse<Record<string, string>>(
      classListCsv(list)
        .replace(/^\ufeff/, '')
        .trim(),
      { header: true },
    );
    expect(data.find((r) => r.number === 'H07')).toMatchObject({ mean: '75', passed: 'Crown on 16', missing: '' });
    const { text } = await read(await classListPdf(list, 'letter'));
    expect(text).toContain('1 exercise with a sitting; 1 passed all of them');
    expect(text).toContain('not graded: Crown on 16');
  });
  it('stands in its student’s term, which is theirs and their graders’', async () => {
    const { isOwn, ...term } = await termOf(school.app, greta, 'H07');
    expect([isOwn, term.view.attempts.map((t) => t.attempt_id)]).toEqual([true, [attempt]]);
    const { text, roles } = await read(await termPdf({ ...term, isOwn }, 'a4'));
    expect(text).toContain('Greta Pohl: the term');
    expect(text).toContain('1 attempt signed, 1 passed.');
    expect(text).toMatch(/Margin width 1 not yet/);
    expect(roles).toEqual(expect.arrayContaining(['H1', 'Table', 'TH', 'TD']));
    await expect(termOf(school.app, hugo, 'H08')).rejects.toThrow(/No result can be shown yet/);
    await expect(decideAccess(school.app.db, hugo, '/api/students/[student]/report', 'GET', { student: 'H07' })).rejects.toThrow(
      /no such page/,
    );
  });
  it('is in its student’s own archive, which holds nobody else', async () => {
    const files = unzipSync(await ownData(school.app, greta));
    expect(Object.keys(files).sort()).toEqual([
      'attempts.json',
      'bench.json',
      'person.json',
      'practised.json',
      'progress.json',
      'readings.csv',
      'reports.json',
    ]);
    const all = Object.values(files)
      .map((f) => strFromU8(f))
      .join('\n');
    expect((JSON.parse(strFromU8(files['reports.json'])) as AttemptReport[]).map((r) => r.attempt.id)).toEqual([attempt]);
    expect(all).not.toMatch(/Hugo|H08/);
  });
});

describe('what a report is made with', () => {
  const filesOf = (text: string): string[] => [...new Set(runs(text).map((r) => r.file.split('/').slice(0, 2).join(' ')))];
  const shown = (text: string): string =>
    runs(text)
      .map((r) => r.text)
      .join('');
  it.each([
    ['Łukasz Müller', 'atkinson-hyperlegible-next latin-ext'],
    ['Ștefan Ağaoğlu', 'atkinson-hyperlegible-next latin-ext'],
    ['Nguyễn Thị Hạnh', 'noto-sans vietnamese'],
    ['Ελένη Παπαδάκη', 'noto-sans greek'],
    ['Юлія Шевченко', 'noto-sans cyrillic'],
  ])('the name %s is written as it is, from a font that has its letters', (name, file) => {
    expect(shown(name)).toBe(name);
    expect(filesOf(name)).toContain(file);
  });
  it('what no font has is a question mark, never nothing', () => expect(shown('a→b 山')).toBe('a?b ?'));
  it('a letter with its accent beside it is the same letter', () => expect(shown('e\u0301')).toBe('é'));
  it('stays in one piece where one file has all of it, and takes up no other', () => {
    expect(runs('Margin width, 0.62 ± 0.04 mm')).toHaveLength(1);
    expect(runs('0.62 ± 0.04', 'figure')).toEqual([{ text: '0.62 ± 0.04', file: 'spline-sans-mono/latin/400' }]);
  });
  it('a page with names of four alphabets holds each of them', async () => {
    const sheet = new Sheet('Names', 'a4');
    const names = ['Greta Pohl', 'Łukasz Ağaoğlu', 'Ελένη Παπαδάκη', 'Юлія Шевченко'];
    sheet.text('H1', 'Names');
    sheet.table(
      [{ title: 'Name', share: 1 }],
      names.map((n) => [n]),
    );
    const { text } = await read(await sheet.end('foot'));
    for (const n of names) expect(text).toContain(n);
  });
  it('what points cost is told alike by rubrics that give and rubrics that take off', () => {
    const off = { kind: 'deduct', off: { sound: 1, marginal: 2, notYet: 3 } } as const;
    expect(lostPoints({ points: 19.5, of: 24 }, undefined)).toBe(4.5);
    expect(lostPoints({ points: -4.5, of: 24 }, off)).toBe(4.5);
    expect(lostPoints({ points: 0, of: 24 }, off)).toBe(0);
    expect(lostPoints({ points: null, of: 24 }, off)).toBeNull();
  });
  it('the picture shows the tooth where its places are said to be', () => {
    const png = PNG.sync.read(Buffer.from(pictureOf(DISPLAY, { occlusal: [0.5, 1.5], axial: [0, 99] }, 'occlusal')));
    const at = (point: readonly number[]) => {
      const [x, y] = placeOn(point);
      const i = 4 * (Math.floor(y * png.height) * png.width + Math.floor(x * png.width));
      return [...png.data.subarray(i, i + 3)];
    };
    // The plate is 8 mm wide: 3.8 mm from its middle is on it, 4.2 mm is paper.
    expect(at([4.2, 0, 0])).toEqual([255, 255, 255]);
    expect(at([3.8, 0, 0])).not.toEqual([255, 255, 255]);
    expect(at([0, -3.8, 0])).not.toEqual([255, 255, 255]);
  });
  it('numbers on it do not cover one another, however near their places are', () => {
    const marks = Array.from({ length: 12 }, (_, i) => ({ number: i + 1, at: [0.4 + 0.002 * i, 0.5] as const }));
    const labels = apart(marks).map((m) => m.label);
    const gaps = labels.flatMap((a, i) => labels.slice(i + 1).map((b) => Math.hypot(a[0] - b[0], (a[1] - b[1]) * 0.74)));
    // A label is 13 points wide on a picture of some 245.
    expect(Math.min(...gaps)).toBeGreaterThan(13 / 245);
  });
  it('an archive has each signed attempt once', () =>
    expect(
      signedIn([
        { attempt_id: 1, grade_total: 80, student_id: 'H1', student_name: 'A', number: 1 },
        { attempt_id: 1, grade_total: 80, student_id: 'H1', student_name: 'A', number: 1 },
        { attempt_id: 2, grade_total: null },
        { attempt_id: null, grade_total: 3 },
      ] as never),
    ).toEqual([{ id: 1, name: 'H1 A 1' }]));
});
