import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import Papa from 'papaparse';
import type { BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readScan } from '#core/scan/scan.ts';
import { writeStl } from '#core/simulate/write.ts';
import { type Empty, simulated, startEmpty } from '../helpers/application.ts';
import { objections } from '../helpers/crawl.ts';

let app: Empty;
let folder: string;
let context: BrowserContext;
let page: Page;
const complaints: string[] = [];

beforeAll(async () => {
  folder = simulated({
    format: 'veritor-recipe/1',
    tooth: '46',
    seed: 8,
    preparation: { kind: 'crown' },
    scan: { triangles: 80_000 },
  });
  for (const jaw of ['arch', 'opposing'])
    writeFileSync(path.join(folder, `${jaw}.stl`), writeStl(readScan(readFileSync(path.join(folder, 'master', `${jaw}.ply`))).mesh));
  // As a registry sends it: semicolons, a Western code page, a line twice, a line without a number, no column for the bench.
  const lines = [
    'Student number;Name;E-Mail',
    'S01;"Müller, Jürgen";jm@school.test',
    'S02;Zoë Lund;zl@school.test',
    'S02;Zoë Lund;zl@school.test',
    ';Nameless;',
    'S03;Ada Quill;aq@school.test',
  ];
  writeFileSync(path.join(folder, 'roster.csv'), Buffer.from(lines.join('\r\n'), 'latin1'));
  app = await startEmpty();
  context = await app.browser.newContext({ baseURL: app.base, viewport: { width: 1280, height: 800 }, acceptDownloads: true });
  context.setDefaultTimeout(12_000);
  page = await context.newPage();
  page.on('console', (m) => {
    if (m.type() === 'error' && !/THREE\.Clock|GPU stall|status of 4/.test(m.text())) complaints.push(m.text());
  });
  page.on('pageerror', (e) => complaints.push(e.message));
}, 120_000);
afterAll(async () => {
  await app?.stop();
  if (folder) rmSync(folder, { recursive: true, force: true });
});

const clean = async (): Promise<void> => expect(await objections(page)).toEqual([]);
const button = (name: string | RegExp) => page.getByRole('button', { name });

