import { type Master, PART } from '../master/master.ts';
import type { Mesh } from '../mesh/mesh.ts';
import { Fault } from '../result/fault.ts';
import { closestPoint, newClosest, onBorder, signOf } from '../spatial/surface.ts';
import { ownersOf } from './owners.ts';

/** mm: deeper than a slip of the cutter. */
const DEEP = 0.4;
/** A preparation leaves at least this many deep points in a hundred of its tooth's own; a slip does not. */
const SHARE = 0.12;
/** One point in so many is asked: which tooth was cut shows in any of them. */
const EACH = 19;

/**
 * Refuses when a neighbour was prepared and the target was not: the scan fits, but another tooth than the master's was cut.
 * @fails align.wrong-tooth
 */
export function refuseWrongTooth(scan: Mesh<'tooth'>, master: Master): void {
  const owners = ownersOf(scan, master);
  const p = scan.positions;
  const hit = newClosest();
  const cut = (part: number): number => {
    const surface = part === PART.target ? master.target : part === PART.mesial ? master.mesial : master.distal;
    if (!surface) return 0;
    let own = 0;
    let deep = 0;
    for (let v = 0; v < owners.part.length; v += EACH) {
      if (owners.part[v] === part) own++;
      if (owners.part[v] >= 0 || !closestPoint(surface, p[3 * v], p[3 * v + 1], p[3 * v + 2], hit, 3) || onBorder(surface, hit)) continue;
      if (signOf(surface, hit, p[3 * v], p[3 * v + 1], p[3 * v + 2]) < 0 && hit.distanceSquared > DEEP * DEEP) deep++;
    }
    return deep > 20 ? deep / (own + deep) : 0;
  };
  if (cut(PART.target) >= 0.02) return;
  for (const side of ['mesial', 'distal'] as const)
    if (cut(PART[side]) > SHARE)
      throw new Fault('align.wrong-tooth', {
        expected: `tooth ${master.description.tooth} was to be prepared`,
        received: `its ${side} neighbour was cut instead and it is untouched`,
        remedy: 'Check which exercise this scan belongs to; if the student took the wrong tooth, grade that by hand.',
      });
}
