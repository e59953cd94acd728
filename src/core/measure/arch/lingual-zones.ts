import { azimuthOf } from '../../linalg/sectors.ts';
import { wrapDegrees } from '../../linalg/vec.ts';
import type { OcclusalZone } from '../../segment/crown/occlusal-zones.ts';
import { median } from '../../statistics/quantile.ts';
import type { CrownContext } from '../crown/context.ts';

/** degrees either side of lingual of each zone. */
const FOSSA_ARC = 45;
const CINGULUM_ARC = 30;
/** mm over the end of the lingual wall from which the fossa begins, and under the incisal edge at which it ends. */
const OVER_WALL = 0.3;
const UNDER_EDGE = 0.8;
/** mm to either side of the lingual wall's end that are the cingulum. */
const CINGULUM = 0.4;

/**
 * The two lingual places of an anterior preparation at which opposing teeth glide: the fossa, from the end of the lingual wall to
 * 0.8 mm under the incisal edge within 45° of lingual, and the cingulum, within 0.4 mm of the wall's end and 30° of lingual. The wall ends half way
 * between its last plane piece and the corner that it would have without a rounding; otherwise it ends at the one or at the other.
 */
export function lingualZones(c: CrownContext): OcclusalZone[] {
  if (!c.anterior) return [];
  const zones = [
    { zone: 'lingual fossa', arc: FOSSA_ARC },
    { zone: 'cingulum', arc: CINGULUM_ARC },
  ] as const;
  const walls = c.azimuths.flatMap((a, k) => {
    const p = c.anatomy.profiles[k];
    return Math.abs(a - 180) <= CINGULUM_ARC && p?.wall ? [{ last: p.z[Math.min(p.z.length, p.wall.to) - 1], corner: p.wall.top.z }] : [];
  });
  const { mesh, prepared } = c.anatomy.region;
  const p = mesh.positions;
  let top = Number.NEGATIVE_INFINITY;
  for (let v = 0; v < prepared.length; v++) if (prepared[v]) top = Math.max(top, p[3 * v + 2]);
  // Half way between the last of the wall and the corner that it would have without a rounding: hollows begin at the one or at the other.
  const end = walls.length ? median(walls.map((w) => (w.corner + w.last) / 2)) : null;
  // Where a wall turns into a hollow there is no one end to it.
  const unsure = walls.length ? median(walls.map((w) => Math.abs(w.corner - w.last))) : 0;
  return zones.map(({ zone, arc }): OcclusalZone => {
    const near = c.azimuths.flatMap((a, k) => (Math.abs(a - 180) <= arc ? [k] : []));
    const coverage = near.filter((k) => c.anatomy.profiles[k]).length / near.length;
    const from = (height: number): number[] => {
      const out: number[] = [];
      for (let v = 0; v < prepared.length; v++) {
        if (!prepared[v] || Math.abs(wrapDegrees(azimuthOf(p[3 * v], p[3 * v + 1]) - 180)) > arc) continue;
        const over = p[3 * v + 2] - height;
        if (zone === 'cingulum' ? Math.abs(over) <= CINGULUM : over >= OVER_WALL && p[3 * v + 2] <= top - UNDER_EDGE) out.push(v);
      }
      return out;
    };
    if (end === null) return { zone, vertices: [], otherwise: [], coverage: 0, lacking: null };
    return { zone, vertices: from(end), otherwise: [from(end - unsure), from(end + unsure)], coverage, lacking: null };
  });
}
