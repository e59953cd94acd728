import type { Vec3 } from '../../linalg/vec.ts';
import { type Loft, wallPoint } from '../cavity/loft.ts';
import type { Typodont } from '../typodont.ts';

/** Where the wall at plan corner `i` leaves the tooth; its foot where it stands outside from there on. */
export function edgeAt(t: Typodont, l: Loft, i: number): Vec3 {
  let lo = l.radius;
  let hi = l.top - l.floor(l.plan[i].x, l.plan[i].y);
  for (let k = 0; k < 40; k++) {
    const m = (lo + hi) / 2;
    const p = wallPoint(l, i, m);
    if (t.target.inside(p[0], p[1], p[2]) > 0) lo = m;
    else hi = m;
  }
  return wallPoint(l, i, lo);
}
