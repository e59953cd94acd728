import { toDegrees, toRadians, type Vec3 } from '../../linalg/vec.ts';
import type { Around } from '../../segment/around.ts';

export interface Draw {
  /** Unit vector, tooth frame. */
  readonly direction: Vec3;
  /** Degrees between it and the long axis, and the azimuth it leans to. */
  readonly tilt: number;
  readonly azimuth: number;
  /** Smallest wall taper along it, degrees; negative where it leaves an undercut. */
  readonly smallestTaper: number;
}

/** degrees from the long axis within which a direction of insertion is looked for. */
const WITHIN = 15;

/** Share of the pairs of opposite walls from which a direction can be balanced. */
const PAIRS_LEAST = 0.4;

/**
 * Direction of insertion: within 15° of the long axis. Where a cone of directions has no undercut, the one that balances
 * opposite walls, so that one short wall does not leave the other direction free; where none has, the one with the least
 * undercut. A balanced direction along which a wall or a guide would catch is moved towards the widest one until nothing does.
 * @formula least squares over opposite azimuths of tilt · (sin φ, cos φ) = ½ (lean(φ + 180°) − lean(φ)); else argmax over u of min over walls of (90° − ∠(n, u)), n the wall's outward normal
 * @units degrees
 * @frame tooth
 * @fails null when there are no walls
 * @source own definition, docs/definitions.md
 * @example walls that lean 2° facially and 10° lingually are drawn 4° towards facial, 6° to each
 */
export function insertion(leans: Around, normals: readonly Vec3[], blur = 0): Draw | null {
  const widest = drawDirection(normals, blur);
  const balanced = widest && widest.smallestTaper > 0 ? balance(leans) : null;
  if (!widest || !balanced) return widest;
  const [wx, wy] = [widest.direction[0] / widest.direction[2], widest.direction[1] / widest.direction[2]];
  for (let share = 0; share < 1; share += 0.1) {
    const d = towards(balanced[0] + share * (wx - balanced[0]), balanced[1] + share * (wy - balanced[1]), normals);
    if (d.smallestTaper >= 0) return d;
  }
  return widest;
}

/** Whether enough walls face another for a direction: with one side unseen it is free towards there, and what is found leans to it. */
export function wallsFaceEachOther(leans: Around): boolean {
  const half = leans.length / 2;
  const pairs = leans.slice(0, half).filter((a, k) => a !== null && leans[k + half] !== null).length;
  return pairs >= PAIRS_LEAST * half;
}

/** Tangents of the tilt that balances opposite walls; null where too few of them face another. */
function balance(leans: Around): [number, number] | null {
  const n = leans.length;
  let [ss, sc, cc, sb, cb, pairs] = [0, 0, 0, 0, 0, 0];
  for (let k = 0; k < n / 2; k++) {
    const a = leans[k];
    const b = leans[k + n / 2];
    if (a === null || b === null) continue;
    const phi = (2 * Math.PI * k) / n;
    const [s, c, half] = [Math.sin(phi), Math.cos(phi), toRadians((b - a) / 2)];
    ss += s * s;
    sc += s * c;
    cc += c * c;
    sb += s * half;
    cb += c * half;
    pairs++;
  }
  const det = ss * cc - sc * sc;
  if (pairs < (PAIRS_LEAST * n) / 2 || det < 1e-3 * pairs * pairs) return null;
  const [x, y] = [(sb * cc - cb * sc) / det, (cb * ss - sb * sc) / det];
  const limit = toRadians(WITHIN);
  const size = Math.hypot(x, y);
  const cut = size > limit ? limit / size : 1;
  return [Math.tan(x * cut), Math.tan(y * cut)];
}

/** The direction with these tangents, and the taper of each wall against it. */
function towards(x: number, y: number, normals: readonly Vec3[]): Draw {
  const l = Math.hypot(1, x, y);
  const direction: Vec3 = [x / l, y / l, 1 / l];
  let least = Infinity;
  for (const n of normals) least = Math.min(least, n[0] * direction[0] + n[1] * direction[1] + n[2] * direction[2]);
  return {
    direction,
    tilt: toDegrees(Math.atan(Math.hypot(x, y))),
    azimuth: (toDegrees(Math.atan2(x, y)) + 360) % 360,
    smallestTaper: toDegrees(Math.asin(Math.max(-1, Math.min(1, least)))),
  };
}

/**
 * The direction within 15° of the long axis whose smallest wall taper is largest: the centre of the cone of directions without
 * undercut, or the one with the least undercut. `blur` (degrees) is how well the normals are known: directions whose
 * smallest taper is that near to the largest cannot be told apart, and their middle is taken.
 * @formula argmax over u of min over walls of (90° − ∠(n, u)), n the wall's outward normal
 * @units degrees
 * @frame tooth
 * @fails null when there are no walls
 * @source own definition, docs/definitions.md
 * @example walls of a frustum leaning 6° all round give tilt 0 and smallest taper 6
 */
export function drawDirection(normals: readonly Vec3[], blur = 0): Draw | null {
  if (normals.length === 0) return null;
  const limit = Math.tan(toRadians(WITHIN));
  const smallest = (x: number, y: number): number => {
    const l = Math.sqrt(1 + x * x + y * y);
    let least = Infinity;
    for (const n of normals) {
      const d = (n[0] * x + n[1] * y + n[2]) / l;
      if (d < least) least = d;
    }
    return least;
  };
  let best = { x: 0, y: 0, v: smallest(0, 0) };
  // The function has one maximum (a minimum of near-linear functions), so a shrinking grid finds it.
  for (let size = limit; size > 2e-5; size *= 0.45) {
    const { x: cx, y: cy } = best;
    for (let i = -4; i <= 4; i++)
      for (let j = -4; j <= 4; j++) {
        const x = cx + (i * size) / 4;
        const y = cy + (j * size) / 4;
        if (Math.hypot(x, y) > limit) continue;
        const v = smallest(x, y);
        if (v > best.v) best = { x, y, v };
      }
  }
  if (blur > 0) {
    const floor = best.v - toRadians(blur);
    // Over all of the cone first (a direction that hardly matters may leave it wide), then finely about its middle.
    for (const step of [limit / 40, toRadians(Math.max(0.08, blur / 6))]) {
      const { x: cx, y: cy } = best;
      let sx = 0;
      let sy = 0;
      let n = 0;
      for (let i = -40; i <= 40; i++)
        for (let j = -40; j <= 40; j++) {
          const x = cx + i * step;
          const y = cy + j * step;
          if (Math.hypot(x, y) > limit || smallest(x, y) < floor) continue;
          sx += x;
          sy += y;
          n++;
        }
      if (n > 0) best = { x: sx / n, y: sy / n, v: smallest(sx / n, sy / n) };
    }
  }
  return towards(best.x, best.y, normals);
}

/** Lean of the draw direction within the half plane at an azimuth, degrees, + outward. */
export const drawLean = (d: Draw, azimuth: number): number => {
  const a = toRadians(azimuth);
  return toDegrees(Math.atan2(d.direction[0] * Math.sin(a) + d.direction[1] * Math.cos(a), d.direction[2]));
};
