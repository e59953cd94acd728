import type { Mesh } from '../mesh/mesh.ts';
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
  const nv = p.length / 3;
  const s = Math.sin(phi);
  const c = Math.cos(phi);
  const side = (v: number): number => p[3 * v] * c - p[3 * v + 1] * s;
  const nodes = new Map<number, number>();
  const r: number[] = [];
  const z: number[] = [];
  const w: number[] = [];
  const links: number[] = [];
  const node = (u: number, v: number): number => {
    const a = Math.min(u, v);
    const b = Math.max(u, v);
    const key = a * nv + b;
    let n = nodes.get(key);
    if (n === undefined) {
      const da = side(a);
      const f = da / (da - side(b));
      n = r.length;
      const x = p[3 * a] + f * (p[3 * b] - p[3 * a]);
      const y = p[3 * a + 1] + f * (p[3 * b + 1] - p[3 * a + 1]);
      r.push(x * s + y * c);
      z.push(p[3 * a + 2] + f * (p[3 * b + 2] - p[3 * a + 2]));
      w.push(values[a] + f * (values[b] - values[a]));
      links.push(-1, -1);
      nodes.set(key, n);
    }
    return n;
  };
  const join = (a: number, b: number): void => {
    for (const [u, v] of [
      [a, b],
      [b, a],
    ]) {
      if (links[2 * u] < 0) links[2 * u] = v;
      else if (links[2 * u + 1] < 0) links[2 * u + 1] = v;
    }
  };
  for (const f of triangles) {
    const v = [t[3 * f], t[3 * f + 1], t[3 * f + 2]];
    const above = [side(v[0]) >= 0, side(v[1]) >= 0, side(v[2]) >= 0];
    const ends: number[] = [];
    for (let k = 0; k < 3; k++) if (above[k] !== above[(k + 1) % 3]) ends.push(node(v[k], v[(k + 1) % 3]));
    if (ends.length === 2) join(ends[0], ends[1]);
  }
  return chains(r, z, w, links);
}

/** Walks the links into chains; only the part on the half plane's own side (r ≥ 0) is kept. */
function chains(r: number[], z: number[], w: number[], links: number[]): Chain[] {
  const seen = new Uint8Array(r.length);
  const out: Chain[] = [];
  const walk = (start: number): void => {
    let path: number[] = [];
    const flush = (): void => {
      if (path.length >= 2)
        out.push({
          r: Float64Array.from(path, (i) => r[i]),
          z: Float64Array.from(path, (i) => z[i]),
          value: Float64Array.from(path, (i) => w[i]),
        });
      path = [];
    };
    for (let at = start; at >= 0 && !seen[at]; ) {
      seen[at] = 1;
      if (r[at] >= 0) path.push(at);
      else flush();
      const a = links[2 * at];
      const b = links[2 * at + 1];
      at = a >= 0 && !seen[a] ? a : b >= 0 && !seen[b] ? b : -1;
    }
    flush();
  };
  for (let i = 0; i < r.length; i++) if (!seen[i] && (links[2 * i] < 0 || links[2 * i + 1] < 0)) walk(i);
  for (let i = 0; i < r.length; i++) if (!seen[i]) walk(i);
  return out;
}

/** Points of the longest chain of a half plane, `step` mm apart; none where nothing was cut. */
export function longestChain(chains: readonly Chain[], step: number): [number, number][] {
  const chain = chains.reduce<Chain | null>((p, q) => (!p || q.r.length > p.r.length ? q : p), null);
  if (!chain) return [];
  const line = resample(chain.r, chain.z, chain.value, step, 40);
  return line.r.map((r, i) => [r, line.z[i]]);
}
