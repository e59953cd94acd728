/** Share under which a surface faces inward as a whole: scans and masters of all our constructions read 0.18 and more. */
const INWARD = -0.1;

/**
 * How far a surface faces outward as a whole: the volume between it and the middle of its open border, signed by the way its triangles wind,
 * per what the same triangles would enclose if all of it had one sign. 1 for a closed body or a dome, −1 for the same turned inside out, about 0 for a sheet.
 * @formula Σ v ÷ Σ |v|, v = (a − o) · ((b − o) × (c − o)) of each triangle, o the middle of the border
 * @source own definition
 * @example a hemisphere without its base reads 1, and −1 when every triangle is turned
 */
export function outwardShare(positions: Float64Array, triangles: Uint32Array): number {
  const [ox, oy, oz] = middleOfBorder(positions, triangles);
  let sum = 0;
  let size = 0;
  for (let h = 0; h < triangles.length; h += 3) {
    const [a, b, c] = [3 * triangles[h], 3 * triangles[h + 1], 3 * triangles[h + 2]];
    const [ax, ay, az] = [positions[a] - ox, positions[a + 1] - oy, positions[a + 2] - oz];
    const [bx, by, bz] = [positions[b] - ox, positions[b + 1] - oy, positions[b + 2] - oz];
    const [cx, cy, cz] = [positions[c] - ox, positions[c + 1] - oy, positions[c + 2] - oz];
    const v = ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
    sum += v;
    size += Math.abs(v);
  }
  return size > 0 ? sum / size : 0;
}

/** Of a closed surface the first corner: its volume is the same from anywhere. */
function middleOfBorder(p: Float64Array, t: Uint32Array): [number, number, number] {
  // The sides across from a corner follow each other: round one inside the surface they add up to nothing, on a border to a way along it.
  const open = new Float64Array(p.length);
  for (let h = 0; h < t.length; h += 3)
    for (let k = 0; k < 3; k++) {
      const v = 3 * t[h + k];
      const from = 3 * t[h + ((k + 1) % 3)];
      const to = 3 * t[h + ((k + 2) % 3)];
      for (let d = 0; d < 3; d++) open[v + d] += p[to + d] - p[from + d];
    }
  const middle: [number, number, number] = [0, 0, 0];
  let whole = 0;
  for (let v = 0; v < p.length; v += 3) {
    const w = Math.hypot(open[v], open[v + 1], open[v + 2]);
    if (w < 1e-6) continue;
    whole += w;
    for (let d = 0; d < 3; d++) middle[d] += w * p[v + d];
  }
  if (whole === 0) return [p[0], p[1], p[2]];
  return [middle[0] / whole, middle[1] / whole, middle[2] / whole];
}

/** Every triangle the other way round where the surface as a whole faces inward: an export turned it inside out, or an impression was scanned. */
export function facingOutward(positions: Float64Array, triangles: Uint32Array): Uint32Array {
  if (outwardShare(positions, triangles) > INWARD) return triangles;
  return triangles.map((_, h) => triangles[h % 3 === 0 ? h : h % 3 === 1 ? h + 1 : h - 1]);
}
