import { turnedOver } from '../mesh/mesh.ts';

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
    const a = 3 * triangles[h];
    const b = 3 * triangles[h + 1];
    const c = 3 * triangles[h + 2];
    const ax = positions[a] - ox;
    const ay = positions[a + 1] - oy;
    const az = positions[a + 2] - oz;
    const bx = positions[b] - ox;
    const by = positions[b + 1] - oy;
    const bz = positions[b + 2] - oz;
    const cx = positions[c] - ox;
    const cy = positions[c + 1] - oy;
    const cz = positions[c + 2] - oz;
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
  for (let h = 0; h < t.length; h += 3) {
    const a = 3 * t[h];
    const b = 3 * t[h + 1];
    const c = 3 * t[h + 2];
    for (let d = 0; d < 3; d++) {
      const x = p[a + d];
      const y = p[b + d];
      const z = p[c + d];
      open[a + d] += z - y;
      open[b + d] += x - z;
      open[c + d] += y - x;
    }
  }
  const middle: [number, number, number] = [0, 0, 0];
  let whole = 0;
  for (let v = 0; v < p.length; v += 3) {
    const squared = open[v] * open[v] + open[v + 1] * open[v + 1] + open[v + 2] * open[v + 2];
    if (squared < 1e-12) continue;
    const w = Math.sqrt(squared);
    whole += w;
    for (let d = 0; d < 3; d++) middle[d] += w * p[v + d];
  }
  if (whole === 0) return [p[0], p[1], p[2]];
  return [middle[0] / whole, middle[1] / whole, middle[2] / whole];
}

/** The triangles turned over where the surface as a whole faces inward: an export turned it inside out, or an impression was scanned. */
export const facingOutward = (positions: Float64Array, triangles: Uint32Array): Uint32Array =>
  outwardShare(positions, triangles) > INWARD ? triangles : turnedOver(triangles);
