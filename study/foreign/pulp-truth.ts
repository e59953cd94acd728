// A pulp that is a ball, and how near a cut comes to it: the shortest ray from its middle to the cut surface.
import type { Vec3 } from '#core/linalg/vec.ts';
import { bisected } from './bisected.ts';
import type { Truth } from './case.ts';
import { type Body, surfaceNets } from './implicit-mesh.ts';
import { emptySheet, type Sheet } from './scanner.ts';

export interface Ball {
  readonly at: Vec3;
  readonly radius: number;
}

/** mm between a ball's points. */
const CELL = 0.12;

export function ballSheet({ at: [x0, y0, z0], radius }: Ball): Sheet {
  const sheet = emptySheet();
  const reach = radius + 0.5;
  surfaceNets(
    sheet,
    (x, y, z) => Math.hypot(x - x0, y - y0, z - z0) - radius,
    { from: [x0 - reach, y0 - reach, z0 - reach], to: [x0 + reach, y0 + reach, z0 + reach] },
    CELL,
    () => 1,
  );
  return sheet;
}

const RAYS = 8000;
const STEP = 0.1;
const FARTHEST = 7;

/** `standing` is negative where tooth is left, and positive only where it was cut. */
export function pulpTruth({ at, radius }: Ball, standing: Body): Truth {
  let least = FARTHEST;
  for (let i = 0; i < RAYS; i++) {
    // Directions at equal areas, along a spiral.
    const z = 1 - (2 * i + 1) / RAYS;
    const turn = i * Math.PI * (3 - Math.sqrt(5));
    const r = Math.sqrt(1 - z * z);
    const on = (d: number): number => standing(at[0] + d * r * Math.cos(turn), at[1] + d * r * Math.sin(turn), at[2] + d * z);
    for (let d = radius; d < least; d += STEP)
      if (on(d + STEP) > 0) {
        least = Math.min(least, bisected(on, d, d + STEP));
        break;
      }
  }
  return { name: 'pulp.distance', zone: null, stat: 'min', value: Math.max(0, least - radius) };
}
