import { readdirSync, readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { type RubricFile, rubricFrom } from '#contract/rubric.ts';
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
  expect(differences(rubric, capped.body)).toMatchObject([{ criterion: error.id, after: 'at most 55' }]);
  const off = reduce(capped, { type: 'effect', error: error.id, effect: null });
  expect(differences(rubric, off.body)).toMatchObject([{ criterion: error.id, after: 'gone' }]);
});

it.each(all.map((r) => [r.id, r] as const))('%s, which ships, has bands that lie in one another', (_, r) =>
  expect(concerns(r, new Map()).filter(isGrave)).toEqual([]),
);
