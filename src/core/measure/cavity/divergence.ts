import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { toDegrees } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy, PartName } from '../../segment/cavity/cavity.ts';
import { isScrap } from '../../segment/target.ts';
import { wallLean, wallPoints } from './wall-angle.ts';

/**
 * Divergence of opposite internal walls, for what is made outside the mouth and has to go in: inlays, onlays, boxes.
 * @formula −(angle of one wall + angle of the wall across), both against the axis; whichever way the restoration is drawn, their sum is the same
 * @units degrees, + opening occlusally, − undercut between them
 * @frame tooth
 * @fails no-wall
 * @source own definition, docs/definitions.md
 * @example walls that each lean out 3° diverge by 6
 */
export function divergence(a: CavityAnatomy): Reading[] {
  const pairs: { zone: string; walls: readonly [PartName, PartName] }[] = [
    { zone: 'faciolingual', walls: ['facial', 'lingual'] },
    ...(a.boxes.length < 2 && !a.boxes.some((b) => b.side === 'mesial' || b.side === 'distal')
      ? [{ zone: 'mesiodistal', walls: ['mesial', 'distal'] as const }]
      : []),
    ...a.boxes.map((b) => ({ zone: `box ${b.side}`, walls: [`box ${b.side} facial`, `box ${b.side} lingual`] as const })),
    ...(a.boxes.length === 2 ? [{ zone: 'axial', walls: ['axial mesial', 'axial distal'] as const }] : []),
  ];
  return pairs.flatMap(({ zone, walls }): Reading[] => {
    const leans = walls.map((w) => {
      const wall = wallPoints(a, w);
      return isScrap(a.region, wall.all) ? null : wallLean(a, wall);
    });
    const [p, q] = leans;
    if (!p || !q) return refusal('divergence', zone, ['value'], 'no-wall');
    const U = expanded(p.noise, q.noise, 0.2 * toDegrees(a.alignment.turnError), Math.SQRT2 * methodUncertainty('divergence', 'mean'));
    return [reading({ name: 'divergence', zone, value: -(p.mean + q.mean), U, at: { point: p.centre } })];
  });
}
