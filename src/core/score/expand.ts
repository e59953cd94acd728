import { CUSP_GROUPS } from '../catalogue/zones.ts';
import type { Cusp } from '../master/master.ts';
import type { Reading } from '../result/reading.ts';
import type { Rubric, Target } from './rubric.ts';

type Found = Pick<Reading, 'name' | 'zone' | 'stat'>;

/**
 * A rubric for one tooth and what was measured on it: a target on a group of cusps, or on every place of a reading, becomes
 * one target per place. Where no such place was found the target stays as it is, so that its absence shows and a person is asked.
 */
export function forTooth(rubric: Rubric, cusps: readonly Pick<Cusp, 'name' | 'role'>[], readings: readonly Found[] = []): Rubric {
  const expand = (t: Target): Target[] => {
    const zones = zonesOf(t, cusps, readings);
    if (zones?.length) return zones.map((zone) => ({ ...t, zone }));
    // The reading as a whole may say why there is no such place.
    const isTold = zones !== null && readings.some((r) => r.name === t.reading && r.stat === t.stat && r.zone === null);
    return [isTold ? { ...t, zone: null } : t];
  };
  return { ...rubric, criteria: rubric.criteria.map((c) => ({ ...c, targets: c.targets.flatMap(expand) })) };
}

/** The places that a target's word stands for; null if its zone is a single place. */
export function zonesOf(
  t: Pick<Target, 'reading' | 'zone' | 'stat'>,
  cusps: readonly Pick<Cusp, 'name' | 'role'>[],
  readings: readonly Found[],
): string[] | null {
  if (t.zone === null) return null;
  if (t.zone === 'every place' || t.zone === 'every box')
    return readings.flatMap((r) =>
      r.name === t.reading && r.stat === t.stat && r.zone !== null && (t.zone === 'every place' || r.zone.startsWith('box '))
        ? [r.zone]
        : [],
    );
  if (!(t.zone in CUSP_GROUPS)) return null;
  const role = CUSP_GROUPS[t.zone as keyof typeof CUSP_GROUPS];
  return cusps.filter((c) => role === 'any' || c.role === role).map((c) => c.name);
}
