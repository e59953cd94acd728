import { distance, toDegrees, toRadians, type Vec3 } from '../../linalg/vec.ts';
import { PART } from '../../master/master.ts';
import { closestPoint, newClosest } from '../../spatial/surface.ts';
import { weightedQuantiles } from '../../statistics/quantile.ts';
import { type CavityParts, facialBevelAt } from '../cavity/cavity.ts';
import { wallPoint } from '../cavity/loft.ts';
import type { CavityRecipe } from '../cavity/recipe.ts';
import type { Typodont } from '../typodont.ts';
import { fineSurface } from './fine.ts';
import type { Tell } from './truth.ts';

type CutBox = CavityParts['boxes'][number];
const signOf = (b: CutBox): 1 | -1 => (b.recipe.side === 'mesial' ? 1 : -1);

/** True values of a cavity's boxes, from their recipes, lofts and the neighbours' formulas. */
export function boxTruth(
  t: Typodont,
  r: CavityRecipe,
  parts: CavityParts,
  pulpalAt: ((x: number, y: number) => number) | null,
  tell: Tell,
): void {
  for (const b of parts.boxes) {
    const zone = `box ${b.recipe.side}`;
    const { side } = b.recipe;
    tell('wall.angle', `${zone} facial`, 'mean', 'deg', b.recipe.facial);
    tell('wall.angle', `${zone} lingual`, 'mean', 'deg', b.recipe.lingual);
    tell('wall.angle', `axial ${side}`, 'mean', 'deg', b.recipe.axial);
    tell('floor.gingival.tilt', `${side} floor`, 'value', 'deg', 0);
    const middle = middleOf(b);
    // A bevel carries the edge outward or inward with the tooth's own side.
    const depth = signOf(b) * (gingivalMargin(t, b, middle)[0] - b.axialX(middle));
    for (const third of ['facial third', 'middle third', 'lingual third'])
      tell('box.axialdepth', `${zone} ${third}`, 'value', 'mm', b.recipe.bevel ? depth : b.recipe.axialDepth);
    if (pulpalAt) tell('box.height', zone, 'value', 'mm', pulpalAt(b.axialX(middle), middle) - b.floorZ);
    if (parts.occlusal) tell('axiopulpal.bevel', zone, 'value', 'mm', r.axiopulpal);
    tell('box.width', `${zone} floor`, 'value', 'mm', widthOf(b));
    clearances(t, b, tell);
    corners(b, tell);
    bevel(t, b, tell);
    facialBevel(t, b, tell);
    // Which part of a bevelled floor an instrument should reach is a matter of taste.
    if (!b.recipe.bevel && !b.recipe.facialBevel) instruments(t, b, tell);
  }
  const ways = parts.boxes.map((b) => ({ zone: `box ${b.recipe.side}`, way: wayOut(b) }));
  for (const { zone, way } of ways) tell('box.parallel', `${zone} path`, 'value', 'deg', Math.abs(way));
  if (ways.length === 2) tell('box.parallel', 'box mesial box distal', 'value', 'deg', Math.abs(ways[0].way - ways[1].way));
}

function middleOf(b: CutBox): number {
  const ys = b.loft.plan.map((p) => p.y);
  return (Math.min(...ys) + Math.max(...ys)) / 2;
}

/** Width of a box's plan half way along its floor: towards the axial wall its corners are rounded. */
function widthOf(b: CutBox): number {
  const { plan } = b.loft;
  const x = b.axialX(middleOf(b)) + (signOf(b) * b.recipe.axialDepth) / 2;
  const ys = plan.flatMap((p, i) => {
    const q = plan[(i + 1) % plan.length];
    return p.x > x !== q.x > x ? [p.y + ((x - p.x) / (q.x - p.x)) * (q.y - p.y)] : [];
  });
  return Math.max(...ys) - Math.min(...ys);
}

/** Where floor, or its bevel, leaves the tooth at y. */
function gingivalMargin(t: Typodont, b: CutBox, y: number): Vec3 {
  const s = signOf(b);
  const { bevel: cut, axialDepth } = b.recipe;
  const from = b.axialX(y) + s * (axialDepth - (cut?.along ?? 0));
  if (!cut) return [from, y, b.floorZ];
  const [dx, dz] = [s * Math.cos(toRadians(cut.angle)), -Math.sin(toRadians(cut.angle))];
  let lo = 0;
  let hi = 3;
  for (let i = 0; i < 40; i++) {
    const m = (lo + hi) / 2;
    if (t.target.inside(from + m * dx, y, b.floorZ + m * dz) > 0) lo = m;
    else hi = m;
  }
  return [from + lo * dx, y, b.floorZ + lo * dz];
}

