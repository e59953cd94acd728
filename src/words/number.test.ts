import { describe, expect, it } from 'vitest';
import { fixed } from './number.ts';

describe('fixed', () => {
  it.each([
    [1.26, 1, '1.3'],
    [-1.26, 1, '−1.3'],
    [-0.04, 1, '0.0'],
    [0, 2, '0.00'],
    [-0, 0, '0'],
  ] as const)('%s with %s digits is %s', (x, digits, words) => expect(fixed(x, digits)).toBe(words));
});
