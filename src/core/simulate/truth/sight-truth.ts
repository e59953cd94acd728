import { azimuthOf } from '../../linalg/sectors.ts';
import { sub, type Vec3 } from '../../linalg/vec.ts';
import { PolarCurve } from '../polar-curve.ts';
import type { Quad } from './cut-surface.ts';
import type { Truth } from './truth.ts';

/** Azimuths at which the finish line is looked for. */
const AROUND = 180;
/** mm that a cut place lies over the finish line before it can stand in front of it, and by which it must stand out. */
const OVER = 0.02;
const OUT = 0.005;

/** Share of the finish line that is seen along the path: everything is laid along it onto one level, and what was cut may not reach beyond the line. */
export function sightTruth(o: Vec3, finish: PolarCurve, quads: readonly Quad[], [dx, dy, dz]: Vec3): Truth {
  const along = ([x, y, z]: Vec3): Vec3 => [x - (z * dx) / dz, y - (z * dy) / dz, z];
  const azimuths = Array.from({ length: AROUND }, (_, k) => ((k + 0.5) * 360) / AROUND);
  const line = new PolarCurve(
    azimuths.map((a) => {
      const { r, z } = finish.at(a);
      const phi = (a * Math.PI) / 180;
      return along([r * Math.sin(phi), r * Math.cos(phi), z]);
    }),
  );
  const reach = new Float64Array(AROUND);
  for (const q of quads) {
    const p = sub(q.p, o);
    if (p[2] < finish.at(azimuthOf(p[0], p[1])).z + OVER) continue;
    const [x, y] = along(p);
    const k = Math.floor((azimuthOf(x, y) / 360) * AROUND) % AROUND;
    reach[k] = Math.max(reach[k], Math.hypot(x, y));
  }
  const hidden = azimuths.filter((a, k) => reach[k] > line.at(a).r + OUT);
  return { name: 'margin.visible', zone: null, stat: 'share', unit: 'share', value: 1 - hidden.length / AROUND };
}
