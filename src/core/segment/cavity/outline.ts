import { solveSymmetric } from '../../linalg/solve.ts';
import { byAxis, cross, dot, scale, sub, unit, type Vec3 } from '../../linalg/vec.ts';
import { closestPoint, newClosest, pseudoNormal, type Surface } from '../../spatial/surface.ts';
import { median } from '../../statistics/quantile.ts';
import { present } from '../around.ts';
import { chainsBetween } from '../chains.ts';
import { PointGrid } from '../point-grid.ts';
import type { TargetRegion } from '../target.ts';

/** One place of the cavosurface outline. */
export interface OutlinePoint {
  readonly p: Vec3;
  /** Along the outline, counter-clockwise seen from occlusal. */
  readonly tangent: Vec3;
  /** Of the uncut surface (the master's), outward. */
  readonly normal: Vec3;
  /** Into the cavity along its wall, floor or bevel; null where too few points were seen. */
  readonly inward: Vec3 | null;
  /** Cavosurface angle, degrees. */
  readonly angle: number | null;
  /** mm that the place moves, outward from the cavity, when it is read from the upper half of the wall's strip alone; null where too few points lie in that half. */
  readonly moved: number | null;
  /** Degrees that the cavosurface angle changes then; null as above. */
  readonly turned: number | null;
  /** mm by which the wall's points stand off the straight way in that the place was read from (RMS): noise, and waves where the cutter chattered. */
  readonly off: number;
}

/** mm: half a strip that runs nearly along the surface meets it anywhere; farther off than this says no more than this. */
const MOST_MOVED = 0.3;
/** Degrees that stand for `turned` where no place of an outline shows it. */
const MOST_TURNED = 12;
/** Share of some places that must show a change for it to be told from them alone. */
const SHOWN = 1 / 3;

/** mm between the outline's points. */
export const OUTLINE_STEP = 0.1;

/**
 * Cavosurface outline: the border of the prepared region, each place moved along the cavity's own surface to where its
 * depth runs out, which is the corner with the uncut surface.
 */
export function outlineOf(region: TargetRegion, master: Surface<'tooth'>): OutlinePoint[] {
  const loop = evenly(withoutFolds(evenly(longestLoop(region), OUTLINE_STEP / 2)), OUTLINE_STEP);
  if (loop.length < 12) return [];
  const strip = stripOf(Math.sqrt(median(region.areas)));
  const grid = new PointGrid(region, strip.reach);
  const n = loop.length;
  const tangents = loop.map((_, i) => unit(sub(loop[(i + 3) % n], loop[(i + n - 3) % n])));
  const corners = loop.map((p, i) => corner(region, grid, strip, p, tangents[i]));
  // A place whose neighbours agree with each other and not with it is a misfit.
  const moved = corners.map((c, i) => c?.p ?? loop[i]);
  const calm = moved.map((p, i): Vec3 => {
    const near = [-2, -1, 1, 2].map((j) => moved[(i + j + n) % n]);
    const middle = byAxis((k) => near.reduce((s, q) => s + q[k], 0) / 4);
    return Math.hypot(...sub(p, middle)) > 0.12 ? middle : p;
  });
  const ordered = windsLeft(calm) ? calm : [...calm].reverse();
  const from = windsLeft(calm) ? corners : [...corners].reverse();
  const hit = newClosest();
  const normal: [number, number, number] = [0, 0, 0];
  return ordered.map((p, i) => {
    const tangent = unit(sub(ordered[(i + 2) % n], ordered[(i + n - 2) % n]));
    closestPoint(master, p[0], p[1], p[2], hit);
    pseudoNormal(master, hit, normal);
    const out = unit([normal[0], normal[1], normal[2]]);
    const inward = from[i]?.inward ?? null;
    const upper = from[i]?.upper;
    // Seen from outside the cavity lies to the left of the tangent, the uncut surface to the right.
    const away = unit(cross(tangent, out));
    return {
      p,
      tangent,
      normal: out,
      inward,
      moved: upper ? Math.max(-MOST_MOVED, Math.min(MOST_MOVED, dot(upper.shift, away))) : null,
      off: from[i]?.off ?? 0,
      turned: upper && inward ? angleTo(upper.inward, away) - angleTo(inward, away) : null,
      angle: inward ? angleTo(inward, away) : null,
    };
  });
}

/** How far some places of an outline move or turn when half of the strip is read: from those that show it, from all of the outline where few of them do. */
export function changes(places: readonly OutlinePoint[], outline: readonly OutlinePoint[], what: 'moved' | 'turned'): number[] {
  const own = present(places.map((o) => o[what]));
  const shown = own.length > SHOWN * places.length ? own : present(outline.map((o) => o[what]));
  return shown.length ? shown : [what === 'moved' ? MOST_MOVED : MOST_TURNED];
}

