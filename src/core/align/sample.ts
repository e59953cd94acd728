import type { Matrix } from '../linalg/rigid.ts';
import { borderVertices, type Mesh, vertexCount } from '../mesh/mesh.ts';
import { seeded } from '../statistics/random.ts';

/** Points spread evenly by area over a mesh, with unit normals. */
export interface Sample {
  readonly count: number;
  readonly points: Float64Array;
  readonly normals: Float64Array;
  /** Surface per point, mm². */
  readonly areaEach: number;
  /** Sum of area vectors over the total area: long for an open shell, near zero for a closed body. */
  readonly openness: readonly [number, number, number];
}

/** Stratified sampling by vertex area; vertices on an open border are left out because scanners curl there. */
export function sampleSurface(m: Mesh, wanted: number, border = borderVertices(m), seed = 7): Sample {
  const { normals, areas } = areaNormals(m);
  const nv = vertexCount(m);
  let total = 0;
  const open: [number, number, number] = [0, 0, 0];
  for (let v = 0; v < nv; v++) {
    for (let k = 0; k < 3; k++) open[k] += areas[v] * normals[3 * v + k];
    if (!border[v]) total += areas[v];
  }
  const random = seeded(seed);
  const step = total / wanted;
  const chosen: number[] = [];
  let at = step * random.next();
  let sum = 0;
  for (let v = 0; v < nv; v++) {
    if (border[v]) continue;
    sum += areas[v];
    if (sum > at) {
      chosen.push(v);
      while (at < sum) at += step;
    }
  }
  // A shuffled order makes every prefix an even sample of the whole.
  for (let i = chosen.length - 1; i > 0; i--) {
    const j = Math.floor(random.next() * (i + 1));
    [chosen[i], chosen[j]] = [chosen[j], chosen[i]];
  }
  const points = new Float64Array(chosen.length * 3);
  const ns = new Float64Array(chosen.length * 3);
  chosen.forEach((v, i) => {
    for (let k = 0; k < 3; k++) {
      points[3 * i + k] = m.positions[3 * v + k];
      ns[3 * i + k] = normals[3 * v + k];
    }
  });
  return {
    count: chosen.length,
    points,
    normals: ns,
    areaEach: total / chosen.length,
    openness: [open[0] / total, open[1] / total, open[2] / total],
  };
}

/** Scalar product of `n` and the sample's normal `i` in the pose `m`. */
export function normalAlong({ normals }: Sample, i: number, m: Matrix, n: readonly number[]): number {
  const x = normals[3 * i];
  const y = normals[3 * i + 1];
  const z = normals[3 * i + 2];
  return (m[0] * x + m[1] * y + m[2] * z) * n[0] + (m[4] * x + m[5] * y + m[6] * z) * n[1] + (m[8] * x + m[9] * y + m[10] * z) * n[2];
}

/** Area-weighted vertex normals (unit): quicker than angle-weighted ones, and as good for telling which way a sample faces. */
function areaNormals(m: Mesh): { normals: Float64Array; areas: Float64Array } {
  const { positions: p, triangles: t } = m;
  const normals = new Float64Array(p.length);
  const areas = new Float64Array(p.length / 3);
  for (let f = 0; f < t.length; f += 3) {
    const a = 3 * t[f];
    const b = 3 * t[f + 1];
    const c = 3 * t[f + 2];
    const ux = p[b] - p[a];
    const uy = p[b + 1] - p[a + 1];
    const uz = p[b + 2] - p[a + 2];
    const vx = p[c] - p[a];
    const vy = p[c + 1] - p[a + 1];
    const vz = p[c + 2] - p[a + 2];
    const x = uy * vz - uz * vy;
    const y = uz * vx - ux * vz;
    const z = ux * vy - uy * vx;
    const third = Math.sqrt(x * x + y * y + z * z) / 6;
    for (let h = f; h < f + 3; h++) {
      const v = 3 * t[h];
      normals[v] += x;
      normals[v + 1] += y;
      normals[v + 2] += z;
      areas[t[h]] += third;
    }
  }
  for (let v = 0; v < normals.length; v += 3) {
    const l = Math.sqrt(normals[v] ** 2 + normals[v + 1] ** 2 + normals[v + 2] ** 2) || 1;
    normals[v] /= l;
    normals[v + 1] /= l;
    normals[v + 2] /= l;
  }
  return { normals, areas };
}
