import { dentineSolid } from '../../anatomy/inner.ts';
import { surfaceZ } from '../../anatomy/shape.ts';
import type { Stat, Unit } from '../../catalogue/terms.ts';
import { lengthInside } from '../../linalg/plan.ts';
import { planeOf } from '../../linalg/plane.ts';
import type { Vec3 } from '../../linalg/vec.ts';
import { makeMesh } from '../../mesh/mesh.ts';
import { makeSurface, signedDistance } from '../../spatial/surface.ts';
import { weightedQuantiles } from '../../statistics/quantile.ts';
import { type CavityParts, cavityParts } from '../cavity/cavity.ts';
import { type Loft, wallPoint } from '../cavity/loft.ts';
import type { CavityRecipe } from '../cavity/recipe.ts';
import type { Typodont } from '../typodont.ts';
import { boxTruth } from './box-truth.ts';
import { edgeAt } from './edge-at.ts';
import { fineSurface } from './fine.ts';
import { stepTruth } from './step-truth.ts';
import type { Tell, Truth } from './truth.ts';

/** mm under its farthest reach from which on the edge of a cavity may be nearest to a proximal face. */
const RIDGE_BEND = 0.6;

/** How far out (s · x) a surface reaches in the plane of one y. */
function reachAt({ positions: p, triangles: t }: ReturnType<typeof fineSurface>['mesh'], s: number, y: number): number {
  let reach = -Infinity;
  for (let i = 0; i < t.length; i++) {
    const [a, b] = [3 * t[i], 3 * t[i % 3 === 2 ? i - 2 : i + 1]];
    if (p[a + 1] > y === p[b + 1] > y) continue;
    reach = Math.max(reach, s * (p[a] + ((y - p[a + 1]) / (p[b + 1] - p[a + 1])) * (p[b] - p[a])));
  }
  return reach;
}

/** True values of what a cavity recipe determines, from its lofts and the tooth's formula. */
export function cavityTruth(t: Typodont, r: CavityRecipe): Truth[] {
  const parts = cavityParts(t, r);
  const out: Truth[] = [];
  const tell = (name: string, zone: string | null, stat: Stat, unit: Unit, value: number): void => {
    if (Number.isFinite(value)) out.push({ name, zone, stat, unit, value });
  };
  if (parts.occlusal && r.occlusal) {
    pulpal(t, parts, r.axiopulpal, tell);
    const slope = Math.hypot(Math.tan((r.occlusal.tiltMesial * Math.PI) / 180), Math.tan((r.occlusal.tiltFacial * Math.PI) / 180));
    if (r.occlusal.dish === 0) cuspPlane(t, r.occlusal, tell);
    dentine(t, parts, r.axiopulpal, tell);
    if (r.occlusal.dish === 0) tell('floor.pulpal.tilt', null, 'value', 'deg', (Math.atan(slope) * 180) / Math.PI);
    walls(
      t,
      parts.occlusal,
      r.boxes.map((b) => b.side),
      tell,
    );
    outline(t, parts, r, tell);
  }
  boxTruth(t, r, parts, levelOf(parts, r.axiopulpal), tell);
  stepTruth(t, parts, tell);
  return out;
}

/** Angle between the floor as it was cut and the plane that Cramer's rule lays through the cusp tips. */
function cuspPlane(t: Typodont, o: NonNullable<CavityRecipe['occlusal']>, tell: Tell): void {
  const tips = t.target.cusps.map((c) => c.at);
  if (tips.length < 3) return;
  const sum = (f: (p: Vec3) => number): number => tips.reduce((s, p) => s + f(p), 0);
  const [mx, my, mz] = [0, 1, 2].map((k) => sum((p) => p[k]) / tips.length);
  const [xx, xy, yy] = [sum((p) => (p[0] - mx) ** 2), sum((p) => (p[0] - mx) * (p[1] - my)), sum((p) => (p[1] - my) ** 2)];
  const [xz, yz] = [sum((p) => (p[0] - mx) * (p[2] - mz)), sum((p) => (p[1] - my) * (p[2] - mz))];
  const det = xx * yy - xy * xy;
  const [b, c] = [(xz * yy - yz * xy) / det, (yz * xx - xz * xy) / det];
  const [f, g] = [Math.tan((o.tiltMesial * Math.PI) / 180), Math.tan((o.tiltFacial * Math.PI) / 180)];
  const across = (b * f + c * g + 1) / Math.hypot(b, c, 1) / Math.hypot(f, g, 1);
  tell('floor.cusps', null, 'value', 'deg', (Math.acos(Math.min(1, across)) * 180) / Math.PI);
}

/** Height of the plane that lies in the pulpal floor, a hollow one's too. */
function levelOf(parts: CavityParts, bevel: number): ((x: number, y: number) => number) | null {
  const { occlusal: floor } = parts;
  const plane = floor && planeOf(floorPlaces(parts, bevel, 0.12).map(([x, y]): Vec3 => [x, y, floor.floor(x, y)]));
  if (!plane) return null;
  const { centre, normal } = plane;
  return (x, y) => centre[2] - ((x - centre[0]) * normal[0] + (y - centre[1]) * normal[1]) / normal[2];
}

