import type { Vec3 } from '../linalg/vec.ts';

/** A dab of the brush: everything within the radius (mm) of a place becomes that part. */
export interface Dab {
  readonly at: Vec3;
  readonly radius: number;
  readonly part: number;
}

/** The parts of vertices after the dabs, in their order; on the screen's lighter mesh and on the whole one alike. */
export function painted(positions: ArrayLike<number>, parts: Uint8Array, dabs: readonly Dab[]): Uint8Array {
  const out = parts.slice();
  for (const { at, radius, part } of dabs)
    for (let v = 0; v < out.length; v++) {
      const d = (positions[3 * v] - at[0]) ** 2 + (positions[3 * v + 1] - at[1]) ** 2 + (positions[3 * v + 2] - at[2]) ** 2;
      if (d <= radius * radius) out[v] = part;
    }
  return out;
}
