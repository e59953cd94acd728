import { angleBetween, unit, type Vec3 } from '../../linalg/vec.ts';
import { closestPoint, newClosest } from '../../spatial/surface.ts';
import { weightedQuantiles } from '../../statistics/quantile.ts';
import type { CrownEnvelope } from '../crown/envelope.ts';
import { incisalCourse, type PartialParts, type PlacedGroove, partialParts, wallAt } from '../partial/partial.ts';
import type { PartialRecipe } from '../partial/recipe.ts';
import type { Typodont } from '../typodont.ts';
import { crownTruth } from './crown-truth.ts';
import { fineSurface } from './fine.ts';
import type { Truth } from './truth.ts';

const LINGUAL = /^(lingual|mesiolingual|distolingual)( |$)/;
const ROUND = /^(margin\.(width|gingiva|exit)|bevel\.(width|angle)|wall\.(lean|height)|reduction\.axial)$/;

/** True values of a partial crown: of its covered sides as of a crown; of grooves and pinhole from their cutters. */
export function partialTruth(t: Typodont, r: PartialRecipe): Truth[] {
  const parts = partialParts(t, r);
  // The plate's cusps keep an inner step within their zone.
  const lingual = new Set(t.target.cusps.filter((c) => c.at[1] < 0).map((c) => c.name));
  // A pinhole and its ledge are the deepest of the lingual wall: what the wall alone would be is not the deepest any more.
  const drilled = (q: Truth): boolean => parts.pin !== null && q.name === 'reduction.axial' && q.stat === 'p95';
  const out = crownTruth(t, parts.envelope).filter(
    (q) =>
      !drilled(q) &&
      ((q.name === 'reduction.occlusal' && lingual.has(q.zone ?? '')) || (ROUND.test(q.name) && q.zone !== null && LINGUAL.test(q.zone))),
  );
  for (const g of parts.grooves) out.push(...grooveTruth(g, parts.envelope), ...placeTruth(g, parts));
  out.push(...plateTruth(t, parts));
  const [a, b] = parts.grooves;
  if (a && b)
    out.push({
      name: 'groove.parallel',
      zone: `${a.recipe.side} ${b.recipe.side}`,
      stat: 'value',
      unit: 'deg',
      value: angleBetween(directionOf(a), directionOf(b)),
    });
  if (r.incisal && incisalCourse(parts, r)) {
    // The chord that a round cutter leaves in a flat slope.
    const { width, depth } = r.incisal;
    const chord = depth >= width / 2 ? width : 2 * Math.sqrt(depth * (width - depth));
    out.push({ name: 'groove.incisal.width', zone: null, stat: 'median', unit: 'mm', value: chord });
    out.push({ name: 'groove.incisal.joins', zone: null, stat: 'share', unit: 'share', value: 1 });
  }
  if (parts.pin) {
    const { pin } = parts;
    const least = Math.min(
      ...Array.from({ length: 360 }, (_, k) => {
        const [r] = parts.envelope.finishAt((k * Math.PI) / 180);
        return Math.hypot(r * Math.sin((k * Math.PI) / 180) - pin.x, r * Math.cos((k * Math.PI) / 180) - pin.y);
      }),
    );
    out.push({ name: 'cingulum.recess', zone: 'pin', stat: 'value', unit: 'mm', value: least });
    out.push({ name: 'pin.depth', zone: 'pin', stat: 'value', unit: 'mm', value: rimOf(parts, pin) - pin.bottom });
    // A pinhole is drilled along the tooth's axis.
    for (const g of parts.grooves)
      out.push({
        name: 'pin.parallel',
        zone: `pin ${g.recipe.side}`,
        stat: 'value',
        unit: 'deg',
        value: angleBetween([0, 0, 1], directionOf(g)),
      });
  }
  return out;
}

/** mm outside of a pinhole at which its rim is taken. */
const RIM = 0.2;

/** The middle height of a pinhole's rim: the ledge, and on its lower side the slope beside it. */
function rimOf({ envelope }: PartialParts, pin: NonNullable<PartialParts['pin']>): number {
  const heights = Array.from({ length: 64 }, (_, k) => {
    const [s, c] = [Math.sin((Math.PI * k) / 32), Math.cos((Math.PI * k) / 32)];
    return Math.min(pin.ledge, envelope.topAt(pin.x + (pin.radius + RIM) * s, pin.y + (pin.radius + RIM) * c));
  }).sort((a, b) => a - b);
  return (heights[31] + heights[32]) / 2;
}