/** How far the floor lies inside the dentine's own solid. */
function dentine(t: Typodont, parts: CavityParts, bevel: number, tell: Tell): void {
  const solid = dentineSolid(t.target);
  const surface = makeSurface(makeMesh('tooth', solid.positions, solid.triangles));
  const l = parts.occlusal as Loft;
  const depths = floorPlaces(parts, bevel, 0.12).map(([x, y]) => -(signedDistance(surface, x, y, l.floor(x, y)) as number));
  const [p05, median] = weightedQuantiles(
    depths,
    depths.map(() => 1),
    [0.05, 0.5],
  );
  tell('floor.dentine', null, 'p05', 'mm', p05);
  tell('floor.dentine', null, 'median', 'mm', median);
}

/** A grid of places inside the floor's plan, away from boxes and from the bevels of their axiopulpal line angles. */
function floorPlaces(parts: CavityParts, bevel: number, step: number): [number, number][] {
  const l = parts.occlusal as Loft;
  const out: [number, number][] = [];
  const off = 0.1 + bevel / Math.SQRT2;
  const limit = (x: number, y: number): boolean =>
    parts.boxes.every((b) => (b.recipe.side === 'mesial' ? x < b.axialX(y) - off : x > b.axialX(y) + off));
  for (let x = -6; x <= 6; x += step)
    for (let y = -6; y <= 6; y += step) if (insidePlan(l, x, y, l.radius) && limit(x, y)) out.push([x, y]);
  return out;
}

/** Floor depth on a fine grid. */
function pulpal(t: Typodont, parts: CavityParts, bevel: number, tell: Tell): void {
  const l = parts.occlusal as Loft;
  const depths = floorPlaces(parts, bevel, 0.06).map(([x, y]) => surfaceZ(t.target, x, y) - l.floor(x, y));
  const [p05, median, p95] = weightedQuantiles(
    depths,
    depths.map(() => 1),
    [0.05, 0.5, 0.95],
  );
  tell('depth.pulpal', null, 'p05', 'mm', p05);
  tell('depth.pulpal', null, 'median', 'mm', median);
  tell('depth.pulpal', null, 'p95', 'mm', p95);
}

function insidePlan(l: Loft, x: number, y: number, margin: number): boolean {
  let inside = false;
  const n = l.plan.length;
  for (let i = 0; i < n; i++) {
    const a = l.plan[i];
    const b = l.plan[(i + 1) % n];
    if ((a.x - x) ** 2 + (a.y - y) ** 2 < margin ** 2) return false;
    if (a.y > y !== b.y > y && x < a.x + ((y - a.y) / (b.y - a.y)) * (b.x - a.x)) inside = !inside;
  }
  return inside;
}

/** Mean taper of the wall points whose outward normal looks to each side, weighted by the wall's height there. */
function walls(t: Typodont, l: Loft, open: readonly string[], tell: Tell): void {
  for (const [side, ux, uy] of [
    ['facial', 0, 1],
    ['mesial', 1, 0],
    ['lingual', 0, -1],
    ['distal', -1, 0],
  ] as const) {
    if (open.includes(side)) continue;
    let sum = 0;
    let weight = 0;
    l.plan.forEach((p, i) => {
      if (p.nx * ux + p.ny * uy <= Math.SQRT1_2) return;
      const w = Math.max(0, edgeAt(t, l, i)[2] - l.floor(p.x, p.y) - 0.3);
      sum += w * p.taper;
      weight += w;
    });
    if (weight) tell('wall.angle', side, 'mean', 'deg', sum / weight);
  }
}

