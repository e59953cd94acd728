import { length, sub, type Vec3 } from '../linalg/vec.ts';
import { type Cusp, type Groove, PART } from '../master/master.ts';
import { type Mesh, subMesh, triangleCount } from '../mesh/mesh.ts';
import { closestPoint, makeSurface, newClosest, type Surface } from '../spatial/surface.ts';
import { inTooth, type Laid, toScan } from './fit.ts';
import { templateOf } from './template.ts';

/** mm round the usual place of a cusp tip in which the highest point is looked for. */
const TIP_WITHIN = 1.3;
/** mm to each side of an incisal edge's middle. */
const EDGE_MIDDLE = 0.3;
/** mm that a step uphill reaches. */
const UPHILL = 0.45;
/** mm under the highest point whose points are averaged into the tip: one noisy point decides nothing. */
const TIP_CAP = 0.06;

export interface MarksFound {
  readonly cusps: readonly (Cusp & { readonly off: number })[];
  readonly grooves: readonly Groove[];
  readonly ridges: { readonly mesial: Vec3[]; readonly distal: Vec3[]; readonly oblique: Vec3[] };
}

/** A part of the arch alone, null where it has no surface. */
export function partSurface(mesh: Mesh, parts: Uint8Array, part: number): Surface | null {
  const t = mesh.triangles;
  const { mesh: own } = subMesh(mesh, (f) => [0, 1, 2].every((k) => parts[t[3 * f + k]] === part));
  return triangleCount(own) ? makeSurface(own) : null;
}

/** Cusps, grooves and ridges of the usual form, brought onto the scanned tooth: tips to its highest points, grooves to its valleys. */
export function marksOn(target: Surface, tooth: string, laid: Laid): MarksFound {
  const { shape } = templateOf(tooth);
  const at = (q: Vec3): Vec3 => onto(target, toScan(laid, q));
  return {
    cusps: shape.cusps.map((c) => {
      const usual = toScan(laid, c.at);
      const tip = tipNear(target, laid, usual, c.name === 'edge');
      return { name: c.name, role: c.role, at: tip, off: length(sub(tip, usual)) };
    }),
    grooves: shape.grooves.map((g) => ({ name: g.name, rank: g.rank, line: g.line.map((q) => valleyNear(target, laid, toScan(laid, q))) })),
    ridges: { mesial: shape.ridges.mesial.map(at), distal: shape.ridges.distal.map(at), oblique: shape.ridges.oblique.map(at) },
  };
}

const hit = newClosest();
function onto(s: Surface, p: Vec3): Vec3 {
  return closestPoint(s, p[0], p[1], p[2], hit, 3) ? [hit.x, hit.y, hit.z] : p;
}

function tipNear(s: Surface, laid: Laid, usual: Vec3, isEdge: boolean): Vec3 {
  const p = s.mesh.positions;
  const start = inTooth(laid, usual);
  const all: { p: Vec3; t: Vec3; area: number }[] = [];
  for (let v = 0; v < p.length / 3; v++) {
    const q: Vec3 = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    if (length(sub(q, usual)) > 2.5 * TIP_WITHIN) continue;
    const t = inTooth(laid, q);
    // An incisal edge has no highest place along it: the landmark is its middle.
    if (!isEdge || Math.abs(t[0] - start[0]) < EDGE_MIDDLE) all.push({ p: q, t, area: s.vertexAreas[v] });
  }
  let at = start;
  let cap: typeof all = [];
  // Uphill in steps: a small cusp beside a tall one keeps its own tip.
  for (let step = 0; step < 8; step++) {
    const near = all.filter(
      (q) => Math.hypot(q.t[0] - at[0], q.t[1] - at[1]) < UPHILL && Math.hypot(q.t[0] - start[0], q.t[1] - start[1]) < TIP_WITHIN,
    );
    if (near.length === 0) break;
    const top = near.reduce((a, b) => (b.t[2] > a.t[2] ? b : a));
    cap = near.filter((q) => q.t[2] > top.t[2] - TIP_CAP);
    if (Math.hypot(top.t[0] - at[0], top.t[1] - at[1]) < 0.05) break;
    at = top.t;
  }
  if (cap.length === 0) return onto(s, usual);
  const weight = cap.reduce((sum, q) => sum + q.area, 0);
  return onto(s, [0, 1, 2].map((k) => cap.reduce((sum, q) => sum + q.area * q.p[k], 0) / weight) as [number, number, number]);
}

/** mm to each side of a groove's usual place in which its deepest point is looked for. */
const VALLEY_WITHIN = 0.5;

function valleyNear(s: Surface, laid: Laid, usual: Vec3): Vec3 {
  const [x, y] = laid.axes;
  let best = onto(s, usual);
  let least = inTooth(laid, best)[2];
  for (let a = 0; a < 8; a++)
    for (const r of [VALLEY_WITHIN / 2, VALLEY_WITHIN]) {
      const [c, d] = [r * Math.cos((a * Math.PI) / 4), r * Math.sin((a * Math.PI) / 4)];
      const q = onto(s, [0, 1, 2].map((k) => usual[k] + c * x[k] + d * y[k]) as [number, number, number]);
      const z = inTooth(laid, q)[2];
      // Farther places must be clearly deeper: along a groove everything is about as deep.
      if (z < least - 0.25 * r) {
        least = z;
        best = q;
      }
    }
  return best;
}

/** Where the target and a neighbour come nearest, the middle of all that is nearly as near; null without that neighbour. */
export function contactWith(mesh: Mesh, parts: Uint8Array, target: Surface, laid: Laid, side: 'mesial' | 'distal'): Vec3 | null {
  const other = partSurface(mesh, parts, PART[side]);
  if (!other) return null;
  const p = target.mesh.positions;
  const gaps: { p: Vec3; d: number; area: number }[] = [];
  for (let v = 0; v < p.length / 3; v++) {
    const q: Vec3 = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    const t = inTooth(laid, q);
    if ((side === 'mesial' ? t[0] : -t[0]) < 0 || t[2] < 1.5) continue;
    if (closestPoint(other, q[0], q[1], q[2], hit, 2)) gaps.push({ p: q, d: Math.sqrt(hit.distanceSquared), area: target.vertexAreas[v] });
  }
  if (gaps.length === 0) return null;
  const least = Math.min(...gaps.map((g) => g.d));
  const near = gaps.filter((g) => g.d < least + 0.06);
  const weight = near.reduce((s, g) => s + g.area, 0);
  return onto(target, [0, 1, 2].map((k) => near.reduce((s, g) => s + g.area * g.p[k], 0) / weight) as [number, number, number]);
}
