import { azimuthOf } from '../../linalg/sectors.ts';
import { byAxis, cross, sub, type Vec3 } from '../../linalg/vec.ts';
import type { CrownEnvelope } from '../crown/envelope.ts';
import type { PolarCurve } from '../polar-curve.ts';
import type { Sample } from './truth.ts';

/** Whether a place belongs to the occlusal surface. */
export const isOcclusal = (q: Quad): boolean => q.up > 0.5 && q.share > 0.5;

export interface Quad extends Sample {
  /** Cosine between its normal and the long axis. */
  readonly up: number;
  /** Height along the side: 0 at the finish line, 1 at the occlusoaxial edge. */
  readonly share: number;
  /** Above the place where the margin floor has run into the straight wall; below it lies the margin. */
  readonly overFoot: boolean;
}

/** The cut surface above the finish line in small quadrilaterals, straight from the profiles. */
export function cutSurface(e: CrownEnvelope, o: Vec3, c: { finish: PolarCurve; top: PolarCurve }): Quad[] {
  const n = 300;
  const feet: number[] = [];
  const rows = Array.from({ length: n }, (_, k) => {
    const phi = (2 * Math.PI * k) / n;
    const p = e.profile(phi);
    feet.push(p.wallFoot);
    return p.line.filter(([r]) => r <= p.finish[0] + 1e-9).map(([r, z]): Vec3 => [r * Math.sin(phi), r * Math.cos(phi), z]);
  });
  const out: Quad[] = [];
  for (let k = 0; k < n; k++) {
    const a = rows[k];
    const b = rows[(k + 1) % n];
    for (let i = 0; i + 1 < Math.min(a.length, b.length); i++) {
      const m = cross(sub(b[i + 1], a[i]), sub(a[i + 1], b[i]));
      const area = Math.hypot(...m) / 2;
      if (!(area > 0)) continue;
      const p = byAxis((d) => (a[i][d] + a[i + 1][d] + b[i][d] + b[i + 1][d]) / 4);
      const azimuth = azimuthOf(p[0] - o[0], p[1] - o[1]);
      const foot = c.finish.at(azimuth).z + o[2];
      const top = c.top.at(azimuth).z + o[2];
      out.push({ p, weight: area, up: Math.abs(m[2]) / (2 * area), share: (p[2] - foot) / (top - foot), overFoot: p[2] >= feet[k] });
    }
  }
  return out;
}
