import { cross, dot, scale, sub, unit, type Vec3 } from '../../linalg/vec.ts';
import { type Around, smoothAround } from '../../segment/around.ts';
import { AZIMUTHS, type CrownAnatomy, radialPoint } from '../../segment/crown.ts';
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
  const finishR = smoothAround(p.map((q) => q?.finish.r ?? null), HALF);
  const finishZ = smoothAround(p.map((q) => q?.finish.z ?? null), HALF);
  const footR = smoothAround(p.map((q) => q?.wall?.foot.r ?? null), HALF);
  const footZ = smoothAround(p.map((q) => q?.wall?.foot.z ?? null), HALF);
  const lean = smoothAround(p.map((q) => q?.wall?.lean ?? null), HALF);
  const draw = drawDirection(wallNormals(anatomy, lean));
  const taper = lean.map((v, k) => (v === null || !draw ? null : v + drawLean(draw, azimuths[k])));
  return { anatomy, azimuths, finishR, finishZ, footR, footZ, lean, draw, taper };
}

/** Outward normals of the wall, one an azimuth: along the fitted line, and round the tooth at the walls' own middle height. */
function wallNormals(a: CrownAnatomy, lean: Around): Vec3[] {
  const n = a.profiles.length;
  const heights = a.profiles.flatMap((p) => (p?.wall ? [p.wall.line.y] : [])).sort((x, y) => x - y);
  if (!heights.length) return [];
  const z = heights[heights.length >> 1];
  const rAt = smoothAround(a.profiles.map((p, k) => (p?.wall && lean[k] !== null ? p.wall.line.x - (z - p.wall.line.y) * Math.tan((lean[k] as number) * (Math.PI / 180)) : null)), HALF);
  const out: Vec3[] = [];
  for (let k = 0; k < n; k++) {
    const before = rAt[(k - 2 + n) % n];
    const after = rAt[(k + 2) % n];
    const here = rAt[k];
    const l = lean[k];
    if (before === null || after === null || here === null || l === null) continue;
    const azimuth = (360 * k) / n;
    const around = sub(radialPoint(azimuth + 720 / n, after, 0), radialPoint(azimuth - 720 / n, before, 0));
    const up = sub(radialPoint(azimuth, here - Math.tan((l * Math.PI) / 180), 1), radialPoint(azimuth, here, 0));
    const m = unit(cross(around, up));
    out.push(dot(m, radialPoint(azimuth, 1, 0)) < 0 ? scale(m, -1) : m);
  }
  return out;
}
