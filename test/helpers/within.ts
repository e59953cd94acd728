import { expect } from 'vitest';

/** Expects a value within a tolerance (both in the value's unit) of the expected one. */
export function within(value: number | null | undefined, expected: number, tolerance: number): void {
  if (typeof value !== 'number') expect.fail(`expected ${expected} ± ${tolerance}, received ${value}`);
  if (!(Math.abs(value - expected) <= tolerance)) expect.fail(`expected ${expected} ± ${tolerance}, received ${value}`);
}
