import type { Cusp } from '../master/master.ts';
import type { Rubric, Target } from './rubric.ts';

/** Zone words that a rubric may use for whichever cusps the tooth has. */
const GROUPS: Readonly<Record<string, Cusp['role'] | 'any'>> = {
  'functional cusps': 'functional',
  'non-functional cusps': 'non-functional',
  'all cusps': 'any',
};

/** A rubric for one tooth: targets on a group of cusps become one target a cusp. */
export function forTooth(rubric: Rubric, cusps: readonly Pick<Cusp, 'name' | 'role'>[]): Rubric {
  const expand = (t: Target): Target[] => {
    const role = t.zone === null ? undefined : GROUPS[t.zone];
    if (!role) return [t];
    return cusps.filter((c) => role === 'any' || c.role === role).map((c) => ({ ...t, zone: c.name }));
  };
  return { ...rubric, criteria: rubric.criteria.map((c) => ({ ...c, targets: c.targets.flatMap(expand) })) };
}
