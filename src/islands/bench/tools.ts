import { azimuthOf } from '#core/linalg/sectors.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import type { Probed } from '#core/measure/probe.ts';

export type Tool = 'probe' | 'gauge';
/** mm: the slabs of a set of gauges. */
export const GAUGES = [1, 1.5, 2] as const;
/** Which way a cut through the probe's place runs. */
export type Across = 'mesiodistal' | 'faciolingual';
/** mm over the place at which the cut is measured from wall to wall. */
export const OVER_FLOOR = 0.4;
export type Passing = 'passes' | 'does not pass' | 'too close to call';

/** Whether a slab of some thickness goes between the tooth and the arch over it, by the gap and how well that is known. */
export function passing(gap: NonNullable<Probed['gap']>, thickness: number): Passing {
  if (gap.value - gap.U >= thickness) return 'passes';
  return gap.value + gap.U < thickness ? 'does not pass' : 'too close to call';
}

/** Azimuth of a place of the picture. */
export const azimuthAt = (p: Vec3, mesialSign: number): number => azimuthOf(mesialSign * p[0], p[1]);
