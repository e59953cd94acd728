// Refreshes docs/screenshots from a running demo: node scripts/shots.mjs [address] [view …]. Look at each picture afterwards.
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium } from 'playwright-core';

const [base = 'http://127.0.0.1:4321', ...only] = process.argv.slice(2);
const out = process.env.SHOTS ?? 'docs/screenshots';
mkdirSync(out, { recursive: true });
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--enable-unsafe-swiftshader'],
});
const sessions = new Map();

async function page(name, size = { width: 1280, height: 800 }) {
  const key = `${name} ${size.width}`;
  if (!sessions.has(key)) {
    const context = await browser.newContext({ baseURL: base, viewport: size, reducedMotion: 'reduce' });
    const p = await context.newPage();
    if (name) {
      await p.goto('/sign-in');
      await p.fill('#name', name);
      await p.fill('#password', 'harbour-lane');
      await p.click('button.act');
      await p.waitForURL((u) => !u.pathname.startsWith('/sign-in'));
    }
    sessions.set(key, p);
  }
  return sessions.get(key);
}

const drawn = async (p) => {
  await p.waitForSelector('[data-drawn]', { state: 'attached', timeout: 60_000 });
  await p.waitForTimeout(900);
};

/** Opens the first attempt of a sitting that `pick` accepts (given the student's number). */
async function bench(p, sitting, student) {
  await p.goto(`/tray/${sitting}`);
  const row = p.locator('tr', { has: p.locator(`text=${student}`) }).first();
  await row.locator('a', { hasText: /Grade|Open|Look/ }).click();
  await drawn(p);
}

/** A bare arch of the command line's making, as a school would bring its own. */
function bareArch() {
  const folder = mkdtempSync(path.join(tmpdir(), 'veritor-arch-'));
  writeFileSync(
    path.join(folder, 'recipe.json'),
    JSON.stringify({ format: 'veritor-recipe/1', tooth: '36', seed: 77, preparation: { kind: 'crown' } }),
  );
  execFileSync(process.execPath, ['bin/veritor.mjs', 'simulate', '--recipe', path.join(folder, 'recipe.json'), '--out', folder]);
  return path.join(folder, 'master');
}

