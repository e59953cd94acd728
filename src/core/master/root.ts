import { add, cross, dot, scale, sub, unit, type Vec3 } from '../linalg/vec.ts';
import { makeMesh, turnedOver } from '../mesh/mesh.ts';
import { closestPoint, makeSurface, newClosest, type Surface } from '../spatial/surface.ts';

/** mm below the gingival margin to which the tooth's side is carried on. */
export const ROOT_REACH = 2;
/** mm between places along the margin, and half width over which the run of the side is averaged. */
const STEP = 0.25;
const HALF = 4;
/** mm above the margin at which the tooth's own side gives its run, free of the papilla's first triangles. */
const NEAR = 0.15;
const FAR = 1;

/**
 * The target's side carried on under the gingiva, where a scan of the unprepared arch shows none: from the gingival margin
 * straight on, as the tooth's last millimetre above it runs. A finish line cut below the gingiva is looked for on it. Null when the
 * margin does not lie on the tooth.
 */
export function rootOf(target: Surface<'tooth'>, margin: readonly Vec3[]): Surface<'tooth'> | null {
  const places = alongClosed(margin, STEP);
  const hit = newClosest();
  const onTooth = (p: Vec3): Vec3 | null => (closestPoint(target, p[0], p[1], p[2], hit, 1) ? [hit.x, hit.y, hit.z] : null);
  const starts = places.map(onTooth);
  const runs = places.map((p): Vec3 | null => {
    const [near, far] = [onTooth(add(p, [0, 0, NEAR])), onTooth(add(p, [0, 0, FAR]))];
    return near && far && far[2] - near[2] > 0.3 ? unit(sub(near, far)) : null;
  });
  const n = places.length;
  if (n < 12 || starts.some((s) => s === null) || runs.filter(Boolean).length < 0.6 * n) return null;
  const positions: number[] = [];
  const down: Vec3[] = runs.map((_, k) => {
    let sum: Vec3 = [0, 0, 0];
    for (let reach = HALF; dot(sum, sum) === 0; reach *= 2)
      for (let j = -reach; j <= reach; j++) {
        const r = runs[(k + j + 8 * n) % n];
        if (r) sum = add(sum, r);
      }
    return unit(sum);
  });
  for (let k = 0; k < n; k++) positions.push(...(starts[k] as Vec3), ...add(starts[k] as Vec3, scale(down[k], ROOT_REACH)));
  const triangles: number[] = [];
  for (let k = 0; k < n; k++) {
    const [a, b, c, d] = [2 * k, 2 * k + 1, 2 * ((k + 1) % n), 2 * ((k + 1) % n) + 1];
    triangles.push(a, b, c, c, b, d);
  }
  const mesh = makeMesh('tooth', Float64Array.from(positions), facingOut(positions, Uint32Array.from(triangles)));
  return makeSurface(mesh);
}

/** The margin may run either way round: triangles are turned so that most look away from the axis. */
function facingOut(p: readonly number[], t: Uint32Array): Uint32Array {
  let outward = 0;
  for (let f = 0; f < t.length; f += 3) {
    const [a, b, c] = [0, 1, 2].map((k): Vec3 => [p[3 * t[f + k]], p[3 * t[f + k] + 1], p[3 * t[f + k] + 2]]);
    const normal = cross(sub(b, a), sub(c, a));
    outward += normal[0] * a[0] + normal[1] * a[1];
  }
  return outward >= 0 ? t : turnedOver(t);
}

/** Places at equal steps along a closed line. */
function alongClosed(line: readonly Vec3[], step: number): Vec3[] {
  return line.flatMap((a, i) => {
    const b = line[(i + 1) % line.length];
    const way = sub(b, a);
    const parts = Math.max(1, Math.round(Math.sqrt(dot(way, way)) / step));
    return Array.from({ length: parts }, (_, k) => add(a, scale(way, k / parts)));
  });
}
