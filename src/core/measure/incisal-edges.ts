import { columnTops, type EdgePoint, edgeOf } from '../segment/crown/incisal-edge.ts';
import type { CrownContext } from './crown/context.ts';

type Columns = ReadonlyMap<number, EdgePoint>;

/** An anterior tooth's edge by column along the arch: of the master, of the preparation, and the preparation's columns with their rounded ends. */
export interface IncisalEdges {
  readonly before: Columns;
  readonly after: Columns;
  readonly tops: Columns;
}

const known = new WeakMap<CrownContext, IncisalEdges>();

/** Found once for a preparation: several measures read it. */
export function incisalEdges(c: CrownContext): IncisalEdges {
  const made = known.get(c);
  if (made) return made;
  const { master, region } = c.anatomy;
  const tops = columnTops(region.mesh.positions, region.prepared);
  const edges = { before: edgeOf(columnTops(master.target.mesh.positions, null)), after: edgeOf(tops), tops };
  known.set(c, edges);
  return edges;
}
