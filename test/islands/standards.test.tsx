import { readdirSync, readFileSync } from 'node:fs';
import { renderToStaticMarkup } from 'react-dom/server';
import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import { RubricFile } from '#contract/rubric.ts';
import type { RubricView } from '#contract/rubric-view.ts';
import { StandardFile } from '#contract/standard.ts';
import type { StandardView } from '#contract/standard-view.ts';
import { type Column, skillsOf } from '#server/progress/history.ts';
import { readingWords } from '#words/readings.ts';
import { RUBRIC_WORDS } from '#words/rubric.ts';
import { STANDARD_WORDS } from '#words/standard.ts';
import { Rubric } from '../../src/islands/rubric/Rubric.tsx';
import { Standard } from '../../src/islands/standard/Standard.tsx';
import { wordsOf } from '../helpers/markup.ts';

const standards = readdirSync('data/standards').map((f) => v.parse(StandardFile, JSON.parse(readFileSync(`data/standards/${f}`, 'utf8'))));
const rubrics = readdirSync('data/rubrics').map((f) => v.parse(RubricFile, JSON.parse(readFileSync(`data/rubrics/${f}`, 'utf8'))));
const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('"', '&quot;').replaceAll("'", '&#x27;').replaceAll('<', '&lt;');

describe('a standard’s page', () => {
  const first = standards.find((s) => s.critical.length > 0) as StandardFile;
  const page = (change: Partial<StandardView> = {}, mayKeep = true): string =>
    renderToStaticMarkup(
      <Standard course="c1" mayKeep={mayKeep} first={{ body: first, shipped: first, version: 0, versions: [], rubrics: [], ...change }} />,
    );
  it.each(standards.map((s) => [s.id, s] as const))('of %s shows each line with its reason and each figure in words', (_, body) => {
    const html = page({ body, shipped: body });
    for (const l of body.lines) {
      expect(html).toContain(`value="${escaped(l.title)}"`);
      expect(html).toContain(`value="${escaped(l.why)}"`);
      for (const f of l.fields) expect(html).toContain(escaped(readingWords(f.reading, f.zone, f.stat)));
      if (l.asks) expect(html).toContain(escaped(l.asks.question));
    }
    for (const c of body.critical) expect(html).toContain(escaped(c.title));
  });
  it('unchanged it is not kept again, and says that nothing changed', () => {
    expect(wordsOf(page())).toContain(STANDARD_WORDS.none);
    expect(page()).toMatch(new RegExp(`<button[^>]*disabled=""[^>]*>${STANDARD_WORDS.keep(1)}<`));
  });
  it('who may not keep it reads it: nothing can be removed, added or made of it', () => {
    const html = page({}, false);
    for (const word of [
      STANDARD_WORDS.remove,
      STANDARD_WORDS.addLine,
      STANDARD_WORDS.keep(1),
      STANDARD_WORDS.undo,
      STANDARD_WORDS.newRubric,
    ])
      expect(wordsOf(html), word).not.toContain(word);
    const fields = [...html.matchAll(/<(?:input|select)[^>]*>/g)].map((m) => m[0]).filter((t) => !t.includes('type="file"'));
    for (const t of fields) expect(t).toContain('disabled=""');
  });
  it('the course’s own version can go back to what ships, and says how it differs', () => {
    const own = { ...first, lines: first.lines.map((l, i) => (i === 0 ? { ...l, title: 'Another title' } : l)) };
    const made = { version: 1, by: 'Maren Holt', made_at: '2026-10-05' };
    const html = wordsOf(page({ body: own, version: 1, versions: [made] }));
    expect(html).toContain(STANDARD_WORDS.asShipped);
    expect(html).toContain(STANDARD_WORDS.against(1));
    expect(html).toContain('Another title');
    expect(html).toContain('Maren Holt');
    expect(wordsOf(page())).not.toContain(STANDARD_WORDS.asShipped);
  });
  it('a critical error without a limit is named, and keeps the standard from being kept', () => {
    const [critical] = first.critical;
    const open = { ...first, critical: [{ ...critical, allowed: { lo: null, hi: null } }] };
    expect(wordsOf(page({ body: open }))).toContain(critical.title);
    expect(wordsOf(page({ body: open }))).toContain(STANDARD_WORDS.limitless([critical.title]));
    expect(wordsOf(page())).not.toContain('Both ends are open');
  });
  it('names the rubrics that rest on it, with how many exercises use them', () => {
    const html = page({ rubrics: [{ id: 'r1', name: 'Practice', exercises: 2 }] });
    expect(html).toContain('href="/courses/c1/rubrics/r1"');
    expect(wordsOf(html)).toContain(STANDARD_WORDS.uses(2));
    expect(wordsOf(page())).toContain(STANDARD_WORDS.noRubric);
  });
});

