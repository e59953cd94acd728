import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { axialX, type CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { floorAt } from '../../segment/cavity/floors.ts';
import { isScrap } from '../../segment/target.ts';
import { median, quantile } from '../../statistics/quantile.ts';
import { axialError, floorError } from '../uncertainty/fit-error.ts';

/** Crossings of the bisector that share their noise: as many as lie within 0.3 mm on the coarsest scan. */
const CROSSINGS_SHARED = 3;
/** Least number of bisector crossings for a median; the coarsest scan has some ten per 3 mm of line angle. */
const LEAST_CROSSINGS = 8;

/**
 * Rounding of the axiopulpal line angle, read as a radius and as the width of a bevel.
 * @formula off = median distance from the line where pulpal plane and axial wall meet to the surface, along their bisector; radius = off ÷ (√2 − 1), bevel = 2 off (both for a square corner)
 * @units mm
 * @frame tooth
 * @fails no-pulpal-floor, no-wall
 * @source own definition, docs/definitions.md
 * @example a 0.3 mm bevel at 45° stands 0.15 mm off the corner
 */
export function axiopulpal(a: CavityAnatomy): Reading[] {
  return a.boxes.flatMap((b): Reading[] => {
    const zone = `box ${b.side}`;
    const refuse = (reason: 'no-pulpal-floor' | 'no-wall'): Reading[] => [
      ...refusal('axiopulpal.radius', zone, ['value'], reason),
      ...refusal('axiopulpal.bevel', zone, ['value'], reason),
    ];
    if (!a.pulpal) return refuse('no-pulpal-floor');
    if (!b.axial) return refuse('no-wall');
    const edge = edgeSpan(a, b);
    if (!edge) return refuse('no-pulpal-floor');
    const off = alongBisector(a, b, edge);
    if (off.length < LEAST_CROSSINGS) return refuse('no-wall');
    const value = Math.max(0, quantile(off, 0.5));
    const scatter = 1.48 * median(off.map((d) => Math.abs(d - value)));
    const u = expanded(
      scatter / Math.sqrt(Math.max(1, off.length / CROSSINGS_SHARED)),
      axialError(a, b),
      floorError(a, a.pulpal).level,
      methodUncertainty('axiopulpal.radius', 'value'),
    );
    const at = {
      point: [
        axialX(b, b.floor.centre[1]) as number,
        b.floor.centre[1],
        floorAt(a.pulpal.plane, b.floor.centre[0], b.floor.centre[1]),
      ] as const,
    };
    return [
      reading({
        name: 'axiopulpal.radius',
        zone,
        value: value / (Math.SQRT2 - 1),
        U: u / (Math.SQRT2 - 1),
        at,
        samples: off.length,
      }),
      reading({ name: 'axiopulpal.bevel', zone, value: 2 * value, U: 2 * u, at, samples: off.length }),
    ];
  });
}

/** Where the surface crosses the plane that halves the corner: mm from the corner, + into the tooth. Sides of triangles are cut, so that their spacing does not round the edge. */
function alongBisector(a: CavityAnatomy, b: CavityAnatomy['boxes'][number], edge: readonly [number, number]): number[] {
  const { mesh, prepared, adjacency } = a.region;
  const p = mesh.positions;
  const plane = (a.pulpal as NonNullable<CavityAnatomy['pulpal']>).plane;
  /** Offsets from the corner: to the box's outside, and up. */
  const seen = (v: number): [number, number] => {
    const y = p[3 * v + 1];
    const level = floorAt(plane, axialX(b, y) as number, y);
    return [b.sign * (p[3 * v] - (axialX(b, y, level) as number)), p[3 * v + 2] - level];
  };
  const out: number[] = [];
  for (let v = 0; v < prepared.length; v++) {
    if (!prepared[v] || p[3 * v + 1] < edge[0] || p[3 * v + 1] > edge[1]) continue;
    const [x0, z0] = seen(v);
    if (Math.hypot(x0, z0) > 0.9) continue;
    for (let i = adjacency.start[v]; i < adjacency.start[v + 1]; i++) {
      const w = adjacency.list[i];
      if (!prepared[w]) continue;
      const [x1, z1] = seen(w);
      // Each side once, from the wall's half to the floor's.
      if (!(z0 - x0 < 0 && z1 - x1 >= 0)) continue;
      const f = (z0 - x0) / (z0 - x0 - z1 + x1);
      const t = -(x0 + f * (x1 - x0) + z0 + f * (z1 - z0)) / Math.SQRT2;
      if (Math.abs(t) < 0.7) out.push(t);
    }
  }
  return out;
}

/** The middle of the line angle in y: where both the box's floor and, next to the axial wall, the pulpal floor are; null when they do not meet. */
function edgeSpan(a: CavityAnatomy, b: CavityAnatomy['boxes'][number]): [number, number] | null {
  const p = a.region.mesh.positions;
  const beside = (a.pulpal?.vertices ?? []).filter((v) => {
    const x = axialX(b, p[3 * v + 1]);
    return x !== null && Math.abs(p[3 * v] - x) < 0.8;
  });
  if (isScrap(a.region, beside)) return null;
  const spans = [b.floor.vertices, beside].map((of) => {
    const y = of.map((v) => p[3 * v + 1]);
    const [lo, hi] = [quantile(y, 0.05), quantile(y, 0.95)];
    return [lo + 0.2 * (hi - lo), hi - 0.2 * (hi - lo)];
  });
  const from = Math.max(spans[0][0], spans[1][0]);
  const to = Math.min(spans[0][1], spans[1][1]);
  return to > from ? [from, to] : null;
}
