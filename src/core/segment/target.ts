import type { Alignment } from '../align/align.ts';
import { type Master, PART } from '../master/master.ts';
import { bounds, type Mesh, subMesh, vertexAdjacency, vertexNormals } from '../mesh/mesh.ts';
import { closestPoint, newClosest, onBorder, type Surface, signOf } from '../spatial/surface.ts';
import { median } from '../statistics/quantile.ts';
import { THRESHOLDS } from '../thresholds.ts';
import { BRIDGE, type Owners, ownersOf } from './owners.ts';

/** The scan round the target tooth, with what each point has lost. Tooth frame. */
export interface TargetRegion {
  readonly mesh: Mesh<'tooth'>;
  /** The aligned scan's vertex behind each vertex. */
  readonly from: Uint32Array;
  /** mm, positive where tooth was removed; smoothed over the neighbouring points. */
  readonly depth: Float64Array;
  /** The same before smoothing: an edge keeps its place in it. */
  readonly rawDepth: Float64Array;
  /** Slot of the nearest triangle of the target's master surface; −1 where it was not asked for (uncut points). */
  readonly nearest: Int32Array;
  readonly normals: Float64Array;
  /** mm² per vertex. */
  readonly areas: Float64Array;
  readonly adjacency: { readonly start: Uint32Array; readonly list: Uint32Array };
  /** 1 where the vertex belongs to the prepared region Ω. */
  readonly prepared: Uint8Array;
  readonly preparedArea: number;
  /** mm: depth beyond which a point counts as prepared. */
  readonly tau: number;
  /** mm: standard deviation of a smoothed depth from scan noise. */
  readonly depthNoise: number;
  /** mm between the scan's points: the side of the square that each stands for. */
  readonly spacing: number;
}

/** mm round the target's own bounds within which the scan is looked at: enough for the gingiva beside the finish line. */
const MARGIN_MM = 1.6;

export function targetRegion(a: Alignment, master: Master): TargetRegion {
  const b = bounds(master.target.mesh.positions);
  const p = a.scan.positions;
  const within = (v: number): boolean =>
    p[3 * v] > b.min[0] - MARGIN_MM &&
    p[3 * v] < b.max[0] + MARGIN_MM &&
    p[3 * v + 1] > b.min[1] - MARGIN_MM &&
    p[3 * v + 1] < b.max[1] + MARGIN_MM &&
    p[3 * v + 2] > b.min[2] - 2.5;
  const t = a.scan.triangles;
  const { mesh, from } = subMesh(a.scan, (f) => within(t[3 * f]) && within(t[3 * f + 1]) && within(t[3 * f + 2]));
  const adjacency = vertexAdjacency(mesh);
  const { depth: raw, nearest } = depthOf(mesh, adjacency, master, ownersOf(a.scan, master), from);
  const { normals, areas } = vertexNormals(mesh);
  const tau = Math.max(THRESHOLDS.preparedDepthMin_mm, 3 * a.rms);
  const depth = smooth(raw, adjacency, 2);
  const prepared = preparedRegion(depth, tau, areas, adjacency);
  let preparedArea = 0;
  for (let v = 0; v < areas.length; v++) if (prepared[v]) preparedArea += areas[v];
  return {
    mesh,
    from,
    depth,
    rawDepth: raw,
    nearest,
    normals: smoothNormals(normals, adjacency),
    areas,
    adjacency,
    prepared,
    preparedArea,
    tau,
    depthNoise: depthNoiseOf(depth, prepared, nearest, a.noise),
    spacing: Math.sqrt(areas.reduce((sum, own) => sum + own, 0) / Math.max(1, areas.length)),
  };
}

/** Standard deviation of a normal quantity over the median of its size; and uncut points that are enough to tell it. */
const NORMAL_MEDIAN = 1.4826;
const ENOUGH = 200;

/**
 * Noise of a smoothed depth, from the target's own uncut surface: smoothing leaves more of a noise that neighbouring points share, and
 * how far they share it only the scan tells. Of a target that was cut nearly everywhere half the single point's noise is taken.
 */
function depthNoiseOf(depth: Float64Array, prepared: Uint8Array, nearest: Int32Array, single: number): number {
  const sizes: number[] = [];
  // Uncut points were not asked for their nearest triangle; those of other parts stand at OTHERS.
  for (let v = 0; v < depth.length; v++)
    if (!prepared[v] && nearest[v] < 0 && Math.abs(depth[v]) < -0.6 * OTHERS) sizes.push(Math.abs(depth[v]));
  return sizes.length < ENOUGH ? 0.5 * single : Math.max(0.25 * single, Math.min(single, NORMAL_MEDIAN * median(sizes)));
}

/** mm: depth assigned to points on a neighbour or the gingiva: outside the target, near it. */
const OTHERS = -0.08;

/**
 * Signed depth below the target's master surface. A point nearer to a neighbour's or the gingiva's own surface than to the
 * inside of the target is theirs: it gets its (negative or zero) distance outside of the target.
 */
