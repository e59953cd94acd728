import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { gunzipSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { type RubricFile, rubricFrom } from '#contract/rubric.ts';
import { scoreOf } from '#core/sign/basis.ts';
import { solidKernel } from '../../src/files/solid-kernel.ts';
import { AIMS, type Aim } from '../../src/seed/aims.ts';
import { type CleanReadings, measuredClean } from '../../src/seed/clean.ts';

/** What was read on the clean preparation of every rubric: npm run study:clean. */
const CLEAN: Record<string, CleanReadings> = JSON.parse(gunzipSync(readFileSync('test/fixtures/clean.json.gz')).toString());
const rubricOf = (id: string): RubricFile => rubricFrom(JSON.parse(readFileSync(`data/rubrics/${id}.json`, 'utf8')), id);
const RUBRICS = readdirSync('data/rubrics').map((f) => path.basename(f, '.json'));

/** Scores with the best word given to every question. */
function scored(rubric: RubricFile, clean: CleanReadings) {
  const judgements = Object.fromEntries(rubric.criteria.flatMap((c) => (c.asks ? [[c.id, { level: 3 as const }]] : [])));
  return scoreOf({ ...clean, rubric, hand: [], judgements });
}

// A band narrower than U cannot be reached: even perfect work stays “too close to call”.
describe('a clean preparation is inside on every line, and nothing is left for the eye but what the rubric leaves to it', () => {
  it.each(Object.keys(AIMS))('%s', (id) => {
    const s = scored(rubricOf(id), CLEAN[id]);
    const short = s.criteria.flatMap((c) =>
      c.targets.flatMap((t) =>
        t.verdict === 'inside' || t.verdict === 'skipped'
          ? []
          : [`${t.target.reading} ${t.target.zone} ${t.verdict}: ${t.reading?.value} ± ${t.reading?.U} (${t.reading?.reason})`],
      ),
    );
    expect([short, s.undecided, s.total, s.passed]).toEqual([[], [], 100, true]);
  });
  it('every rubric is tried, but for those that ask only a person', () => {
    const asked = RUBRICS.filter((id) => rubricOf(id).criteria.some((c) => c.targets.length > 0) && !(id in AIMS));
    expect(asked).toEqual(['preformed-steel-practice', 'preformed-zirconia-practice']);
  });
});

// The readings above are the core's own of the day they were written; these are cut, scanned and read again.
describe('the readings kept for it are what the core reads', () => {
  it.each(['zirconia-posterior-practice', 'class2-amalgam-minimal'])('%s', async (id) => {
    const again = measuredClean((AIMS as Record<string, Aim>)[id], await solidKernel());
    const key = (r: { name: string; zone: string | null; stat: string }): string => `${r.name} ${r.zone} ${r.stat}`;
    const before = new Map(CLEAN[id].readings.map((r) => [key(r), r]));
    expect(again.readings.map(key)).toEqual(CLEAN[id].readings.map(key));
    const moved = again.readings.filter((r) => {
      const b = before.get(key(r));
      if (r.value === null || !b || b.value === null) return r.value !== b?.value;
      return Math.abs(r.value - b.value) > 0.5 * Math.max(r.U, b.U) + 1e-9;
    });
    expect(moved.map(key)).toEqual([]);
  });
});