/** Width of the gingival bevel: the mean way along it from the floor to the tooth's side. */
function bevel(t: Typodont, b: CutBox, tell: Tell): void {
  const { bevel: cut, width, axialDepth, side } = b.recipe;
  if (!cut) return;
  const middle = middleOf(b);
  const widths = Array.from({ length: 21 }, (_, k) => {
    const y = middle + (0.8 * width * (k - 10)) / 20;
    return distance(gingivalMargin(t, b, y), [b.axialX(y) + signOf(b) * (axialDepth - cut.along), y, b.floorZ]);
  });
  tell('bevel.gingival.width', `box ${side}`, 'value', 'mm', widths.reduce((sum, w) => sum + w, 0) / widths.length);
  tell('bevel.gingival.angle', `box ${side}`, 'value', 'deg', cut.angle);
}

/** Width of the facial margin's bevel: the mean way along it from the wall to the tooth's side, up to where that bends over the marginal ridge. */
function facialBevel(t: Typodont, b: CutBox, tell: Tell): void {
  const { facialBevel: cut, side } = b.recipe;
  if (!cut) return;
  const s = signOf(b);
  const at = facialBevelAt(t.target, b);
  const widths = Array.from({ length: 21 }, (_, k) => {
    const z = b.floorZ + (0.75 * (t.target.plan.height - b.floorZ) * k) / 20;
    const [from, wall] = at(z);
    let lo = 0;
    let hi = 3;
    for (let i = 0; i < 40; i++) {
      const m = (lo + hi) / 2;
      if (t.target.inside(from + s * m * Math.cos(toRadians(cut.angle)), wall + m * Math.sin(toRadians(cut.angle)), z) > 0) lo = m;
      else hi = m;
    }
    return lo;
  });
  tell('bevel.facial.width', `box ${side}`, 'value', 'mm', widths.reduce((sum, w) => sum + w, 0) / widths.length);
  tell('bevel.facial.angle', `box ${side}`, 'value', 'deg', cut.angle);
}

/** Inside angles in plan: the side walls run straight out of the tooth, the axial wall along its outer face. */
function corners(b: CutBox, tell: Tell): void {
  const middle = middleOf(b);
  for (const [side, to] of [
    ['facial', 1],
    ['lingual', -1],
  ] as const) {
    const [near, far] = RUN.map((d) => middle + to * (b.recipe.width / 2 - d));
    const slope = (b.axialX(near) - b.axialX(far)) / (near - far);
    // Away from the corner along the axial wall (−to), and out of the tooth.
    const away = [-to * slope, -to];
    tell('box.corners', `box ${b.recipe.side} ${side}`, 'value', 'deg', toDegrees(Math.acos((away[0] * signOf(b)) / Math.hypot(...away))));
  }
}

/** mm from a corner between which the axial wall's run is taken. */
const RUN = [0.65, 1.35];

/** Lean to facial of the way half between the side walls, seen along the arch. */
const wayOut = (b: CutBox): number => {
  const [facial, lingual] = [b.recipe.facial, b.recipe.lingual].map((a) => Math.tan(toRadians(a)));
  return toDegrees(Math.atan((lingual - facial) / 2));
};

/** mm over the floor from which things stand in an instrument's way, and thickness of a hatchet's blade. */
const OVER = 0.2;
const BLADE = 0.5;
const CELL = 0.04;

/** The widest disc and the widest round-ended blade between walls and neighbour, over a grid of the floor. */
function instruments(t: Typodont, b: CutBox, tell: Tell): void {
  const n = t.teeth.find((q) => q.part === PART[b.recipe.side]);
  if (!n) return;
  const { loft } = b;
  const walls: [number, number][] = [];
  loft.plan.forEach((_, i) => {
    for (let h = OVER; h < loft.top - b.floorZ; h += 0.05) {
      const [x, y, z] = wallPoint(loft, i, h);
      if (t.target.inside(x, y, z) > 0) walls.push([x, y]);
    }
  });
  const { positions: q } = fineSurface(n).mesh;
  const middle = middleOf(b);
  const out = Math.abs(b.axialX(middle)) + b.recipe.axialDepth + 3;
  for (let i = 0; i < q.length; i += 3)
    if (q[i + 2] > b.floorZ + OVER && Math.abs(q[i + 1] - middle) < b.recipe.width && Math.abs(q[i]) < out) walls.push([q[i], q[i + 1]]);
  const ys = loft.plan.map((p) => p.y);
  let condenser = 0;
  let hatchet = 0;
  const rows: { y: number; axial: number }[] = [];
  for (let y = Math.min(...ys); y <= Math.max(...ys); y += CELL) rows.push({ y, axial: b.axialX(y) });
  const xs = [b.axialX(Math.min(...ys)), b.axialX(middle), b.axialX(Math.max(...ys))].map((x) => signOf(b) * x);
  for (let along = Math.min(...xs); along < Math.max(...xs) + b.recipe.axialDepth; along += CELL) {
    let run = 0;
    for (const { y, axial } of rows) {
      const x = signOf(b) * along;
      const over = signOf(b) * (x - axial);
      if (over < 0 || over > b.recipe.axialDepth) {
        run = 0;
        continue;
      }
      const free = freeAt(walls, x, y, Math.min(condenser, BLADE) / 2);
      condenser = Math.max(condenser, 2 * free);
      run = free >= BLADE / 2 ? run + CELL : 0;
      hatchet = Math.max(hatchet, run + BLADE);
    }
  }
  tell('instrument.box.condenser', `box ${b.recipe.side}`, 'max', 'mm', condenser);
  if (hatchet > BLADE) tell('instrument.box.hatchet', `box ${b.recipe.side}`, 'max', 'mm', hatchet);
}