const angleTo = (u: Vec3, v: Vec3): number => (Math.acos(Math.max(-1, Math.min(1, dot(u, v)))) * 180) / Math.PI;

function windsLeft(loop: readonly Vec3[]): boolean {
  let s = 0;
  for (let i = 0; i < loop.length; i++) {
    const a = loop[i];
    const b = loop[(i + 1) % loop.length];
    s += a[0] * b[1] - b[0] * a[1];
  }
  return s > 0;
}

/** Border between prepared and uncut points as a chain over triangle sides; the longest one. */
function longestLoop(region: TargetRegion): Vec3[] {
  const { mesh, prepared, depth, tau } = region;
  const p = mesh.positions;
  const t = mesh.triangles;
  const passing: number[] = [];
  for (let f = 0; f < t.length; f += 3) {
    const one = prepared[t[f]];
    if (prepared[t[f + 1]] !== one || prepared[t[f + 2]] !== one) passing.push(f);
  }
  const chains = chainsBetween(
    mesh,
    passing,
    (v) => prepared[v] === 1,
    (u, v): Vec3 => {
      const f = Math.min(1, Math.max(0, (depth[u] - tau) / (depth[u] - depth[v] || 1)));
      return byAxis((c) => p[3 * u + c] + f * (p[3 * v + c] - p[3 * u + c]));
    },
  );
  return joinedLoop(chains);
}

/** mm: a gap in the border that is bridged (a missing patch, a dropped sliver). */
const BRIDGE = 1.2;

/** The longest chain, carried on over gaps by whichever chain's end is nearest, until its own start is nearer. */
function joinedLoop(chains: Vec3[][]): Vec3[] {
  const length = (c: readonly Vec3[]): number => c.reduce((s, p, i) => (i ? s + Math.hypot(...sub(p, c[i - 1])) : 0), 0);
  const rest = [...chains].sort((x, y) => length(y) - length(x));
  const loop = rest.shift() ?? [];
  for (;;) {
    const end = loop[loop.length - 1];
    let gap = loop.length ? Math.min(BRIDGE, Math.hypot(...sub(loop[0], end))) : 0;
    let next: { chain: Vec3[]; turned: boolean } | null = null;
    for (const chain of rest)
      for (const turned of [false, true]) {
        const d = Math.hypot(...sub(turned ? chain[chain.length - 1] : chain[0], end));
        if (d < gap) {
          gap = d;
          next = { chain, turned };
        }
      }
    if (!next) return loop;
    rest.splice(rest.indexOf(next.chain), 1);
    loop.push(...(next.turned ? next.chain.reverse() : next.chain));
  }
}

/** A closed chain at equal steps, averaged over about 0.2 mm beforehand: the border hops from triangle to triangle. */
function evenly(loop: readonly Vec3[], step: number): Vec3[] {
  const n = loop.length;
  if (n < 8) return [];
  const s = [0];
  for (let i = 1; i <= n; i++) s.push(s[i - 1] + Math.hypot(...sub(loop[i % n], loop[i - 1])));
  const count = Math.round(s[n] / step);
  const raw: Vec3[] = [];
  let i = 0;
  for (let k = 0; k < count; k++) {
    const d = (s[n] * k) / count;
    while (s[i + 1] < d) i++;
    const f = (d - s[i]) / (s[i + 1] - s[i] || 1);
    const a = loop[i % n];
    const b = loop[(i + 1) % n];
    raw.push([a[0] + f * (b[0] - a[0]), a[1] + f * (b[1] - a[1]), a[2] + f * (b[2] - a[2])]);
  }
  return raw.map((_, k) => {
    const near = [-1, 0, 1].map((j) => raw[(k + j + count) % count]);
    return byAxis((c) => near.reduce((t, q) => t + q[c], 0) / 3);
  });
}

/** mm of border that may run to and fro between long slivers, and how near it comes to itself there, in its own steps of 0.05 mm. */
const FOLD_MOST = 2 / (OUTLINE_STEP / 2);
const FOLD_LEAST = 3;
const FOLD_NEAR = 0.045;

/** The same loop without stretches that run back along themselves: on long slivers the border hops to and fro, and no margin meets itself. */
function withoutFolds(loop: readonly Vec3[]): Vec3[] {
  const n = loop.length;
  const out: Vec3[] = [];
  for (let i = 0; i < n; i++) {
    for (let j = Math.min(n - 1, i + FOLD_MOST, i + (n >> 1)); j >= i + FOLD_LEAST; j--)
      if (Math.hypot(...sub(loop[j], loop[i])) < FOLD_NEAR) {
        i = j;
        break;
      }
    out.push(loop[i]);
  }
  return out;
}

