import { leastSquares } from '../linalg/least-squares.ts';
import { add, cross, distance, dot, length, scale, sub, unit, type Vec3 } from '../linalg/vec.ts';
import { type Mesh, makeMesh, subMesh, triangleNeighbours, vertexCount, vertexNormals } from '../mesh/mesh.ts';

/** mm round a hole whose surface tells how the tooth runs on over it. */
const AROUND = 0.8;
/** Least cosine between the hole's outside and that of the surface which tells: a tooth's corners turn away from its contact. */
const ALIKE = 0.75;
/** mm between the rings of a cap. */
const STEP = 0.25;
/** Share of a rim that has to lie beside a bridge to be a hole of its own. */
const ALL = 0.9;
/** Rim vertices by which a stretch beside a bridge may be interrupted, and of which it has at least. */
const GAP = 4;
const LEAST = 8;

/** An opening in a surface: rim vertices in the order in which its triangles run along them, and whether the last is beside the first. */
interface Opening {
  readonly rim: readonly number[];
  readonly isClosed: boolean;
}

/**
 * The target tooth of an arch, with its contacts closed where the scan of the arch bridged them: there the tooth has a hole, and what is cut behind
 * a hole would be neither inside nor outside of the tooth. Bridges and what lies 0.6 mm beside them are taken away, and the tooth's own surface is carried
 * on over the hole; where a bridge reaches down to the tooth's open border, as far as a line from one end of the gap to the other.
 */
export function withContactsClosed(arch: Mesh<'tooth'>, isTarget: (v: number) => boolean, onBridge: ArrayLike<number>): Mesh<'tooth'> {
  const t = arch.triangles;
  const corners = (f: number): [number, number, number] => [t[3 * f], t[3 * f + 1], t[3 * f + 2]];
  const left = (v: number): boolean => onBridge[v] === 1;
  const { mesh, from } = subMesh(arch, (f) => corners(f).some(isTarget) && !corners(f).some(left));
  const beside = besideLeft(arch, left);
  return rims(mesh)
    .flatMap((rim) => openings(rim, (v) => beside[from[v]] === 1))
    .reduce(capped, mesh);
}

/** The stretches of a rim that lie beside a bridge; the whole of it where nearly all does. */
function openings(rim: readonly number[], isMarked: (v: number) => boolean): Opening[] {
  const marked = rim.map(isMarked);
  const count = marked.filter(Boolean).length;
  if (count === 0) return [];
  if (count >= ALL * rim.length) return [{ rim, isClosed: true }];
  const n = rim.length;
  const stretches: number[][] = [];
  // From a place that lies beside no bridge, so that no stretch is cut in two.
  const start = marked.indexOf(false);
  let gap = GAP + 1;
  for (let k = 0; k < n; k++) {
    const i = (start + k) % n;
    if (!marked[i]) {
      gap++;
      continue;
    }
    if (gap > GAP) stretches.push([]);
    const own = stretches[stretches.length - 1];
    for (let back = gap > GAP ? 0 : gap; back >= 0; back--) own.push(rim[(i - back + n) % n]);
    gap = 0;
  }
  return stretches.filter((s) => s.length >= LEAST).map((s) => ({ rim: s, isClosed: false }));
}

/** Vertices of triangles that a bridge's vertex is part of. */
function besideLeft(arch: Mesh<'tooth'>, left: (v: number) => boolean): Uint8Array {
  const t = arch.triangles;
  const out = new Uint8Array(vertexCount(arch));
  for (let f = 0; f < t.length; f += 3) if (left(t[f]) || left(t[f + 1]) || left(t[f + 2])) for (let k = 0; k < 3; k++) out[t[f + k]] = 1;
  return out;
}

/** Closed rims of a surface's open borders, each in the order in which its triangles run along it. */
function rims(m: Mesh<'tooth'>): number[][] {
  const neighbours = triangleNeighbours(m.triangles, vertexCount(m));
  const next = new Map<number, number[]>();
  for (let e = 0; e < neighbours.length; e++) {
    if (neighbours[e] >= 0) continue;
    const f = e - (e % 3);
    const [a, b] = [m.triangles[e], m.triangles[f + ((e + 1) % 3)]];
    next.set(a, [...(next.get(a) ?? []), b]);
  }
  const out: number[][] = [];
  for (const start of next.keys()) {
    const rim: number[] = [];
    for (let v: number | undefined = start; v !== undefined; v = next.get(v)?.pop()) {
      if (rim.length && v === start) break;
      rim.push(v);
    }
    if (rim.length > 2) out.push(rim);
  }
  return out;
}

