import { describe, expect, it } from 'vitest';
import { RUBRIC } from '../../../test/helpers/small-rubric.ts';
import type { Reading } from '../result/reading.ts';
import { score } from '../score/score.ts';
import { differences, type GradedError, type GradedResult, resultOf } from './result.ts';

const line = (id: string, change: Partial<GradedResult['criteria'][number]> = {}): GradedResult['criteria'][number] => ({
  id,
  title: `Line ${id}`,
  verdict: 'inside',
  computed: 3,
  level: 3,
  decidedBy: 'measurement',
  points: 10,
  of: 10,
  reading: 'margin.width',
  stat: 'median',
  zone: 'facial',
  value: 0.6,
  U: 0.04,
  unit: 'mm',
  lo: 0.4,
  hi: 0.8,
  ...change,
});
const error = (id: string, change: Partial<GradedError> = {}): GradedError => ({
  id,
  title: `Error ${id}`,
  verdict: 'inside',
  made: false,
  waived: false,
  decidedBy: 'measurement',
  value: 0,
  U: 0.03,
  unit: 'mm',
  ...change,
});
const result = (change: Partial<GradedResult> = {}): GradedResult => ({
  total: 84,
  passed: true,
  failures: [],
  lines: [],
  criteria: [line('a'), line('b')],
  critical: [error('n')],
  ...change,
});

describe('what differs between two results', () => {
  it('nothing, where they are the same', () => expect(differences(result(), result())).toEqual([]));
  it('the total, and whether it passes', () => {
    expect(differences(result(), result({ total: 58, passed: false }))).toEqual(['the total is 58 and was 84', 'it does not pass now']);
    expect(differences(result({ passed: false }), result())).toEqual(['it passes now']);
  });
  it('what is open is said to be open, and not to have failed', () => {
    const [total, passed] = differences(result(), result({ total: null, passed: null }));
    expect(total).toBe('the total is open and was 84');
    expect(passed).toBe('whether it passes is open now');
  });
  it('a criterion of another level, value or uncertainty, with what it was', () => {
    const other = (change: Parameters<typeof line>[1]) => differences(result(), result({ criteria: [line('a'), line('b', change)] }));
    expect(other({ level: 1, verdict: 'outside', value: 0.2 })).toEqual(['Line b: 0.2, level 1 (was 0.6, level 3)']);
    expect(other({ U: 0.4 })).toHaveLength(1);
    expect(other({ value: null, level: null })).toEqual(['Line b: no value, level open (was 0.6, level 3)']);
    // How many points it has follows from the rest, and who reads it elsewhere is no other result.
    expect(other({ title: 'Another title' })).toEqual([]);
  });
  it('lines and errors that came or went', () => {
    expect(differences(result(), result({ criteria: [line('a'), line('b'), line('c')] }))).toEqual(['Line c is new']);
    expect(differences(result(), result({ criteria: [line('a')] }))).toEqual(['Line b is gone']);
    expect(differences(result(), result({ critical: [error('n'), error('m')] }))).toEqual(['Error m: not made']);
    expect(differences(result(), result({ critical: [] }))).toEqual(['Error n is gone']);
  });
  it('a critical error that is made, or no longer decided', () => {
    expect(differences(result(), result({ critical: [error('n', { made: true, verdict: 'outside' })] }))).toEqual([
      'Error n: made (was not made)',
    ]);
    expect(differences(result(), result({ critical: [error('n', { made: null, verdict: 'none' })] }))).toEqual([
      'Error n: undecided (was not made)',
    ]);
  });
});

describe('a score as its record keeps it', () => {
  const [width] = RUBRIC.criteria;
  const rubric = { ...RUBRIC, criteria: [{ ...width, targets: ['facial', 'lingual'].map((zone) => ({ ...width.targets[0], zone })) }] };
  const read = (name: string, zone: string | null, stat: string, value: number): Reading =>
    ({ name, zone, stat, value, U: 0.02, unit: 'mm', reason: null, at: null, coverage: 1, samples: 9, byHand: null }) as unknown as Reading;
  const kept = resultOf(
    score(rubric, {
      readings: [
        read('margin.width', 'facial', 'median', 0.6),
        read('margin.width', 'lingual', 'median', 0.34),
        read('neighbour.mesial', null, 'max', 0.5),
      ],
      curves: {},
    } as never),
  );
  it('names the reading that decided a criterion: its worst place, with its band', () => {
    expect(kept.criteria).toMatchObject([
      { id: 'width', level: 2, zone: 'lingual', value: 0.34, U: 0.02, lo: 0.4, hi: 0.8, of: 100, points: 80 },
    ]);
  });
  it('and what made a critical error', () => {
    expect(kept.critical).toMatchObject([{ id: 'neighbour', made: true, waived: false, value: 0.5, verdict: 'outside' }]);
    expect(kept.passed).toBe(false);
    expect(kept.failures.join()).toContain(RUBRIC.critical[0].title);
  });
  it('is the same again after it went through a file', () => expect(differences(kept, JSON.parse(JSON.stringify(kept)))).toEqual([]));
});
