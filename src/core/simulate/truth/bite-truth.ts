import { isUpper } from '../../anatomy/anatomy.ts';
import { distanceToLine, trimmed } from '../../linalg/curve.ts';
import { applyPoint, invertRigid, type Matrix } from '../../linalg/rigid.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { DEG, sub, type Vec3, wrapDegrees } from '../../linalg/vec.ts';
import { closestPoint, newClosest, signOf } from '../../spatial/surface.ts';
import { median } from '../../statistics/quantile.ts';
import type { CutProfile } from '../crown/envelope.ts';
import type { Typodont } from '../typodont.ts';
import { isOcclusal, type Quad } from './cut-surface.ts';
import { fineSurface } from './fine.ts';
import type { Truth } from './truth.ts';

/** The opposing teeth and where they stand. */
export interface Opposing {
  readonly typodont: Typodont;
  readonly place: Matrix;
}

/** mm beyond which the opposing teeth are simply far away. */
const FAR = 6;
/** mm up to which a clearance is told: nearer to six, six and farther would both be right. */
const TOLD = 5.5;
/** mm inside an opposing tooth that a place is looked for at the least: farther than it comes in one step of an excursion. */
const DEEP = 0.5;
/** Places along an excursion. */
const STEPS = 8;
/** mm round a cusp's tip, and to either side of the central groove. */
const CUSP = 1.25;
const GROOVE = 0.5;
const GAUGES = [1, 1.5, 2];
/** The lingual zones of an anterior crown: degrees to both sides of lingual; mm over its wall's end and under its edge, and round that end. */
const FOSSA = { arc: 45, over: 0.3, under: 0.8 };
const CINGULUM = { arc: 30, reach: 0.4 };

/** Distance (mm) of a place of the construction frame to the opposing teeth, negative inside of one; the limit where they are farther away. */
function awayFrom({ typodont, place }: Opposing): (p: Vec3, limit: number) => number {
  const into = invertRigid(place);
  const hit = newClosest();
  return (p, limit) => {
    const q = applyPoint(into, p);
    let least = limit;
    for (const tooth of typodont.teeth) {
      const s = fineSurface(tooth);
      if (!closestPoint(s, q[0], q[1], q[2], hit, Math.max(DEEP, least))) continue;
      least = Math.min(least, signOf(s, hit, q[0], q[1], q[2]) * Math.sqrt(hit.distanceSquared));
    }
    return least;
  };
}

/** mm of the lower jaw's way, degrees by which it drops and by which it runs forward to the balancing side. */
const WAY = { long: 2, drop: 30, forward: 10 };
/** Degrees by which the facial side of the front teeth is turned off straight forward; behind them mesial is forward. */
const TURNED: Readonly<Record<string, number>> = { '1': 10, '2': 25, '3': 55 };

/**
 * Where the opposing teeth stand on their ways, mm of (mesial, facial, occlusal). In the tooth's own plane forward lies `turned` from facial towards mesial,
 * its own side a right angle on from there, away from mesial; the opposing teeth of a lower one go the other way, since then its own jaw moves.
 */
function waysOf(tooth: string): Readonly<Record<string, readonly Vec3[]>> {
  const forward = (TURNED[tooth[1]] ?? 90) * DEG;
  const jaw = isUpper(tooth) ? 1 : -1;
  const along = (angle: number): Vec3[] =>
    Array.from({ length: STEPS + 1 }, (_, i): Vec3 => {
      const level = (jaw * WAY.long * Math.cos(WAY.drop * DEG) * i) / STEPS;
      return [level * Math.sin(angle), level * Math.cos(angle), (WAY.long * Math.sin(WAY.drop * DEG) * i) / STEPS];
    });
  return {
    'clearance.static': [[0, 0, 0]],
    'clearance.lateral': [...along(forward - 90 * DEG), ...along(forward + (90 - WAY.forward) * DEG)],
    'clearance.protrusive': along(forward),
  };
}

/** Clearances of a crown's zones to the formulas of the opposing teeth, at rest and on their ways, and how far flat gauges go in. */
export function biteTruth(
  t: Typodont,
  opposing: Opposing,
  o: Vec3,
  profiles: readonly { readonly phi: number; readonly p: CutProfile }[],
  quads: readonly Quad[],
): Truth[] {
  const away = awayFrom(opposing);
  const ways = waysOf(t.target.tooth);
  const clearances = (zone: string, places: readonly Vec3[]): Truth[] => {
    if (places.length < 8) return [];
    return Object.entries(ways).flatMap(([name, shifts]): Truth[] => {
      const value = shifts.reduce((best, s) => places.reduce((d, p) => away(sub(p, s), d), best), FAR);
      return value < TOLD ? [{ name, zone, stat: 'min', unit: 'mm', value }] : [];
    });
  };
  if (Number(t.target.tooth[1]) <= 3) return lingualZones(o, profiles, quads).flatMap((z) => clearances(z.zone, z.places));
  const places = quads.filter(isOcclusal).map((q) => q.p);
  const groove = t.target.grooves.find((g) => g.name === 'central');
  const line = groove && trimmed(groove.line, 0.1);
  return [
    ...t.target.cusps.flatMap((c) =>
      clearances(
        c.name,
        places.filter((p) => Math.hypot(p[0] - c.at[0], p[1] - c.at[1]) <= CUSP),
      ),
    ),
    ...(line
      ? clearances(
          'central groove',
          places.filter((p) => distanceToLine(line, p[0], p[1]) <= GROOVE),
        )
      : []),
    ...catches(places, away),
  ];
}

/** Way of each gauge from the occlusal surface's edge to the first place that leaves it no room. */
function catches(places: readonly Vec3[], away: (p: Vec3, limit: number) => number): Truth[] {
  const ys = places.map((p) => p[1]);
  const [lingual, facial] = [Math.min(...ys), Math.max(...ys)];
  return GAUGES.flatMap((thickness): Truth[] => {
    const caught = places.flatMap((p) => (away(p, thickness) < thickness ? [p[1]] : []));
    if (caught.length === 0) return [];
    const of = (zone: string, value: number): Truth => ({
      name: `gauge.catch(${thickness.toFixed(1)})`,
      zone,
      stat: 'value',
      unit: 'mm',
      value,
    });
    return [of('facial', facial - Math.max(...caught)), of('lingual', Math.min(...caught) - lingual)];
  });
}

/** Places of the fossa and of the cingulum of an anterior crown; heights from where its lingual wall ends. */
function lingualZones(o: Vec3, profiles: readonly { readonly phi: number; readonly p: CutProfile }[], quads: readonly Quad[]) {
  const fromLingual = (p: Vec3): number => Math.abs(wrapDegrees(azimuthOf(p[0] - o[0], p[1] - o[1]) - 180));
  const end = median(
    profiles.flatMap(({ phi, p }) => {
      const [r, z] = p.edge;
      return fromLingual([r * Math.sin(phi), r * Math.cos(phi), z]) <= CINGULUM.arc ? [p.wallTop] : [];
    }),
  );
  const top = Math.max(...quads.map((q) => q.p[2]));
  const within = (arc: number, has: (z: number) => boolean): Vec3[] =>
    quads.flatMap(({ p }) => (fromLingual(p) <= arc && has(p[2]) ? [p] : []));
  return [
    { zone: 'lingual fossa', places: within(FOSSA.arc, (z) => z >= end + FOSSA.over && z <= top - FOSSA.under) },
    { zone: 'cingulum', places: within(CINGULUM.arc, (z) => Math.abs(z - end) <= CINGULUM.reach) },
  ];
}
