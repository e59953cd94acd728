import type { Master } from '../master/master.ts';
import { PART } from '../master/master.ts';
import { type Mesh, vertexAdjacency, vertexAreas } from '../mesh/mesh.ts';
import { closestPoint, newClosest, onBorder, signOf } from '../spatial/surface.ts';

/** Which uncut part of the master each scan point lies on. */
export interface Owners {
  /** Part label, or −1 for a point on no part: cut, damaged, or never part of the master. */
  readonly part: Int8Array;
  /** mm below (+) or above (−) the master's surface; meaningful where a part is named. */
  readonly loss: Float64Array;
  /** Where the master's surface joins two parts, which two scans of the same teeth close differently: 1 in a crease, 2 on a bridge between the target and a neighbour. */
  readonly seam: Uint8Array;
  /** Of the whole scan, made on the way: each point's neighbours, and the mm² that it stands for. */
  readonly adjacency: { readonly start: Uint32Array; readonly list: Uint32Array };
  readonly areas: Float64Array;
}

/** A seam's mark where it is a bridge. */
export const BRIDGE = 2;
/** mm: a point this near to the master belongs to it. */
const NEAR = 0.12;

const known = new WeakMap<Mesh<'tooth'>, { master: Master; owners: Owners }>();

/** Computed once for a scan: most of its points are uncut, and the search for them is short. */
export function ownersOf(scan: Mesh<'tooth'>, master: Master): Owners {
  const memo = known.get(scan);
  if (memo?.master === master) return memo.owners;
  const adjacency = vertexAdjacency(scan);
  const { start, list } = adjacency;
  const p = scan.positions;
  const n = p.length / 3;
  const part = new Int8Array(n).fill(-1);
  const loss = new Float64Array(n);
  const seam = new Uint8Array(n);
  const slots = new Int32Array(n).fill(-1);
  const hit = newClosest();
  const t = master.whole.mesh.triangles;
  const parts = master.wholeParts;
  for (let v = 0; v < n; v++) {
    let hint = -1;
    for (let i = start[v]; i < start[v + 1] && hint < 0; i++) hint = slots[list[i]];
    const x = p[3 * v];
    const y = p[3 * v + 1];
    const z = p[3 * v + 2];
    if (!closestPoint(master.whole, x, y, z, hit, NEAR, hint)) continue;
    slots[v] = hit.slot;
    if (onBorder(master.whole, hit)) continue;
    const f = 3 * hit.triangle;
    const corners = [t[f], t[f + 1], t[f + 2]];
    seam[v] = corners.some((c) => master.onBridge[c] === 1) ? BRIDGE : corners.some((c) => parts[c] !== parts[t[f]]) ? 1 : 0;
    // A triangle that bridges the target and something else counts as the target's.
    const target = parts[t[f]] === PART.target || parts[t[f + 1]] === PART.target || parts[t[f + 2]] === PART.target;
    part[v] = target ? PART.target : parts[t[f]];
    loss[v] = -signOf(master.whole, hit, x, y, z) * Math.sqrt(hit.distanceSquared);
  }
  const owners = { part, loss, seam, adjacency, areas: vertexAreas(scan) };
  known.set(scan, { master, owners });
  return owners;
}