describe('a rubric’s page', () => {
  const view = (body: RubricFile, change: Partial<RubricView> = {}): RubricView => ({
    id: body.id,
    kind: 'crown',
    body,
    version: 3,
    versions: [{ version: 3, signed: 12 }],
    exercises: [{ id: 'e', title: 'Crown on 16', version: 3 }],
    past: [],
    attempts: 0,
    ...change,
  });
  const page = (body: RubricFile, change: Partial<RubricView> = {}, mayKeep = true): string =>
    renderToStaticMarkup(<Rubric course="c1" first={view(body, change)} mayKeep={mayKeep} />);
  it.each(rubrics.map((r) => [r.id, r] as const))('of %s shows each criterion with its share of the points', (_, body) => {
    const html = page(body);
    const sum = body.criteria.reduce((n, c) => n + c.weight, 0);
    for (const c of body.criteria) {
      expect(html).toContain(escaped(c.title));
      expect(wordsOf(html)).toContain(RUBRIC_WORDS.share(c.weight, sum));
    }
    for (const e of body.critical) expect(html).toContain(escaped(e.title));
    expect(html).toContain(`value="${body.passMark}"`);
    expect(wordsOf(html)).toContain(RUBRIC_WORDS.version(3, 12));
  });
  it('unchanged it is not kept; who may not keep it has no button for it', () => {
    expect(page(rubrics[0])).toMatch(new RegExp(`<button[^>]*disabled=""[^>]*>${RUBRIC_WORDS.keep(4)}<`));
    const read = wordsOf(page(rubrics[0], {}, false));
    for (const word of [RUBRIC_WORDS.keep(4), RUBRIC_WORDS.undo, RUBRIC_WORDS.addLine, RUBRIC_WORDS.again, RUBRIC_WORDS.in])
      expect(read).not.toContain(word);
    expect(read).toContain(RUBRIC_WORDS.out);
  });
  it('says on how many attempts its preview rests', () => {
    expect(wordsOf(page(rubrics[0], { attempts: 36 }))).toContain(RUBRIC_WORDS.basis(36));
    expect(RUBRIC_WORDS.basis(36)).not.toBe(RUBRIC_WORDS.basis(0));
  });
});

describe('skills of a cohort, from the columns of an exercise', () => {
  const row = (attempt: number, student: string, level: number | null) => ({ attempt, student, value: null, points: null, of: 10, level });
  const column = (line: string, reading: string | null, rows: Column['rows']): Column => ({
    line,
    title: `Line ${line}`,
    unit: 'mm',
    lo: null,
    hi: null,
    reading,
    rows,
  });
  it('lines of one reading are one skill; a line without one is known by its title', () => {
    const skills = skillsOf([
      column('a', 'margin.width', [row(1, 'H01', 3), row(2, 'H02', 1)]),
      column('b', 'margin.width', [row(1, 'H01', 2)]),
      column('c', null, [row(1, 'H01', 0)]),
    ]);
    expect(skills.map((s) => [s.student, s.skill, s.levels])).toEqual([
      ['H01', 'margin.width', [3, 2]],
      ['H02', 'margin.width', [1]],
      ['H01', 'Line c', [0]],
    ]);
  });
  it('keeps the order of time and the newest attempt; what was not decided is no level', () => {
    const [skill] = skillsOf([column('a', 'toc', [row(3, 'H01', 1), row(7, 'H01', null), row(9, 'H01', 3)])]);
    expect(skill).toMatchObject({ levels: [1, 3], attempt: 9 });
    expect(skillsOf([column('a', 'toc', [row(3, 'H01', null)])])).toEqual([]);
  });
});
