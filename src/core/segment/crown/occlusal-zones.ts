import { distanceToLine, distanceToLine3, trimmed } from '../../linalg/curve.ts';
import type { Refusal } from '../../result/reading.ts';
import { closestAgain, newClosest } from '../../spatial/surface.ts';
import type { CrownAnatomy } from './crown.ts';
import { SeenPlan, type SurfaceKind } from './surfaces.ts';

/** mm of a cusp’s, a groove’s and a ridge’s zone about its landmark, as docs/definitions.md says. */
const CUSP_REACH = 1.25;
const GROOVE_REACH = 0.5;
const RIDGE_REACH = 0.75;

/** A part of the occlusal surface that people name: its points in the target region, and how much of it was seen. */
export interface OcclusalZone {
  readonly zone: string;
  readonly vertices: readonly number[];
  readonly coverage: number;
  /** The master lacks the landmark that would say where the zone is. */
  readonly lacking: Refusal | null;
}

/**
 * Zones of cusps (within 1.25 mm of the master's tip, seen along the axis), the central groove (within
 * 0.5 mm of its line without the outer tenths) and the marginal ridges (nearest master point within 0.75 mm of the line).
 */
export function occlusalZones(a: Pick<CrownAnatomy, 'region' | 'master'>, kinds: readonly SurfaceKind[]): OcclusalZone[] {
  const { region, master } = a;
  const { cusps, grooves, ridges } = master.landmarks;
  const seen = new SeenPlan(region);
  const p = region.mesh.positions;
  const occlusal: number[] = [];
  for (let v = 0; v < kinds.length; v++) if (kinds[v] === 'occlusal') occlusal.push(v);
  const out: OcclusalZone[] = [];
  for (const cusp of cusps) {
    const inside = (x: number, y: number): boolean => Math.hypot(x - cusp.at[0], y - cusp.at[1]) <= CUSP_REACH;
    out.push({
      zone: cusp.name,
      vertices: occlusal.filter((v) => inside(p[3 * v], p[3 * v + 1])),
      coverage: seen.share(cusp.at[0], cusp.at[1], CUSP_REACH, inside),
      lacking: null,
    });
  }
  const groove = grooves.find((g) => g.rank === 'primary' && g.name === 'central');
  if (groove && groove.line.length >= 2) {
    const line = trimmed(groove.line, 0.1);
    const inside = (x: number, y: number): boolean => distanceToLine(line, x, y) <= GROOVE_REACH;
    const vertices = occlusal.filter((v) => inside(p[3 * v], p[3 * v + 1]));
    out.push({ zone: 'central groove', vertices, coverage: seen.share(0, 0, 7, inside), lacking: null });
  } else if (cusps.length >= 2) out.push({ zone: 'central groove', vertices: [], coverage: 0, lacking: 'no-groove' });
  for (const side of ['mesial', 'distal'] as const) {
    const zone = `${side} marginal ridge`;
    const line = ridges[side];
    if (line.length < 2) {
      if (cusps.length >= 2) out.push({ zone, vertices: [], coverage: 0, lacking: 'no-landmark' });
      continue;
    }
    const hit = newClosest();
    const vertices = occlusal.filter((v) => {
      if (distanceToLine(line, p[3 * v], p[3 * v + 1]) > RIDGE_REACH + 2.5) return false;
      closestAgain(master.target, p[3 * v], p[3 * v + 1], p[3 * v + 2], region.nearest[v], hit);
      return distanceToLine3(line, [hit.x, hit.y, hit.z]) <= RIDGE_REACH;
    });
    const middle = line[line.length >> 1];
    const coverage = seen.share(middle[0], middle[1], 4, (x, y) => distanceToLine(line, x, y) <= RIDGE_REACH);
    out.push({ zone, vertices, coverage, lacking: null });
  }
  return out;
}
