import type { Vec3 } from '../linalg/vec.ts';
import { PART } from '../master/master.ts';
import { contactPoint, type Typodont } from './typodont.ts';

/** Radius of the cutter's path that scratched the neighbour, mm. */
const SCRATCH_RADIUS = 1.2;

export interface Ball {
  readonly centre: Vec3;
  readonly radius: number;
}

/** The ball that enters the neighbour beside its contact with the target, `depth` mm deep along the arch. */
export function damageBall(t: Typodont, part: number, depth: number): Ball {
  const c = contactPoint(t, part);
  const n = t.teeth.find((q) => q.part === part);
  if (!c || !n) throw new RangeError('there is no neighbour on that side to damage');
  const side = part === PART.mesial ? 1 : -1;
  const z = c[2] + 0.4;
  let x = c[0];
  const inside = (at: number) => {
    const q = [n.inverse[0] * at + n.inverse[1] * c[1] + n.inverse[3], n.inverse[4] * at + n.inverse[5] * c[1] + n.inverse[7]];
    return n.shape.inside(q[0], q[1], z);
  };
  let hi = x + side * 2.5;
  for (let i = 0; i < 40; i++) {
    const m = (x + hi) / 2;
    if (inside(m) > 0) hi = m;
    else x = m;
  }
  return { centre: [hi + side * (depth - SCRATCH_RADIUS), c[1], z], radius: SCRATCH_RADIUS };
}
