/** Places that lie close together, and a ball that holds them. */
export interface Ball {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly radius: number;
  readonly places: readonly number[];
}

/** Some of the places (three coordinates each) by the cubes of a grid that they lie in: what is too far from a ball is too far from all of them. */
export function ballsOf(positions: Float64Array, places: readonly number[], cube: number): Ball[] {
  const cubes = new Map<number, number[]>();
  const step = (c: number): number => Math.floor(c / cube) + 2 ** 15;
  for (const v of places) {
    const key = (step(positions[3 * v]) * 2 ** 16 + step(positions[3 * v + 1])) * 2 ** 16 + step(positions[3 * v + 2]);
    const those = cubes.get(key);
    if (those) those.push(v);
    else cubes.set(key, [v]);
  }
  return [...cubes.values()].map((those) => ballRound(positions, those));
}

function ballRound(p: Float64Array, places: readonly number[]): Ball {
  const [x, y, z] = [0, 1, 2].map((k) => places.reduce((sum, v) => sum + p[3 * v + k], 0) / places.length);
  const radius = Math.max(...places.map((v) => Math.hypot(p[3 * v] - x, p[3 * v + 1] - y, p[3 * v + 2] - z)));
  return { x, y, z, radius, places };
}
