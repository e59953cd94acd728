import { DEG, dot, toDegrees, type Vec3 } from '../../linalg/vec.ts';

/** True path of insertion of a simulated preparation: its tilt to the long axis and the azimuth it leans to, degrees. */
export interface TruePath {
  readonly tilt: number;
  readonly azimuth: number;
}

/** degrees from the long axis within which a path of insertion is looked for, as in the definition. */
const WITHIN = 15;

/** A path as a unit vector out of the tooth. */
export const directionOf = ({ tilt, azimuth }: TruePath): Vec3 => [
  Math.sin(tilt * DEG) * Math.sin(azimuth * DEG),
  Math.sin(tilt * DEG) * Math.cos(azimuth * DEG),
  Math.cos(tilt * DEG),
];

/** Smallest taper of any wall along a path, degrees. */
const smallestTaper = (path: TruePath, normals: readonly Vec3[]): number => {
  const d = directionOf(path);
  return toDegrees(Math.asin(Math.min(...normals.map((n) => dot(n, d)))));
};

/** Degrees by which a path leans outward within the half plane at an azimuth. */
export const leanTowards = (path: TruePath, azimuth: number): number => {
  const d = directionOf(path);
  return toDegrees(Math.atan2(d[0] * Math.sin(azimuth * DEG) + d[1] * Math.cos(azimuth * DEG), d[2]));
};

/**
 * The path along which opposite walls taper alike (docs/definitions.md, "Path of insertion"), from the leans that the walls were
 * made with: the first harmonic of half the difference of opposite leans. Where that leaves an undercut, the path with the
 * least of it, by trying every quarter of a degree. Written apart from the measure, which works from a scan's normals.
 */
export function truePath(leans: readonly (number | null)[], normals: readonly Vec3[]): TruePath {
  const n = leans.length;
  let [x, y, pairs] = [0, 0, 0];
  for (let k = 0; k < n; k++) {
    const [here, across] = [leans[k], leans[(k + n / 2) % n]];
    if (here === null || across === null) continue;
    const half = (across - here) / 2;
    x += half * Math.sin((2 * Math.PI * k) / n);
    y += half * Math.cos((2 * Math.PI * k) / n);
    pairs++;
  }
  const balanced = pairs > 0 ? pathOf((2 * x) / pairs, (2 * y) / pairs) : { tilt: 0, azimuth: 0 };
  if (smallestTaper(balanced, normals) >= 0) return balanced;
  let best = { ...balanced, taper: smallestTaper(balanced, normals) };
  for (const [range, step] of [
    [WITHIN, 0.5],
    [0.6, 0.05],
  ]) {
    const [bx, by] = [best.tilt * Math.sin(best.azimuth * DEG), best.tilt * Math.cos(best.azimuth * DEG)];
    const [cx, cy] = range === WITHIN ? [0, 0] : [bx, by];
    for (let i = -range; i <= range; i += step)
      for (let j = -range; j <= range; j += step) {
        const path = pathOf(cx + i, cy + j);
        if (path.tilt > WITHIN) continue;
        const taper = smallestTaper(path, normals);
        if (taper > best.taper) best = { ...path, taper };
      }
  }
  return best;
}

const pathOf = (x: number, y: number): TruePath => ({ tilt: Math.hypot(x, y), azimuth: (toDegrees(Math.atan2(x, y)) + 360) % 360 });