const views = {
  master: async () => {
    const p = await page('maren');
    const folder = bareArch();
    await p.goto('/masters');
    await p.setInputFiles('input[name=arch]', path.join(folder, 'arch.ply'));
    await p.setInputFiles('input[name=opposing]', path.join(folder, 'opposing.ply'));
    await p.fill('input[name=name]', 'Lower left first molar, series C');
    await p.fill('input[name=tooth]', '36');
    await p.getByRole('button', { name: 'Bring an arch' }).click();
    await p.waitForURL(/masters\/./, { timeout: 120_000 });
    await drawn(p);
    const box = await p.locator('canvas').boundingBox();
    await p.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
    await p.waitForSelector('[aria-label=Checklist]', { timeout: 120_000 });
    await p.getByRole('button', { name: /Gingival margin/ }).click();
    await p.getByRole('button', { name: 'facial', exact: true }).click();
    await p.waitForTimeout(1500);
    return p;
  },
  'master-bite': async () => {
    const p = await views.master();
    await p.getByRole('button', { name: 'Bite', exact: true }).click();
    await p.waitForSelector('text=/They touch at/', { timeout: 120_000 });
    await p.waitForSelector('text=/Here the jaws/', { timeout: 60_000 });
    await p.waitForTimeout(800);
    return p;
  },
  'master-proof': async () => {
    const p = await views.master();
    await p.getByRole('button', { name: 'Proof', exact: true }).click();
    await p.getByRole('button', { name: 'Try a crown in it' }).click();
    await p.waitForSelector('text=/say what was cut/', { timeout: 120_000 });
    await p.getByRole('button', { name: 'Section', exact: true }).click();
    const box = await p.locator('canvas').boundingBox();
    await p.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
    await p.waitForTimeout(1500);
    return p;
  },
  today: async () => {
    const p = await page('maren');
    await p.goto('/');
    await p.waitForTimeout(600);
    return p;
  },
  course: async () => {
    const p = await page('maren');
    await p.goto('/courses');
    await p.waitForSelector('text=Take in a roster');
    const lines = [
      'Student number;Name;E-Mail',
      'H07;"Pohl, Greta";greta@harbour.test',
      'H37;Zoë Lund;zl@harbour.test',
      'H37;Zoë Lunde;',
      ';Nameless;',
    ];
    await p.setInputFiles('input[type=file]', { name: 'registry.csv', mimeType: 'text/csv', buffer: Buffer.from(lines.join('\r\n')) });
    await p.waitForSelector('text=/left out/');
    await p.waitForTimeout(500);
    return p;
  },
  'course-plan': async () => {
    const p = await page('maren');
    await p.goto('/courses');
    await p.getByRole('button', { name: /Exercises and sittings/ }).click();
    await p.waitForTimeout(500);
    return p;
  },
  kit: async () => {
    const p = await page('maren');
    await p.goto('/courses');
    await p.getByRole('button', { name: 'Cutters, phrases, drills' }).click();
    await p.getByRole('button', { name: 'Change, Round-ended taper 1.2', exact: true }).click();
    await p.waitForTimeout(400);
    return p;
  },
  drills: async () => {
    const p = await page('maren');
    await p.goto('/courses');
    await p.getByRole('button', { name: 'Cutters, phrases, drills' }).click();
    await p.getByRole('button', { name: /^Drills/ }).click();
    await p.waitForTimeout(400);
    return p;
  },
  exercise: async () => {
    const p = await page('maren');
    await p.goto('/courses');
    await p.getByRole('button', { name: /Exercises and sittings/ }).click();
    await p
      .getByRole('button', { name: /^Change, Zirconia/ })
      .first()
      .click();
    await p.waitForTimeout(600);
    return p;
  },
  'sitting-who': async () => {
    const p = await page('maren');
    await p.goto('/courses');
    await p.getByRole('button', { name: /Exercises and sittings/ }).click();
    await p
      .getByRole('button', { name: /^Who and where/ })
      .last()
      .click();
    await p.waitForSelector('text=Bench that day');
    await p.getByLabel('Absent, Cleo Marsh').check();
    await p.waitForTimeout(300);
    return p;
  },
  settings: async () => {
    const p = await page('maren');
    await p.goto('/settings');
    await p.waitForTimeout(500);
    return p;
  },
  standard: async () => {
    const p = await page('maren');
    await p.goto('/courses');
    await p.getByRole('link', { name: 'Standards' }).click();
    await p
      .getByRole('link', { name: /Lithium/ })
      .first()
      .click();
    await p.waitForTimeout(600);
    const first = p.getByRole('spinbutton').first();
    await first.fill('1.2');
    await p.getByText('Add a reading to this line').first().click();
    await p.waitForTimeout(300);
    return p;
  },
  rubric: async () => {
    const p = await page('maren');
    await p.goto('/courses');
    await p.getByRole('button', { name: /Exercises and sittings/ }).click();
    await p.locator('a[href*="/rubrics/zirconia-posterior-practice"]').first().click();
    await p.waitForSelector('text=What a change would do');
    const first = p.getByRole('spinbutton', { name: /full marks, from$/ }).first();
    await first.fill(String(Number(await first.inputValue()) + 0.2));
    await p.waitForSelector('text=/marks move/', { timeout: 20_000 });
    await p.waitForTimeout(400);
    return p;
  },
  cohort: async () => {
    const p = await page('maren');
    await p.goto('/courses');
    await p.getByRole('link', { name: 'Cohort', exact: true }).click();
    await p.waitForSelector('text=Who needs a word');
    await p.waitForTimeout(500);
    return p;
  },
  gradebook: async () => {
    const p = await page('maren');
    await p.goto('/courses');
    await p.getByRole('link', { name: 'Gradebook' }).click();
    await p.waitForTimeout(800);
    return p;
  },
  palette: async () => {
    const p = await page('ines');
    await p.goto('/');
    await p.waitForTimeout(1500);
    await p.keyboard.press('Control+k');
    await p.getByRole('combobox').fill('greta');
    await p.waitForTimeout(800);
    return p;
  },
  'sign-in': async () => {
    const p = await page('');
    await p.goto('/sign-in');
    return p;
  },
  tray: async () => {
    const p = await page('ines');
    await p.goto('/tray/crown-16-w6');
    await p.waitForTimeout(800);
    for (const student of ['Bram Oster', 'Cleo Marsh']) await p.getByLabel(`Choose ${student}`).check();
    return p;
  },
  'tray-past': async () => {
    const p = await page('ines');
    await p.goto('/tray/metal-46-w3');
    await p.waitForTimeout(800);
    return p;
  },
  'bench-words': async () => {
    const p = await page('ines');
    await bench(p, 'amalgam-37-w4', 'H01');
    await p.locator('[data-line-head]').nth(2).click();
    await p.waitForTimeout(600);
    return p;
  },
  'tray-bring': async () => {
    const p = await page('piet');
    await p.goto('/tray/crown-16-w6');
    await p.waitForTimeout(800);
    const names = ['H10_crown.stl', 'B1-11_crown.stl', 'Leo-Sandoval_16.ply', 'H06_again.stl', 'H13_axial.stl', 'scan0007.stl'];
    await p.setInputFiles(
      'input[type=file]',
      names.map((name) => ({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(name) })),
    );
    await p.getByText('files name their student').waitFor();
    return p;
  },
  'bench-on-the-way': async () => {
    const p = await page('ines');
    await bench(p, 'crown-16-w6', 'H09');
    return p;
  },
  'bench-crown': async () => {
    const p = await page('ines');
    await bench(p, 'crown-16-w6', 'H02');
    await p.getByLabel('Reading round the tooth').selectOption({ label: 'Margin width' });
    await p.waitForTimeout(300);
    return p;
  },
  'bench-gauge': async () => {
    const p = await page('ines');
    await bench(p, 'crown-16-w6', 'H05');
    await p.keyboard.press('f');
    await p.keyboard.press('u');
    await p.waitForTimeout(900);
    const box = await p.locator('[data-scene] canvas').boundingBox();
    await p.mouse.click(box.x + 0.5 * box.width, box.y + 0.43 * box.height);
    await p.getByText(/here: gap/).waitFor();
    await p.waitForTimeout(600);
    return p;
  },
  'bench-class2': async () => {
    const p = await page('ines');
    await bench(p, 'class2-24-w6', 'H02');
    return p;
  },
  'bench-cut': async () => {
    const p = await page('ines');
    await bench(p, 'class2-24-w6', 'H04');
    await p.keyboard.press('o');
    await p.keyboard.press('i');
    await p.waitForTimeout(900);
    const box = await p.locator('[data-scene] canvas').boundingBox();
    await p.mouse.click(box.x + 0.5 * box.width, box.y + 0.52 * box.height);
    await p.locator('[data-probe="depth"]').waitFor();
    await p.waitForTimeout(600);
    return p;
  },
  'bench-parts': async () => {
    const p = await page('ines');
    await bench(p, 'class2-24-w6', 'H04');
    await p.keyboard.press('p');
    await p.waitForTimeout(900);
    return p;
  },
  'bench-anterior': async () => {
    const p = await page('ines');
    await bench(p, 'crown-22-w4', 'H01');
    await p.keyboard.press('f');
    await p.waitForTimeout(900);
    return p;
  },
  'bench-onlay': async () => {
    const p = await page('ines');
    await bench(p, 'onlay-46-w6', 'H01');
    await p.keyboard.press('p');
    await p.waitForTimeout(900);
    return p;
  },
  'bench-three-quarter': async () => {
    const p = await page('ines');
    await bench(p, 'three-quarter-26-w6', 'H06');
    await p.getByText('Facial cusps protected').first().click();
    await p.getByRole('button', { name: 'View', exact: true }).click();
    await p.getByRole('menuitem', { name: 'lingual', exact: true }).click();
    await p.waitForTimeout(900);
    return p;
  },
  'bench-what-next': async () => {
    const p = await page('ines');
    await bench(p, 'onlay-46-w6', 'H01');
    await p.keyboard.press('k');
    await p.waitForTimeout(900);
    return p;
  },
  'bench-by-hand': async () => {
    const p = await page('ines');
    await p.goto('/tray/crown-16-w6');
    await p.click('text=Grade without a scan');
    await p.getByLabel(/by probe, gauge and eye/).click();
    await p.getByPlaceholder('Name or number').fill('H12');
    await p.keyboard.press('Enter');
    await p.getByRole('button', { name: 'Open', exact: true }).click();
    await p.waitForURL(/bench/);
    await p.waitForSelector('[data-criterion]');
    await drawn(p);
    await p.keyboard.press('h');
    await p.selectOption('form select', 'gauge');
    await p.fill('form label:has-text("passes, mm") >> nth=0 >> input', '1');
    await p.fill('form label:has-text("does not pass") input', '1.5');
    return p;
  },
  work: async () => {
    const p = await page('h05', { width: 390, height: 844 });
    await p.goto('/work');
    await p
      .locator('a', { hasText: 'Zirconia crown on 16' })
      .filter({ hasText: /Passed|Not passed/ })
      .first()
      .click();
    await drawn(p);
    await p.locator('[data-finding]').first().click();
    await p.waitForTimeout(900);
    return p;
  },
  'work-judge': async () => {
    const p = await page('h05', { width: 390, height: 844 });
    await p.goto('/work');
    await p.locator('a', { hasText: 'judge it yourself first' }).first().click();
    await p.waitForSelector('text=Judge your own work first');
    await p.waitForTimeout(500);
    return p;
  },
  beside: async () => {
    const p = await page('ines');
    await p.goto('/trail/H05');
    await p.locator('a', { hasText: 'beside another one' }).last().click();
    await p.waitForSelector('text=/Over what both scans show/', { timeout: 90_000 });
    await p.waitForTimeout(1500);
    return p;
  },
  plan: async () => {
    const p = await page('ines', { width: 1280, height: 1000 });
    await p.goto('/plan/lithium-36');
    await p.waitForSelector('text=Guide sections');
    await p.waitForTimeout(600);
    return p;
  },
  'dry-run': async () => {
    const p = await page('ines', { width: 1280, height: 1000 });
    await p.goto('/plan/lithium-36');
    const dry = p.locator('section[data-dry]');
    await dry.getByRole('button', { name: 'Final check' }).click();
    await p.waitForSelector('[data-dry="final"]', { timeout: 60_000 });
    await dry.getByRole('button', { name: 'Keep this way to compare' }).click();
    await dry.getByLabel(/^Tilt added/).fill('6');
    await dry.getByRole('button', { name: 'Cut', exact: true }).click();
    await p.waitForSelector('text=/This way: tilt/', { timeout: 60_000 });
    await drawn(p);
    await dry.evaluate((e) => e.scrollIntoView());
    await p.waitForTimeout(900);
    return p;
  },
  'at-bench': async () => {
    const p = await page('h03', { width: 390, height: 844 });
    await p.goto('/work');
    await p.locator('a', { hasText: 'At the bench' }).first().click();
    await p.waitForSelector('[data-at-step]');
    await p.waitForTimeout(700);
    return p;
  },
  trail: async () => {
    const p = await page('ines');
    await p.goto('/trail/H07');
    await p.waitForTimeout(800);
    return p;
  },
};

for (const [name, open] of Object.entries(views)) {
  if (only.length && !only.includes(name)) continue;
  try {
    const p = await open();
    await p.screenshot({ path: `${out}/${name}.png` });
    console.log(`${out}/${name}.png`);
  } catch (e) {
    console.error(`${name}: ${e.message}`);
    process.exitCode = 1;
  }
}
await browser.close();
