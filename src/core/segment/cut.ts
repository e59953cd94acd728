import type { Mesh } from '../mesh/mesh.ts';
import { SideNumbers } from '../mesh/side-numbers.ts';
import { Links } from './chains.ts';
import { resample } from './polyline.ts';

/** A chain of points where a half plane cuts a mesh: r from the axis, z along it, and a value carried from the vertices. */
export interface Chain {
  readonly r: Float64Array;
  readonly z: Float64Array;
  readonly value: Float64Array;
}

/**
 * Radians by which every half plane stands off its round azimuth: half a micrometre at the finish line. Modelled surfaces often
 * have whole rows of vertices at round azimuths, and a plane right along such a row folds back and forth among its slivers.
 */
const ASIDE = 1.17e-4;

/**
 * Cuts a mesh by `count` half planes through the z axis, evenly spaced in azimuth from 0 (+y, facial) towards +x (mesial).
 * Each half plane gives its chains, put together over shared triangle sides; holes in the scan break a chain.
 */
export function cutRadially(mesh: Mesh, values: Float64Array, count: number): Chain[][] {
  const segments = gather(mesh, count);
  return Array.from({ length: count }, (_, k) => link(mesh, values, (2 * Math.PI * k) / count + ASIDE, segments[k]));
}

/** For each half plane the triangles that it crosses. */
function gather(mesh: Mesh, count: number): number[][] {
  const p = mesh.positions;
  const t = mesh.triangles;
  const step = (2 * Math.PI) / count;
  const azimuth = new Float64Array(p.length / 3);
  for (let v = 0; v < azimuth.length; v++) azimuth[v] = Math.atan2(p[3 * v], p[3 * v + 1]) - ASIDE;
  const out: number[][] = Array.from({ length: count }, () => []);
  for (let f = 0; f < t.length / 3; f++) {
    const a = azimuth[t[3 * f]];
    let b = azimuth[t[3 * f + 1]] - a;
    let c = azimuth[t[3 * f + 2]] - a;
    b -= 2 * Math.PI * Math.round(b / (2 * Math.PI));
    c -= 2 * Math.PI * Math.round(c / (2 * Math.PI));
    // A little wider than the triangle: a half plane right on a shared side must meet both of its triangles.
    const lo = Math.min(0, b, c) - 1e-9;
    const hi = Math.max(0, b, c) + 1e-9;
    if (hi - lo > Math.PI * 0.6) {
      // The axis passes through or near this triangle, so any half plane may cross it.
      for (let k = 0; k < count; k++) out[k].push(f);
      continue;
    }
    for (let k = Math.ceil((a + lo) / step); k * step <= a + hi; k++) out[((k % count) + count) % count].push(f);
  }
  return out;
}

function link(mesh: Mesh, values: Float64Array, phi: number, triangles: readonly number[]): Chain[] {
  const p = mesh.positions;
  const t = mesh.triangles;
  const s = Math.sin(phi);
  const c = Math.cos(phi);
  const side = (v: number): number => p[3 * v] * c - p[3 * v + 1] * s;
  const most = 2 * triangles.length;
  const sides = new SideNumbers(most);
  const links = new Links(most);
  const r = new Float64Array(most);
  const z = new Float64Array(most);
  const w = new Float64Array(most);
  const node = (u: number, v: number): number => {
    const before = sides.count;
    const n = sides.of(u, v);
    if (n < before) return n;
    const a = Math.min(u, v);
    const b = Math.max(u, v);
    const da = side(a);
    const f = da / (da - side(b));
    const x = p[3 * a] + f * (p[3 * b] - p[3 * a]);
    const y = p[3 * a + 1] + f * (p[3 * b + 1] - p[3 * a + 1]);
    r[n] = x * s + y * c;
    z[n] = p[3 * a + 2] + f * (p[3 * b + 2] - p[3 * a + 2]);
    w[n] = values[a] + f * (values[b] - values[a]);
    return n;
  };
  for (const f of triangles) {
    const [a, b, d] = [t[3 * f], t[3 * f + 1], t[3 * f + 2]];
    const [overA, overB, overD] = [side(a) >= 0, side(b) >= 0, side(d) >= 0];
    if (overA === overB && overB === overD) continue;
    // In the triangle's order of sides: a to b, b to d, d to a.
    if (overA === overB) links.join(node(b, d), node(d, a));
    else if (overB === overD) links.join(node(a, b), node(d, a));
    else links.join(node(a, b), node(b, d));
  }
  return links.chains(sides.count).flatMap((path) => onOwnSide(path, r, z, w));
}

/** The stretches of a chain that lie on the half plane's own side (r ≥ 0). */
function onOwnSide(path: readonly number[], r: Float64Array, z: Float64Array, value: Float64Array): Chain[] {
  const out: Chain[] = [];
  for (let from = 0; from < path.length; ) {
    let to = from;
    while (to < path.length && r[path[to]] >= 0) to++;
    const n = to - from;
    if (n >= 2) {
      const chain = { r: new Float64Array(n), z: new Float64Array(n), value: new Float64Array(n) };
      for (let i = 0; i < n; i++) {
        const k = path[from + i];
        chain.r[i] = r[k];
        chain.z[i] = z[k];
        chain.value[i] = value[k];
      }
      out.push(chain);
    }
    from = Math.max(to, from + 1);
  }
  return out;
}

/** Points of the longest chain of a half plane, `step` mm apart; none where nothing was cut. */
export function longestChain(chains: readonly Chain[], step: number): [number, number][] {
  const chain = chains.reduce<Chain | null>((p, q) => (!p || q.r.length > p.r.length ? q : p), null);
  if (!chain) return [];
  const line = resample(chain.r, chain.z, chain.value, step, 40);
  return line.r.map((r, i) => [r, line.z[i]]);
}
