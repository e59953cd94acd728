import { Fault } from '../result/fault.ts';
import type { Soup } from './soup.ts';

/** Wavefront OBJ: `v` and `f` lines; polygons are split into fans, negative indices count from the end. */
export function readObj(text: string): Soup {
  const positions: number[] = [];
  const triangles: number[] = [];
  let number = 0;
  for (const line of text.split('\n')) {
    number++;
    const w = line.trim().split(/\s+/);
    if (w[0] === 'v') positions.push(Number(w[1]), Number(w[2]), Number(w[3]));
    else if (w[0] === 'f') {
      const corners = w.slice(1).map((c) => {
        const i = Number.parseInt(c, 10);
        const v = i < 0 ? positions.length / 3 + i : i - 1;
        if (!(v >= 0 && v < positions.length / 3))
          throw new Fault('file.syntax', {
            where: `line ${number}`,
            expected: `there are ${positions.length / 3} vertices so far`,
            received: `a face names vertex "${c}"`,
            remedy: 'Export the scan again as OBJ, STL or PLY.',
          });
        return v;
      });
      for (let k = 2; k < corners.length; k++) triangles.push(corners[0], corners[k - 1], corners[k]);
    }
  }
  return { kind: 'obj', positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles), parts: null };
}
