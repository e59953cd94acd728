// What is true of the cut surface of the family "loft": how deep it lies under the uncut one, how it runs and how near it comes to its neighbours, all taken from profiles.
import type { MarginForm } from '#core/catalogue/terms.ts';
import { cross, sub, type Vec3 } from '#core/linalg/vec.ts';
import type { Truth } from './case.ts';
import { axialDepths, CUSP_REACH, depthQuantiles, grooveZone, UNCUT_FROM, type WallPlace } from './depth-zones.ts';
import { cutCorners, type LoftCrown, mostLip, quantile, turnedAt } from './loft-crown.ts';
import { rounded } from './loft-mesh.ts';
import { gingiva, marks, neighbours, type P, RAD, side, type Tooth, uncutCorners } from './loft-tooth.ts';
import { formTruths, type OcclusalPlace, type Place, resistanceTruths, wanderTruths } from './shape-truths.ts';

/** Degrees between the profiles of the cut and of the uncut surface, and mm between the points of each. */
const CUT = { turn: 3, step: 0.08 };
const UNCUT = { turn: 0.5, step: 0.04 };
/** Degrees to the profile from which a place's run round the tooth is taken. */
const BESIDE = 0.5;

/** mm: cells by which the nearest of the uncut surface's points is looked for. */
const CELL = 0.5;

/** What a point of the cut surface stands for. */
interface Spot extends WallPlace, OcclusalPlace {
  readonly overFoot: boolean;
}

/** Distance to the nearest of many points and which it is, by columns of cells along the axis. */
function nearestTo(points: readonly Vec3[]): (p: Vec3) => { distance: number; index: number } {
  const columns = new Map<number, number[]>();
  const cell = (v: number): number => Math.floor(v / CELL);
  const key = (i: number, j: number): number => 1000 * (i + 500) + j + 500;
  points.forEach((p, index) => {
    const k = key(cell(p[0]), cell(p[1]));
    const own = columns.get(k);
    if (own) own.push(...p, index);
    else columns.set(k, [...p, index]);
  });
  const flat = new Map([...columns].map(([k, own]) => [k, Float64Array.from(own)]));
  return ([x, y, z]) => {
    let best = Infinity;
    let index = -1;
    const look = (i: number, j: number): void => {
      const own = flat.get(key(cell(x) + i, cell(y) + j));
      if (!own) return;
      for (let k = 0; k < own.length; k += 4) {
        const d = (own[k] - x) ** 2 + (own[k + 1] - y) ** 2 + (own[k + 2] - z) ** 2;
        if (d < best) [best, index] = [d, own[k + 3]];
      }
    };
    // Ring after ring of columns, until none of the next can hold a nearer one.
    for (let ring = 0; ring < 30 && best > ((ring - 1) * CELL) ** 2; ring++)
      for (let i = -ring; i <= ring; i++) for (let j = -ring; j <= ring; j += Math.abs(i) === ring ? 1 : 2 * ring || 1) look(i, j);
    return { distance: Math.sqrt(best), index };
  };
}

const placeOf = (phi: number, [r, z]: P): Vec3 => [r * Math.sin(phi * RAD), r * Math.cos(phi * RAD), z];

/** A surface of profiles as places, with what each stands for. */
function placesOf(profile: (phi: number) => readonly P[], turn: number): (Place & { phi: number })[] {
  const out: (Place & { phi: number })[] = [];
  // Each stands for the degrees on both sides of it: none of them on the border of two sectors.
  for (let phi = turn / 2; phi < 360; phi += turn) {
    const points = profile(phi);
    const beside = profile(phi + BESIDE);
    for (let i = 0; i + 1 < points.length; i++) {
      const [a, b] = [points[i], points[i + 1]];
      const at = placeOf(phi, [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2]);
      // The same share of the way along the profile half a degree on.
      const j = Math.min(beside.length - 1, Math.round(((i + 0.5) * (beside.length - 1)) / (points.length - 1)));
      const there = nearestAlong(beside, (a[0] + b[0]) / 2, (a[1] + b[1]) / 2, j);
      // Profiles run inward and azimuth clockwise seen from occlusal.
      const n = cross(sub(placeOf(phi, b), placeOf(phi, a)), sub(placeOf(phi + BESIDE, there), at));
      const size = Math.hypot(...n);
      if (size > 0) out.push({ at, phi, area: (size * turn) / BESIDE, normal: [n[0] / size, n[1] / size, n[2] / size] });
    }
  }
  return out;
}

const uncutPlaces = (t: Tooth): Place[] =>
  placesOf((phi) => {
    const { line, radii } = uncutCorners(t, phi);
    return rounded(line, radii, UNCUT.step).points;
  }, UNCUT.turn);

