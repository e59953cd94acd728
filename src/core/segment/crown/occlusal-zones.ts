import { distanceToLine, distanceToLine3, trimmed } from '../../linalg/curve.ts';
import { DEG } from '../../linalg/vec.ts';
import type { Refusal } from '../../result/reading.ts';
import { closestAgain, newClosest } from '../../spatial/surface.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import type { CrownAnatomy } from './crown.ts';
import { heightShare, LEAN_KNOWN, SeenPlan, type SurfaceKind, upward } from './surfaces.ts';

/** mm of a cusp’s, a groove’s and a ridge’s zone about its landmark, as docs/definitions.md says. */
const CUSP_REACH = 1.25;
const GROOVE_REACH = 0.5;
const RIDGE_REACH = 0.75;

/** A part of the occlusal surface that people name: its points in the target region, and how much of it was seen. */
export interface OcclusalZone {
  readonly zone: string;
  readonly vertices: readonly number[];
  /** The same with its borders as far off as they may lie, one standard uncertainty each. */
  readonly otherwise: readonly (readonly number[])[];
  readonly coverage: number;
  /** The master lacks the landmark that would say where the zone is. */
  readonly lacking: Refusal | null;
}

/**
 * Zones of cusps (within 1.25 mm of the master's tip, seen along the axis), the central groove (within
 * 0.5 mm of its line without the outer tenths) and the marginal ridges (nearest master point within 0.75 mm of the line).
 */
export function occlusalZones(
  a: Pick<CrownAnatomy, 'region' | 'master' | 'wallTop' | 'finishZ'>,
  kinds: readonly SurfaceKind[],
  draw: readonly [number, number, number],
): OcclusalZone[] {
  const { region, master } = a;
  const { cusps, grooves, ridges } = master.landmarks;
  const seen = new SeenPlan(region);
  const p = region.mesh.positions;
  const occlusal: number[] = [];
  const steeper: number[] = [];
  const nearly = Math.sin((THRESHOLDS.wallWithin_deg - LEAN_KNOWN) * DEG);
  for (let v = 0; v < kinds.length; v++) {
    if (kinds[v] === 'occlusal') occlusal.push(v);
    else if (
      kinds[v] === 'wall' &&
      Math.abs(upward(region.normals, v, draw)) > nearly &&
      (heightShare(a, p[3 * v], p[3 * v + 1], p[3 * v + 2]) ?? 0) > 0.5
    )
      steeper.push(v);
  }
  const zoneOf = (zone: string, coverage: number, inside: (v: number) => boolean): OcclusalZone => {
    const vertices = occlusal.filter(inside);
    return { zone, vertices, otherwise: [[...vertices, ...steeper.filter(inside)]], coverage, lacking: null };
  };
  const without = (zone: string, lacking: Refusal): OcclusalZone => ({ zone, vertices: [], otherwise: [], coverage: 0, lacking });
  const out: OcclusalZone[] = [];
  for (const cusp of cusps) {
    const inside = (x: number, y: number): boolean => Math.hypot(x - cusp.at[0], y - cusp.at[1]) <= CUSP_REACH;
    out.push(zoneOf(cusp.name, seen.share(cusp.at[0], cusp.at[1], CUSP_REACH, inside), (v) => inside(p[3 * v], p[3 * v + 1])));
  }
  const groove = grooves.find((g) => g.rank === 'primary' && g.name === 'central');
  if (groove && groove.line.length >= 2) {
    const line = trimmed(groove.line, 0.1);
    const inside = (x: number, y: number): boolean => distanceToLine(line, x, y) <= GROOVE_REACH;
    out.push(zoneOf('central groove', seen.share(0, 0, 7, inside), (v) => inside(p[3 * v], p[3 * v + 1])));
  } else if (cusps.length >= 2) out.push(without('central groove', 'no-groove'));
  for (const side of ['mesial', 'distal'] as const) {
    const zone = `${side} marginal ridge`;
    const line = ridges[side];
    if (line.length < 2) {
      if (cusps.length >= 2) out.push(without(zone, 'no-landmark'));
      continue;
    }
    const hit = newClosest();
    const middle = line[line.length >> 1];
    const coverage = seen.share(middle[0], middle[1], 4, (x, y) => distanceToLine(line, x, y) <= RIDGE_REACH);
    out.push(
      zoneOf(zone, coverage, (v) => {
        if (distanceToLine(line, p[3 * v], p[3 * v + 1]) > RIDGE_REACH + 2.5) return false;
        closestAgain(master.target, p[3 * v], p[3 * v + 1], p[3 * v + 2], region.nearest[v], hit);
        return distanceToLine3(line, [hit.x, hit.y, hit.z]) <= RIDGE_REACH;
      }),
    );
  }
  return out;
}