/** Distance from (x, y) to the nearest place of the walls; some distance under `least` where it is less than that. */
function freeAt(walls: readonly (readonly [number, number])[], x: number, y: number, least: number): number {
  let best = Infinity;
  for (const w of walls) {
    const d = (w[0] - x) ** 2 + (w[1] - y) ** 2;
    if (d < best) {
      best = d;
      if (d < least * least) break;
    }
  }
  return Math.sqrt(best);
}

/** Least gap between each margin of a box and the neighbour's own formula. */
function clearances(t: Typodont, b: CutBox, tell: Tell): void {
  const n = t.teeth.find((q) => q.part === PART[b.recipe.side]);
  if (!n) return;
  const neighbour = fineSurface(n);
  const s = signOf(b);
  const hit = newClosest();
  const gap = (p: Vec3): number => {
    closestPoint(neighbour, p[0], p[1], p[2], hit);
    return Math.sqrt(hit.distanceSquared);
  };
  /** Least gap along a margin, and its spread by the length of margin that has it. */
  const along = (which: string, margin: readonly Vec3[]): void => {
    const gaps = margin.map(gap);
    tell(`box.clearance.${which}`, `box ${b.recipe.side}`, 'min', 'mm', Math.min(Infinity, ...gaps));
    const lengths = margin.map(
      (p, i) => (distance(p, margin[Math.max(0, i - 1)]) + distance(p, margin[Math.min(margin.length - 1, i + 1)])) / 2,
    );
    if (margin.length < 2) return;
    const [low, high] = weightedQuantiles(gaps, lengths, [0.05, 0.95]);
    tell('box.gap.even', `box ${b.recipe.side} ${which}`, 'value', 'mm', high - low);
  };
  const { loft } = b;
  const ys = loft.plan.map((p) => p.y);
  const middle = (Math.min(...ys) + Math.max(...ys)) / 2;
  // Side margins: the box's side walls end where they meet the tooth's outer face, at each height.
  for (const side of ['facial', 'lingual'] as const) {
    // A bevel moves the facial margin off its wall.
    if (side === 'facial' && b.recipe.facialBevel) continue;
    const i = loft.plan.reduce(
      (best, p, k) =>
        (side === 'facial' ? p.y > middle : p.y < middle) && Math.abs(p.ny) > 0.95 && (best < 0 || s * p.x > s * loft.plan[best].x)
          ? k
          : best,
      -1,
    );
    if (i < 0) continue;
    const margin: Vec3[] = [];
    for (let h = loft.radius + 0.05; h < 6; h += 0.05) {
      const q = wallPoint(loft, i, h);
      let x = 0;
      let hi = 9;
      if (!(t.target.inside(0.3 * s, q[1], q[2]) > 0)) break;
      for (let k = 0; k < 40; k++) {
        const m = (x + hi) / 2;
        if (t.target.inside(s * m, q[1], q[2]) > 0) x = m;
        else hi = m;
      }
      margin.push([s * x, q[1], q[2]]);
    }
    // Only where it runs up the side: over the marginal ridge it turns level, and farther in it rises over the cusps.
    along(
      side,
      margin.filter((p, k) => {
        const [q, o] = [margin[Math.min(margin.length - 1, k + 1)], margin[Math.max(0, k - 1)]];
        return s * (p[0] - b.axialX(p[1])) > 0.3 && Math.abs(q[2] - o[2]) > 0.5 * distance(q, o);
      }),
    );
  }
  const edge: Vec3[] = [];
  for (let y = middle - b.recipe.width / 2; y <= middle + b.recipe.width / 2; y += 0.05) edge.push(gingivalMargin(t, b, y));
  along('gingival', edge);
}