function spotsOf(t: Tooth, c: LoftCrown): Spot[] {
  const uncut = uncutPlaces(t);
  const nearest = nearestTo(uncut.map((q) => q.at));
  const ends = new Map<number, { finish: number; top: number; foot: number }>();
  const endsAt = (phi: number) => {
    let own = ends.get(phi);
    if (!own) {
      const { line, radii, finish } = cutCorners(t, c, phi);
      const half = ((90 + c.lean(phi)) / 2) * RAD;
      const reach = c.floor === 'chamfer' ? c.width(phi) : c.fillet / Math.tan(half);
      own = {
        finish: finish[1],
        top: turnedAt(rounded(line, radii, CUT.step).points, 45)[1],
        foot: finish[1] + reach * Math.cos(c.lean(phi) * RAD),
      };
      ends.set(phi, own);
    }
    return own;
  };
  return placesOf((phi) => {
    const { line, radii } = cutCorners(t, c, phi);
    return rounded(line, radii, CUT.step).points;
  }, CUT.turn).map((q): Spot => {
    const { finish, top, foot } = endsAt(q.phi);
    const { distance, index } = nearest(q.at);
    return { ...q, depth: distance, uncut: uncut[index].normal, share: (q.at[2] - finish) / (top - finish), overFoot: q.at[2] >= foot };
  });
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

/** The smallest gap between what is left of the tooth and its neighbour, by side. */
function gapTruths(t: Tooth, c: LoftCrown, spots: readonly Spot[]): Truth[] {
  const cut = nearestTo([
    ...spots.map((q) => q.at),
    // The uncut side under the finish line, from as far over the gingiva as it counts.
    ...Array.from({ length: 720 }, (_, k) => k / 2).flatMap((phi) =>
      Array.from({ length: 40 }, (_, i) => gingiva(phi) + UNCUT_FROM + 0.02 * i)
        .filter((z) => z < gingiva(phi) + c.over(phi))
        .map((z) => placeOf(phi, [side(t, phi, z), z])),
    ),
  ]);
  return neighbours(t).map(({ tooth, at: [x, y] }, i): Truth => {
    let least = Infinity;
    const facing = i === 0 ? 270 : 90;
    for (let phi = facing - 60; phi <= facing + 60; phi += 0.5) {
      const { line, radii } = uncutCorners(tooth, phi);
      for (const q of rounded(line, radii, UNCUT.step).points) {
        const p = placeOf(phi, q);
        if (p[2] > gingiva(90) + 0.05) least = Math.min(least, cut([p[0] + x, p[1] + y, p[2]]).distance);
      }
    }
    return { name: 'contact.broken', zone: i === 0 ? 'mesial' : 'distal', stat: 'min', value: least };
  });
}

/** Degrees to a cusp within which its bevel is read. */
const BESIDE_CUSP = 18;

/** How deep the functional bevel lies under the uncut tooth: middle of each profile between the middles of its end arcs, middle of the profiles, mean of the cusps. */
function bevelDepth(t: Tooth, c: LoftCrown): Truth[] {
  const nearest = nearestTo(uncutPlaces(t).map((q) => q.at));
  const depths = t.cusps
    .filter((q) => q.role === 'functional')
    .map(({ azimuth }) =>
      quantile(
        Array.from({ length: BESIDE_CUSP + 1 }, (_, i) => azimuth - BESIDE_CUSP + 2 * i).map((phi) => {
          const { line, radii } = cutCorners(t, c, phi);
          const { points, corners } = rounded(line, radii, 0.02);
          const own = points.slice(corners[corners.length - 2], corners[corners.length - 1] + 1);
          return quantile(
            own.map((q) => nearest(placeOf(phi, q)).distance),
            0.5,
          );
        }),
        0.5,
      ),
    );
  return [{ name: 'bevel.functional.depth', zone: null, stat: 'value', value: depths.reduce((s, v) => s + v, 0) / depths.length }];
}

export function surfaceTruths(t: Tooth, c: LoftCrown): Truth[] {
  const spots = spotsOf(t, c);
  const walls = spots.filter((q) => Math.abs(q.normal[2]) <= 0.5);
  const finishAt = (phi: number): Vec3 => placeOf(phi, cutCorners(t, c, phi).finish);
  const out = [...gapTruths(t, c, spots), ...wanderTruths(finishAt), ...marginFormTruths(c)];
  // Where a trough's floor ends and its wall begins, and how far up a bevelled side reaches, are a matter of words.
  if (c.bevel) return [...out, ...bevelDepth(t, c)];
  if (mostLip(c) > 0) return out;
  const axial = axialDepths(walls.filter((q) => q.overFoot));
  const thin = axial.find((q) => q.zone === 'facial outer third' && q.stat === 'p05');
  const occlusal = spots.filter((q) => q.normal[2] > 0.5 && q.share > 0.5);
  const { cusps, groove } = marks(t);
  const { inside } = grooveZone(groove);
  return [
    ...out,
    ...resistanceTruths(walls, finishAt),
    // Where a wall looks down its profile runs under itself, and what lies over what is no longer told by its height.
    ...(spots.every((q) => q.normal[2] > -0.02) ? formTruths(occlusal, cusps) : []),
    ...axial,
    // Every wall is straight from its foot to its edge.
    { name: 'planes.facial', zone: null, stat: 'count', value: 1 },
    ...(thin ? [{ name: 'planes.facial.depth', zone: null, stat: 'min', value: thin.value }] : []),
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

/** Shares of the finish line by the form of its margin, where no width is near the border between two forms. */
function marginFormTruths(c: LoftCrown): Truth[] {
  const all = Array.from({ length: 360 }, (_, phi) => phi);
  if (c.bevel || mostLip(c) > 0 || all.some((phi) => c.width(phi) < 0.3)) return [];
  const share = (form: MarginForm, has: (width: number) => boolean): Truth => ({
    name: 'margin.form',
    zone: form,
    stat: 'share',
    value: all.filter((phi) => has(c.width(phi))).length / all.length,
  });
  if (c.floor === 'chamfer') return [share('chamfer', (w) => w < 0.7), share('heavy chamfer', (w) => w >= 0.7)];
  return [share('shoulder', (w) => c.fillet < 0.18 * w), share('rounded shoulder', (w) => c.fillet >= 0.18 * w)];
}