function directionOf(g: PlacedGroove): Vec3 {
  const [p, q] = [g.centre(0), g.centre(1)];
  return unit([q[0] - p[0], q[1] - p[1], 1]);
}

/** Where the cutter's side leaves the wall at a height: its facial side for 1 or the other for −1 along `side`. */
function lipOf(g: PlacedGroove, e: CrownEnvelope, z: number, s: 1 | -1): readonly [number, number] {
  const side = [-g.out[1], g.out[0]] as const;
  const c = g.centre(z);
  const radius = g.recipe.width / 2;
  // Along the cutter's side from its middle outward until the wall is reached.
  const p = [c[0] + s * radius * side[0], c[1] + s * radius * side[1]] as const;
  let lo = -2;
  let hi = 3;
  // To 5 nm; each halving takes a profile of the whole wall.
  for (let i = 0; i < 30; i++) {
    const m = (lo + hi) / 2;
    const q = [p[0] + m * g.out[0], p[1] + m * g.out[1]] as const;
    const w = wallAt(e, Math.atan2(q[0], q[1]), z);
    if (Math.hypot(q[0], q[1]) < Math.hypot(w[0], w[1])) lo = m;
    else hi = m;
  }
  return [p[0] + lo * g.out[0], p[1] + lo * g.out[1]];
}

/** The side of the cutter that looks to the facial plate, as lipOf counts it. */
const facialSide = (g: PlacedGroove): 1 | -1 => (g.out[0] > 0 ? 1 : -1);

/** x of the tooth's own side at a y and height, mesial for +1. */
function faceEnd(t: Typodont, y: number, z: number, s: number): number {
  let lo = 0;
  let hi = 9;
  for (let i = 0; i < 40; i++) {
    const m = (lo + hi) / 2;
    if (t.target.inside(s * m, y, z) > 0) lo = m;
    else hi = m;
  }
  return s * lo;
}

/** Degrees to both sides of a groove within which the finish line straight out of it lies. */
const STRAIGHT_OUT = 40;

/** Height of the finish line straight out of a groove: under a wide shoulder that is not at the groove's own azimuth, and the line climbs towards the contact. */
function finishOut(g: PlacedGroove, e: CrownEnvelope): number {
  const across = ([x, y]: readonly [number, number]): number => x * -g.out[1] + y * g.out[0];
  const [x, y] = g.centre(g.from);
  const own = across([x, y]);
  const at = (phi: number): number => {
    const [r] = e.finishAt(phi);
    return across([r * Math.sin(phi), r * Math.cos(phi)]) - own;
  };
  let [lo, hi] = [-1, 1].map((s) => g.phi + (s * STRAIGHT_OUT * Math.PI) / 180);
  const rising = at(hi) > at(lo);
  for (let i = 0; i < 40; i++) {
    const m = (lo + hi) / 2;
    if (at(m) < 0 === rising) lo = m;
    else hi = m;
  }
  return e.finishAt(lo)[1];
}

/** The foot over the finish line straight out of it, and the way from the facial lip to where the plate's inner face leaves the tooth. */
function placeTruth(g: PlacedGroove, { envelope: e, plateY }: PartialParts): Truth[] {
  const heights = Array.from({ length: 21 }, (_, k) => g.from + (g.to - g.from) * (0.25 + (0.5 * k) / 20));
  const edges = heights.map((z) => {
    const lip = lipOf(g, e, z, facialSide(g));
    const x = faceEnd(e.typodont, plateY, z, Math.sign(g.phi));
    return Math.hypot(x - lip[0], plateY - lip[1]);
  });
  const zone = g.recipe.side;
  return [
    { name: 'groove.place.finish', zone, stat: 'value', unit: 'mm', value: g.from - finishOut(g, e) },
    { name: 'groove.place.edge', zone, stat: 'value', unit: 'mm', value: Math.min(...edges) },
  ];
}

/** mm: step of the plate's grid, and of the first look through it; depth under the tooth's own surface from which a place has a plate in front of it, and mm² that are its thinnest. */
const GRID = 0.1;
const STRIDE = 0.2;
const DEEP = 0.5;
const THINNEST = 0.3;

