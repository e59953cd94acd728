import type { OwnCutter } from '../plan/choose.ts';

/** How somebody follows a plan: what the hand adds to its tilt, how much too deep everything is sunk, and in how many passes a margin is cut. */
export interface Way {
  readonly tilt_deg: number;
  readonly sunk_mm: number;
  /** One pass sunk as far as it takes, or as many as leave no lip. */
  readonly onePass: boolean;
  /** Cutter for walls and margin in place of the plan's. */
  readonly cutter: OwnCutter | null;
}
export const AS_PLANNED: Way = { tilt_deg: 0, sunk_mm: 0, onePass: false, cutter: null };
