import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { distanceToLine } from '../../linalg/curve.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { heightShare } from '../../segment/crown/surfaces.ts';
import { mean } from '../../statistics/quantile.ts';
import type { CrownContext } from './context.ts';

/** mm round a site that the reading averages over: about a probe's tip. */
const TIP_MM = 0.3;
const COLUMNS = [
  ['mesial', 0.62],
  ['middle', 0],
  ['distal', -0.62],
] as const;

/**
 * What a probe would read: depth at nine occlusal sites (mesial, middle, distal × functional cusp line, groove,
 * non-functional cusp line) and at three heights of the facial wall.
 * @formula mean depth of the prepared points within 0.3 mm of the site, seen along the axis (occlusal) or along the facial azimuth
 * @units mm
 * @frame tooth
 * @fails no-groove, no-landmark, not-seen
 * @source own definition, docs/definitions.md
 * @example an occlusal surface parallel to the master's at 1.5 mm reads 1.5 at all nine sites
 */
export function reductionSites(c: CrownContext): Reading[] {
  return [...occlusalSites(c), ...facialSites(c)];
}

function occlusalSites(c: CrownContext): Reading[] {
  const { region, master } = c.anatomy;
  const { cusps, grooves } = master.landmarks;
  const name = 'reduction.sites';
  if (c.anterior) return [];
  const zones = COLUMNS.flatMap(([column]) => ['functional', 'groove', 'non-functional'].map((row) => `${column} ${row}`));
  const groove = grooves.find((g) => g.rank === 'primary' && g.name === 'central');
  if (!groove || groove.line.length < 2) return zones.flatMap((z) => refusal(name, z, ['value'], 'no-groove'));
  const ends = [groove.line[0], groove.line[groove.line.length - 1]].sort((a, b) => b[0] - a[0]);
  const half = (ends[0][0] - ends[1][0]) / 2;
  const middle = (ends[0][0] + ends[1][0]) / 2;
  const offset = (role: string): number | null => {
    const y = cusps.filter((q) => q.role === role).map((q) => q.at[1]);
    return y.length ? 0.9 * mean(y) : null;
  };
  const rows = [
    ['functional', offset('functional')],
    ['groove', 'groove'],
    ['non-functional', offset('non-functional')],
  ] as const;
  const p = region.mesh.positions;
  const occlusal: number[] = [];
  for (let v = 0; v < c.kinds.length; v++) if (c.kinds[v] === 'occlusal') occlusal.push(v);
  return COLUMNS.flatMap(([column, at]) =>
    rows.flatMap(([row, y]): Reading[] => {
      const zone = `${column} ${row}`;
      if (y === null) return refusal(name, zone, ['value'], 'no-landmark');
      const x0 = middle + at * half;
      const y0 = y === 'groove' ? grooveAt(groove.line, x0) : y;
      return siteReading(
        c,
        zone,
        occlusal.filter((v) => Math.hypot(p[3 * v] - x0, p[3 * v + 1] - y0) <= TIP_MM),
      );
    }),
  );
}

/** y of the groove's line at x, taken at the nearest point of the line. */
function grooveAt(line: readonly (readonly [number, number, number])[], x: number): number {
  let best = 0;
  let least = Infinity;
  for (let y = -3; y <= 3; y += 0.02) {
    const d = distanceToLine(line, x, y);
    if (d < least) {
      least = d;
      best = y;
    }
  }
  return best;
}

function facialSites(c: CrownContext): Reading[] {
  const { region } = c.anatomy;
  const p = region.mesh.positions;
  const near: { v: number; share: number }[] = [];
  for (let v = 0; v < region.depth.length; v++) {
    if (!region.prepared[v] || p[3 * v + 1] <= 0 || Math.abs(p[3 * v]) > TIP_MM) continue;
    const share = heightShare(c.anatomy, p[3 * v], p[3 * v + 1], p[3 * v + 2]);
    if (share !== null) near.push({ v, share });
  }
  return (
    [
      ['facial gingival third', 1 / 6],
      ['facial mid third', 1 / 2],
      ['facial outer third', 5 / 6],
    ] as const
  ).flatMap(([zone, share]) =>
    siteReading(
      c,
      zone,
      near.filter((q) => Math.abs(q.share - share) < 0.06).map((q) => q.v),
    ),
  );
}

function siteReading(c: CrownContext, zone: string, vertices: readonly number[]): Reading[] {
  const { region, alignment } = c.anatomy;
  const name = 'reduction.sites';
  if (vertices.length < 3) return refusal(name, zone, ['value'], 'not-seen');
  const p = region.mesh.positions;
  const middle = [0, 1, 2].map((k) => mean(vertices.map((v) => p[3 * v + k]))) as [number, number, number];
  const spread = Math.max(...vertices.map((v) => region.depth[v])) - Math.min(...vertices.map((v) => region.depth[v]));
  return [
    reading({
      name,
      zone,
      value: mean(vertices.map((v) => region.depth[v])),
      // A site lies on a slope: half the spread under the gauge's tip is the effect of a small displacement.
      U: expanded(alignment.pointError, region.depthNoise / 2, 0.15 * spread, methodUncertainty(name, 'value')),
      at: { azimuth: azimuthOf(middle[0], middle[1]), point: middle },
      samples: vertices.length,
    }),
  ];
}
