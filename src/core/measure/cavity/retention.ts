import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { containment, nearestOn } from '../../linalg/plan.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { floorAt } from '../../segment/cavity/floors.ts';
import { outlineScatter } from '../uncertainty/outline-error.ts';

/** mm: hidden depth under this is noise of an upright wall. */
const LEAST = 0.03;
/** mm²: hidden wall that hangs together; what noise hides is less, what a cutter undercuts is more. */
const LEAST_CONNECTED = 0.5;
/** Share of the hidden area whose distance is given. */
const FARTHEST = 0.02;

/**
 * Retention: what of the cavity lies hidden under its own outline, as amalgam wants it and inlays must not have it.
 * @formula depth = distance to the outline, seen along the axis, of the prepared points outside it: mean of the 2 % of their area that lie farthest, 0 where less than 0.5 mm² of hidden wall hangs together; volume = Σ projected area of overhanging wall × its height over the floor
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
  const found: { v: number; d: number }[] = [];
  for (let v = 0; v < areas.length; v++) {
    if (!prepared[v] || depth[v] < 0.3) continue;
    if (inside(p[3 * v], p[3 * v + 1])) continue;
    const d = nearestOn(a.plan, p[3 * v], p[3 * v + 1]).distance;
    if (d < LEAST || d > 1.5) continue;
    found.push({ v, d });
  }
  const hidden = connected(a, found);
  let volume = 0;
  for (const { v } of hidden) {
    const floor = lowerFloor(a, p[3 * v], p[3 * v + 1]);
    if (normals[3 * v + 2] < 0 && floor !== null) volume += areas[v] * -normals[3 * v + 2] * Math.max(0, p[3 * v + 2] - floor);
  }
  const top = farthest(hidden, areas);
  const value = hidden.length ? weighted(top, areas) : 0;
  const at = value > 0 ? { point: [p[3 * top[0].v], p[3 * top[0].v + 1], p[3 * top[0].v + 2]] as const } : null;
  const U = expanded(outlineScatter(a), a.region.depthNoise, methodUncertainty('retention.depth', 'max'));
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

/** Of the hidden points those that hang together over half a square millimetre or more. */
function connected(a: CavityAnatomy, found: Hidden): Hidden {
  const { adjacency, areas } = a.region;
  const left = new Map(found.map((q) => [q.v, q]));
  const out: { v: number; d: number }[] = [];
  for (const first of found) {
    if (!left.delete(first.v)) continue;
    const patch = [first];
    for (let k = 0; k < patch.length; k++)
      for (let i = adjacency.start[patch[k].v]; i < adjacency.start[patch[k].v + 1]; i++) {
        const next = left.get(adjacency.list[i]);
        if (!next) continue;
        left.delete(next.v);
        patch.push(next);
      }
    if (patch.reduce((s, q) => s + areas[q.v], 0) >= LEAST_CONNECTED) out.push(...patch);
  }
  return out;
}

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
