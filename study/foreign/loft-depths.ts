// What is true of the depths of the family "loft": the shortest way from the cut surface to the uncut one, both taken from their profiles.
import { cross, sub, type Vec3 } from '#core/linalg/vec.ts';
import type { Truth } from './case.ts';
import { axialDepths, CUSP_REACH, depthQuantiles, grooveZone, type WallPlace } from './depth-zones.ts';
import { cutCorners, type LoftCrown, mostLip, turnedAt } from './loft-crown.ts';
import { rounded } from './loft-mesh.ts';
import { marks, type P, RAD, type Tooth, uncutCorners } from './loft-tooth.ts';

/** Degrees between the profiles of the cut and of the uncut surface, and mm between the points of each. */
const CUT = { turn: 3, step: 0.08 };
const UNCUT = { turn: 0.5, step: 0.04 };
/** Degrees to the profile from which a place's run round the tooth is taken. */
const BESIDE = 0.5;

/** mm: cells by which the nearest of the uncut surface's points is looked for. */
const CELL = 0.5;

/** What a point of the cut surface stands for. */
interface Spot extends WallPlace {
  readonly at: Vec3;
  /** Sine of the surface's slope to the long axis: 0 on an upright wall, 1 on a level floor. */
  readonly up: number;
  readonly overFoot: boolean;
}

/** Distance to the nearest of many points, by columns of cells along the axis. */
function nearestTo(points: readonly Vec3[]): (p: Vec3) => number {
  const columns = new Map<number, number[]>();
  const cell = (v: number): number => Math.floor(v / CELL);
  const key = (i: number, j: number): number => 1000 * (i + 500) + j + 500;
  for (const p of points) {
    const k = key(cell(p[0]), cell(p[1]));
    const own = columns.get(k);
    if (own) own.push(...p);
    else columns.set(k, [...p]);
  }
  const flat = new Map([...columns].map(([k, own]) => [k, Float64Array.from(own)]));
  return ([x, y, z]) => {
    let best = Infinity;
    const look = (i: number, j: number): void => {
      const own = flat.get(key(cell(x) + i, cell(y) + j));
      if (!own) return;
      for (let k = 0; k < own.length; k += 3) {
        const d = (own[k] - x) ** 2 + (own[k + 1] - y) ** 2 + (own[k + 2] - z) ** 2;
        if (d < best) best = d;
      }
    };
    // Ring after ring of columns, until none of the next can hold a nearer one.
    for (let ring = 0; ring < 30 && best > ((ring - 1) * CELL) ** 2; ring++)
      for (let i = -ring; i <= ring; i++) for (let j = -ring; j <= ring; j += Math.abs(i) === ring ? 1 : 2 * ring || 1) look(i, j);
    return Math.sqrt(best);
  };
}

const placeOf = (phi: number, [r, z]: P): Vec3 => [r * Math.sin(phi * RAD), r * Math.cos(phi * RAD), z];

function spotsOf(t: Tooth, c: LoftCrown): Spot[] {
  const uncut: Vec3[] = [];
  for (let phi = 0; phi < 360; phi += UNCUT.turn) {
    const { line, radii } = uncutCorners(t, phi);
    for (const q of rounded(line, radii, UNCUT.step).points) uncut.push(placeOf(phi, q));
  }
  const nearest = nearestTo(uncut);
  const out: Spot[] = [];
  const lineAt = (phi: number) => {
    const k = cutCorners(t, c, phi);
    return { ...k, points: rounded(k.line, k.radii, CUT.step).points };
  };
  for (let phi = 0; phi < 360; phi += CUT.turn) {
    const { points, finish } = lineAt(phi);
    const beside = lineAt(phi + BESIDE).points;
    const top = turnedAt(points, 45)[1];
    const half = ((90 + c.lean(phi)) / 2) * RAD;
    const reach = c.floor === 'chamfer' ? c.width(phi) : c.fillet / Math.tan(half);
    const foot = finish[1] + reach * Math.cos(c.lean(phi) * RAD);
    for (let i = 0; i + 1 < points.length; i++) {
      const [a, b] = [points[i], points[i + 1]];
      const at = placeOf(phi, [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2]);
      const along = sub(placeOf(phi, b), placeOf(phi, a));
      // The same share of the way along the profile half a degree on.
      const j = Math.min(beside.length - 1, Math.round(((i + 0.5) * (beside.length - 1)) / (points.length - 1)));
      const there = nearestAlong(beside, (a[0] + b[0]) / 2, (a[1] + b[1]) / 2, j);
      const n = cross(along, sub(placeOf(phi + BESIDE, there), at));
      const size = Math.hypot(...n);
      if (!(size > 0)) continue;
      out.push({
        at,
        phi,
        area: (size * CUT.turn) / BESIDE,
        depth: nearest(at),
        up: Math.abs(n[2]) / size,
        share: (at[2] - finish[1]) / (top - finish[1]),
        overFoot: at[2] >= foot,
      });
    }
  }
  return out;
}

/** The place of a profile that is nearest to (r, z), looked for near its point `j`. */
function nearestAlong(line: readonly P[], r: number, z: number, j: number): P {
  let best: P = line[j];
  let least = Infinity;
  for (let i = Math.max(0, j - 12); i + 1 < Math.min(line.length, j + 13); i++) {
    const [a, b] = [line[i], line[i + 1]];
    const [dr, dz] = [b[0] - a[0], b[1] - a[1]];
    const f = Math.max(0, Math.min(1, ((r - a[0]) * dr + (z - a[1]) * dz) / (dr * dr + dz * dz || 1)));
    const q: P = [a[0] + f * dr, a[1] + f * dz];
    const d = Math.hypot(q[0] - r, q[1] - z);
    if (d < least) [least, best] = [d, q];
  }
  return best;
}

export function depthTruths(t: Tooth, c: LoftCrown): Truth[] {
  // Where a trough's floor ends and its wall begins, and how far up a bevelled side reaches, are a matter of words.
  if (c.bevel || mostLip(c) > 0) return [];
  const spots = spotsOf(t, c);
  const walls = spots.filter((q) => q.up <= 0.5 && q.overFoot);
  const occlusal = spots.filter((q) => q.up > 0.5 && q.share > 0.5);
  const { cusps, groove } = marks(t);
  const { inside } = grooveZone(groove);
  return [
    ...axialDepths(walls),
    ...cusps.flatMap((cusp) =>
      depthQuantiles(
        'reduction.occlusal',
        cusp.name,
        occlusal.filter((q) => Math.hypot(q.at[0] - cusp.at[0], q.at[1] - cusp.at[1]) <= CUSP_REACH),
      ),
    ),
    ...depthQuantiles(
      'reduction.occlusal',
      'central groove',
      occlusal.filter((q) => inside(q.at[0], q.at[1])),
    ),
  ];
}
