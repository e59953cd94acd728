import type { Chain } from '../cut.ts';
import { LineSums, resample, straightPieces, unfolded } from '../polyline.ts';
import { refineEdge } from './edge-fit.ts';
import { meanOf, type Piece, STEP, sigmaOf } from './pieces.ts';
import { describeWall, findWall, type Wall } from './wall.ts';

/** What one half plane shows of a crown preparation, from the finish line inward, in (r, z) of the tooth frame. */
export interface Profile {
  /** degrees */
  readonly azimuth: number;
  /** Points from the finish line inward, `STEP` mm apart. */
  readonly r: readonly number[];
  readonly z: readonly number[];
  readonly depth: readonly number[];
  /** Points outside of the finish line, outward from it. */
  readonly outside: { readonly r: readonly number[]; readonly z: readonly number[]; readonly depth: readonly number[] };
  readonly pieces: readonly Piece[];
  /** Refined edge. */
  readonly finish: { readonly r: number; readonly z: number; readonly u: number };
  /** Direction of the floor at the edge, pointing inward (unit, in r and z). */
  readonly floor: { readonly dr: number; readonly dz: number };
  /** Where the floor begins: at the edge, or over its bevel. */
  readonly floorFrom: { readonly r: number; readonly z: number };
  /** Direction in which the floor leaves that place, a curved one too: 0 is level, + rises inward. Radians. */
  readonly edgeRise: number;
  readonly wall: Wall | null;
}

/** Neighbouring half planes whose profiles share most of their noise. */
export const HALF_PLANES_ALIKE = 3;

/**
 * Reads the profile at one azimuth; null when no prepared stretch with an outer end crosses this half plane. `planes` says
 * whether steep pieces after the primary wall belong to the side (second planes, bevels) or not (the fossa of an anterior tooth).
 */
export function readProfile(
  azimuth: number,
  chains: readonly Chain[],
  tau: number,
  noise: number,
  planes = true,
  gingiva: number | null = null,
): Profile | null {
  const found = preparedStretch(chains, tau);
  if (!found) return null;
  const { inward, outward } = gingiva === null ? found : withoutGum(found, gingiva);
  const p = unfolded(resample(inward.r, inward.z, inward.value, STEP, 14), 0.8 * STEP, 4, 40);
  if (p.r.length < 8) return null;
  const o = unfolded(resample(outward.r, outward.z, outward.value, STEP, 1.2), 0.8 * STEP, 4, 40);
  const sums = new LineSums(p.r, p.z);
  const sigma = sigmaOf(noise);
  const cuts = straightPieces(sums, 14 * sigma * sigma, 4);
  const pieces: Piece[] = [];
  for (let i = 0; i + 1 < cuts.length; i++) {
    const l = sums.line(cuts[i], cuts[i + 1]);
    // Inward is −r: measured so that the floor is near 0° and the wall near 90°.
    pieces.push({
      from: cuts[i],
      to: cuts[i + 1],
      angle: (Math.atan2(l.dy, -l.dx) * 180) / Math.PI,
      length: (cuts[i + 1] - cuts[i]) * STEP,
    });
  }
  const wallRange = findWall(pieces, sums);
  const floorEnd = wallRange ? wallRange.from : Math.min(p.r.length, 12);
  const edge = refineEdge(p, o, floorEnd);
  const wall = wallRange ? describeWall(p, sums, pieces, wallRange, { ...edge.finish, index: 0 }, sigma, planes) : null;
  return {
    azimuth,
    r: p.r,
    z: p.z,
    depth: p.w,
    outside: { r: o.r, z: o.z, depth: o.w },
    pieces,
    finish: edge.finish,
    floor: edge.floor,
    floorFrom: edge.finish,
    edgeRise: edge.rise,
    wall,
  };
}

interface Line3 {
  r: number[];
  z: number[];
  value: number[];
}

/** mm of hole that a profile is carried across, and across which its edge may still lie. */
const GAP = 1;
const EDGE_GAP = 0.15;

/** The chain carried on over holes of the scan at both of its ends; `bridges` holds each index whose point lies beyond a hole from the one before. */
function bridged(chain: Chain, all: readonly Chain[]): { r: number[]; z: number[]; value: number[]; bridges: ReadonlySet<number> } {
  const free = new Set(all.filter((c) => c !== chain));
  let joined = [{ chain, reverse: false }];
  const end = (c: Chain, last: boolean): [number, number] => (last ? [c.r[c.r.length - 1], c.z[c.z.length - 1]] : [c.r[0], c.z[0]]);
  for (const atEnd of [true, false])
    for (;;) {
      const tip = joined[atEnd ? joined.length - 1 : 0];
      const from = end(tip.chain, atEnd !== tip.reverse);
      let next: { chain: Chain; reverse: boolean } | null = null;
      let least = GAP;
      for (const c of free)
        for (const last of [false, true]) {
          const to = end(c, last);
          const d = Math.hypot(to[0] - from[0], to[1] - from[1]);
          if (d >= least) continue;
          least = d;
          next = { chain: c, reverse: atEnd === last };
        }
      if (!next) break;
      free.delete(next.chain);
      joined = atEnd ? [...joined, next] : [next, ...joined];
    }
  const out = { r: [] as number[], z: [] as number[], value: [] as number[], bridges: new Set<number>() };
  for (const { chain: c, reverse } of joined) {
    if (out.r.length) out.bridges.add(out.r.length);
    for (let i = 0; i < c.r.length; i++) {
      const k = reverse ? c.r.length - 1 - i : i;
      out.r.push(c.r[k]);
      out.z.push(c.z[k]);
      out.value.push(c.value[k]);
    }
  }
  return out;
}

