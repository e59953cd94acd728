import type { TargetRegion } from '../../segment/target.ts';

/** mm between the points of a usual scan, and share of what a scan's points stand farther apart by which it blunts an edge. */
const USUAL = 0.13;
const SHARE = 0.35;

/** Standard uncertainty (mm) of an edge's place from how coarse the scan is: between points that stand far apart an edge is cut off. */
export const blunting = (region: Pick<TargetRegion, 'spacing'>): number => SHARE * Math.max(0, region.spacing - USUAL);

/**
 * How many times farther apart than usual a scan's points stand, at least 1. A dip of a curve between far points is a whole triangle's, and no
 * scatter about the smoothed curve shows it: the least value of a curve is by this much less sure.
 */
export const coarseness = (region: Pick<TargetRegion, 'spacing'>): number => Math.max(1, region.spacing / USUAL);
