import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { containment, nearestOn } from '../../linalg/plan.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { type CavityAnatomy, floorAt } from '../../segment/cavity/cavity.ts';

/** mm: hidden depth under this is noise of an upright wall. */
const LEAST = 0.03;

/**
 * Retention: what of the cavity lies hidden under its own outline, as amalgam wants it and inlays must not have it.
 * @formula depth = largest distance, seen along the axis, of a prepared point outside the outline to it; volume = Σ projected area of overhanging wall × its height over the floor
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
  // The largest of many noisy distances leans upward: the mean of the top two in a hundred stands for it.
  hidden.sort((x, y) => y.d - x.d);
  const top = hidden.slice(0, Math.max(3, Math.round(0.02 * hidden.length)));
  const value = hidden.length < 12 ? 0 : top.reduce((s, q) => s + q.d, 0) / top.length;
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

function lowerFloor(a: CavityAnatomy, x: number, y: number): number | null {
  const box = a.boxes.find((b) => b.sign * (x - b.floor.centre[0]) > -0.8);
  const f = box ? box.floor : a.pulpal;
  return f ? floorAt(f.plane, x, y) : null;
}