function outline(t: Typodont, parts: CavityParts, r: CavityRecipe, tell: Tell): void {
  const l = parts.occlusal as Loft;
  const edge = l.plan.map((_, i) => edgeAt(t, l, i));
  // A box's margins run along the occlusal surface too, until its side walls meet the outer face.
  const all = [...edge, ...parts.boxes.flatMap((b) => b.loft.plan.map((_, i) => edgeAt(t, b.loft, i)))];
  for (const c of t.target.cusps)
    tell('outline.cusp', c.name, 'min', 'mm', Math.min(...all.map((p) => Math.hypot(p[0] - c.at[0], p[1] - c.at[1]))));
  for (const g of t.target.grooves)
    if (g.rank === 'secondary' && parts.boxes.length === 0)
      tell(
        'outline.entered',
        g.name,
        'value',
        'mm',
        lengthInside(
          edge.map((p) => [p[0], p[1]] as const),
          g.line,
        ).inside,
      );
  const groove = t.target.grooves.find((g) => g.name === 'central');
  if (groove) {
    const line = [...groove.line].sort((a, b) => a[0] - b[0]);
    const xs = l.plan.map((p) => p.x);
    const [x0, x1] = [Math.min(...xs), Math.max(...xs)];
    let least = Infinity;
    // Across the groove, over the middle half where neither end nor box plays in.
    for (let i = 0; i + 1 < line.length; i++)
      for (let k = 0; k < 10; k++) {
        const x = line[i][0] + ((line[i + 1][0] - line[i][0]) * k) / 10;
        const y = line[i][1] + ((line[i + 1][1] - line[i][1]) * k) / 10;
        if (x < x0 + 0.25 * (x1 - x0) || x > x0 + 0.75 * (x1 - x0)) continue;
        const d = Math.hypot(line[i + 1][0] - line[i][0], line[i + 1][1] - line[i][1]);
        const across = crossings(edge, x, y, -(line[i + 1][1] - line[i][1]) / d, (line[i + 1][0] - line[i][0]) / d);
        if (across !== null) least = Math.min(least, across);
      }
    tell('outline.isthmus', null, 'min', 'mm', least);
    dovetail(edge, line, least, r, parts, tell);
  }
  const { mesh: outerFace } = fineSurface(t.teeth[0]);
  for (const side of ['mesial', 'distal'] as const) {
    if (r.boxes.some((b) => b.side === side)) continue;
    const s = side === 'mesial' ? 1 : -1;
    const end = Math.max(...edge.map((p) => s * p[0]));
    // The narrowest place lies where the edge reaches farthest out, or a little beside it on a curved face.
    const near = edge.filter((p) => s * p[0] > end - RIDGE_BEND);
    tell(`outline.ridge.${side}`, null, 'min', 'mm', Math.min(...near.map((p) => reachAt(outerFace, s, p[1]) - s * p[0])));
  }
  // Hidden depth: how far each wall's foot lies outside of its own edge.
  const lofts = [l, ...parts.boxes.map((b) => b.loft)];
  const hidden = lofts.flatMap((q) =>
    q.plan.map((p, i) => {
      const foot = wallPoint(q, i, q.radius);
      const top = edgeAt(t, q, i);
      return (foot[0] - top[0]) * p.nx + (foot[1] - top[1]) * p.ny;
    }),
  );
  if (parts.boxes.length === 0) tell('retention.depth', null, 'max', 'mm', Math.max(0, ...hidden));
}

/** Distance between the nearest crossings of a closed curve on both sides of (x, y) along (dx, dy). */
function crossings(edge: readonly Vec3[], x: number, y: number, dx: number, dy: number): number | null {
  let above = Infinity;
  let below = -Infinity;
  edge.forEach((a, i) => {
    const b = edge[(i + 1) % edge.length];
    const sa = (a[0] - x) * dy - (a[1] - y) * dx;
    const sb = (b[0] - x) * dy - (b[1] - y) * dx;
    if (sa > 0 === sb > 0) return;
    const f = sa / (sa - sb);
    const d = (a[0] + f * (b[0] - a[0]) - x) * dx + (a[1] + f * (b[1] - a[1]) - y) * dy;
    if (d > 0) above = Math.min(above, d);
    else below = Math.max(below, d);
  });
  return Number.isFinite(above) && Number.isFinite(below) ? above - below : null;
}

/** Widest place of the outline towards its closed ends over its narrowest, both across the groove. */
function dovetail(
  edge: readonly Vec3[],
  line: readonly (readonly number[])[],
  least: number,
  r: CavityRecipe,
  parts: CavityParts,
  tell: Tell,
): void {
  const closed = (['mesial', 'distal'] as const).filter((side) => r.boxes.every((b) => b.side !== side));
  if (closed.length === 0) return;
  const xs = edge.map((p) => p[0]);
  const [x0, x1] = [Math.min(...xs), Math.max(...xs)];
  const middle = (x0 + x1) / 2;
  let widest = 0;
  const [first, last] = [line[0], line[line.length - 1]];
  const carried = [[first[0] - 2, first[1]], ...line, [last[0] + 2, last[1]]];
  for (let i = 0; i + 1 < carried.length; i++)
    for (let k = 0; k < 20; k++) {
      const x = carried[i][0] + ((carried[i + 1][0] - carried[i][0]) * k) / 20;
      const y = carried[i][1] + ((carried[i + 1][1] - carried[i][1]) * k) / 20;
      if (!closed.includes(x > middle ? 'mesial' : 'distal') || parts.boxes.some((b) => Math.abs(x - b.axialX(y)) < 0.3)) continue;
      const d = Math.hypot(carried[i + 1][0] - carried[i][0], carried[i + 1][1] - carried[i][1]);
      widest = Math.max(
        widest,
        crossings(edge, x, y, -(carried[i + 1][1] - carried[i][1]) / d, (carried[i + 1][0] - carried[i][0]) / d) ?? 0,
      );
    }
  if (widest > 0) tell('outline.dovetail', null, 'value', 'ratio', widest / least);
}
