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

it.each(all.map((r) => [r.id, r] as const))('%s, which ships, has bands that lie in one another', (_, r) =>
  expect(concerns(r, new Map()).filter(isGrave)).toEqual([]),
);
