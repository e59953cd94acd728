import { describe, expect, it } from 'vitest';
import { bandWords, foundWords, sentence, wantedWords } from '#words/readings.ts';

describe('what is wanted, in words', () => {
  it.each([
    [0.4, 0.8, 'mm', '0.4 to 0.8 mm'],
    [null, 0.1, 'mm', 'up to 0.1 mm'],
    [3, null, 'mm', '3 mm or more'],
    [2, 2, 'count', '2'],
    [null, null, 'mm', 'any'],
  ])('%s to %s %s is “%s”', (lo, hi, unit, words) => expect(bandWords(lo, hi, unit)).toBe(words));
  it('of a gauge is whether it passes', () => {
    const gauge = { reading: 'gauge.pass(1.5)', unit: 'none' };
    expect(wantedWords({ ...gauge, lo: 1, hi: 1 })).toBe('passes');
    expect(wantedWords({ ...gauge, lo: null, hi: 0 })).toBe('does not pass');
    expect([1, 0].map((value) => foundWords({ ...gauge, value, U: 0 }))).toEqual(['passes', 'does not pass']);
    expect(foundWords({ ...gauge, value: 1, U: 1 })).toBe('too close to call');
  });
  it('leaves the unit to the figure beside it where asked', () =>
    expect(wantedWords({ reading: 'margin.width', lo: 0.4, hi: 0.8, unit: 'mm' }, false)).toBe('0.4 to 0.8'));
});

it('a reason becomes a sentence, once', () => {
  expect(sentence('even all round')).toBe('Even all round.');
  expect(sentence('Even all round.')).toBe('Even all round.');
  expect(sentence('how firm?')).toBe('How firm?');
});
