import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { byAxis } from '../../linalg/vec.ts';
import { lineBeside, type RowOfCusps } from '../../master/row-of-cusps.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { bevelsFound } from '../bevel-found.ts';
import type { CrownContext } from '../crown/context.ts';

const NAME = 'line.cusps';
const EDGE = 'line.cusps.bevel';
/** mm under the highest prepared point down to which a cusp's tip is looked for: a cut cusp is blunt. */
const PLATEAU = 0.05;

/**
 * Distance of the prepared functional cusps, and of the functional bevel's edge, from the line through the neighbours' cusp tips, seen along the axis.
 * @formula (y − a − bx) ÷ √(1 + b²) with y = a + bx the least-squares line through those tips of both neighbours that stand on the functional cusps' side; a cusp's tip is the middle of what lies within 0.05 mm under its highest prepared point; the edge is the mean over the half planes of every functional cusp
 * @units mm, + facial
 * @frame tooth
 * @fails no-landmark, no-neighbour-cusps, not-seen, no-bevel
 * @source own definition, docs/definitions.md
 * @example a tip at y = 2.8 beside neighbours whose tips stand at y = 2.5 reads 0.3
 */
export function lineCusps(c: CrownContext): Reading[] {
  if (c.anterior) return [];
  const { landmarks } = c.anatomy.master;
  const functional = landmarks.cusps.filter((q) => q.role === 'functional');
  if (functional.length === 0) return [...refusal(NAME, null, ['value'], 'no-landmark'), ...refusal(EDGE, null, ['value'], 'no-landmark')];
  const line = lineBeside(landmarks);
  if (!line)
    return [
      ...functional.flatMap((q) => refusal(NAME, q.name, ['value'], 'no-neighbour-cusps')),
      ...refusal(EDGE, null, ['value'], 'no-neighbour-cusps'),
    ];
  const { alignment } = c.anatomy;
  const common = [line.error, alignment.pointError] as const;
  const tips = functional.flatMap((q): Reading[] => {
    const zone = c.zones.find((z) => z.zone === q.name);
    const tip = zone && tipOf(c, zone.vertices, line);
    if (!zone || !tip) return refusal(NAME, q.name, ['value'], 'not-seen', zone?.coverage);
    return [
      reading({
        name: NAME,
        zone: q.name,
        value: line.from(tip.at),
        U: expanded(...common, tip.spread, methodUncertainty(NAME, 'value')),
        at: { azimuth: azimuthOf(tip.at[0], tip.at[1]), point: tip.at },
        coverage: zone.coverage,
        samples: tip.samples,
      }),
    ];
  });
  const bevels = bevelsFound(c, 'functional');
  const edge = bevels.flatMap((b) => b.edge);
  if (edge.length === 0) return [...tips, ...refusal(EDGE, null, ['value'], 'no-bevel')];
  const off = edge.map(line.from);
  const middle = off.reduce((s, v) => s + v, 0) / off.length;
  return [
    ...tips,
    reading({
      name: EDGE,
      value: middle,
      U: expanded(...common, Math.hypot(...bevels.map((b) => b.scatter.width)) / bevels.length, methodUncertainty(EDGE, 'value')),
      at: bevels[0].at,
      samples: edge.length,
    }),
  ];
}

/** The tip of a prepared cusp, and how far what is as high spreads across the line. */
function tipOf(c: CrownContext, vertices: readonly number[], line: RowOfCusps) {
  const p = c.steady;
  if (vertices.length === 0) return null;
  const highest = Math.max(...vertices.map((v) => p[3 * v + 2]));
  const top = vertices.filter((v) => p[3 * v + 2] >= highest - PLATEAU);
  const areas = c.anatomy.region.areas;
  const area = top.reduce((s, v) => s + areas[v], 0);
  if (!(area > 0)) return null;
  const at = byAxis((k) => top.reduce((s, v) => s + areas[v] * p[3 * v + k], 0) / area);
  const own = line.from(at);
  const spread = Math.sqrt(top.reduce((s, v) => s + areas[v] * (line.from([p[3 * v], p[3 * v + 1], 0]) - own) ** 2, 0) / area);
  return { at, spread, samples: top.length };
}
