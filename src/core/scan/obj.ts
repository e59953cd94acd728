import { Fault } from '../result/fault.ts';
import { tooManyTriangles } from './counts.ts';
import type { FileLimits } from './limits.ts';
import type { Soup } from './soup.ts';
import { linesOf } from './words.ts';

/** Corners of one face at the most: scanners write three or four. */
const CORNERS = 64;

/** Wavefront OBJ: `v` and `f` lines; polygons are split into fans, negative indices count from the end. */
export function readObj(bytes: Uint8Array, limits: FileLimits): Soup {
  const positions: number[] = [];
  const triangles: number[] = [];
  let number = 0;
  const syntax = (expected: string, received: string): Fault =>
    new Fault('file.syntax', { where: `line ${number}`, expected, received, remedy: 'Export the scan again as OBJ, STL or PLY.' });
  for (const w of linesOf(bytes, CORNERS + 2)) {
    number++;
    if (w[0] === 'v') {
      if (w.length < 4) throw syntax('a vertex has x, y and z', `it has ${w.length - 1} figures`);
      positions.push(Number(w[1]), Number(w[2]), Number(w[3]));
    } else if (w[0] === 'f') {
      if (w.length > CORNERS + 1) throw syntax(`a face has ${CORNERS} corners at the most`, 'it has more');
      const count = positions.length / 3;
      const corners = w.slice(1).map((c) => {
        const i = Number.parseInt(c, 10);
        const v = i < 0 ? count + i : i - 1;
        if (!(v >= 0 && v < count)) throw syntax(`there are ${count} vertices so far`, `a face names vertex "${c.slice(0, 20)}"`);
        return v;
      });
      for (let k = 2; k < corners.length; k++) triangles.push(corners[0], corners[k - 1], corners[k]);
      if (triangles.length > 3 * limits.triangles) throw tooManyTriangles(triangles.length / 3, limits);
    }
    if (positions.length > 9 * limits.triangles) throw tooManyTriangles(positions.length / 9, limits);
  }
  return { kind: 'obj', positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles), parts: null };
}
