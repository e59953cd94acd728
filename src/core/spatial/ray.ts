import type { Tree } from './tree.ts';

const stack = new Int32Array(512);

/** First hit of a ray (unit direction) with the surface: its distance, or null. */
export function castRay(
  s: { readonly tree: Tree },
  o: readonly [number, number, number],
  d: readonly [number, number, number],
  maximum = Infinity,
): number | null {
  const { boxes, children, root, leaves, corners } = s.tree;
  let best = maximum;
  let found = false;
  const ix = 1 / d[0];
  const iy = 1 / d[1];
  const iz = 1 / d[2];
  const meets = (b: number): boolean => {
    const x0 = (boxes[b] - boxes[b + 3] - o[0]) * ix;
    const x1 = (boxes[b] + boxes[b + 3] - o[0]) * ix;
    const y0 = (boxes[b + 1] - boxes[b + 4] - o[1]) * iy;
    const y1 = (boxes[b + 1] + boxes[b + 4] - o[1]) * iy;
    const z0 = (boxes[b + 2] - boxes[b + 5] - o[2]) * iz;
    const z1 = (boxes[b + 2] + boxes[b + 5] - o[2]) * iz;
    const t0 = Math.max(0, Math.min(x0, x1), Math.min(y0, y1), Math.min(z0, z1));
    const t1 = Math.min(best, Math.max(x0, x1), Math.max(y0, y1), Math.max(z0, z1));
    // Written so that a ray within a face of the box (0 × ∞, not a number) is looked into rather than past.
    return !(t0 > t1);
  };
  let top = 0;
  stack[0] = root;
  while (top >= 0) {
    const node = stack[top--];
    if (node >= 0) {
      if (meets(12 * node)) stack[++top] = children[2 * node];
      if (meets(12 * node + 6)) stack[++top] = children[2 * node + 1];
      continue;
    }
    for (let i = leaves[-node - 1]; i < leaves[-node]; i++) {
      const t = rayTriangle(corners, 9 * i, o, d);
      if (t !== null && t < best) {
        best = t;
        found = true;
      }
    }
  }
  return found ? best : null;
}

/** Share of a triangle by which it is widened against rays: one along a shared side must not slip between both of its triangles. */
const EDGE_SLACK = 1e-9;

/** @source Möller & Trumbore (1997) */
function rayTriangle(c: Float64Array, o: number, p: readonly number[], d: readonly number[]): number | null {
  const e1x = c[o + 3] - c[o],
    e1y = c[o + 4] - c[o + 1],
    e1z = c[o + 5] - c[o + 2];
  const e2x = c[o + 6] - c[o],
    e2y = c[o + 7] - c[o + 1],
    e2z = c[o + 8] - c[o + 2];
  const hx = d[1] * e2z - d[2] * e2y,
    hy = d[2] * e2x - d[0] * e2z,
    hz = d[0] * e2y - d[1] * e2x;
  const a = e1x * hx + e1y * hy + e1z * hz;
  if (Math.abs(a) < 1e-14) return null;
  const sx = p[0] - c[o],
    sy = p[1] - c[o + 1],
    sz = p[2] - c[o + 2];
  const u = (sx * hx + sy * hy + sz * hz) / a;
  if (u < -EDGE_SLACK || u > 1 + EDGE_SLACK) return null;
  const qx = sy * e1z - sz * e1y,
    qy = sz * e1x - sx * e1z,
    qz = sx * e1y - sy * e1x;
  const v = (d[0] * qx + d[1] * qy + d[2] * qz) / a;
  if (v < -EDGE_SLACK || u + v > 1 + EDGE_SLACK) return null;
  const t = (e2x * qx + e2y * qy + e2z * qz) / a;
  return t > 1e-9 ? t : null;
}
