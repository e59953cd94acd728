import type { Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { closestPoint, newClosest, onBorder, signOf } from '../../spatial/surface.ts';
import type { CrownContext } from '../crown/context.ts';
import { GAUGES } from './clearance.ts';

/** Places of the occlusal surface at which the gap is taken at the most. */
const MOST = 2000;
/** mm over a gauge's thickness within which a gap is looked for. */
const BEYOND = 0.3;
/** Share of the places on the far side that are left out: single points at the rim. */
const RIM = 0.001;

/**
 * Gauge's catch: how far a flat gauge of thickness t goes in between the preparation and the opposing arch, from facial or from lingual, until it first touches.
 * @formula from the occlusal surface's facial (lingual) edge to the nearest of its places with a signed distance to the opposing surface under t, along y
 * @units mm
 * @frame tooth
 * @fails no-opposing, nothing-prepared, passes (the gauge goes through), far-apart
 * @source own definition, docs/definitions.md
 * @example under an opposing plane that falls to lingual at 45° and leaves the gauge's thickness 2 mm from the facial edge, reads 2
 */
export function gaugeCatch(c: CrownContext): Reading[] {
  const names = GAUGES.map((t) => `gauge.catch(${t.toFixed(1)})`);
  const sides = ['facial', 'lingual'] as const;
  const { opposing } = c.anatomy.master;
  const refuse = (why: 'no-opposing' | 'nothing-prepared' | 'far-apart'): Reading[] =>
    names.flatMap((n) => sides.flatMap((side) => refusal(n, side, ['value'], why)));
  if (!opposing) return refuse('no-opposing');
  const p = c.steady;
  const own = c.kinds.flatMap((k, v) => (k === 'occlusal' ? [v] : []));
  if (own.length < 50) return refuse('nothing-prepared');
  const every = Math.ceil(own.length / MOST);
  const hit = newClosest();
  const gaps: { at: Vec3; gap: number }[] = [];
  for (let i = 0; i < own.length; i += every) {
    const v = own[i];
    const at: Vec3 = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    if (!closestPoint(opposing, ...at, hit, GAUGES[GAUGES.length - 1] + BEYOND) || onBorder(opposing, hit)) continue;
    gaps.push({ at, gap: signOf(opposing, hit, ...at) * Math.sqrt(hit.distanceSquared) });
  }
  const ys = own.map((v) => p[3 * v + 1]).sort((a, b) => a - b);
  const edge = { facial: ys[Math.floor((1 - RIM) * (ys.length - 1))], lingual: ys[Math.ceil(RIM * (ys.length - 1))] };
  const { pointError, noise } = c.anatomy.alignment;
  const u = Math.hypot(pointError, 0.6 * noise, 0.02);
  return GAUGES.flatMap((t, i) =>
    sides.flatMap((side): Reading[] => {
      const sign = side === 'facial' ? 1 : -1;
      const first = (thickness: number): { way: number; at: Vec3 } | null =>
        gaps
          .filter((g) => g.gap < thickness)
          .reduce<{ way: number; at: Vec3 } | null>((best, { at }) => {
            const way = Math.max(0, sign * (edge[side] - at[1]));
            return !best || way < best.way ? { way, at } : best;
          }, null);
      const caught = first(t);
      if (!caught) return refusal(names[i], side, ['value'], 'passes');
      // What the gap's own uncertainty moves the place by; where a little more room would let the gauge through, all of the way.
      const [sooner, later] = [first(t + 2 * u), first(t - 2 * u)];
      const shift = Math.max(caught.way - (sooner?.way ?? 0), (later?.way ?? Math.abs(edge.facial - edge.lingual)) - caught.way) / 2;
      return [
        reading({ name: names[i], zone: side, value: caught.way, U: expanded(shift, 0.1), at: { point: caught.at }, samples: gaps.length }),
      ];
    }),
  );
}
