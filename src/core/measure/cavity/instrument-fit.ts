import { type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { floorAt } from '../../segment/cavity/floors.ts';

/** Diameters (mm) of round-ended condensers that are tried. */
export const CONDENSERS = [0.8, 1, 1.3] as const;
const CELL = 0.1;

/** Free distance to the nearest wall over the pulpal floor, seen along the axis, on a grid of 0.1 mm. */
export function freeDistances(a: CavityAnatomy): { x: number; y: number; free: number }[] {
  if (!a.pulpal) return [];
  const p = a.region.mesh.positions;
  // Seen along the axis: x and y in turn.
  const walls: number[] = [];
  for (const [name, list] of a.parts)
    if (['facial', 'mesial', 'lingual', 'distal'].includes(name) || name.startsWith('box'))
      for (const v of list) if (p[3 * v + 2] > floorAt(a.pulpal.plane, p[3 * v], p[3 * v + 1]) + 0.2) walls.push(p[3 * v], p[3 * v + 1]);
  const flat = Float64Array.from(walls);
  const cells = new Set<number>();
  for (const v of a.pulpal.vertices) cells.add((Math.round(p[3 * v] / CELL) + 500) * 1000 + Math.round(p[3 * v + 1] / CELL) + 500);
  return [...cells].map((k) => {
    const x = (Math.floor(k / 1000) - 500) * CELL;
    const y = ((k % 1000) - 500) * CELL;
    let free = Infinity;
    for (let i = 0; i < flat.length; i += 2) {
      const dx = flat[i] - x;
      const dy = flat[i + 1] - y;
      const d = dx * dx + dy * dy;
      if (d < free) free = d;
    }
    return { x, y, free: Math.sqrt(free) };
  });
}

/**
 * Does a round-ended condenser reach the floor? Share of the pulpal floor that discs of its diameter can cover without
 * touching a wall; and the widest condenser that goes in anywhere.
 * @formula a disc of diameter d stands where the free distance to the walls is ≥ d/2; covered = floor within d/2 of such a place; widest = 2 max free distance
 * @units share; mm
 * @frame tooth, seen along the axis
 * @fails no-pulpal-floor
 * @source own definition, docs/definitions.md
 * @example a channel 1.2 wide lets 1.0 in and keeps 1.3 out
 */
export function instrumentFit(a: CavityAnatomy): Reading[] {
  const grid = freeDistances(a);
  const names = CONDENSERS.map((d) => `instrument.fit(${d.toFixed(1)})`);
  if (grid.length < 10)
    return [
      ...names.flatMap((n) => refusal(n, null, ['share'], 'no-pulpal-floor')),
      ...refusal('instrument.widest', null, ['max'], 'no-pulpal-floor'),
    ];
  const widest = grid.reduce((p, q) => (q.free > p.free ? q : p));
  return [
    ...CONDENSERS.map((d, i) => {
      const places = grid.filter((g) => g.free >= d / 2);
      const reached = grid.filter((g) => places.some((q) => (q.x - g.x) ** 2 + (q.y - g.y) ** 2 <= (d / 2) ** 2));
      return reading({ name: names[i], stat: 'share', value: reached.length / grid.length, U: 0.1, samples: grid.length });
    }),
    reading({
      name: 'instrument.widest',
      stat: 'max',
      value: 2 * widest.free,
      U: 0.12,
      at: { point: [widest.x, widest.y, a.pulpal!.centre[2]] },
      samples: grid.length,
    }),
  ];
}
