import { acrossFrom, isPrimary } from '../anatomy/anatomy.ts';
import { add, scale, type Vec3 } from '../linalg/vec.ts';
import type { Mesh } from '../mesh/mesh.ts';
import { castRay } from '../spatial/ray.ts';
import { makeSurface } from '../spatial/surface.ts';
import { findTeeth } from './arch.ts';
import { handed, handedPoint } from './template.ts';

/** mm a usual form may miss an opposing tooth by for its axis to be taken over. */
const GOOD = 0.3;
/** mm over the target from which the opposing arch is looked for. */
const REACH = 12;

/**
 * Long axes of the opposing teeth, found by their usual forms: the tooth of the same place first, then those beside it.
 * @units unit vectors in the arch's frame, pointing occlusally, by tooth number
 * @fails an empty record where nothing stands over the tooth or no form lies on it
 */
export function opposingAxes(opposing: Mesh, tooth: string, top: Vec3, axis: Vec3): Readonly<Record<string, Vec3>> {
  const quadrant = acrossFrom(tooth)[0];
  const last = isPrimary(tooth) ? 5 : 8;
  let best: ReturnType<typeof laid> | null = null;
  for (const place of [0, 1, -1].map((d) => Number(tooth[1]) + d).filter((n) => n >= 1 && n <= last)) {
    const found = laid(opposing, `${quadrant}${place}`, top, axis);
    if (found && (!best || found.rms < best.rms)) best = found;
  }
  return best?.axes ?? {};
}

function laid(opposing: Mesh, name: string, top: Vec3, axis: Vec3): { rms: number; axes: Readonly<Record<string, Vec3>> } | null {
  const own = handed(opposing, name);
  const surface = makeSurface(own);
  const way = handedPoint(axis, name);
  const from = add(handedPoint(top, name), scale(way, -1));
  const t = castRay(surface, from, way, REACH);
  if (t === null) return null;
  const arch = findTeeth(surface, name, add(from, scale(way, t)), scale(way, -1), null, 1);
  const sure = [arch.target, ...arch.mesial, ...arch.distal].filter((f) => f.laid.rms < GOOD);
  return { rms: arch.target.laid.rms, axes: Object.fromEntries(sure.map((f) => [f.tooth, handedPoint(f.laid.axes[2], name)])) };
}
