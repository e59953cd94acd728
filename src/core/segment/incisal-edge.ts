const COLUMN_MM = 0.3;
/** mm below the highest point that belong to the edge's crest. */
const CREST_MM = 0.25;

export interface EdgePoint {
  readonly x: number;
  readonly y: number;
  readonly z: number;
}

/**
 * Height of the incisal edge by column along the arch (index = x ÷ 0.3 mm), over the middle 80 % of its length. The crest
 * of a column is where a parabola through its top points peaks, so that single noisy points do not lift it.
 */
export function edgeHeights(positions: Float64Array, accept: Uint8Array | null): Map<number, EdgePoint> {
  const columns = new Map<number, EdgePoint[]>();
  for (let v = 0; v < positions.length / 3; v++) {
    if (accept && !accept[v]) continue;
    const p = { x: positions[3 * v], y: positions[3 * v + 1], z: positions[3 * v + 2] };
    if (p.z < 1) continue;
    const i = Math.round(p.x / COLUMN_MM);
    const list = columns.get(i);
    if (list) list.push(p);
    else columns.set(i, [p]);
  }
  const crests = new Map<number, EdgePoint>();
  for (const [i, list] of columns) {
    const top = crestOf(list, i * COLUMN_MM);
    if (top) crests.set(i, top);
  }
  // The edge is what stands within 1.5 mm of the highest column; its ends round off and are left out.
  const high = Math.max(...[...crests.values()].map((q) => q.z));
  const edge = [...crests.keys()].filter((i) => (crests.get(i) as EdgePoint).z > high - 1.5).sort((a, b) => a - b);
  const cut = Math.round(0.1 * edge.length);
  return new Map(edge.slice(cut, edge.length - cut).map((i) => [i, crests.get(i) as EdgePoint]));
}

function crestOf(list: readonly EdgePoint[], x: number): EdgePoint | null {
  const high = Math.max(...list.map((p) => p.z));
  const top = list.filter((p) => p.z > high - CREST_MM);
  if (top.length < 3) return null;
  const my = top.reduce((s, p) => s + p.y, 0) / top.length;
  const mz = top.reduce((s, p) => s + p.z, 0) / top.length;
  let yy = 0;
  let yyyy = 0;
  let yyz = 0;
  let yz = 0;
  for (const p of top) {
    const d = p.y - my;
    yy += d * d;
    yyyy += d ** 4;
    yz += d * p.z;
    yyz += d * d * p.z;
  }
  const n = top.length;
  // Symmetric parabola z = a + b·d + c·d²; b separates from a and c when the points lie evenly about their middle.
  const det = n * yyyy - yy * yy;
  if (top.length < 6 || det < 1e-9 || yy < 1e-9) return { x, y: my, z: mz };
  const cc = (n * yyz - yy * n * mz) / det;
  const a = mz - (cc * yy) / n;
  const b = yz / yy;
  const peak = cc < -1e-6 ? Math.max(-0.5, Math.min(0.5, -b / (2 * cc))) : 0;
  return { x, y: my + peak, z: Math.min(high, a + b * peak + cc * peak * peak) };
}