/** Thickness of tooth in front of the grooves' facial sides and of the plate's inner face beside the walls, straight out of them. */
function plateTruth(t: Typodont, parts: PartialParts): Truth[] {
  const { grooves, envelope: e, plateY } = parts;
  const tooth = fineSurface(t.teeth[0]);
  const hit = newClosest();
  const found: { d: number; area: number }[] = [];
  const look = (x: number, y: number, z: number, way: Vec3, area = GRID ** 2): void => {
    closestPoint(tooth, x, y, z, hit);
    if (hit.distanceSquared < DEEP ** 2) return;
    const isInside = (d: number): boolean => t.target.inside(x + d * way[0], y + d * way[1], z + d * way[2]) > 0;
    let to = STRIDE;
    while (to < 4 && isInside(to)) to += STRIDE;
    if (to >= 4) return;
    let from = to - STRIDE;
    for (let i = 0; i < 6; i++) {
      const m = (from + to) / 2;
      if (isInside(m)) from = m;
      else to = m;
    }
    found.push({ d: from, area });
  };
  lingualTop(t, parts, look);
  for (const g of grooves) {
    const s = facialSide(g);
    const way: Vec3 = [-g.out[1] * s, g.out[0] * s, 0];
    const radius = g.recipe.width / 2;
    for (let z = g.from; z < g.to; z += GRID) {
      const c = g.centre(z);
      const [x0, y0] = [c[0] + radius * way[0], c[1] + radius * way[1]];
      const lip = lipOf(g, e, z, s);
      for (let u = 0; u < Math.hypot(lip[0] - x0, lip[1] - y0); u += GRID) look(x0 + u * g.out[0], y0 + u * g.out[1], z, way);
    }
    // The plate's inner face runs on over the wall's edge, up to the lowered top.
    const hand = Math.sign(g.phi);
    for (let z = g.from; z < t.target.plan.height; z += GRID)
      for (let x = Math.abs(faceEnd(t, plateY, z, hand)); x > 0; x -= GRID) {
        const w = wallAt(e, Math.atan2(hand * x, plateY), z);
        if (Math.hypot(...w) > Math.hypot(x, plateY)) break;
        if (z < e.topAt(hand * x, plateY)) look(hand * x, plateY, z, [0, 1, 0]);
      }
  }
  let [area, sum] = [0, 0];
  for (const q of found.sort((a, b) => a.d - b.d)) {
    if (area >= THINNEST) break;
    area += q.area;
    sum += q.area * q.d;
  }
  return area > 0 ? [{ name: 'plate.thickness', zone: null, stat: 'min', unit: 'mm', value: sum / area }] : [];
}

/** Looks through the tooth from every place of the reduced top that faces lingual. */
function lingualTop(
  t: Typodont,
  { envelope: e, plateY }: PartialParts,
  look: (x: number, y: number, z: number, way: Vec3, area: number) => void,
): void {
  const step = 2 * GRID;
  const [half, across] = [t.target.plan.md / 2, t.target.plan.fl / 2];
  for (let x = -half; x < half; x += step)
    for (let y = -across; y < across; y += step) {
      const z = e.topAt(x, y);
      const w = wallAt(e, Math.atan2(x, y), z);
      // The plate is not bounded by the wall.
      if ((y < plateY && Math.hypot(x, y) > Math.hypot(...w)) || !(t.target.inside(x, y, z) > 0)) continue;
      const [fx, fy] = [(e.topAt(x + 0.05, y) - e.topAt(x - 0.05, y)) / 0.1, (e.topAt(x, y + 0.05) - e.topAt(x, y - 0.05)) / 0.1];
      const l = Math.hypot(fx, fy, 1);
      // Outward normal (−fx, −fy, 1): it looks to lingual where the top rises to facial.
      if (-fy / l < -0.5) look(x, y, z, [fx / l, fy / l, -1 / l], step * step * l);
    }
}

/** Depth under the chord of the lips at each height, the lips being where the cutter's straight sides leave the wall. */
function grooveTruth(g: PlacedGroove, e: CrownEnvelope): Truth[] {
  const depths: number[] = [];
  const widths: number[] = [];
  for (let z = g.from + 0.1; z < g.to - 0.2; z += 0.1) {
    const c = g.centre(z);
    const [u, v] = ([1, -1] as const).map((s) => lipOf(g, e, z, s));
    const l = Math.hypot(v[0] - u[0], v[1] - u[1]);
    const bottom = [c[0] - g.inward * g.out[0], c[1] - g.inward * g.out[1]] as const;
    depths.push(Math.abs((v[0] - u[0]) * (bottom[1] - u[1]) - (v[1] - u[1]) * (bottom[0] - u[0])) / l);
    widths.push(l);
  }
  const median = (v: number[]): number =>
    weightedQuantiles(
      v,
      v.map(() => 1),
      [0.5],
    )[0];
  return [
    { name: 'groove.depth', zone: g.recipe.side, stat: 'median', unit: 'mm', value: median(depths) },
    { name: 'groove.width', zone: g.recipe.side, stat: 'median', unit: 'mm', value: median(widths) },
  ];
}
