import { readdirSync, readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { type RubricFile, rubricFrom } from '#contract/rubric.ts';
import { findEntry } from '#core/catalogue/catalogue.ts';
import { concerns, isGrave } from '#core/score/concerns.ts';
import { begin, differences, reduce } from '../../src/islands/rubric/state.ts';

const all = readdirSync('data/rubrics').map((n) => rubricFrom(JSON.parse(readFileSync(`data/rubrics/${n}`, 'utf8')), n));
const rubric = all.find((r) => r.id === 'metal-crown-practice') as RubricFile;
const first = rubric.criteria.find((c) => c.targets.length > 0) as RubricFile['criteria'][number];

it('a change is one step to take back, and told against what was kept', () => {
  const s = reduce(begin(rubric), { type: 'end', criterion: first.id, target: 0, band: 'band', end: 'hi', value: 9 });
  expect(differences(rubric, s.body)).toMatchObject([{ criterion: first.id, what: 'band', after: expect.stringMatching(/9$/) }]);
  // A band of one's own is no longer the standard's, and says so.
  expect(s.body.criteria.find((c) => c.id === first.id)?.targets[0].own).toBeTruthy();
  expect(reduce(s, { type: 'undo' }).body).toBe(rubric);
  const kept = reduce(s, { type: 'kept' });
  expect(differences(kept.saved, kept.body)).toEqual([]);
});

it('weights, pass mark and words are told too, lines that come and go by name', () => {
  let s = reduce(begin(rubric), { type: 'weight', criterion: first.id, weight: first.weight + 1 });
  s = reduce(s, { type: 'pass', mark: 61 });
  s = reduce(s, { type: 'word', level: 3, word: 'superb' });
  expect(differences(rubric, s.body).map((d) => d.what)).toEqual(['pass mark', 'word of level 3', 'weight']);
  const without = { ...rubric, criteria: rubric.criteria.slice(1) };
  expect(differences(rubric, without)).toMatchObject([{ after: 'gone' }]);
  expect(differences(without, rubric)).toMatchObject([{ after: 'new' }]);
});

it('a line of the course’s own has a name that no other has, asks for what the catalogue gives, and is told', () => {
  const place = { reading: 'margin.width', zone: 'facial', stat: 'median' } as const;
  let s = reduce(begin(rubric), { type: 'add-line', title: first.title, place });
  s = reduce(s, { type: 'add-line', title: first.title, place });
  s = reduce(s, { type: 'add-question', title: 'Surface', question: 'Does the explorer catch?' });
  const ids = s.body.criteria.map((c) => c.id);
  expect(new Set(ids).size).toBe(ids.length);
  expect(s.body.criteria.at(-1)?.asks?.words.map((w) => w.level)).toEqual([3, 2, 1, 0]);
  expect(() => rubricFrom(s.body, 'own')).not.toThrow();
  expect(differences(rubric, s.body).map((d) => d.after)).toEqual(['new', 'new', 'new']);
  const again = reduce(s, { type: 'add-target', criterion: first.id, place });
  expect(differences(rubric, again.body).some((d) => d.what === 'reading' && d.criterion === first.id)).toBe(true);
  expect(reduce(again, { type: 'remove-line', criterion: first.id }).body.criteria.map((c) => c.id)).not.toContain(first.id);
});

it('a critical error changes its effect or is switched off, and both are told', () => {
  const [error] = rubric.critical;
  const capped = reduce(begin(rubric), { type: 'effect', error: error.id, effect: { kind: 'cap', at: 55 } });
  expect(differences(rubric, capped.body)).toMatchObject([{ criterion: error.id, after: 'at most 55 points' }]);
  const off = reduce(capped, { type: 'effect', error: error.id, effect: null });
  expect(differences(rubric, off.body)).toMatchObject([{ criterion: error.id, after: 'gone' }]);
});

it('a critical error of the course’s own has a limit, an effect and a name of its own, and is told', () => {
  const place = { reading: 'margin.width', zone: null, stat: 'min' } as const;
  let s = reduce(begin(rubric), { type: 'add-error', title: rubric.critical[0].title, place });
  const own = s.body.critical.at(-1) as RubricFile['critical'][number];
  expect(rubric.critical.map((e) => e.id)).not.toContain(own.id);
  expect(concerns(s.body, new Map()).filter(isGrave)).toMatchObject([{ kind: 'limitless', criterion: own.id }]);
  s = reduce(s, { type: 'limit', error: own.id, end: 'lo', value: 0.15 });
  expect(concerns(s.body, new Map()).filter(isGrave)).toEqual([]);
  expect(() => rubricFrom(s.body, 'own')).not.toThrow();
  expect(differences(rubric, s.body)).toMatchObject([{ criterion: own.id, after: expect.stringContaining('0.15 to …') }]);
  const moved = reduce(begin(rubric), { type: 'limit', error: rubric.critical[0].id, end: 'hi', value: 7 });
  expect(differences(rubric, moved.body)).toMatchObject([{ what: 'limit', after: expect.stringMatching(/7$/) }]);
});

it('one that stands for several places is refused: it would never be looked up', () => {
  const place = { reading: 'reduction.occlusal', zone: 'functional cusps', stat: 'median' } as const;
  const s = reduce(begin(rubric), { type: 'add-error', title: 'Cusps', place });
  expect(() => rubricFrom(s.body, 'own')).toThrow(/stands for several places/);
});

it('shares of levels, what counts and what follows where nothing is read are changes like any', () => {
  const criterion = rubric.criteria.find((c) => c.targets.some((t) => findEntry(t.reading)?.hand.length)) as RubricFile['criteria'][number];
  const target = criterion.targets.findIndex((t) => findEntry(t.reading)?.hand.length);
  let s = reduce(begin(rubric), { type: 'share', level: 2, share: 0.75 });
  s = reduce(s, { type: 'evidence', criterion: criterion.id, target, evidence: 'hand' });
  s = reduce(s, { type: 'if-not-read', criterion: criterion.id, target, ifNotRead: 'fail' });
  expect(() => rubricFrom(s.body, 'own')).not.toThrow();
  expect(differences(rubric, s.body).map((d) => `${d.what}: ${d.after}`)).toEqual([
    'share of level 2: 75 %',
    'what counts: hand',
    'when not read: fail',
  ]);
  const back = reduce(s, { type: 'evidence', criterion: criterion.id, target, evidence: undefined });
  expect(back.body.criteria.find((c) => c.id === criterion.id)?.targets[target]).not.toHaveProperty('evidence');
});

it.each(all.map((r) => [r.id, r] as const))('%s, which ships, has bands that lie in one another', (_, r) =>
  expect(concerns(r, new Map()).filter(isGrave)).toEqual([]),
);
