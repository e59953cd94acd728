import { methodUncertainty } from '../../catalogue/catalogue.ts';
import type { Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { median } from '../../statistics/quantile.ts';
import { incisalEdges } from '../incisal-edges.ts';
import type { CrownContext } from './context.ts';

/** Thicknesses (mm) of the coping that are reckoned with. */
export const COPINGS = [0.3, 0.5] as const;
/** mm round a cusp's tip in which the prepared cusp is looked for. */
const NEAR = 0.6;
/** Share of the edge at each end that is left out: there it falls away into the corners. */
const ENDS = 0.15;

/**
 * Unsupported porcelain: how far the crown's full contour stands over the coping at its edge or over its cusps.
 * @formula largest z(master's edge or cusp tip) − z(preparation under it) − the coping's thickness; along the middle of the edge (without 0.15 of it at each end) in 0.3 mm columns on anterior teeth, at the highest prepared place within 0.6 mm of each cusp tip on posterior ones
 * @units mm; the number in the name is the coping's thickness
 * @frame tooth
 * @fails no-landmark, nothing-prepared
 * @source own definition, docs/definitions.md
 * @example an edge lowered by 2 mm under a coping of 0.3 mm leaves 1.7
 */
export function porcelainUnsupported(c: CrownContext): Reading[] {
  const names = COPINGS.map((t) => `porcelain.unsupported(${t.toFixed(1)})`);
  const deepest = c.anterior ? deepestOfEdge(c) : deepestOfCusps(c);
  if (typeof deepest === 'string') return names.flatMap((n) => refusal(n, null, ['value'], deepest));
  const { pointError, noise } = c.anatomy.alignment;
  return COPINGS.map((t, i) =>
    reading({
      name: names[i],
      value: deepest.cut - t,
      U: expanded(pointError, 0.3 * noise, deepest.u, methodUncertainty(names[i], 'value')),
      at: { point: deepest.at },
      samples: deepest.samples,
    }),
  );
}

/** Median size of a − 2b + c over the standard deviation of each: 0.6745 √6. */
const BEND_OF_NOISE = 1.65;

interface Deepest {
  readonly cut: number;
  readonly at: Vec3;
  /** mm by which the highest of noisy places stands too high. */
  readonly u: number;
  readonly samples: number;
}

function deepestOfEdge(c: CrownContext): Deepest | 'nothing-prepared' {
  const edges = incisalEdges(c);
  const after = [...edges.after].sort((a, b) => a[0] - b[0]);
  const ends = Math.round(ENDS * after.length);
  const columns = after.slice(ends, after.length - ends).flatMap(([i, w]) => {
    const z = edges.before.get(i);
    return z ? [{ cut: z.z - w.z, at: [w.x, w.y, w.z] as const }] : [];
  });
  if (columns.length < 3) return 'nothing-prepared';
  const most = columns.reduce((a, b) => (b.cut > a.cut ? b : a));
  // The most of many columns has the most of their scatter in it.
  const bends = columns.slice(2).map((q, i) => Math.abs(q.cut - 2 * columns[i + 1].cut + columns[i].cut));
  return { ...most, u: bends.length ? median(bends) / BEND_OF_NOISE : 0, samples: columns.length };
}

function deepestOfCusps(c: CrownContext): Deepest | 'no-landmark' | 'nothing-prepared' {
  const { cusps } = c.anatomy.master.landmarks;
  if (cusps.length === 0) return 'no-landmark';
  const p = c.steady;
  const cuts = cusps.flatMap((q) => {
    let best = -1;
    for (const v of c.zones.find((z) => z.zone === q.name)?.vertices ?? [])
      if (Math.hypot(p[3 * v] - q.at[0], p[3 * v + 1] - q.at[1]) <= NEAR && (best < 0 || p[3 * v + 2] > p[3 * best + 2])) best = v;
    return best < 0 ? [] : [{ cut: q.at[2] - p[3 * best + 2], at: [p[3 * best], p[3 * best + 1], p[3 * best + 2]] as const }];
  });
  if (cuts.length === 0) return 'nothing-prepared';
  return { ...cuts.reduce((a, b) => (b.cut > a.cut ? b : a)), u: 0.3 * c.anatomy.alignment.noise, samples: cuts.length };
}
