import { distanceToLine, trimmed } from '../../linalg/curve.ts';
import type { Vec3 } from '../../linalg/vec.ts';
import { type Reading, refusal } from '../../result/reading.ts';
import { classify, SeenPlan } from '../../segment/surfaces.ts';
import { closestPoint, newClosest } from '../../spatial/surface.ts';
import { zoneDepth } from '../zone-depth.ts';
import type { CrownContext } from './context.ts';

const CUSP_REACH = 1.25;
const GROOVE_REACH = 0.5;
const RIDGE_REACH = 0.75;
const NAME = 'reduction.occlusal';

/**
 * Depth of the prepared occlusal surface below the master, zone by zone: each cusp, the central groove, the marginal ridges.
 * @formula 5 %, median and 95 % (by area) of the shortest distance to the master's target surface
 * @units mm
 * @frame tooth
 * @fails no-landmark, not-seen, nothing-prepared
 * @source measures.md 4 (zones) and 5
 * @example an occlusal surface parallel to the master's at 1.5 mm reads 1.5 in every zone
 */
export function reductionOcclusal(c: CrownContext): Reading[] {
  const { region, master, alignment } = c.anatomy;
  const stats = ['p05', 'median', 'p95'] as const;
  const { cusps, grooves, ridges } = master.landmarks;
  const kinds = classify(c.anatomy, c.draw?.direction ?? [0, 0, 1]);
  const seen = new SeenPlan(region);
  const p = region.mesh.positions;
  const occlusal: number[] = [];
  for (let v = 0; v < kinds.length; v++) if (kinds[v] === 'occlusal') occlusal.push(v);
  const common = { name: NAME, region, alignment: alignment.pointError, reason: 'nothing-prepared' as const };
  const out: Reading[] = [];
  for (const cusp of cusps) {
    const inside = (x: number, y: number): boolean => Math.hypot(x - cusp.at[0], y - cusp.at[1]) <= CUSP_REACH;
    const vertices = occlusal.filter((v) => inside(p[3 * v], p[3 * v + 1]));
    out.push(...zoneDepth({ ...common, zone: cusp.name, vertices, coverage: seen.share(cusp.at[0], cusp.at[1], CUSP_REACH, inside) }));
  }
  const groove = grooves.find((g) => g.rank === 'primary' && g.name === 'central');
  if (groove && groove.line.length >= 2) {
    const line = trimmed(groove.line, 0.1);
    const inside = (x: number, y: number): boolean => distanceToLine(line, x, y) <= GROOVE_REACH;
    const vertices = occlusal.filter((v) => inside(p[3 * v], p[3 * v + 1]));
    out.push(...zoneDepth({ ...common, zone: 'central groove', vertices, coverage: seen.share(0, 0, 7, inside) }));
  } else if (cusps.length >= 2) out.push(...refusal(NAME, 'central groove', stats, 'mm', 'no-groove'));
  for (const side of ['mesial', 'distal'] as const) {
    const zone = `${side} marginal ridge`;
    const line = ridges[side];
    if (line.length < 2) {
      if (cusps.length >= 2) out.push(...refusal(NAME, zone, stats, 'mm', 'no-landmark'));
      continue;
    }
    // The zone is asked of the master: points whose nearest master point lies by the ridge line.
    const near = (x: number, y: number): boolean => distanceToLine(line, x, y) <= RIDGE_REACH + 2.5;
    const hit = newClosest();
    const vertices = occlusal.filter((v) => {
      if (!near(p[3 * v], p[3 * v + 1])) return false;
      closestPoint(master.target, p[3 * v], p[3 * v + 1], p[3 * v + 2], hit);
      return distanceToSegment3(line, [hit.x, hit.y, hit.z]) <= RIDGE_REACH;
    });
    const middle = line[line.length >> 1];
    out.push(
      ...zoneDepth({
        ...common,
        zone,
        vertices,
        coverage: seen.share(middle[0], middle[1], 4, (x, y) => distanceToLine(line, x, y) <= RIDGE_REACH),
      }),
    );
  }
  return out;
}

function distanceToSegment3(line: readonly Vec3[], q: Vec3): number {
  let best = Infinity;
  for (let i = 0; i + 1 < line.length; i++) {
    const a = line[i];
    const u = [line[i + 1][0] - a[0], line[i + 1][1] - a[1], line[i + 1][2] - a[2]];
    const w = [q[0] - a[0], q[1] - a[1], q[2] - a[2]];
    const t = Math.min(1, Math.max(0, (w[0] * u[0] + w[1] * u[1] + w[2] * u[2]) / (u[0] ** 2 + u[1] ** 2 + u[2] ** 2 || 1)));
    best = Math.min(best, Math.hypot(w[0] - t * u[0], w[1] - t * u[1], w[2] - t * u[2]));
  }
  return best;
}