describe('a course from nothing', () => {
  let student: { name: string; link: string };
  it('an empty installation says where its link is, and the link makes the first director', async () => {
    await page.goto('/');
    await page.getByText('Nobody has an account here yet').waitFor();
    await page.goto(app.first);
    await button('Begin').click();
    // What is missing stands under its field.
    await page.getByText('Give the school a name.').waitFor();
    await clean();
    await page.getByLabel('Name of the school').fill('Harbour Lane School of Dentistry');
    await page.getByLabel('Course').fill('Practice 2');
    await page.getByLabel(/^Term/).fill('autumn 2026');
    await page.getByLabel('Your name').fill('Maren Holt');
    await page.getByLabel('Your sign-in name').fill('maren');
    await page.getByLabel('Password').fill('lamp river forty');
    await button('Begin').click();
    await page.getByText('Setting up: Practice 2').waitFor();
    await clean();
    expect((await page.request.get(app.first)).status()).toBe(404);
  });
  it('a messy roster is seen line by line, taken in, taken back and taken in again', async () => {
    await page.getByRole('link', { name: /roster of your students/ }).click();
    await page.setInputFiles('input[type=file]', path.join(folder, 'roster.csv'));
    await page.getByText('3 new, 0 changed, 1 as it is, 1 left out').waitFor();
    await page.getByText('Jürgen Müller, jm').waitFor();
    await page.getByText('neither a number nor an e-mail').waitFor();
    await clean();
    await button('Take in 3 lines').click();
    await page.getByText('3 lines taken in.').first().waitFor();
    await page.getByRole('link', { name: 'Jürgen Müller' }).waitFor();
    await button('Take back').click();
    await page.getByText('Taken back.', { exact: true }).waitFor();
    expect(await page.getByRole('link', { name: 'Jürgen Müller' }).count()).toBe(0);
    await page.setInputFiles('input[type=file]', path.join(folder, 'roster.csv'));
    await button('Take in 3 lines').click();
    await page.getByRole('link', { name: 'Jürgen Müller' }).waitFor();
  });
  it('a link lets a student set a password', async () => {
    await button('New link, Ada Quill').click();
    const link = (await page.getByRole('link', { name: /\/welcome\// }).getAttribute('href')) as string;
    student = { name: 'aq', link };
    const own = await app.browser.newContext({ baseURL: app.base });
    const p = await own.newPage();
    await p.goto(link);
    await p.getByText('Welcome, Ada Quill').waitFor();
    await p.getByLabel('Password').fill('password123');
    await p.getByRole('button', { name: 'Set it' }).click();
    await p.getByText(/first that anybody would try/).waitFor();
    await p.getByLabel('Password').fill('three words in a row');
    await p.getByRole('button', { name: 'Set it' }).click();
    await p.waitForURL(/\/work$/);
    await p.getByText('Nothing has come back yet.').waitFor();
    await own.close();
  });
  it('a master, an exercise and a sitting', async () => {
    await page.goto('/masters');
    await page.setInputFiles('input[name=arch]', path.join(folder, 'arch.stl'));
    await page.setInputFiles('input[name=opposing]', path.join(folder, 'opposing.stl'));
    await page.fill('input[name=name]', 'Lower right first molar');
    await page.fill('input[name=tooth]', '46');
    await button('Bring an arch').click();
    await page.waitForURL(/\/masters\/./, { timeout: 60_000 });
    await page.waitForSelector('[data-drawn]', { timeout: 60_000 });
    const box = await page.locator('canvas').boundingBox();
    if (!box) throw new Error('no canvas');
    await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
    await page.waitForSelector('[aria-label=Checklist]', { timeout: 60_000 });
    await button('Finish this master').click();
    await page.getByText('Finished.').waitFor({ timeout: 60_000 });
    await page.goto('/courses');
    await button(/^Exercises and sittings/).click();
    await page.getByLabel(/^Title, for example “Metal/).fill('Metal crown on 46');
    await page.getByLabel(/^Master/).selectOption({ label: '46: Lower right first molar' });
    await page.getByLabel(/^Rubric/).selectOption('metal-crown-practice');
    await button('Add an exercise').click();
    await page.getByText('Done.').waitFor();
    await page.getByRole('combobox', { name: /^Exercise/ }).selectOption({ label: 'Metal crown on 46' });
    await page.getByLabel(/^Title, for example “Week/).fill('Week 1');
    await page.getByLabel('Day').fill('2026-10-19');
    await page.getByLabel('From').fill('13:00');
    await page.getByLabel('To', { exact: true }).fill('12:00');
    await button('Add a sitting').click();
    await page.getByText('It has to end after it begins.').waitFor();
    await page.getByLabel('To', { exact: true }).fill('16:00');
    await button('Add a sitting').click();
    await page.getByText('13:00 to 16:00').waitFor();
    await clean();
  }, 180_000);
  it('the first scan, graded, stands in the gradebook', async () => {
    await page.getByRole('link', { name: 'Tray' }).last().click();
    await page.waitForURL(/\/tray\/./);
    await page.setInputFiles('input[type=file]', [
      { name: 'S03_crown.stl', mimeType: 'model/stl', buffer: readFileSync(path.join(folder, 'scan.stl')) },
    ]);
    await button(/^(Send|Bring|Take)/)
      .first()
      .click();
    const open = page.getByRole('link', { name: /Grade|Look/ }).first();
    await open.waitFor({ timeout: 90_000 });
    await open.click();
    await page.waitForSelector('[data-total]', { timeout: 60_000 });
    await page.keyboard.press('z');
    for (let i = 0; i < 25 && !(await page.getByText('nothing in dispute').isVisible()); i++) {
      await page.keyboard.press('Enter');
      await page.waitForTimeout(200);
    }
    await page.keyboard.press('s');
    await page.waitForSelector('[data-signed="1"]', { timeout: 15_000 });
    await page.goto('/courses');
    await page.getByRole('link', { name: 'Gradebook' }).click();
    await page.getByRole('link', { name: 'Ada Quill' }).waitFor();
    await clean();
    const csv = await (await page.request.get(`${new URL(page.url()).pathname.replace('/courses', '/api/courses')}`)).text();
    const { data } = Papa.parse<string[]>(csv.replace('\ufeff', ''), { skipEmptyLines: true });
    const ada = data.find((r) => r[1] === 'Ada Quill') as string[];
    expect(Number(ada[4])).toBeGreaterThan(0);
    expect(ada[5]).toMatch(/passed/);
    await page.goto('/courses');
    await page.getByRole('link', { name: 'Cohort', exact: true }).click();
    await page.getByText('What a criterion tells can be said from eight attempts').waitFor();
    // A cell leads to the attempt that it rests on; what is chosen stands in the address.
    await page.getByLabel('Cells show').selectOption('mean');
    await page.waitForURL((url) => url.search === '?show=mean');
    await clean();
    await page.locator('td a[href^="/bench/"]').first().click();
    await page.waitForURL(/\/bench\//);
  }, 180_000);
  it('a change of its rubric shows what it would do, is kept as a version, and is printed', async () => {
    await page.goto('/courses');
    await button(/^Exercises and sittings/).click();
    await page.getByRole('link', { name: 'Metal crown: practice' }).click();
    await page.getByText('Changes are tried on the one attempt').waitFor();
    await clean();
    await page.getByLabel('Passed from').fill('100');
    await page.getByText(/of 1 mark moves/).waitFor();
    await button('Undo').click();
    await page.getByText('Changes are tried on').waitFor();
    await page.getByLabel('Passed from').fill('55');
    // Levels are worth what the course says, each less than the one above it.
    await page.getByLabel('Share of the points, Level 2').fill('100');
    await page.getByText('Level 2 has to be worth less').waitFor();
    expect(await button('Keep as version 2').isDisabled()).toBe(true);
    await page.getByLabel('Share of the points, Level 2').fill('75');
    // A critical error of the course's own finds nothing until it has a limit.
    await page.locator('summary', { hasText: 'Add a critical error' }).click();
    await page
      .getByLabel(/^What it is called/)
      .last()
      .fill('Margin nearly gone');
    await page.getByLabel('Add a critical error: reading').selectOption({ label: 'margin width' });
    await page.getByRole('group', { name: 'Add a critical error' }).getByRole('button', { name: 'Add', exact: true }).click();
    await page.getByText('Both ends are open').waitFor();
    await page.getByLabel('allowed from, Margin nearly gone').fill('0.15');
    await page.getByLabel('Effect, Margin nearly gone').selectOption('cap');
    await page.getByText(/Margin nearly gone.*new, at most 59 points/).waitFor();
    await clean();
    await button('Keep as version 2').click();
    await page.getByText('Version 2 is in use from now on.').waitFor();
    await page.getByRole('link', { name: 'The form students get, to print' }).click();
    await page.getByText('Passed from 55 of 100 points').waitFor();
    await clean();
  }, 60_000);
  it('how it is done: steps with their checks, cutters, who was not there, a standard of its own', async () => {
    await page.goto('/courses');
    await button('Cutters, phrases, drills').click();
    await page.getByLabel('Name').fill('Chamfer cutter 1.4');
    await page.getByLabel('Diameter at the tip, mm').fill('1.4');
    await page.getByLabel('Diameter at the shank, mm').fill('1.2');
    await page.getByLabel('Cutting length, mm').fill('8');
    await button('Keep').click();
    await page.getByText('no wider at its tip than at its shank').waitFor();
    await page.getByLabel('Diameter at the shank, mm').fill('2');
    await page.getByRole('img', { name: /1.4 at the tip, 2.0 at the shank/ }).waitFor();
    await button('Keep').click();
    await button('Change, Chamfer cutter 1.4').waitFor();
    await clean();
    await button(/^Exercises and sittings/).click();
    await button('Change, Metal crown on 46').click();
    await page.getByRole('checkbox', { name: 'after axial reduction' }).uncheck();
    await page.getByLabel('What is looked at, after occlusal reduction').fill('The gauge of 1.5 passes.');
    await page
      .getByRole('checkbox', { name: /instructor’s word/ })
      .first()
      .check();
    await page.getByRole('checkbox', { name: 'Chamfer cutter 1.4' }).check();
    await button('Keep').click();
    await page.getByText('2 steps').waitFor();
    await button('Who and where, Week 1').click();
    await page.getByLabel('Absent, Jürgen Müller').check();
    await page.getByLabel('Reason, Jürgen Müller').fill('ill');
    await page.getByRole('checkbox', { name: 'Maren Holt' }).check();
    await clean();
    await page.getByRole('dialog').getByRole('button', { name: 'Keep' }).click();
    await page.getByText('(Maren Holt, 1 absent)').waitFor();
    await page.getByRole('link', { name: 'Gradebook' }).click();
    await page.getByText('absent', { exact: true }).waitFor();
    await page.goto('/courses');
    await page.getByRole('link', { name: 'Standards' }).click();
    await clean();
    await page.getByRole('link', { name: 'Metal crown, examination' }).click();
    await page.getByRole('spinbutton').first().fill('0.9');
    await page.getByText('Add a reading to this line').first().click();
    await button('margin').first().click();
    await clean();
    await button('Keep as own version 1').click();
    await page.getByText('can be proposed again from it').waitFor();
    await page.getByText(/^Version 1, Maren Holt/).waitFor();
    await page.getByText('2 figures and words differ from what ships').waitFor();
    await page.getByRole('link', { name: 'Metal crown: practice' }).click();
    await button('Propose again from the standard').click();
    await button('Keep as version 3').waitFor();
  }, 90_000);
  it('everybody has teeth, figures and dates written their own way', async () => {
    await page.goto('/settings');
    await page.getByLabel('1 to 32, A to T').check();
    await page.getByText('Kept.').waitFor();
    await page.getByText('3, 9, 19, 28, A, K').waitFor();
    await clean();
    await page.goto('/courses#plan');
    await page.getByRole('cell', { name: '30', exact: true }).waitFor();
    await page.goto('/settings');
    await page.getByLabel('two digits (ISO 3950)').check();
    await page.getByText('Kept.').waitFor();
  }, 60_000);
  it('the palette leads anywhere', async () => {
    await page.keyboard.press('Control+k');
    await page.getByPlaceholder(/^Student, sitting/).fill('ada');
    await page.getByRole('option', { name: /Ada Quill, Metal crown/ }).waitFor();
    await page.getByRole('option', { name: /^Ada Quill S03/ }).click();
    await page.waitForURL(/\/trail\/S03/);
    expect(student.name).toBe('aq');
    expect(complaints).toEqual([]);
  }, 60_000);
});

describe('the next term', () => {
  let copied: string;
  it('is a copy: exercises, rubrics as they are now, the course’s own standard, sittings on new days; nobody’s work', async () => {
    await page.goto('/courses');
    await page.goto('/courses');
    await button('Term').click();
    await page.getByLabel(/^Term, for/).fill('spring 2027');
    await page.getByLabel('Begins on').fill('2027-03-01');
    await button('Copy for the next term').click();
    await page.getByText('Copied: 1 exercise, 1 sitting.').waitFor();
    await page.getByRole('link', { name: 'spring 2027' }).click();
    await page.waitForURL(/#plan/);
    await page
      .getByText(/Mon.* 1 Mar|1 Mar.*Mon|Mar 1/)
      .first()
      .waitFor();
    await page.waitForFunction(() => document.querySelector('astro-island[ssr]') === null);
    copied = new URL(page.url()).pathname;
    await button('Change, Metal crown on 46').click();
    expect(await page.getByRole('checkbox', { name: 'after axial reduction' }).isChecked()).toBe(false);
    await page.getByRole('link', { name: 'Metal crown: practice' }).click();
    await page.getByText('Margin nearly gone').first().waitFor();
    expect(await page.getByLabel('Passed from').inputValue()).toBe('55');
    await page.getByText('Nothing was signed with this rubric yet.').waitFor();
    await page.goto(`${copied}/standards`);
    await page.getByText('own version 1').first().waitFor();
  }, 60_000);
  it('begins with the next class’s roster, and a sitting that waits for it', async () => {
    const next = path.join(folder, 'next.csv');
    writeFileSync(next, 'Number,Name,Bench\nN01,Bo Marsh,1\nN02,"Ng, Ida",2\n');
    await page.goto(`${copied}#people`);
    await page.setInputFiles('input[type=file]', next);
    await page.getByText('2 new, 0 changed').waitFor();
    await button('Take in 2 lines').click();
    await page.getByRole('link', { name: 'Ida Ng' }).waitFor();
    // The class before is not in this term.
    expect(await page.getByRole('link', { name: 'Ada Quill' }).count()).toBe(0);
    await button(/^Exercises and sittings/).click();
    await page.locator('a[href^="/tray/"]').first().click();
    await button('Grade without a scan').click();
    await page.getByRole('combobox', { name: /^Whose preparation do you grade/ }).click();
    await page.getByRole('option', { name: /Bo Marsh/ }).waitFor();
    await page.keyboard.press('Escape');
    await clean();
    expect(complaints).toEqual([]);
  }, 60_000);
});
