import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import { HALF_PLANES_ALIKE, type Profile } from '../../segment/crown/profile.ts';
import { errorOfMedian, mean, median } from '../../statistics/quantile.ts';
import type { CrownContext } from './context.ts';

/** degrees either side of lingual. */
const HALF_ARC = 14;
/**
 * Lingual form of an anterior preparation: the cingulum wall's height and its angle to the facial cervical plane, how
 * concave the fossa is above it, and on a canine the lingual ridge that is kept.
 * @formula height = z(end of the lingual wall) − z(finish line); angle = facial + lingual lean (0 = parallel); concavity = largest depth, averaged over 0.5 mm, of the profile under the chord from the wall's end to 0.1 mm under the incisal edge, 0 where it only bulges; ridge = how far the profile at lingual stands out over those 22° to either side, at the fossa's middle height
 * @units mm; degrees; mm; mm
 * @frame tooth
 * @fails not-on-tooth, no-wall
 * @source own definition, docs/definitions.md
 * @example a fossa straight from wall to edge has concavity 0
 */
export function formLingual(c: CrownContext): Reading[] {
  if (!c.anterior) return [];
  const names = ['form.lingual.height', 'form.lingual.angle', 'form.lingual.concavity'] as const;
  const n = c.azimuths.length;
  const near = c.azimuths.flatMap((a, k) => (Math.abs(a - 180) <= HALF_ARC ? [k] : []));
  const profiles = near.flatMap((k) => {
    const p = c.anatomy.profiles[k];
    return p?.wall ? [p] : [];
  });
  const facial = c.lean.filter((v, k): v is number => v !== null && (c.azimuths[k] <= HALF_ARC || c.azimuths[k] >= 360 - HALF_ARC));
  const lingual = c.lean.filter((v, k): v is number => v !== null && Math.abs(c.azimuths[k] - 180) <= HALF_ARC);
  if (profiles.length < near.length / 2 || facial.length < 3 || lingual.length < 3)
    return names.flatMap((name) => refusal(name, null, ['value'], 'no-wall', profiles.length / near.length));
  const heights = profiles.map((p) => p.z[Math.min(p.z.length, (p.wall as { to: number }).to) - 1] - p.finish.z);
  const fossas = profiles.map(fossaOf).filter((v) => v !== null);
  const middle = c.topR[n / 2];
  const topZ = c.topZ[n / 2];
  const at = { azimuth: 180, ...(middle !== null && topZ !== null ? { point: radialPoint(180, middle, topZ) } : {}) };
  const common = { at, coverage: profiles.length / near.length, samples: profiles.length };
  const out: Reading[] = [
    reading({
      name: 'form.lingual.height',
      value: median(heights),
      U: expanded(methodUncertainty('form.lingual.height', 'value'), errorOfMedian(heights, HALF_PLANES_ALIKE)),
      ...common,
    }),
    reading({
      name: 'form.lingual.angle',
      value: median(facial) + median(lingual),
      U: expanded(methodUncertainty('form.lingual.angle', 'value')),
      ...common,
    }),
    ...(fossas.length
      ? [
          reading({
            name: 'form.lingual.concavity',
            value: median(fossas.map((f) => f.depth)),
            U: expanded(
              methodUncertainty('form.lingual.concavity', 'value'),
              errorOfMedian(
                fossas.map((f) => f.depth),
                HALF_PLANES_ALIKE,
              ),
            ),
            ...common,
          }),
        ]
      : refusal('form.lingual.concavity', null, ['value'], 'no-wall', common.coverage)),
  ];
  if (c.anatomy.master.description.tooth[1] === '3') out.push(...ridge(c, fossas.length ? median(fossas.map((f) => f.z)) : null, common));
  return out;
}

/** mm under a profile's highest place at which its edge begins: along a level edge noise alone tells which place is the highest. */
const UNDER_EDGE = 0.1;
/** Places to both sides over which a profile's depth is averaged: the deepest of single ones is half noise. */
const AVERAGED = 4;

/** Depth of the profile under the chord from the end of the wall to the edge, and the height of the deepest place. */
function fossaOf(p: Profile): { depth: number; z: number } | null {
  const from = Math.min(p.z.length - 1, (p.wall as { to: number }).to);
  const high = Math.max(...p.z.slice(from));
  const top = from + p.z.slice(from).findIndex((z) => z >= high - UNDER_EDGE);
  if (top - from < 8) return null;
  const dr = p.r[top] - p.r[from];
  const dz = p.z[top] - p.z[from];
  const l = Math.hypot(dr, dz);
  // Positive towards the inside of the tooth, which lies at smaller r.
  const under = Array.from({ length: top - from + 1 }, (_, i) => ((p.z[from + i] - p.z[from]) * dr - (p.r[from + i] - p.r[from]) * dz) / l);
  const averaged = under.map((_, i) => {
    const reach = Math.min(AVERAGED, i, under.length - 1 - i);
    return mean(under.slice(i - reach, i + reach + 1));
  });
  // The wall's own end lies on the chord, so that a fossa that only bulges reads 0.
  const deepest = averaged.indexOf(Math.max(...averaged));
  return { depth: averaged[deepest], z: p.z[from + deepest] };
}

function ridge(c: CrownContext, z: number | null, common: { coverage: number; samples: number }): Reading[] {
  const name = 'form.lingual.ridge';
  if (z === null) return refusal(name, null, ['value'], 'no-wall', common.coverage);
  const radius = (azimuth: number): number | null => {
    const p = c.anatomy.profiles[Math.round((azimuth / 360) * c.azimuths.length)];
    if (!p) return null;
    let best: number | null = null;
    for (let i = 0; i < p.z.length; i++) if (best === null || Math.abs(p.z[i] - z) < Math.abs(p.z[best] - z)) best = i;
    return best !== null && Math.abs(p.z[best] - z) < 0.3 ? p.r[best] : null;
  };
  const around = (centre: number): number[] => [-4, -2, 0, 2, 4].map((d) => radius(centre + d)).filter((r) => r !== null);
  const [middle, mesial, distal] = [around(180), around(158), around(202)];
  if ([middle, mesial, distal].some((l) => l.length < 3)) return refusal(name, null, ['value'], 'no-wall', common.coverage);
  // A round lingual face rises over its chord by itself; only the excess counts.
  const flat = (median(mesial) + median(distal)) / 2 / Math.cos((22 * Math.PI) / 180);
  return [
    reading({
      name,
      value: median(middle) - flat * Math.cos((22 * Math.PI) / 180),
      U: expanded(methodUncertainty('form.lingual.ridge', 'value')),
      ...common,
    }),
  ];
}
