import { toDegrees, toRadians, type Vec3 } from '../../linalg/vec.ts';

export interface Draw {
  /** Unit vector, tooth frame. */
  readonly direction: Vec3;
  /** Degrees between it and the long axis, and the azimuth it leans to. */
  readonly tilt: number;
  readonly azimuth: number;
  /** Smallest wall taper along it, degrees; negative where it leaves an undercut. */
  readonly smallestTaper: number;
}

/** degrees from the long axis within which a direction of insertion is looked for (measures.md 5). */
const WITHIN = 15;

/**
 * Direction of insertion: the one within 15° of the long axis whose smallest wall taper is largest. Where a cone of
 * directions has no undercut that is the cone's centre; where none has, it is the one with the least undercut.
 * `blur` (degrees) is how well the normals are known: directions whose smallest taper is that near to the largest cannot be
 * told apart, and their middle is taken.
 * @formula argmax over u of min over walls of (90° − ∠(n, u)), n the wall's outward normal
 * @units degrees
 * @frame tooth
 * @fails null when there are no walls
 * @source measures.md 5, `draw.direction`
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
  const l = Math.hypot(1, best.x, best.y);
  return {
    direction: [best.x / l, best.y / l, 1 / l],
    tilt: toDegrees(Math.atan(Math.hypot(best.x, best.y))),
    azimuth: (toDegrees(Math.atan2(best.x, best.y)) + 360) % 360,
    smallestTaper: toDegrees(Math.asin(best.v)),
  };
}

/** Lean of the draw direction within the half plane at an azimuth, degrees, + outward. */
export const drawLean = (d: Draw, azimuth: number): number => {
  const a = toRadians(azimuth);
  return toDegrees(Math.atan2(d.direction[0] * Math.sin(a) + d.direction[1] * Math.cos(a), d.direction[2]));
};
