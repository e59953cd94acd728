import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import type { Vec3 } from '../../linalg/vec.ts';
import { type Excursion, excursionShift, standingOf, USUAL_CONDITIONS } from '../../occlusion/excursion.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { OcclusalZone } from '../../segment/crown/occlusal-zones.ts';
import { isScrap } from '../../segment/target.ts';
import { ballsOf } from '../../spatial/balls.ts';
import { closestPoint, newClosest, onBorder, type Surface, signOf } from '../../spatial/surface.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import type { CrownContext } from '../crown/context.ts';
import { lingualZones } from './lingual-zones.ts';

/** Places along an excursion at which the distance is taken, its end included. */
const STEPS = 8;
/** mm beyond which the opposing surface is simply far away. */
const FAR = 6;
/** Shares of the scan's noise, and of what averaging blunts, that reach the least of many distances. */
const NOISE = 0.6;
const BLUNTED = 0.6;

/**
 * Clearance to the opposing arch over each occlusal zone: in occlusion, along the lateral excursions to both sides, and in
 * protrusion. Negative = the two surfaces would run into each other.
 * @formula least signed distance of the zone's points (smoothed over their neighbours) to the opposing surface, over the path, less half the drop to the next point outside of the zone; in U that drop, what that smoothing blunts, and for the lingual zones how far the wall's end is open; the path drops by the condylar inclination, and to the balancing side runs forward by the Bennett angle
 * @units mm
 * @frame tooth
 * @fails no-opposing, not-seen, no-landmark
 * @source own definition, docs/definitions.md
 * @example parallel planes 1.5 apart read 1.5
 */
export function clearance(c: CrownContext): Reading[] {
  const { master } = c.anatomy;
  const standing = standingOf(master.description.tooth);
  const path = (which: Excursion): Vec3[] =>
    Array.from({ length: STEPS + 1 }, (_, i) =>
      excursionShift(standing, which, i / STEPS, master.description.conditions ?? USUAL_CONDITIONS),
    );
  // What lies beside a cusp's zone is looked at where the nearest place is (`borderDrop`), not all round it.
  const zones = [...c.zones.map((z) => ({ ...z, otherwise: [] })), ...lingualZones(c)];
  return (
    [
      ['clearance.static', [[0, 0, 0]]],
      ['clearance.lateral', [...path('working'), ...path('balancing')]],
      ['clearance.protrusive', path('protrusive')],
    ] as const
  ).flatMap(([name, shifts]) => zones.flatMap((z) => zoneClearance(c, name, z, shifts as readonly Vec3[])));
}

function zoneClearance(c: CrownContext, name: string, z: OcclusalZone, shifts: readonly Vec3[]): Reading[] {
  const { region, master, alignment } = c.anatomy;
  const { opposing } = master;
  if (!opposing) return refusal(name, z.zone, ['min'], 'no-opposing');
  if (z.lacking) return refusal(name, z.zone, ['min'], z.lacking);
  if (z.coverage < THRESHOLDS.coverageLeast || isScrap(region, z.vertices))
    return refusal(name, z.zone, ['min'], z.coverage < THRESHOLDS.coverageLeast ? 'not-seen' : 'nothing-prepared', z.coverage);
  const best = leastClearance(opposing, c.steady, z.vertices, shifts);
  if (!best) return refusal(name, z.zone, ['min'], 'far-apart', z.coverage);
  const others = z.otherwise.map((vertices) => leastClearance(opposing, c.steady, vertices, shifts)?.d ?? best.d);
  const open = Math.max(0, ...others.map((d) => Math.abs(d - best.d)));
  const border = borderDrop(c, opposing, best, z.vertices, shifts);
  const at: Vec3 = [region.mesh.positions[3 * best.v], region.mesh.positions[3 * best.v + 1], region.mesh.positions[3 * best.v + 2]];
  return [
    reading({
      name,
      zone: z.zone,
      stat: 'min',
      value: best.d - border / 2,
      U: expanded(
        alignment.pointError,
        NOISE * alignment.noise,
        BLUNTED * c.blunted[best.v],
        open,
        border / 2,
        methodUncertainty(name, 'min'),
      ),
      at: { azimuth: azimuthOf(at[0], at[1]), point: at },
      coverage: z.coverage,
      samples: z.vertices.length,
    }),
  ];
}

/**
 * mm by which the next place outside of a zone lies nearer to the opposing surface than its nearest one: the zone ends between the two, so that a
 * scan's points miss half of it on average.
 */
