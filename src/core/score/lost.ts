import type { Rubric } from './rubric.ts';

/**
 * Points that a criterion cost: what is missing of its most, or what was taken off where a rubric takes off.
 * @formula levels and examination: of − points; deduct: −points
 * @units points of 100
 * @fails null where no points were given
 * @source own definition, docs/definitions.md
 * @example 4.5 taken off of at most 24 cost 4.5; 19.5 given of 24 cost as much
 */
export function lostPoints(c: { readonly points: number | null; readonly of: number }, scoring: Rubric['scoring']): number | null {
  if (c.points === null) return null;
  return scoring?.kind === 'deduct' ? Math.max(0, -c.points) : c.of - c.points;
}
