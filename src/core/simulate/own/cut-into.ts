import { toRadians } from '../../linalg/vec.ts';
import { type Master, PART } from '../../master/master.ts';
import { type Mesh, makeMesh } from '../../mesh/mesh.ts';
import type { CutProfile } from '../crown/envelope.ts';

/** A scanned arch with the part of each of its vertices, in the tooth frame. */
export interface Arch {
  readonly mesh: Mesh<'tooth'>;
  readonly parts: Uint8Array;
}

const arches = new WeakMap<Master, Arch>();
/** A master's whole arch; the same one for whoever asks again. */
export function archOf(m: Master): Arch {
  const arch = arches.get(m) ?? { mesh: m.whole.mesh, parts: m.wholeParts };
  arches.set(m, arch);
  return arch;
}

/** mm: longest side of a triangle of the target before it is cut, so that edges come out sharp. */
const FINE = 0.11;
/** The same where the picture and the readings come many times over. */
export const QUICK = 0.17;
/** mm on the axis from which every place of a crown preparation is seen: well under its finish line. */
const EYE = -3;
const TURN = 0.5;
/** Share of the way that stands for “never met”. */
const BEYOND = 10;

/**
 * A crown preparation cut into the scanned arch itself: the target's surface drawn in along rays from under the tooth to where the cutter
 * stopped; everything else stays as it was scanned. Surface that bridged the target and a neighbour goes with the contact.
 * @units mm
 * @frame tooth
 */
export function cutInto(m: Arch, envelope: { profile(phi: number): Pick<CutProfile, 'line'> }, fine = FINE): Mesh<'tooth'> {
  const { positions, triangles, parts } = refinedOnce(m, fine);
  const lines = Array.from({ length: Math.round(360 / TURN) }, (_, k) => envelope.profile(toRadians(k * TURN)).line);
  const p = Float64Array.from(positions);
  const cut = new Uint8Array(parts.length);
  for (let v = 0; v < parts.length; v++) {
    if (parts[v] !== PART.target) continue;
    const [x, y, z] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    const turn = ((Math.atan2(x, y) * 180) / Math.PI + 360) / TURN;
    const k = Math.floor(turn);
    const f = turn - k;
    const r = Math.hypot(x, y);
    const [a, b] = [k, k + 1].map((i) => shareTo(lines[i % lines.length], r, z));
    const share = (1 - f) * a + f * b;
    if (share >= 1) continue;
    p[3 * v] = share * x;
    p[3 * v + 1] = share * y;
    p[3 * v + 2] = EYE + share * (z - EYE);
    cut[v] = 1;
  }
  const isNeighbour = (v: number): boolean => parts[v] === PART.mesial || parts[v] === PART.distal;
  const kept: number[] = [];
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [triangles[t], triangles[t + 1], triangles[t + 2]];
    if (corners.some((v) => cut[v]) && corners.some(isNeighbour)) continue;
    kept.push(...corners);
  }
  return makeMesh('tooth', p, Uint32Array.from(kept));
}

/** Where the way from the eye to (r, z) first meets the cut, as a share of that way; 1 and more where the place was not cut. */
function shareTo(line: readonly (readonly [number, number])[], r: number, z: number): number {
  const dz = z - EYE;
  let least = BEYOND;
  for (let i = 0; i + 1 < line.length; i++) {
    const [ar, az] = line[i];
    const [br, bz] = line[i + 1];
    // Sides of the way on which the two ends lie: the way runs through (0, EYE) in direction (r, dz).
    const a = r * (az - EYE) - dz * ar;
    const b = r * (bz - EYE) - dz * br;
    if ((a > 0 && b > 0) || (a < 0 && b < 0) || a === b) continue;
    const s = a / (a - b);
    const [pr, pz] = [ar + s * (br - ar), az + s * (bz - az)];
    const t = Math.abs(dz) > r ? (pz - EYE) / dz : pr / r;
    if (t > 0 && t < least) least = t;
  }
  return least;
}

const refinedOf = new WeakMap<Arch, Map<number, ReturnType<typeof refined>>>();
/** Made once for each master: many preparations are cut into the same one. */
function refinedOnce(m: Arch, fine: number): ReturnType<typeof refined> {
  const made = refinedOf.get(m) ?? new Map<number, ReturnType<typeof refined>>();
  refinedOf.set(m, made);
  const r = made.get(fine) ?? refined(m, fine);
  made.set(fine, r);
  return r;
}

/** The whole arch with the target's triangles split until their sides are short. */
function refined(m: Arch, fine: number): { positions: number[]; triangles: number[]; parts: number[] } {
  const mesh = m.mesh;
  const positions = Array.from(mesh.positions);
  const parts = Array.from(m.parts);
  let triangles = Array.from(mesh.triangles);
  for (let round = 0; round < 6; round++) {
    const middles = new Map<string, number>();
    const isLong = (a: number, b: number): boolean =>
      (parts[a] === PART.target || parts[b] === PART.target) &&
      Math.hypot(...[0, 1, 2].map((k) => positions[3 * a + k] - positions[3 * b + k])) > fine;
    const middle = (a: number, b: number): number | null => {
      if (!isLong(a, b)) return null;
      const key = a < b ? `${a},${b}` : `${b},${a}`;
      let v = middles.get(key);
      if (v === undefined) {
        v = parts.length;
        for (let k = 0; k < 3; k++) positions.push((positions[3 * a + k] + positions[3 * b + k]) / 2);
        parts.push(parts[a] === parts[b] ? parts[a] : Math.max(parts[a], parts[b]));
        middles.set(key, v);
      }
      return v;
    };
    const next: number[] = [];
    for (let t = 0; t < triangles.length; t += 3) split([triangles[t], triangles[t + 1], triangles[t + 2]], middle, next);
    const done = next.length === triangles.length;
    triangles = next;
    if (done) break;
  }
  return { positions, triangles, parts };
}

/** One, two, three or four triangles in place of one, by which of its sides are halved. */
function split([a, b, c]: readonly [number, number, number], middle: (a: number, b: number) => number | null, out: number[]): void {
  const [ab, bc, ca] = [middle(a, b), middle(b, c), middle(c, a)];
  const halved = [ab, bc, ca].filter((v) => v !== null).length;
  if (halved === 0) out.push(a, b, c);
  else if (ab !== null && bc !== null && ca !== null) out.push(a, ab, ca, ab, b, bc, ca, bc, c, ab, bc, ca);
  else if (halved === 1) {
    if (ab !== null) out.push(a, ab, c, ab, b, c);
    else if (bc !== null) out.push(a, b, bc, a, bc, c);
    else out.push(a, b, ca as number, ca as number, b, c);
  } else if (ab === null) out.push(a, b, bc as number, a, bc as number, ca as number, ca as number, bc as number, c);
  else if (bc === null) out.push(a, ab, ca as number, ab, b, ca as number, b, c, ca as number);
  else out.push(b, bc, ab, ab, bc, a, bc, c, a);
}
