/** Grid on which two corners count as one, in mm: far below scanner noise, far above float32 rounding at 100 mm. */
export const WELD_GRID_MM = 1e-4;

/**
 * Joins corners that fall on the same point of a 0.1 µm grid and drops triangles that lose a corner by it.
 * Open addressing on a table of twice the corner count; linear in the number of corners.
 */
export function weld(
  positions: Float64Array,
  triangles: Uint32Array | null,
): { positions: Float64Array; triangles: Uint32Array; vertexOf: Uint32Array } {
  const n = positions.length / 3;
  let size = 1;
  while (size < 2 * n) size *= 2;
  const table = new Int32Array(size).fill(-1);
  const vertexOf = new Uint32Array(n);
  const keys = new Float64Array(n * 3);
  const out = new Float64Array(n * 3);
  let used = 0;
  const inverse = 1 / WELD_GRID_MM;
  for (let i = 0; i < n; i++) {
    const x = Math.round(positions[3 * i] * inverse);
    const y = Math.round(positions[3 * i + 1] * inverse);
    const z = Math.round(positions[3 * i + 2] * inverse);
    let h = (Math.imul(x | 0, 73856093) ^ Math.imul(y | 0, 19349663) ^ Math.imul(z | 0, 83492791)) >>> 0;
    h = (Math.imul(h ^ (h >>> 15), 0x2c1b3c6d) >>> 0) & (size - 1);
    for (;;) {
      const v = table[h];
      if (v < 0) {
        table[h] = used;
        keys[3 * used] = x;
        keys[3 * used + 1] = y;
        keys[3 * used + 2] = z;
        out[3 * used] = positions[3 * i];
        out[3 * used + 1] = positions[3 * i + 1];
        out[3 * used + 2] = positions[3 * i + 2];
        vertexOf[i] = used++;
        break;
      }
      if (keys[3 * v] === x && keys[3 * v + 1] === y && keys[3 * v + 2] === z) {
        vertexOf[i] = v;
        break;
      }
      h = (h + 1) & (size - 1);
    }
  }
  const corners = triangles ? triangles.length : n;
  const kept = new Uint32Array(corners);
  let k = 0;
  for (let f = 0; f < corners; f += 3) {
    const a = vertexOf[triangles ? triangles[f] : f];
    const b = vertexOf[triangles ? triangles[f + 1] : f + 1];
    const c = vertexOf[triangles ? triangles[f + 2] : f + 2];
    if (a === b || b === c || c === a) continue;
    kept[k++] = a;
    kept[k++] = b;
    kept[k++] = c;
  }
  return { positions: out.slice(0, used * 3), triangles: kept.slice(0, k), vertexOf };
}
