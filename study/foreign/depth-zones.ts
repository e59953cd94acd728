// Zones by which depths are told, as in the definitions, and their figures.
import type { Truth } from './case.ts';

/** Sides by the azimuth of their middle; each reaches 45° to either side. */
export const SIDES = { facial: 0, mesial: 90, lingual: 180, distal: 270 } as const;
export const THIRDS = ['gingival third', 'mid third', 'outer third'] as const;
/** mm about a cusp's tip and a groove's line, and the share of the groove that is left out at either end. */
export const CUSP_REACH = 1.25;
export const GROOVE_REACH = 0.5;
export const GROOVE_ENDS = 0.1;

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
