import type { Sample } from '#core/align/sample.ts';
import { applyDirection, applyPoint, fromRotation, fromTranslation, type Matrix, multiply } from '#core/linalg/rigid.ts';
import { distance, unit, type Vec3 } from '#core/linalg/vec.ts';
import { type Mesh, makeMesh } from '#core/mesh/mesh.ts';

/** A hilly sheet: its slopes face every way, so that all six freedoms of a pose are held. */
export function hills(cells = 80, half = 8, height = (x: number, y: number) => 1.2 * Math.sin(x) + 0.9 * Math.cos(1.3 * y)): Mesh<'tooth'> {
  const positions: number[] = [];
  const triangles: number[] = [];
  const at = (i: number): number => -half + (2 * half * i) / cells;
  for (let j = 0; j <= cells; j++) for (let i = 0; i <= cells; i++) positions.push(at(i), at(j), height(at(i), at(j)));
  for (let j = 0; j < cells; j++)
    for (let i = 0; i < cells; i++) {
      const a = j * (cells + 1) + i;
      triangles.push(a, a + 1, a + cells + 2, a, a + cells + 2, a + cells + 1);
    }
  return makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles));
}

/** A sample in another pose. */
export const moved = (s: Sample, m: Matrix): Sample => {
  const points = s.points.slice();
  const normals = s.normals.slice();
  for (let i = 0; i < s.count; i++) {
    points.set(applyPoint(m, [s.points[3 * i], s.points[3 * i + 1], s.points[3 * i + 2]]), 3 * i);
    normals.set(applyDirection(m, [s.normals[3 * i], s.normals[3 * i + 1], s.normals[3 * i + 2]]), 3 * i);
  }
  return { ...s, points, normals };
};

/** A turn about a slanting axis, then a shift. */
export const motion = (turn: number, shift: Vec3): Matrix => multiply(fromTranslation(shift), fromRotation(unit([1, 2, -1.5]), turn));

/** mm by which a pose takes places of the sheet away from where they belong. */
export const astray = (pose: Matrix): number =>
  Math.max(
    ...(
      [
        [7, 7, 0],
        [-7, 7, 0],
        [7, -7, 1],
        [0, 0, 3],
      ] as Vec3[]
    ).map((p) => distance(applyPoint(pose, p), p)),
  );
