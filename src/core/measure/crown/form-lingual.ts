import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import { HALF_PLANES_ALIKE, type Profile } from '../../segment/crown/profile.ts';
import type { Wall } from '../../segment/crown/wall.ts';
import { errorOfMedian, mean, median } from '../../statistics/quantile.ts';
import type { CrownContext } from './context.ts';

/** degrees either side of lingual. */
const HALF_ARC = 14;
/**
 * Lingual form of an anterior preparation: the cingulum wall's height and its angle to the facial cervical plane, how
 * concave the fossa is above it, and on a canine the lingual ridge that is kept.
 * @formula height = z(where the lingual wall's line meets the fossa's) − z(finish line); angle = facial + lingual lean (0 = parallel); concavity = largest depth of the mean profile, averaged over an eighth of its length, under a straightedge that bridges it between the wall's end and 0.1 mm under the incisal edge, 0 where it only bulges; ridge = how far the profile at lingual stands out over those 22° to either side, at the fossa's middle height
 * @units mm; degrees; mm; mm
 * @frame tooth
 * @fails not-on-tooth, no-wall
 * @source own definition, docs/definitions.md
 * @example a fossa straight from wall to edge, or bulging, has concavity 0
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
  const heights = profiles.map((p) => (p.wall as Wall).top.z - p.finish.z);
  const fossas = profiles.map(fossaOf).filter((v) => v !== null);
  const hollow = fossas.length ? hollowOf(fossas) : null;
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
      U: expanded(
        methodUncertainty('form.lingual.angle', 'value'),
        errorOfMedian(facial, HALF_PLANES_ALIKE),
        errorOfMedian(lingual, HALF_PLANES_ALIKE),
      ),
      ...common,
    }),
    ...(hollow
      ? [
          reading({
            name: 'form.lingual.concavity',
            value: hollow.depth,
            U: expanded(methodUncertainty('form.lingual.concavity', 'value'), hollow.u),
            ...common,
          }),
        ]
      : refusal('form.lingual.concavity', null, ['value'], 'no-wall', common.coverage)),
  ];
  if (c.anatomy.master.description.tooth[1] === '3') out.push(...ridge(c, hollow ? hollow.z : null, common));
  return out;
}

/** mm under a profile's highest place at which its edge begins: along a level edge noise alone tells which place is the highest. */
const UNDER_EDGE = 0.1;
/** Places of a profile between the wall's end and the edge, and to how many of them on both sides depths are averaged. */
const PLACES = 60;
const AVERAGED = 4;

/** A profile between the wall's end and the edge: how far its places lie under the chord between the two, and their heights. */
interface Fossa {
  readonly under: readonly number[];
  readonly z: readonly number[];
}

function fossaOf(p: Profile): Fossa | null {
  const from = Math.min(p.z.length - 1, (p.wall as Wall).top.index);
  const high = Math.max(...p.z.slice(from));
  const top = from + p.z.slice(from).findIndex((z) => z >= high - UNDER_EDGE);
  if (top - from < 8) return null;
  const dr = p.r[top] - p.r[from];
  const dz = p.z[top] - p.z[from];
  const l = Math.hypot(dr, dz);
  const at = (of: readonly number[], k: number): number => {
    const i = from + (k / PLACES) * (top - from);
    const below = Math.min(top - 1, Math.floor(i));
    return of[below] + (i - below) * (of[below + 1] - of[below]);
  };
  const z = Array.from({ length: PLACES + 1 }, (_, k) => at(p.z, k));
  // Positive towards the inside of the tooth, which lies at smaller r.
  return { under: z.map((q, k) => ((q - p.z[from]) * dr - (at(p.r, k) - p.r[from]) * dz) / l), z };
}

/** Depth of a fossa under a straightedge, with its standard error, and the height of the deepest place. */
interface Hollow {
  readonly depth: number;
  readonly u: number;
  readonly z: number;
}

