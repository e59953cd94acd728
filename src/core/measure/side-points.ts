import { azimuthOf } from '../linalg/sectors.ts';
import { DEG } from '../linalg/vec.ts';
import { heightShare, LEAN_KNOWN, upward } from '../segment/crown/surfaces.ts';
import { THRESHOLDS } from '../thresholds.ts';
import type { CrownContext } from './crown/context.ts';

/** mm: how well the wall's ends are known, where it runs into the margin's curve and where it turns into the occlusal surface (standard uncertainty). */
export const ENDS_KNOWN = 0.1;

/** A point of the prepared side. */
export interface SidePoint {
  readonly v: number;
  readonly azimuth: number;
  /** 0 at the finish line, 1 at the occlusoaxial edge. */
  readonly share: number;
  /** The same if the edge lay lower by what it is known to. */
  readonly shareIfLower: number;
  /** Not of the wall, but of what leans so little more that it may be. */
  readonly nearly: boolean;
}

/** Points of the wall and of what may be; `alsoUpTo`: degrees up to which what leans to facial counts as wall as well. */
export function sidePoints(c: CrownContext, alsoUpTo = 0): SidePoint[] {
  const { region } = c.anatomy;
  const p = region.mesh.positions;
  const n = region.normals;
  const draw = c.draw?.direction ?? [0, 0, 1];
  const [also, nearly] = [alsoUpTo, THRESHOLDS.wallWithin_deg + LEAN_KNOWN].map((a) => Math.sin(a * DEG));
  const out: SidePoint[] = [];
  for (let v = 0; v < c.kinds.length; v++) {
    const kind = c.kinds[v];
    if (kind !== 'wall' && kind !== 'occlusal') continue;
    const up = kind === 'wall' ? 0 : Math.abs(upward(n, v, draw));
    const isWall = kind === 'wall' || (up <= also && n[3 * v + 1] > 0);
    if (!isWall && up > nearly) continue;
    const [x, y, z] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    const share = heightShare(c.anatomy, x, y, z);
    if (share === null) continue;
    const azimuth = azimuthOf(x, y);
    const k = Math.round((azimuth / 360) * c.azimuths.length) % c.azimuths.length;
    const [top, finish] = [c.topZ[k], c.finishZ[k]];
    const height = top === null || finish === null ? 0 : top - finish;
    const shareIfLower = height > 5 * ENDS_KNOWN ? (share * height) / (height - ENDS_KNOWN) : share;
    out.push({ v, azimuth, share, shareIfLower, nearly: !isWall });
  }
  return out;
}

/** A third of the side, and the same with its ends and its lean as far off as they may be. */
export function thirdOf(points: readonly SidePoint[], from: number, to: number): { vertices: number[]; otherwise: number[][] } {
  const [inside, ifLower, withNearly]: [number[], number[], number[]] = [[], [], []];
  for (const q of points) {
    const isInside = q.share >= from && q.share < to;
    if (isInside) withNearly.push(q.v);
    if (q.nearly) continue;
    if (isInside) inside.push(q.v);
    if (q.shareIfLower >= from && q.shareIfLower < to) ifLower.push(q.v);
  }
  return { vertices: inside, otherwise: [ifLower, withNearly] };
}
