import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { containment, nearestOn } from '../../linalg/plan.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { floorAt } from '../../segment/cavity/floors.ts';
import { isScrap } from '../../segment/target.ts';

/** mm: hidden depth under this is noise of an upright wall. */
const LEAST = 0.03;
/** Share of the hidden area whose distance is told. */
const FARTHEST = 0.02;

/**
 * Retention: what of the cavity lies hidden under its own outline, as amalgam wants it and inlays must not have it.
 * @formula depth = distance to the outline, seen along the axis, of the prepared points outside it: mean of the 2 % of their area that lie farthest, 0 where less than 0.2 mm² is hidden; volume = Σ projected area of overhanging wall × its height over the floor
 * @units mm; mm³
 * @frame tooth
 * @fails no-outline
 * @source own definition, docs/definitions.md
 * @example walls that diverge occlusally hide nothing: 0 and 0
 */
export function retention(a: CavityAnatomy): Reading[] {
  if (a.plan.length < 20)
    return [...refusal('retention.depth', null, ['max'], 'no-outline'), ...refusal('retention.volume', null, ['value'], 'no-outline')];
  const { mesh, prepared, normals, areas, depth } = a.region;
  const p = mesh.positions;
  const inside = containment(a.plan);
  const hidden: { v: number; d: number }[] = [];
  let volume = 0;
  for (let v = 0; v < areas.length; v++) {
    if (!prepared[v] || depth[v] < 0.3) continue;
    if (inside(p[3 * v], p[3 * v + 1])) continue;
    const d = nearestOn(a.plan, p[3 * v], p[3 * v + 1]).distance;
    if (d < LEAST || d > 1.5) continue;
    hidden.push({ v, d });
    const floor = lowerFloor(a, p[3 * v], p[3 * v + 1]);
    if (normals[3 * v + 2] < 0 && floor !== null) volume += areas[v] * -normals[3 * v + 2] * Math.max(0, p[3 * v + 2] - floor);
  }
  const top = farthest(hidden, areas);
  const scrap = isScrap(
    a.region,
    hidden.map((q) => q.v),
  );
  const value = scrap ? 0 : weighted(top, areas);
  const at = value > 0 ? { point: [p[3 * top[0].v], p[3 * top[0].v + 1], p[3 * top[0].v + 2]] as const } : null;
  const U = expanded(0.4 * a.alignment.noise, methodUncertainty('retention.depth', 'max'));
  return [
    reading({ name: 'retention.depth', stat: 'max', value, U, at, samples: hidden.length }),
    reading({
      name: 'retention.volume',
      value: value > 0 ? volume : 0,
      U: Math.max(0.05, 0.25 * volume),
      at,
      samples: hidden.length,
    }),
  ];
}

type Hidden = readonly { readonly v: number; readonly d: number }[];

/** The largest of many noisy distances leans upward: the farthest two hundredths of the area stand for it. */
function farthest(hidden: Hidden, areas: ArrayLike<number>): Hidden {
  const whole = hidden.reduce((s, q) => s + areas[q.v], 0);
  let area = 0;
  return [...hidden]
    .sort((p, q) => q.d - p.d)
    .filter((q) => {
      const isAmong = area < FARTHEST * whole;
      area += areas[q.v];
      return isAmong;
    });
}

const weighted = (of: Hidden, areas: ArrayLike<number>): number =>
  of.reduce((s, q) => s + areas[q.v] * q.d, 0) / of.reduce((s, q) => s + areas[q.v], 0);

function lowerFloor(a: CavityAnatomy, x: number, y: number): number | null {
  const box = a.boxes.find((b) => b.sign * (x - b.floor.centre[0]) > -0.8);
  const f = box ? box.floor : a.pulpal;
  return f ? floorAt(f.plane, x, y) : null;
}