function borderDrop(
  c: CrownContext,
  opposing: Surface<'tooth'>,
  best: { d: number; v: number },
  vertices: readonly number[],
  shifts: readonly Vec3[],
): number {
  const { adjacency, prepared } = c.anatomy.region;
  const beside = [...adjacency.list.subarray(adjacency.start[best.v], adjacency.start[best.v + 1])].filter((w) => prepared[w]);
  const own = new Set(vertices);
  const beyond = leastClearance(
    opposing,
    c.steady,
    beside.filter((w) => !own.has(w)),
    shifts,
  );
  return beyond ? Math.max(0, best.d - beyond.d) : 0;
}

/** mm by which a bite overlaps at the most where it stands still. */
const DEEPEST = 2;
/** mm: side of the cubes whose points are passed over together, where all of them stay farther away than the least clearance so far. */
const CUBE_MM = 0.6;

/** Least signed distance (mm) of some points to the opposing surface over a path of shifts, and whose it is; null where it is farther than 6 mm all along. */
function leastClearance(
  opposing: Surface<'tooth'>,
  p: Float64Array,
  vertices: readonly number[],
  shifts: readonly Vec3[],
): { d: number; v: number } | null {
  const hit = newClosest();
  const cubes = ballsOf(p, vertices, CUBE_MM);
  let best: { d: number; v: number } | null = null;
  let before: Vec3 | null = null;
  for (const s of shifts) {
    // How deep a place can be inside by now: as far as it has come since it was outside, or as deep as a bite is ever overlapped.
    const deepest: number = before ? Math.hypot(s[0] - before[0], s[1] - before[1], s[2] - before[2]) : DEEPEST;
    before = s;
    // Only what could lower the least distance found so far is looked for. A ball that is outside as a whole cannot by being inside.
    const reach = (outside: boolean): number =>
      best && (outside || best.d >= 0) ? Math.min(FAR, outside ? best.d : Math.max(best.d, deepest)) : FAR;
    let slot = -1;
    const balls = cubes.flatMap(({ x, y, z, radius, places }) => {
      const at: Vec3 = [x - s[0], y - s[1], z - s[2]];
      if (!closestPoint(opposing, ...at, hit, reach(false) + radius, slot)) return [];
      slot = hit.slot;
      const from = Math.sqrt(hit.distanceSquared) - radius;
      return [{ places, slot, from, outside: from > 0 && !onBorder(opposing, hit) && signOf(opposing, hit, ...at) > 0 }];
    });
    // The nearest first: what they leave is the others' limit.
    for (const ball of balls.sort((m, n) => m.from - n.from)) {
      slot = ball.slot;
      for (const v of ball.places) {
        const limit = reach(ball.outside);
        if (ball.from > limit) break;
        const at: Vec3 = [p[3 * v] - s[0], p[3 * v + 1] - s[1], p[3 * v + 2] - s[2]];
        if (!closestPoint(opposing, ...at, hit, limit, slot) || onBorder(opposing, hit)) continue;
        slot = hit.slot;
        const d = signOf(opposing, hit, ...at) * Math.sqrt(hit.distanceSquared);
        if (!best || d < best.d) best = { d, v };
      }
    }
  }
  return best;
}

/** Thicknesses (mm) of the flat gauges that are tried. */
export const GAUGES = [1, 1.5, 2] as const;

/**
 * Gauge passes: would a flat gauge of thickness t pass between the zone and the opposing arch?
 * @formula 1 when clearance.static ≥ t, 0 when not; U = 1 when t lies within the clearance's own U
 * @units none
 * @frame tooth
 * @fails as clearance.static
 * @source own definition, docs/definitions.md
 * @example a clearance of 1.2 lets the 1.0 gauge pass and stops the 1.5
 */
export function gaugePass(statics: readonly Reading[]): Reading[] {
  return statics
    .filter((r) => r.name === 'clearance.static')
    .flatMap((r) =>
      GAUGES.flatMap((t): Reading[] => {
        const name = `gauge.pass(${t.toFixed(1)})`;
        if (r.value === null) return refusal(name, r.zone, ['value'], r.reason, r.coverage);
        const sure = Math.abs(r.value - t) > r.U;
        return [
          reading({
            name,
            zone: r.zone,
            value: r.value >= t ? 1 : 0,
            U: sure ? 0 : 1,
            at: r.at,
            coverage: r.coverage,
            samples: r.samples,
          }),
        ];
      }),
    );
}
