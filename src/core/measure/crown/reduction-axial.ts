import { inSector, SECTORS, SIDES } from '../../linalg/sectors.ts';
import { type Reading, refusal } from '../../result/reading.ts';
import { ENDS_KNOWN, sidePoints, thirdOf } from '../side-points.ts';
import { zoneDepth } from '../zone-depth.ts';
import type { CrownContext } from './context.ts';

const THIRDS = [
  ['gingival third', 0, 1 / 3],
  ['mid third', 1 / 3, 2 / 3],
  ['outer third', 2 / 3, 1],
] as const;

/**
 * Depth of the axial walls below the master by sector and third of the wall's height.
 * @formula 5 %, median and 95 % (by area) of the shortest distance to the master's target surface over the wall's points above the foot of the fitted wall
 * @units mm; mm² for the zone's area (`.area`)
 * @frame tooth
 * @fails not-seen, no-wall
 * @source own definition, docs/definitions.md
 * @example a cylinder of radius 4 inside a cylinder of radius 5 reads 1.0 everywhere
 */
export function reductionAxial(c: CrownContext): Reading[] {
  const { region, alignment, profiles } = c.anatomy;
  const p = region.mesh.positions;
  // Below the wall's foot the surface belongs to the margin: a chamfer's curve is no axial reduction.
  const overFoot = new Uint8Array(c.kinds.length);
  const walls = sidePoints(c).filter(({ v, azimuth }) => {
    const [foot, z] = [c.wallFromZ[Math.round((azimuth / 360) * c.azimuths.length) % c.azimuths.length], p[3 * v + 2]];
    if (foot === null || z > foot + ENDS_KNOWN) overFoot[v] = 1;
    return foot === null || z >= foot;
  });
  return SECTORS.flatMap((sector) => {
    const side = (SIDES as readonly string[]).includes(sector.name);
    const here = walls.filter((w) => inSector(w.azimuth, sector));
    const indices = c.azimuths.flatMap((a, k) => (inSector(a, sector) ? [k] : []));
    const covered = indices.filter((k) => c.anatomy.covered[k]);
    const thirds = THIRDS.filter(([third]) => side || third !== 'outer third');
    if (covered.length < 0.3 * indices.length)
      return thirds.flatMap(([third]) => refusal('reduction.axial', `${sector.name} ${third}`, ['p05', 'median', 'p95'], 'not-covered'));
    const coverage = covered.filter((k) => profiles[k]?.wall).length / covered.length;
    return thirds.flatMap(([third, from, to]) => {
      const { vertices, otherwise } = thirdOf(here, from, to);
      return zoneDepth({
        name: 'reduction.axial',
        zone: `${sector.name} ${third}`,
        region,
        vertices,
        otherwise: [vertices.filter((v) => overFoot[v] === 1), ...otherwise],
        coverage,
        alignment: alignment.pointError,
        reason: 'no-wall',
      });
    });
  });
}