/** The chain that holds most of the preparation, split at its outermost crossing of τ. */
function preparedStretch(chains: readonly Chain[], tau: number): { inward: Line3; outward: Line3 } | null {
  let best: { chain: Chain; length: number } | null = null;
  for (const chain of chains) {
    let length = 0;
    for (let i = 1; i < chain.r.length; i++)
      if (chain.value[i] > tau && chain.value[i - 1] > tau) length += Math.hypot(chain.r[i] - chain.r[i - 1], chain.z[i] - chain.z[i - 1]);
    if (length > (best?.length ?? 0.4)) best = { chain, length };
  }
  if (!best) return null;
  const { r, z, value, bridges } = bridged(best.chain, chains);
  const n = r.length;
  const reverse = meanOf(r, 0, Math.ceil(n / 8)) > meanOf(r, n - Math.ceil(n / 8), n);
  const at = (i: number): number => (reverse ? n - 1 - i : i);
  // Outermost prepared point that has a fair stretch of preparation behind it.
  let last = -1;
  let run = 0;
  for (let i = 1; i < n; i++) {
    run = value[at(i)] > tau ? run + Math.hypot(r[at(i)] - r[at(i - 1)], z[at(i)] - z[at(i - 1)]) : 0;
    if (run > 0.25) last = i;
  }
  if (last < 2 || last > n - 2) return null;
  const a = at(last);
  const b = at(last + 1);
  // An edge inside a hole gives no finish line.
  if (bridges.has(Math.max(a, b)) && Math.hypot(r[a] - r[b], z[a] - z[b]) > EDGE_GAP) return null;
  const f = Math.min(1, Math.max(0, (value[a] - tau) / (value[a] - value[b] || 1)));
  const start = [r[a] + f * (r[b] - r[a]), z[a] + f * (z[b] - z[a])];
  const inward: Line3 = { r: [start[0]], z: [start[1]], value: [tau] };
  for (let i = last; i >= 0; i--) {
    inward.r.push(r[at(i)]);
    inward.z.push(z[at(i)]);
    inward.value.push(value[at(i)]);
  }
  const outward: Line3 = { r: [start[0]], z: [start[1]], value: [tau] };
  for (let i = last + 1; i < n; i++) {
    outward.r.push(r[at(i)]);
    outward.z.push(z[at(i)]);
    outward.value.push(value[at(i)]);
  }
  return { inward, outward };
}

/** The wall of a trench's gum: at least so steep (tangent of 50°) and so high in mm, from no higher than this over the gingival margin. */
const GUM_STEEP = 1.2;
const GUM_HEIGHT = 0.15;
const GUM_OVER = 0.2;

/**
 * Under the gingival margin tooth and gum form a trench. Where the gum leans in over the floor its wall lies inside the old tooth and
 * would pass for a lip: a first stretch that falls inward steeply from about the margin's height is gum, and the floor begins at its foot.
 */
function withoutGum(found: { inward: Line3; outward: Line3 }, gingiva: number): { inward: Line3; outward: Line3 } {
  const { r, z, value } = found.inward;
  if (z[0] > gingiva + GUM_OVER) return found;
  let foot = 0;
  for (let i = 1; i < r.length && Math.hypot(r[i] - r[0], z[i] - z[0]) < 2; i++) {
    if (z[i] < z[foot]) foot = i;
    // Past the foot the floor runs inward, or rises.
    else if (r[foot] - r[i] > 0.2 || z[i] > z[foot] + 0.1) break;
  }
  // The floor may fall a little as well: the foot of the wall is where it is steepest towards the start.
  let corner = 0;
  for (let i = 1; i <= foot; i++)
    if (z[0] - z[i] - GUM_STEEP * (r[0] - r[i]) > z[0] - z[corner] - GUM_STEEP * (r[0] - r[corner])) corner = i;
  if (z[0] - z[corner] < GUM_HEIGHT || z[corner] > gingiva - GUM_HEIGHT / 2) return found;
  const cut = (v: number[]): number[] => v.slice(corner);
  return {
    inward: { r: cut(r), z: cut(z), value: cut(value) },
    outward: {
      r: [...r.slice(0, corner + 1).reverse(), ...found.outward.r],
      z: [...z.slice(0, corner + 1).reverse(), ...found.outward.z],
      value: [...value.slice(0, corner + 1).reverse(), ...found.outward.value],
    },
  };
}
