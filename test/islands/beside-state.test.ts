import { describe, expect, it } from 'vitest';
import type { TrailAttempt } from '#contract/trail-view.ts';
import { addressOf, comparable, pairOf, sharesOf } from '../../src/islands/beside/state.ts';
import { makeLink } from '../../src/viewer/link.ts';

const attempt = (attempt_id: number, tooth = '16', kind = 'crown', isScanned = true) =>
  ({ attempt_id, tooth, kind, isScanned }) as TrailAttempt;
const ids = (pair: readonly [TrailAttempt, TrailAttempt] | null) => pair?.map((a) => a.attempt_id);

describe('two attempts side by side', () => {
  const all = [attempt(1), attempt(2, '46'), attempt(3), attempt(4, '16', 'cavity'), attempt(5), attempt(6, '16', 'crown', false)];
  it('are scanned, of one kind and on one tooth', () => expect(comparable(all).map((a) => a.attempt_id)).toEqual([1, 3, 5]));
  it('without a wish are the newest and the one before it', () => expect(ids(pairOf(all, ''))).toEqual([3, 5]));
  it('stand in the order of time however they were asked for', () => {
    expect(ids(pairOf(all, '?earlier=5&later=1'))).toEqual([1, 5]);
    expect(ids(pairOf(all, '?later=3'))).toEqual([1, 3]);
    expect(ids(pairOf(all, '?later=1'))).toEqual([1, 3]);
  });
  it('ask for no tooth that is not there, and are found again by their address', () => {
    expect(ids(pairOf(all, '?earlier=2&later=99'))).toEqual([3, 5]);
    const pair = pairOf(all, '?earlier=1&later=5') as readonly [TrailAttempt, TrailAttempt];
    expect(ids(pairOf(all, addressOf(pair)))).toEqual([1, 5]);
  });
  it('are none where only one was scanned', () => expect(pairOf([attempt(1), attempt(2, '46')], '')).toBeNull());
});

it('what both scans show is shared out; where one ends counts for neither', () => {
  expect(sharesOf([0.2, -0.3, 0.05, null, 0], 0.1)).toEqual({ more: 0.25, less: 0.25 });
  expect(sharesOf([null], 0.1)).toBeNull();
});

it('a picture that turns tells the others, not itself, and none that has left', () => {
  const link = makeLink();
  const heard: string[] = [];
  const one = link.join(() => heard.push('one'));
  const two = link.join(() => heard.push('two'));
  one.tell({} as never, {} as never);
  expect(heard).toEqual(['two']);
  two.leave();
  one.tell({} as never, {} as never);
  expect(heard).toEqual(['two']);
});