function depthOf(
  mesh: Mesh<'tooth'>,
  adjacency: TargetRegion['adjacency'],
  master: Master,
  owners: Owners,
  from: Uint32Array,
): { depth: Float64Array; nearest: Int32Array } {
  const p = mesh.positions;
  const n = p.length / 3;
  const depth = new Float64Array(n);
  const nearest = new Int32Array(n).fill(-1);
  const hit = newClosest();
  const other = newClosest();
  const others = [master.mesial, master.distal, master.gingiva].filter((s): s is Surface<'tooth'> => s !== null);
  for (let v = 0; v < n; v++) {
    const part = owners.part[from[v]];
    // On a bridge the master's own surface is neither tooth's: what was cut behind it is told by the target with its contacts closed.
    if (part >= 0 && !(part === PART.target && owners.seam[from[v]] === BRIDGE)) {
      depth[v] = part === PART.target ? owners.loss[from[v]] : OTHERS;
      continue;
    }
    let hint = -1;
    for (let i = adjacency.start[v]; i < adjacency.start[v + 1] && hint < 0; i++) hint = nearest[adjacency.list[i]];
    const x = p[3 * v];
    const y = p[3 * v + 1];
    const z = p[3 * v + 2];
    closestPoint(master.target, x, y, z, hit, Infinity, hint);
    nearest[v] = hit.slot;
    let distance = Math.sqrt(hit.distanceSquared);
    let sign = -signOf(master.target, hit, x, y, z);
    const beside = onBorder(master.target, hit);
    // Below its border the target continues under the gingiva; a trench's outer wall is not part of the preparation.
    if (beside && master.root && closestPoint(master.root, x, y, z, other, distance)) {
      distance = Math.sqrt(other.distanceSquared);
      sign = -signOf(master.root, other, x, y, z);
    }
    // Beside an open border the sign is undefined, so the nearer part owns the point.
    else if (sign > 0 && beside) for (const s of others) if (closestPoint(s, x, y, z, other, distance) && !onBorder(s, other)) sign = -1;
    depth[v] = sign * distance;
  }
  return { depth, nearest };
}

/** Repeated averaging with the neighbours (half own value): takes out point noise, keeps the field where it is smooth. */
function smooth(values: Float64Array, adjacency: TargetRegion['adjacency'], times: number): Float64Array {
  let from = values;
  for (let k = 0; k < times; k++) {
    const to = new Float64Array(from.length);
    for (let v = 0; v < from.length; v++) {
      let s = 0;
      const n = adjacency.start[v + 1] - adjacency.start[v];
      for (let i = adjacency.start[v]; i < adjacency.start[v + 1]; i++) s += from[adjacency.list[i]];
      to[v] = n ? 0.5 * from[v] + (0.5 * s) / n : from[v];
    }
    from = to;
  }
  return from;
}

function smoothNormals(normals: Float64Array, adjacency: TargetRegion['adjacency']): Float64Array {
  let from = normals;
  for (let k = 0; k < 2; k++) {
    const to = new Float64Array(from.length);
    for (let v = 0; v < from.length / 3; v++) {
      let x = from[3 * v];
      let y = from[3 * v + 1];
      let z = from[3 * v + 2];
      for (let i = adjacency.start[v]; i < adjacency.start[v + 1]; i++) {
        const w = 3 * adjacency.list[i];
        x += from[w];
        y += from[w + 1];
        z += from[w + 2];
      }
      const l = Math.sqrt(x * x + y * y + z * z) || 1;
      to[3 * v] = x / l;
      to[3 * v + 1] = y / l;
      to[3 * v + 2] = z / l;
    }
    from = to;
  }
  return from;
}

/** Ω: connected parts with depth > τ, small islands dropped, small holes closed. */
function preparedRegion(depth: Float64Array, tau: number, areas: Float64Array, adjacency: TargetRegion['adjacency']): Uint8Array {
  const prepared = new Uint8Array(depth.length);
  for (let v = 0; v < depth.length; v++) prepared[v] = depth[v] > tau ? 1 : 0;
  const islands = components(prepared, 1, areas, adjacency);
  const largest = Math.max(0, ...islands.map((c) => c.area));
  for (const c of islands) if (c.area < Math.max(0.3, 0.05 * largest)) for (const v of c.vertices) prepared[v] = 0;
  for (const c of components(prepared, 0, areas, adjacency)) if (c.area < 0.02 * largest) for (const v of c.vertices) prepared[v] = 1;
  return prepared;
}

function components(
  flag: Uint8Array,
  value: number,
  areas: Float64Array,
  adjacency: TargetRegion['adjacency'],
): { area: number; vertices: number[] }[] {
  const seen = new Uint8Array(flag.length);
  const out: { area: number; vertices: number[] }[] = [];
  for (let s = 0; s < flag.length; s++) {
    if (seen[s] || flag[s] !== value) continue;
    const vertices = [s];
    seen[s] = 1;
    let area = 0;
    for (let k = 0; k < vertices.length; k++) {
      const v = vertices[k];
      area += areas[v];
      for (let i = adjacency.start[v]; i < adjacency.start[v + 1]; i++) {
        const w = adjacency.list[i];
        if (!seen[w] && flag[w] === value) {
          seen[w] = 1;
          vertices.push(w);
        }
      }
    }
    out.push({ area, vertices });
  }
  return out;
}

/** Whether some of the region's vertices cover too little of it for a figure of their own; independent of the scan's density. */
export function isScrap(region: Pick<TargetRegion, 'areas'>, vertices: readonly number[]): boolean {
  if (vertices.length < THRESHOLDS.patchPointsLeast) return true;
  let area = 0;
  for (const v of vertices) {
    area += region.areas[v];
    if (area >= THRESHOLDS.patchLeast_mm2) return false;
  }
  return true;
}
