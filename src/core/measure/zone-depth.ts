import { methodUncertainty } from '../catalogue/catalogue.ts';
import type { Stat } from '../catalogue/terms.ts';
import { azimuthOf } from '../linalg/sectors.ts';
import { expanded, type Reading, type Refusal, reading, refusal } from '../result/reading.ts';
import { isScrap, type TargetRegion } from '../segment/target.ts';
import { withoutNoise } from '../statistics/noise-share.ts';
import { weightedQuantiles } from '../statistics/quantile.ts';
import { THRESHOLDS } from '../thresholds.ts';

/** Share of a zone's area by which a scan's triangles misread it. */
const AREA_SHARE = 0.035;

/** A zone of the prepared surface whose depths are told. */
export interface DepthZone {
  readonly name: string;
  readonly zone: string | null;
  readonly region: TargetRegion;
  readonly vertices: readonly number[];
  /** The same zone with one of its ends elsewhere, as far off as it may lie (one standard uncertainty each). */
  readonly otherwise?: readonly (readonly number[])[];
  readonly coverage: number;
  /** Standard uncertainty from alignment, mm. */
  readonly alignment: number;
}

/** Depths that these shares of a zone's area lie under, each with the place that is nearest to it. */
export function depthFigures(o: DepthZone, figures: readonly (readonly [Stat, number])[]): Reading[] {
  const { region, vertices } = o;
  const quantilesOf = (of: readonly number[]): number[] =>
    weightedQuantiles(
      withoutNoise(
        of.map((v) => region.depth[v]),
        region.depthNoise,
      ),
      of.map((v) => region.areas[v]),
      figures.map(([, share]) => share),
    );
  const quantiles = quantilesOf(vertices);
  const others = (o.otherwise ?? []).filter((of) => !isScrap(region, of)).map(quantilesOf);
  const p = region.mesh.positions;
  return figures.map(([stat], i) => {
    // The place shown is the scan point whose depth is nearest to the figure.
    const v = vertices.reduce((a, b) => (Math.abs(region.depth[b] - quantiles[i]) < Math.abs(region.depth[a] - quantiles[i]) ? b : a));
    const noise = stat === 'median' ? region.depthNoise / Math.sqrt(Math.max(1, vertices.length / 30)) : region.depthNoise;
    return reading({
      name: o.name,
      zone: o.zone,
      stat,
      value: quantiles[i],
      U: expanded(o.alignment, noise, ...others.map((q) => q[i] - quantiles[i]), methodUncertainty(o.name, stat)),
      at: { azimuth: azimuthOf(p[3 * v], p[3 * v + 1]), point: [p[3 * v], p[3 * v + 1], p[3 * v + 2]] },
      coverage: o.coverage,
      samples: vertices.length,
    });
  });
}

const FIGURES = [
  ['p05', 0.05],
  ['median', 0.5],
  ['p95', 0.95],
] as const;

/** A depth zone's area and its three figures: thinnest (5 %), median and deepest (95 %), weighted by area, with the thinnest place. */
export function zoneDepth(o: DepthZone & { readonly reason: Refusal }): Reading[] {
  const { region, vertices } = o;
  if (o.coverage < THRESHOLDS.coverageLeast || isScrap(region, vertices))
    return refusal(
      o.name,
      o.zone,
      FIGURES.map(([stat]) => stat),
      o.coverage < THRESHOLDS.coverageLeast ? 'not-seen' : o.reason,
      o.coverage,
    );
  // Area, from which the volume to be cut follows; a scan's triangles give it to a few per cent, and its ends are where the zone's are.
  const areaOf = (of: readonly number[]): number => of.reduce((s, v) => s + region.areas[v], 0);
  const area = areaOf(vertices);
  const ends = (o.otherwise ?? []).map((of) => areaOf(of) - area);
  const size = { name: `${o.name}.area`, zone: o.zone, value: area, U: expanded(AREA_SHARE * area, ...ends) };
  return [...depthFigures(o, FIGURES), reading({ ...size, coverage: o.coverage, samples: vertices.length })];
}