/** Profiles are averaged before anything is bridged: a single one's noise makes hollows of its own. */
function hollowOf(fossas: readonly Fossa[]): Hollow {
  const middle = fossas[0].under.map((_, k) => mean(fossas.map((f) => f.under[k])));
  const averaged = middle.map((_, k) => {
    const reach = Math.min(AVERAGED, k, PLACES - k);
    return mean(middle.slice(k - reach, k + reach + 1));
  });
  const bridges = bridged(averaged);
  const depthsOf = (of: readonly number[]): number[] => bridges.map(({ k, a, b, share }) => of[k] - of[a] - (of[b] - of[a]) * share);
  const depths = depthsOf(averaged);
  const deepest = depths.indexOf(Math.max(...depths));
  return {
    depth: depths[deepest],
    u: errorOfMedian(
      fossas.map((f) => depthsOf(f.under)[deepest]),
      HALF_PLANES_ALIKE,
    ),
    z: mean(fossas.map((f) => f.z[deepest])),
  };
}

/** The two places on which a straightedge over each of equally spaced depths lies, and by which share of the way between them that place is. */
function bridged(depths: readonly number[]): { k: number; a: number; b: number; share: number }[] {
  const touched: number[] = [];
  const isUnder = (a: number, b: number, c: number): boolean => (depths[b] - depths[a]) * (c - a) >= (depths[c] - depths[a]) * (b - a);
  for (let i = 0; i < depths.length; i++) {
    while (touched.length > 1 && isUnder(touched[touched.length - 2], touched[touched.length - 1], i)) touched.pop();
    touched.push(i);
  }
  return depths.map((_, k) => {
    const next = touched.findIndex((t) => t >= k);
    const [a, b] = [touched[Math.max(0, next - 1)], touched[next]];
    return { k, a, b, share: b > a ? (k - a) / (b - a) : 0 };
  });
}

/** degrees from lingual at which the ridge's sides are taken, and half planes about each place, degrees off it. */
const SIDE = 22;
const ABOUT = [-4, -2, 0, 2, 4] as const;
/** mm by which a fossa's deepest height is uncertain: it lies in a curve that is level there. */
const HEIGHT = 0.15;

function ridge(c: CrownContext, z: number | null, common: { coverage: number; samples: number }): Reading[] {
  const name = 'form.lingual.ridge';
  const own = z === null ? null : ridgeAt(c, z);
  if (z === null || !own) return refusal(name, null, ['value'], 'no-wall', common.coverage);
  const beside = [z - HEIGHT, z + HEIGHT].flatMap((q) => ridgeAt(c, q)?.out ?? []);
  const height = Math.max(0, ...beside.map((out) => Math.abs(out - own.out)));
  return [reading({ name, value: own.out, U: expanded(methodUncertainty(name, 'value'), own.u, height), ...common })];
}

/** How far the profile at lingual stands out over those to either side at a height, and its standard error. */
function ridgeAt(c: CrownContext, z: number): { out: number; u: number } | null {
  const radius = (azimuth: number): number | null => {
    const p = c.anatomy.profiles[Math.round((azimuth / 360) * c.azimuths.length)];
    if (!p) return null;
    let best: number | null = null;
    for (let i = 0; i < p.z.length; i++) if (best === null || Math.abs(p.z[i] - z) < Math.abs(p.z[best] - z)) best = i;
    return best !== null && Math.abs(p.z[best] - z) < 0.3 ? p.r[best] : null;
  };
  const [middle, mesial, distal] = [180, 180 - SIDE, 180 + SIDE].map((at) =>
    ABOUT.map((d) => radius(at + d)).filter((r): r is number => r !== null),
  );
  if ([middle, mesial, distal].some((l) => l.length < 3)) return null;
  // A round lingual face rises over its chord by itself; only the excess counts.
  const [m, d, o] = [mesial, distal, middle].map((l) => ({ r: median(l), u: errorOfMedian(l, HALF_PLANES_ALIKE) }));
  return { out: o.r - (m.r + d.r) / 2, u: Math.hypot(o.u, m.u / 2, d.u / 2) };
}
