import { makeMesh } from '#core/mesh/mesh.ts';
import { type Contour, PLACE } from '#core/segment/partial/contour.ts';
import { makeSurface } from '#core/spatial/surface.ts';
import { seeded } from '#core/statistics/random.ts';
import { along, revolve } from './shapes.ts';

/** mm: a round wall, as of a crown seen along its axis. */
export const R = 5;
export const wall = makeSurface(
  revolve(
    along(
      [
        [R, 6],
        [R, -2],
      ],
      0.3,
    ),
  ),
);

export type Place = readonly [number, number];

/** A wall's outline from azimuth 30 to 150°, as fine as it comes. */
function outline(cut: readonly Place[], lip: number): Place[] {
  const arc = (from: number, to: number): Place[] =>
    Array.from({ length: 2001 }, (_, i) => from + ((to - from) * i) / 2000).map((a) => [R * Math.sin(a), R * Math.cos(a)]);
  const half = Math.asin(lip / R);
  return [...arc(Math.PI / 6, Math.PI / 2 - half), ...cut, ...arc(Math.PI / 2 + half, (5 * Math.PI) / 6)];
}

/** Places so many mm apart along an outline. */
function spread(line: readonly Place[], step: number): Place[] {
  const out: Place[] = [];
  let left = 0;
  for (let k = 1; k < line.length; k++) {
    const [dx, dy] = [line[k][0] - line[k - 1][0], line[k][1] - line[k - 1][1]];
    const l = Math.hypot(dx, dy);
    for (; left < l; left += step) out.push([line[k - 1][0] + (left / l) * dx, line[k - 1][1] + (left / l) * dy]);
    left -= l;
  }
  return out;
}

/** A place turned about the axis, azimuth growing. */
const turned = ([x, y]: Place, by: number): Place => [Math.cos(by) * x + Math.sin(by) * y, Math.cos(by) * y - Math.sin(by) * x];

/** The wall from azimuth 30 to 150° with something taken away at azimuth 90°, as places 0.05 mm apart; azimuth grows from place to place. */
export function contour(cut: readonly Place[], lip: number, { noise = 0, turn = 0 } = {}): Contour {
  const random = seeded(3);
  return spread(outline(cut, lip), PLACE)
    .map(([x, y]): Place => [x + noise * random.normal(), y + noise * random.normal()])
    .map((q) => turned(q, turn));
}

/** The same wall as a mesh from z = 0 to `height`, its notch turning by `twist` radians a mm of height. */
export function notchedWall(cut: readonly Place[], lip: number, height: number, twist: number) {
  const line = spread(outline(cut, lip), 0.08);
  const rows = Math.round(height / 0.1) + 1;
  const positions: number[] = [];
  const triangles: number[] = [];
  for (let i = 0; i < rows; i++) for (const q of line) positions.push(...turned(q, twist * 0.1 * i), 0.1 * i);
  const n = line.length;
  for (let i = 0; i + 1 < rows; i++)
    for (let k = 0; k + 1 < n; k++) {
      const a = i * n + k;
      // Azimuth grows along a row, clockwise seen from above: outside is on the left of going up it.
      triangles.push(a, a + n, a + 1, a + 1, a + n, a + n + 1);
    }
  return makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles));
}

/** A groove by a round cutter of radius r that was moved straight in until its bottom lay `deep` under its lips: its section, lip to lip. */
export function round(r: number, deep: number): { cut: Place[]; lip: number } {
  // Sunk past its middle it is as wide as the cutter; before that as wide as the chord.
  const lip = deep >= r ? r : Math.sqrt(r * r - (r - deep) ** 2);
  const surface = Math.sqrt(R * R - lip * lip);
  const middle = surface - deep + r;
  const half = deep >= r ? Math.PI / 2 : Math.asin(lip / r);
  const arc = Array.from({ length: 401 }, (_, i): Place => {
    const a = half - (2 * half * i) / 400;
    return [middle - r * Math.cos(a), r * Math.sin(a)];
  });
  return { cut: deep > r ? [[surface, lip], ...arc, [surface, -lip]] : arc, lip };
}

export const box = (width: number, deep: number): { cut: Place[]; lip: number } => {
  const lip = width / 2;
  const surface = Math.sqrt(R * R - lip * lip);
  return {
    cut: [
      [surface, lip],
      [surface - deep, lip],
      [surface - deep, -lip],
      [surface, -lip],
    ],
    lip,
  };
};
