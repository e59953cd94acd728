import type { Cusp } from '../master/master.ts';
import type { Reading } from '../result/reading.ts';
import type { Rubric, Target } from './rubric.ts';

/** Zone words that a rubric may use for whichever cusps the tooth has. */
const GROUPS: Readonly<Record<string, Cusp['role'] | 'any'>> = {
  'functional cusps': 'functional',
  'non-functional cusps': 'non-functional',
  'all cusps': 'any',
};

/** Zone words that stand for whichever places a preparation turned out to have: all of them, or all of its boxes. */
const FOUND: Readonly<Record<string, (zone: string) => boolean>> = {
  'every place': () => true,
  'every box': (zone) => zone.startsWith('box '),
};

/** Readings that only a master with such a body inside gives. */
const INSIDE_ONLY = ['pulp.distance', 'caries.left', 'enamel.undermined'];

/**
 * A rubric for one tooth and what was measured on it: targets on a group of cusps, or on every place of a reading, become
 * one target a place. Without a single such place the target stays as it is, so that its absence shows. A critical error
 * about the pulp, decay or the dentine does not apply where the scan was measured on a master without them.
 */
export function forTooth(
  rubric: Rubric,
  cusps: readonly Pick<Cusp, 'name' | 'role'>[],
  readings: readonly Pick<Reading, 'name' | 'zone' | 'stat' | 'reason'>[] = [],
): Rubric {
  const leftAlone = (t: Target, zone: string): boolean =>
    readings.some(
      (r) =>
        r.name === t.reading && r.zone === zone && r.stat === t.stat && (r.reason === 'nothing-prepared' || r.reason === 'not-covered'),
    );
  const expand = (t: Target): Target[] => {
    const found = t.zone === null ? undefined : FOUND[t.zone];
    if (found) {
      const zones = readings.flatMap((r) =>
        r.name === t.reading && r.stat === t.stat && r.zone !== null && found(r.zone) ? [r.zone] : [],
      );
      return zones.length ? zones.map((zone) => ({ ...t, zone })) : [t];
    }
    const role = t.zone === null ? undefined : GROUPS[t.zone];
    if (!role) return [t];
    return cusps
      .filter((c) => (role === 'any' || c.role === role) && !(rubric.partial && leftAlone(t, c.name)))
      .map((c) => ({ ...t, zone: c.name }));
  };
  const criteria = rubric.criteria.map((c) => ({ ...c, targets: c.targets.flatMap(expand) }));
  // Of an onlay a row of cusps may be uncovered as a whole: then its criterion does not apply, and its weight goes to the others.
  const critical = rubric.critical.filter(
    (e) => !INSIDE_ONLY.includes(e.reading) || readings.length === 0 || readings.some((r) => r.name === e.reading),
  );
  return { ...rubric, critical, criteria: rubric.partial ? criteria.filter((c) => c.targets.length > 0) : criteria };
}
