import { angleBetween, unit, type Vec3 } from '../../linalg/vec.ts';
import { weightedQuantiles } from '../../statistics/quantile.ts';
import { type PlacedGroove, partialParts, wallAt } from '../partial/partial.ts';
import type { PartialRecipe } from '../partial/recipe.ts';
import type { Typodont } from '../typodont.ts';
import { crownTruth } from './crown-truth.ts';
import type { Truth } from './truth.ts';

const LINGUAL = /^(lingual|mesiolingual|distolingual)( |$)/;
const ROUND = /^(margin\.(width|gingiva|exit)|wall\.(lean|height)|reduction\.axial)$/;

/** True values of a partial crown: of its covered sides as of a crown; of grooves and pinhole from their cutters. */
export function partialTruth(t: Typodont, r: PartialRecipe): Truth[] {
  const parts = partialParts(t, r);
  // The plate's cusps keep an inner step within their zone.
  const lingual = new Set(t.target.cusps.filter((c) => c.at[1] < 0).map((c) => c.name));
  // A pinhole and its ledge are the deepest of the lingual wall: what the wall alone would be is not the deepest any more.
  const drilled = (q: Truth): boolean => parts.pin !== null && q.name === 'reduction.axial' && q.stat === 'p95';
  const out = crownTruth(t, parts.envelope).filter(
    (q) =>
      !drilled(q) &&
      ((q.name === 'reduction.occlusal' && lingual.has(q.zone ?? '')) || (ROUND.test(q.name) && q.zone !== null && LINGUAL.test(q.zone))),
  );
  for (const g of parts.grooves) out.push(...grooveTruth(g, parts.envelope));
  const [a, b] = parts.grooves;
  if (a && b)
    out.push({
      name: 'groove.parallel',
      zone: `${a.recipe.side} ${b.recipe.side}`,
      stat: 'value',
      unit: 'deg',
      value: angleBetween(directionOf(a), directionOf(b)),
    });
  if (parts.pin) out.push({ name: 'pin.depth', zone: 'pin', stat: 'value', unit: 'mm', value: parts.pin.ledge - parts.pin.bottom });
  return out;
}

function directionOf(g: PlacedGroove): Vec3 {
  const [p, q] = [g.centre(0), g.centre(1)];
  return unit([q[0] - p[0], q[1] - p[1], 1]);
}

/** Depth under the chord of the lips at each height, the lips being where the cutter's straight sides leave the wall. */
function grooveTruth(g: PlacedGroove, e: Parameters<typeof wallAt>[0]): Truth[] {
  const radius = g.recipe.width / 2;
  const side = [-g.out[1], g.out[0]] as const;
  const depths: number[] = [];
  const widths: number[] = [];
  for (let z = g.from + 0.1; z < g.to - 0.2; z += 0.1) {
    const c = g.centre(z);
    const lips = ([1, -1] as const).map((s): readonly [number, number] => {
      // Along the cutter's side from its middle outward until the wall is reached.
      const p = [c[0] + s * radius * side[0], c[1] + s * radius * side[1]] as const;
      let lo = -2;
      let hi = 3;
      for (let i = 0; i < 40; i++) {
        const m = (lo + hi) / 2;
        const q = [p[0] + m * g.out[0], p[1] + m * g.out[1]] as const;
        const w = wallAt(e, Math.atan2(q[0], q[1]), z);
        if (Math.hypot(q[0], q[1]) < Math.hypot(w[0], w[1])) lo = m;
        else hi = m;
      }
      return [p[0] + lo * g.out[0], p[1] + lo * g.out[1]];
    });
    const [u, v] = lips;
    const l = Math.hypot(v[0] - u[0], v[1] - u[1]);
    const bottom = [c[0] - radius * g.out[0], c[1] - radius * g.out[1]] as const;
    depths.push(Math.abs((v[0] - u[0]) * (bottom[1] - u[1]) - (v[1] - u[1]) * (bottom[0] - u[0])) / l);
    widths.push(l);
  }
  const median = (v: number[]): number =>
    weightedQuantiles(
      v,
      v.map(() => 1),
      [0.5],
    )[0];
  return [
    { name: 'groove.depth', zone: g.recipe.side, stat: 'median', unit: 'mm', value: median(depths) },
    { name: 'groove.width', zone: g.recipe.side, stat: 'median', unit: 'mm', value: median(widths) },
  ];
}
