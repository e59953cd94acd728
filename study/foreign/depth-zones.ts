// Zones by which depths are told, as in the definitions, and their figures.
import type { Truth } from './case.ts';

/** Sides by the azimuth of their middle; each reaches 45° to either side. */
export const SIDES = { facial: 0, mesial: 90, lingual: 180, distal: 270 } as const;
const THIRDS = ['gingival third', 'mid third', 'outer third'];
/** mm about a cusp's tip and a groove's line, and the share of the groove that is left out at either end. */
export const CUSP_REACH = 1.25;
/** mm over the gingival margin from which uncut tooth counts for the gap to a neighbour. */
export const UNCUT_FROM = 0.3;
const GROOVE_REACH = 0.5;
const GROOVE_ENDS = 0.1;

/** mm² under which a zone is too small for figures of its own. */
const SCRAP = 0.5;

/** 5 %, median and 95 % of the depth by area. */
export function depthQuantiles(name: string, zone: string, own: readonly { readonly depth: number; readonly area: number }[]): Truth[] {
  const whole = own.reduce((s, q) => s + q.area, 0);
  if (whole < SCRAP) return [];
  const sorted = [...own].sort((a, b) => a.depth - b.depth);
  const shares = { p05: 0.05, median: 0.5, p95: 0.95 };
  return Object.entries(shares).map(([stat, share]): Truth => {
    let sum = 0;
    const at = sorted.find((q) => {
      sum += q.area;
      return sum >= share * whole;
    });
    return { name, zone, stat, value: (at ?? sorted[sorted.length - 1]).depth };
  });
}

export interface WallPlace {
  readonly phi: number;
  /** Height along the side: 0 at the finish line, 1 where it has turned by 45°. */
  readonly share: number;
  readonly depth: number;
  readonly area: number;
}

/** Depths of the walls by side and third. */
export const axialDepths = (walls: readonly WallPlace[]): Truth[] =>
  Object.entries(SIDES).flatMap(([side, at]) =>
    THIRDS.flatMap((third, k) =>
      depthQuantiles(
        'reduction.axial',
        `${side} ${third}`,
        walls.filter((q) => Math.abs(((q.phi - at + 540) % 360) - 180) <= 45 && Math.floor(3 * q.share) === k),
      ),
    ),
  );

/** Where the central groove's zone lies; the groove runs along the x axis. */
export function grooveZone(line: readonly (readonly [number, number, number])[]) {
  const xs = line.map((p) => p[0]);
  const [west, east] = [Math.min(...xs), Math.max(...xs)];
  const [from, to] = [west + GROOVE_ENDS * (east - west), east - GROOVE_ENDS * (east - west)];
  return {
    x: [from - GROOVE_REACH, to + GROOVE_REACH],
    y: [-GROOVE_REACH, GROOVE_REACH],
    inside: (x: number, y: number): boolean => Math.hypot(y, Math.max(from - x, x - to, 0)) <= GROOVE_REACH,
  } as const;
}