/** From which of the cavity's points an edge is read, mm: of a coarse scan from a wider strip, so that it holds as many. */
interface Strip {
  /** About a place, and along the edge (half width of a Gaussian weight). */
  readonly reach: number;
  readonly along: number;
  /** Depths between which the cavity's surface is taken as straight: below the first a scan blunts the edge. */
  readonly from: number;
  readonly to: number;
}

const stripOf = (spacing: number): Strip => ({
  reach: Math.max(0.5, 3 * spacing),
  along: Math.max(0.2, spacing),
  from: Math.max(0.03, 0.5 * spacing),
  to: Math.max(0.4, 2.5 * spacing),
});

/** Regression of position on depth among the prepared points beside p: value at depth 0 is the corner, slope the way in. */
function corner(
  region: TargetRegion,
  grid: PointGrid,
  strip: Strip,
  p: Vec3,
  tangent: Vec3,
): { p: Vec3; inward: Vec3; off: number; upper: { shift: Vec3; inward: Vec3 } | null } | null {
  const q = region.mesh.positions;
  const rows: Row[] = [];
  let deep = 0;
  for (const v of grid.near(p)) {
    if (!region.prepared[v]) continue;
    // The smoothed depth selects the points; the unsmoothed depth places the edge.
    if (region.depth[v] < strip.from || region.depth[v] > strip.to) continue;
    const d = region.rawDepth[v];
    const r: Vec3 = [q[3 * v] - p[0], q[3 * v + 1] - p[1], q[3 * v + 2] - p[2]];
    if (Math.hypot(...r) > strip.reach) continue;
    const s = dot(r, tangent);
    rows.push({ d, s, w: Math.exp(-((s / strip.along) ** 2)), v });
    deep = Math.max(deep, d);
  }
  if (rows.length < 8 || deep < 0.15) return null;
  const whole = edgeOf(q, rows, p);
  if (!whole || Math.hypot(...whole.shift) > 0.35) return null;
  const upper = edgeOf(
    q,
    rows.filter((r) => r.d < (strip.from + strip.to) / 2),
    p,
  );
  const across = (way: Vec3): Vec3 => unit(sub(way, scale(tangent, dot(way, tangent))));
  return {
    p: [p[0] + whole.shift[0], p[1] + whole.shift[1], p[2] + whole.shift[2]],
    inward: across(whole.way),
    off: offOf(q, rows, p, whole, tangent),
    upper: upper && { shift: sub(upper.shift, whole.shift), inward: across(upper.way) },
  };
}

interface Row {
  readonly d: number;
  readonly s: number;
  readonly w: number;
  readonly v: number;
}

/** Where a strip begins at depth 0, and its slope with depth and along the edge. */
interface Edge {
  readonly shift: Vec3;
  readonly way: Vec3;
  readonly along: Vec3;
}

/** RMS distance (mm) of the strip's points to the plane that leads in from the edge. */
function offOf(q: ArrayLike<number>, rows: readonly Row[], p: Vec3, { shift, way, along }: Edge, tangent: Vec3): number {
  const normal = unit(cross(way, tangent));
  let [sum, weights] = [0, 0];
  for (const { d, s, w, v } of rows) {
    let r = 0;
    for (let c = 0; c < 3; c++) r += normal[c] * (q[3 * v + c] - p[c] - shift[c] - d * way[c] - s * along[c]);
    sum += w * r * r;
    weights += w;
  }
  return Math.sqrt(sum / weights);
}

/** Position as a linear function of depth and of the place along the edge. */
function edgeOf(q: ArrayLike<number>, rows: readonly Row[], p: Vec3): Edge | null {
  if (rows.length < 6) return null;
  const a = new Float64Array(9);
  const b = [new Float64Array(3), new Float64Array(3), new Float64Array(3)];
  for (const { d, s, w, v } of rows) {
    const f = [1, d, s];
    for (let i = 0; i < 3; i++) {
      for (let j = 0; j < 3; j++) a[3 * i + j] += w * f[i] * f[j];
      for (let c = 0; c < 3; c++) b[c][i] += w * f[i] * (q[3 * v + c] - p[c]);
    }
  }
  const fit = b.map((right) => solveSymmetric(a, right, 3));
  if (fit.some((f) => f === null)) return null;
  const [x, y, z] = fit as ArrayLike<number>[];
  return { shift: [x[0], y[0], z[0]], way: [x[1], y[1], z[1]], along: [x[2], y[2], z[2]] };
}
