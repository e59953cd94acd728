import type { Vec3 } from '#core/linalg/vec.ts';
import { type P, RAD } from './loft-tooth.ts';
import type { Sheet } from './scanner.ts';

/** A polyline with its corners replaced by arcs of the given radii, points no farther apart than `step`. */
export function rounded(line: readonly P[], radii: readonly number[], step: number): { points: P[]; corners: number[] } {
  const out: P[] = [line[0]];
  const corners: number[] = [];
  const to = (q: P): void => {
    const a = out[out.length - 1];
    const l = Math.hypot(q[0] - a[0], q[1] - a[1]);
    const n = Math.max(1, Math.ceil(l / step));
    for (let i = 1; i <= n; i++) out.push([a[0] + ((q[0] - a[0]) * i) / n, a[1] + ((q[1] - a[1]) * i) / n]);
  };
  for (let i = 1; i + 1 < line.length; i++) {
    const [a, b, c] = [line[i - 1], line[i], line[i + 1]];
    const u: P = [a[0] - b[0], a[1] - b[1]];
    const v: P = [c[0] - b[0], c[1] - b[1]];
    const [lu, lv] = [Math.hypot(...u), Math.hypot(...v)];
    const half = Math.acos(Math.max(-1, Math.min(1, (u[0] * v[0] + u[1] * v[1]) / (lu * lv)))) / 2;
    const radius = Math.min(radii[i] ?? 0, 0.98 * Math.min(lu, lv) * Math.tan(half));
    if (radius < 1e-4 || half > 89.5 * RAD) {
      to(b);
      corners.push(out.length - 1);
      continue;
    }
    const reach = radius / Math.tan(half);
    const from: P = [b[0] + (u[0] / lu) * reach, b[1] + (u[1] / lu) * reach];
    const end: P = [b[0] + (v[0] / lv) * reach, b[1] + (v[1] / lv) * reach];
    const w = [u[0] / lu + v[0] / lv, u[1] / lu + v[1] / lv];
    const wl = Math.hypot(w[0], w[1]);
    const centre: P = [b[0] + ((w[0] / wl) * radius) / Math.sin(half), b[1] + ((w[1] / wl) * radius) / Math.sin(half)];
    to(from);
    const a0 = Math.atan2(from[1] - centre[1], from[0] - centre[0]);
    let turn = Math.atan2(end[1] - centre[1], end[0] - centre[0]) - a0;
    while (turn > Math.PI) turn -= 2 * Math.PI;
    while (turn < -Math.PI) turn += 2 * Math.PI;
    const n = Math.max(4, Math.ceil((Math.abs(turn) * radius) / step), Math.ceil(Math.abs(turn) / (12 * RAD)));
    for (let k = 1; k <= n; k++)
      out.push([centre[0] + radius * Math.cos(a0 + (turn * k) / n), centre[1] + radius * Math.sin(a0 + (turn * k) / n)]);
    corners.push(out.length - 1 - (n >> 1));
  }
  to(line[line.length - 1]);
  return { points: out, corners };
}

/** Points at equal shares of a line's length. */
function evenly(line: readonly P[], count: number): P[] {
  const at = [0];
  for (let i = 1; i < line.length; i++) at.push(at[i - 1] + Math.hypot(line[i][0] - line[i - 1][0], line[i][1] - line[i - 1][1]));
  const total = at[at.length - 1];
  let i = 0;
  return Array.from({ length: count }, (_, k): P => {
    const s = (total * k) / (count - 1);
    while (i + 2 < at.length && at[i + 1] < s) i++;
    const f = (s - at[i]) / (at[i + 1] - at[i] || 1);
    return [line[i][0] + f * (line[i + 1][0] - line[i][0]), line[i][1] + f * (line[i + 1][1] - line[i][1])];
  });
}

/** Rows of each stretch between corners at equal steps, so that every edge of the profile is a row of the mesh. */
export function loft(
  sheet: Sheet,
  part: number,
  profile: (phi: number) => readonly (readonly P[])[],
  spacing: number,
  keep: (p: Vec3) => boolean,
  centre = [0, 0],
): void {
  const columns = Math.max(48, Math.round((2 * Math.PI * 5) / spacing));
  const profiles = Array.from({ length: columns }, (_, k) => profile((360 * k) / columns));
  const counts = profiles[0].map((_, s) => {
    const longest = Math.max(...profiles.map((p) => length(p[s])));
    return Math.max(2, 1 + Math.ceil(longest / spacing));
  });
  const rows: P[][] = profiles.map((p) => p.flatMap((stretch, s) => evenly(stretch, counts[s]).slice(s === 0 ? 0 : 1)));
  const n = rows[0].length;
  const first = sheet.positions.length / 3;
  const ok: boolean[] = [];
  for (let k = 0; k < columns; k++)
    for (let j = 0; j < n; j++) {
      // Half a step on in every second row, so that triangles are not all alike.
      const a = (2 * Math.PI * k) / columns;
      const [r, z] = rows[k][j];
      const p: Vec3 = [centre[0] + r * Math.sin(a), centre[1] + r * Math.cos(a), z];
      sheet.positions.push(...p);
      sheet.parts.push(part);
      ok.push(keep(p));
    }
  for (let k = 0; k < columns; k++)
    for (let j = 0; j + 1 < n; j++) {
      const a = k * n + j;
      const b = ((k + 1) % columns) * n + j;
      const add = (u: number, v: number, w: number): void => {
        if (ok[u] && ok[v] && ok[w]) sheet.triangles.push(first + u, first + v, first + w);
      };
      // Azimuth grows from facial (+y) to mesial (+x), clockwise seen from occlusal; profiles run inward.
      if ((k + j) % 2) {
        add(a, a + 1, b);
        add(b, a + 1, b + 1);
      } else {
        add(a, a + 1, b + 1);
        add(a, b + 1, b);
      }
    }
}

export const length = (line: readonly P[]): number =>
  line.slice(1).reduce((s, q, i) => s + Math.hypot(q[0] - line[i][0], q[1] - line[i][1]), 0);

/** A profile cut at its corners. */
export const stretches = ({ points, corners }: { points: P[]; corners: number[] }): P[][] => {
  const at = [0, ...corners, points.length - 1];
  return at.slice(1).map((end, i) => points.slice(at[i], end + 1));
};
