import { azimuthOf, inSector, SECTORS, SIDES } from '../../linalg/sectors.ts';
import { type Reading, refusal } from '../../result/reading.ts';
import { heightShare } from '../../segment/crown/surfaces.ts';
import { zoneDepth } from '../zone-depth.ts';
import type { CrownContext } from './context.ts';

const THIRDS = [
  ['gingival third', 0, 1 / 3],
  ['mid third', 1 / 3, 2 / 3],
  ['outer third', 2 / 3, 1],
] as const;

/** mm: how well the wall's ends are known, where it runs into the margin's curve and where it turns into the occlusal surface (standard uncertainty). */
const ENDS_KNOWN = 0.1;

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
  const { kinds } = c;
  const p = region.mesh.positions;
  const walls: { v: number; azimuth: number; share: number; shareIfLower: number; overFoot: boolean }[] = [];
  for (let v = 0; v < kinds.length; v++) {
    if (kinds[v] !== 'wall') continue;
    const azimuth = azimuthOf(p[3 * v], p[3 * v + 1]);
    // Below the wall's foot the surface belongs to the margin: a chamfer's curve is no axial reduction.
    const k = Math.round((azimuth / 360) * c.azimuths.length) % c.azimuths.length;
    const [foot, z] = [c.wallFromZ[k], p[3 * v + 2]];
    if (foot !== null && z < foot) continue;
    const share = heightShare(c.anatomy, p[3 * v], p[3 * v + 1], z);
    if (share === null) continue;
    const [top, finish] = [c.topZ[k], c.finishZ[k]];
    const height = top === null || finish === null ? 0 : top - finish;
    const shareIfLower = height > 5 * ENDS_KNOWN ? (share * height) / (height - ENDS_KNOWN) : share;
    walls.push({ v, azimuth, share, shareIfLower, overFoot: foot === null || z > foot + ENDS_KNOWN });
  }
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
      const own = here.filter((w) => w.share >= from && w.share < to);
      return zoneDepth({
        name: 'reduction.axial',
        zone: `${sector.name} ${third}`,
        region,
        vertices: own.map((w) => w.v),
        otherwise: [
          own.filter((w) => w.overFoot).map((w) => w.v),
          here.filter((w) => w.shareIfLower >= from && w.shareIfLower < to).map((w) => w.v),
        ],
        coverage,
        alignment: alignment.pointError,
        reason: 'no-wall',
      });
    });
  });
}
