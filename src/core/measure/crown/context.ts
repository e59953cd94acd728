import { unit, type Vec3 } from '../../linalg/vec.ts';
import { type Around, smoothAround } from '../../segment/around.ts';
import { AZIMUTHS, type CrownAnatomy } from '../../segment/crown.ts';
import { azimuthOf } from '../../segment/sectors.ts';
import { type Draw, drawDirection, drawLean } from './draw-direction.ts';

/** What the crown's measures share: the anatomy, its curves round the tooth (smoothed over about 1 mm) and the draw direction. */
export interface CrownContext {
  readonly anatomy: CrownAnatomy;
  readonly azimuths: readonly number[];
  readonly finishR: Around;
  readonly finishZ: Around;
  readonly footR: Around;
  readonly footZ: Around;
  readonly lean: Around;
  readonly draw: Draw | null;
  /** Wall taper against the draw direction, degrees. */
  readonly taper: Around;
}

/** Half window of the smoothing round the tooth, in steps of 2°. */
const HALF = 5;

export function crownContext(anatomy: CrownAnatomy): CrownContext {
  const azimuths = Array.from({ length: AZIMUTHS }, (_, k) => (360 * k) / AZIMUTHS);
  const p = anatomy.profiles;
  const finishR = smoothAround(
    p.map((q) => q?.finish.r ?? null),
    HALF,
  );
  const finishZ = smoothAround(
    p.map((q) => q?.finish.z ?? null),
    HALF,
  );
  const footR = smoothAround(
    p.map((q) => q?.wall?.foot.r ?? null),
    HALF,
  );
  const footZ = smoothAround(
    p.map((q) => q?.wall?.foot.z ?? null),
    HALF,
  );
  const lean = smoothAround(
    p.map((q) => q?.wall?.lean ?? null),
    HALF,
  );
  const draw = drawDirection(wallNormals(anatomy), NORMALS_BLUR);
  const taper = lean.map((v, k) => (v === null || !draw ? null : v + drawLean(draw, azimuths[k])));
  return { anatomy, azimuths, finishR, finishZ, footR, footZ, lean, draw, taper };
}

/** degrees: how well a wall normal is known; see draw-direction.ts. */
const NORMALS_BLUR = 0.5;

/** Degrees of arc over which a wall normal is averaged. */
const BIN = 12;

/**
 * Outward normals of the primary wall, one every 12°, averaged by area over the middle 70 % of the wall's height: a sum of
 * area vectors depends on the patch's border alone, so that point noise hardly enters.
 */
function wallNormals(a: CrownAnatomy): Vec3[] {
  const { region, profiles } = a;
  const p = region.mesh.positions;
  const t = region.mesh.triangles;
  const n = profiles.length;
  const limits = profiles.map((q) => {
    if (!q?.wall) return null;
    const z0 = q.z[q.wall.from];
    const z1 = q.z[Math.min(q.wall.to, q.z.length) - 1];
    return [z0 + 0.15 * (z1 - z0), z1 - 0.15 * (z1 - z0)] as const;
  });
  const sums = Array.from({ length: 360 / BIN }, () => ({ x: 0, y: 0, z: 0, area: 0 }));
  for (let f = 0; f < t.length; f += 3) {
    const [i, j, k] = [3 * t[f], 3 * t[f + 1], 3 * t[f + 2]];
    if (!region.prepared[t[f]]) continue;
    const x = (p[i] + p[j] + p[k]) / 3;
    const y = (p[i + 1] + p[j + 1] + p[k + 1]) / 3;
    const z = (p[i + 2] + p[j + 2] + p[k + 2]) / 3;
    const azimuth = azimuthOf(x, y);
    const limit = limits[Math.round((azimuth / 360) * n) % n];
    if (!limit || z < limit[0] || z > limit[1]) continue;
    const ux = p[j] - p[i];
    const uy = p[j + 1] - p[i + 1];
    const uz = p[j + 2] - p[i + 2];
    const vx = p[k] - p[i];
    const vy = p[k + 1] - p[i + 1];
    const vz = p[k + 2] - p[i + 2];
    const s = sums[Math.floor(azimuth / BIN) % sums.length];
    const m = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    s.x += m[0] / 2;
    s.y += m[1] / 2;
    s.z += m[2] / 2;
    s.area += Math.hypot(m[0], m[1], m[2]) / 2;
  }
  // A bin with hardly any wall in it says nothing about the wall.
  return sums.filter((s) => s.area > 0.25).map((s) => unit([s.x, s.y, s.z]));
}
