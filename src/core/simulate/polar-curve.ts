import { azimuthOf } from '../linalg/sectors.ts';
import type { Vec3 } from '../linalg/vec.ts';

/** A closed curve round the axis as a table by azimuth of the tooth frame (degrees). */
export class PolarCurve {
  private readonly table: { a: number; r: number; z: number }[];
  constructor(points: readonly Vec3[]) {
    this.table = points.map((p) => ({ a: azimuthOf(p[0], p[1]), r: Math.hypot(p[0], p[1]), z: p[2] })).sort((p, q) => p.a - q.a);
  }
  at(azimuth: number): { r: number; z: number } {
    const t = this.table;
    const a = ((azimuth % 360) + 360) % 360;
    let lo = 0;
    let hi = t.length;
    while (lo < hi) {
      const m = (lo + hi) >> 1;
      if (t[m].a < a) lo = m + 1;
      else hi = m;
    }
    const q = t[lo % t.length];
    const p = t[(lo - 1 + t.length) % t.length];
    const span = (q.a - p.a + 360) % 360 || 360;
    const f = ((a - p.a + 360) % 360) / span;
    return { r: p.r + f * (q.r - p.r), z: p.z + f * (q.z - p.z) };
  }
}
