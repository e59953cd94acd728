import type { Mesh } from '../mesh/mesh.ts';
import { columnTops, type EdgePoint, edgeOf } from '../segment/crown/incisal-edge.ts';
import type { CrownContext } from './crown/context.ts';

type Columns = ReadonlyMap<number, EdgePoint>;

/** An anterior tooth's edge by column along the arch: of the master, of the preparation, and the preparation's columns with their rounded ends. */
export interface IncisalEdges {
  readonly before: Columns;
  readonly after: Columns;
  readonly tops: Columns;
}

/** mm under a tooth's highest place within which its edge is looked for, and that its points stand apart there at the most. */
const UNDER_TOP = 2;
const APART = 0.3;

/** A mesh's points, and near its top also points on its triangles where they are coarse: an edge's columns are narrower than such triangles. */
function denseOver({ positions: p, triangles: t }: Mesh, under: number): Float64Array {
  let high = Number.NEGATIVE_INFINITY;
  for (let i = 2; i < p.length; i += 3) high = Math.max(high, p[i]);
  const out: number[] = [];
  for (let f = 0; f < t.length; f += 3) {
    const [a, b, c] = [3 * t[f], 3 * t[f + 1], 3 * t[f + 2]];
    if (Math.max(p[a + 2], p[b + 2], p[c + 2]) < high - under) continue;
    const side = (i: number, j: number): number => Math.hypot(p[i] - p[j], p[i + 1] - p[j + 1], p[i + 2] - p[j + 2]);
    const n = Math.ceil(Math.max(side(a, b), side(b, c), side(c, a)) / APART);
    // Two and more parts a side, its own corners apart.
    for (let i = 0; n > 1 && i <= n; i++)
      for (let j = 0; i + j <= n; j++)
        if (Math.max(i, j, n - i - j) < n) for (let k = 0; k < 3; k++) out.push((i * p[a + k] + j * p[b + k] + (n - i - j) * p[c + k]) / n);
  }
  return out.length ? Float64Array.from([...p, ...out]) : p;
}

const known = new WeakMap<CrownContext, IncisalEdges>();

/** Found once for a preparation: several measures read it. */
export function incisalEdges(c: CrownContext): IncisalEdges {
  const made = known.get(c);
  if (made) return made;
  const { master, region } = c.anatomy;
  const tops = columnTops(region.mesh.positions, region.prepared);
  const edges = { before: edgeOf(columnTops(denseOver(master.target.mesh, UNDER_TOP), null)), after: edgeOf(tops), tops };
  known.set(c, edges);
  return edges;
}
