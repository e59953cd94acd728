import { describe, expect, it } from 'vitest';
import { countByState, isOf, listed, listFrom, neighboursIn, queryOf, sorted, WHOLE_LIST } from '#contract/tray-list.ts';
import { toRelease } from '../../src/islands/tray/Release.tsx';
import { reduceTray, timeLeft, trayOpened } from '../../src/islands/tray/state.ts';

const row = (attempt_id: number, student_name: string, word: string, total: number | null, change: object = {}) => ({
  attempt_id,
  student_name,
  file_name: `${student_name}.stl`,
  bench: null,
  word,
  total,
  grade_total: word === 'signed' || word === 'released' ? total : null,
  grade_passed: null,
  released: word === 'released',
  changed: false,
  grader_id: null as string | null,
  state: 'measured',
  step: 'final' as const,
  ...change,
});
const rows = [
  row(1, 'B', 'signed', 70),
  row(2, 'A', 'eye', 90),
  row(3, 'C', 'failed', null, { state: 'failed' }),
  row(4, 'D', 'ready', 80),
];

describe('the list of a tray', () => {
  it('counts states in the order of urgency', () =>
    expect(countByState(rows)).toEqual([
      ['failed', 1],
      ['eye', 1],
      ['ready', 1],
      ['signed', 1],
    ]));
  it('sorts by name, state or score', () => {
    expect(sorted(rows, 'student').map((r) => r.student_name)).toEqual(['A', 'B', 'C', 'D']);
    expect(sorted(rows, 'state').map((r) => r.word)).toEqual(['failed', 'eye', 'ready', 'signed']);
    expect(sorted(rows, 'score').map((r) => r.total)).toEqual([70, 80, 90, null]);
  });
  it('is everyone’s, one grader’s, or nobody’s', () => {
    expect(isOf({ grader_id: 'I1' }, 'everyone')).toBe(true);
    expect([isOf({ grader_id: 'I1' }, 'I1'), isOf({ grader_id: 'I1' }, 'I2'), isOf({ grader_id: null }, 'I1')]).toEqual([
      true,
      false,
      false,
    ]);
    expect([isOf({ grader_id: null }, 'nobody'), isOf({ grader_id: 'I1' }, 'nobody')]).toEqual([true, false]);
  });
  it('goes into the address and comes back from it', () => {
    const list = { filter: 'eye', whose: 'I1', sort: 'score' } as const;
    expect(listFrom(new URLSearchParams(queryOf(list)))).toEqual(list);
    expect(queryOf(WHOLE_LIST)).toBe('');
    expect(listFrom(new URLSearchParams('?sort=nonsense'))).toEqual(WHOLE_LIST);
  });
  it('shows what belongs to it', () => expect(listed(rows, { ...WHOLE_LIST, filter: 'eye' }).map((r) => r.student_name)).toEqual(['A']));
});

describe('the neighbours of an attempt in its list', () => {
  it('stand in the list’s order, and the next unsigned one is found round and round', () => {
    expect(neighboursIn(rows, WHOLE_LIST, 1)).toEqual({ previous: 2, next: 3, nextUnsigned: 4 });
    // C could not be measured: it is passed over.
    expect(neighboursIn(rows, WHOLE_LIST, 4)).toEqual({ previous: 3, next: null, nextUnsigned: 2 });
  });
  it('are found although a decision has taken the attempt itself out of the list', () =>
    expect(neighboursIn(rows, { ...WHOLE_LIST, filter: 'eye' }, 4)).toEqual({ previous: 2, next: null, nextUnsigned: 2 }));
  it('are none where everything is signed', () => expect(neighboursIn(rows.slice(0, 1), WHOLE_LIST, 1).nextUnsigned).toBeNull());
});

describe('the tray’s state', () => {
  const start = trayOpened('?show=eye');
  it('opens at the list that the address names', () => expect(start.list.filter).toBe('eye'));
  it('forgets the chosen ones when another list is shown', () => {
    const chosen = reduceTray(reduceTray(start, { do: 'choose', attempt: 2 }), { do: 'choose', attempt: 4 });
    expect([...chosen.chosen]).toEqual([2, 4]);
    expect([...reduceTray(chosen, { do: 'choose', attempt: 2 }).chosen]).toEqual([4]);
    expect([...reduceTray(chosen, { do: 'list', change: { filter: 'all' } }).chosen]).toEqual([]);
  });
  it('a panel’s button opens and closes it', () => {
    const open = reduceTray(start, { do: 'panel', open: 'no-scan' });
    expect([open.panel, reduceTray(open, { do: 'panel', open: 'no-scan' }).panel]).toEqual(['no-scan', null]);
  });
  it('files on their way are waited for no longer', () => {
    const waiting = reduceTray(start, { do: 'wait', files: [{ file: {} as File, says: {} as never }] });
    expect(reduceTray(waiting, { do: 'send', left: 3 })).toMatchObject({ waiting: [], sending: 3 });
  });
});

it('the time left follows the rate so far: 4 of 10 in 8 s leave 12 s', () => {
  expect(
    timeLeft([
      { at: 0, left: 10 },
      { at: 8, left: 6 },
    ]),
  ).toBe(12);
  expect(timeLeft([{ at: 0, left: 10 }])).toBeNull();
});

it('a sitting’s release takes the signed and names the others with their state', () => {
  const { ready, left } = toRelease(rows);
  expect(ready.map((r) => r.student_name)).toEqual(['B']);
  expect(left).toEqual([
    { who: 'A', why: 'to check' },
    { who: 'C', why: 'could not be measured' },
    { who: 'D', why: 'ready to sign' },
  ]);
});
