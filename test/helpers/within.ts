import { expect } from 'vitest';

/** Expects a value within a tolerance (both in the value's unit) of the expected one. */
export function within(value: number | null | undefined, expected: number, tolerance: number): void {
  if (typeof value !== 'number') expect.fail(`expected ${expected} ± ${tolerance}, received ${value}`);
  if (!(Math.abs(value - expected) <= tolerance)) expect.fail(`expected ${expected} ± ${tolerance}, received ${value}`);
}

/** Whether two lists of numbers or bytes are the same. The test runner's own comparison takes 20 s for two million of them. */
export function sameNumbers(a: ArrayLike<number>, b: ArrayLike<number>): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}