/** A surface with one of its holes closed: rings from the rim inward on the quadric that fits the surface round it, what the rim stands off it fading towards the middle. */
function capped(m: Mesh<'tooth'>, { rim, isClosed }: Opening): Mesh<'tooth'> {
  const at = (v: number): Vec3 => [m.positions[3 * v], m.positions[3 * v + 1], m.positions[3 * v + 2]];
  const points = rim.map(at);
  const middle = scale(
    points.reduce((s, p) => add(s, p), [0, 0, 0] as Vec3),
    1 / rim.length,
  );
  // The rim's own normal, by the areas that its sides span with the middle; it runs against the hole's outside.
  const w = unit(
    scale(
      points.reduce((s, p, i) => add(s, cross(sub(p, middle), sub(points[(i + 1) % points.length], middle))), [0, 0, 0] as Vec3),
      -1,
    ),
  );
  const u = unit(cross(Math.abs(w[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0], w));
  const v = cross(w, u);
  const local = (p: Vec3): Vec3 => [dot(sub(p, middle), u), dot(sub(p, middle), v), dot(sub(p, middle), w)];
  const radius = Math.max(...points.map((p) => length(sub(p, middle))));
  const terms = (x: number, y: number): number[] => [1, x, y, x * x, x * y, y * y];
  const rows: { f: number[]; x: number; w: number }[] = [];
  const { normals } = vertexNormals(m);
  for (let i = 0; i < vertexCount(m); i++) {
    const p = at(i);
    const q = local(p);
    if (Math.hypot(...q) > radius + AROUND || dot([normals[3 * i], normals[3 * i + 1], normals[3 * i + 2]], w) < ALIKE) continue;
    if (points.some((r) => distance(r, p) < AROUND)) rows.push({ f: terms(q[0], q[1]), x: q[2], w: 1 });
  }
  const fit = rows.length >= 12 ? leastSquares(rows) : null;
  const height = (x: number, y: number): number => (fit ? terms(x, y).reduce((s, f, k) => s + f * fit[k], 0) : 0);
  const flat: [number, number][] = points.map((p) => [dot(sub(p, middle), u), dot(sub(p, middle), v)]);
  const off = points.map((p, i) => dot(sub(p, middle), w) - height(...flat[i]));
  const rest = off.reduce((s, d) => s + d, 0) / off.length;
  const count = Math.max(2, Math.ceil(radius / STEP));
  const positions = [...m.positions];
  const triangles = [...m.triangles];
  const put = (x: number, y: number, own: number): number => {
    const p = add(add(add(middle, scale(u, x)), scale(v, y)), scale(w, height(x, y) + own));
    positions.push(...p);
    return positions.length / 3 - 1;
  };
  const edge = [...rim];
  if (!isClosed) {
    const [from, to] = [flat[flat.length - 1], flat[0]];
    const [offFrom, offTo] = [off[off.length - 1], off[0]];
    const steps = Math.max(1, Math.round(Math.hypot(to[0] - from[0], to[1] - from[1]) / STEP));
    for (let k = 1; k < steps; k++) {
      const f = k / steps;
      flat.push([from[0] + f * (to[0] - from[0]), from[1] + f * (to[1] - from[1])]);
      off.push(offFrom + f * (offTo - offFrom));
      edge.push(put(...(flat[flat.length - 1] as [number, number]), off[off.length - 1]));
    }
  }
  let outer = edge;
  for (let k = 1; k < count; k++) {
    const share = 1 - k / count;
    const inner = flat.map((q, i) => put(share * q[0], share * q[1], share * off[i] + (1 - share) * rest));
    for (let i = 0; i < edge.length; i++) {
      const j = (i + 1) % edge.length;
      triangles.push(outer[j], outer[i], inner[i], outer[j], inner[i], inner[j]);
    }
    outer = inner;
  }
  const last = put(0, 0, rest);
  for (let i = 0; i < edge.length; i++) triangles.push(outer[(i + 1) % edge.length], outer[i], last);
  return makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles));
}
