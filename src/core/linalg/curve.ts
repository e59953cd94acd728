import { azimuthOf } from './sectors.ts';
import { byAxis, sub, type Vec3 } from './vec.ts';

/** A line without the outer share at each end. */
export function trimmed(line: readonly Vec3[], share: number): Vec3[] {
  const s = [0];
  for (let i = 1; i < line.length; i++) s.push(s[i - 1] + Math.hypot(...sub(line[i], line[i - 1])));
  const total = s[s.length - 1];
  const at = (d: number): Vec3 => {
    let i = 1;
    while (i < s.length - 1 && s[i] < d) i++;
    const f = (d - s[i - 1]) / (s[i] - s[i - 1]);
    return byAxis((k) => line[i - 1][k] + f * (line[i][k] - line[i - 1][k]));
  };
  return [at(share * total), ...line.filter((_, i) => s[i] > share * total && s[i] < (1 - share) * total), at((1 - share) * total)];
}

/** Distance from (x, y) to a line seen along the axis. */
export function distanceToLine(line: readonly Vec3[], x: number, y: number): number {
  let best = Infinity;
  for (let i = 0; i + 1 < line.length; i++) {
    const [ax, ay] = line[i];
    const ux = line[i + 1][0] - ax;
    const uy = line[i + 1][1] - ay;
    const t = Math.min(1, Math.max(0, ((x - ax) * ux + (y - ay) * uy) / (ux * ux + uy * uy || 1)));
    best = Math.min(best, (x - ax - t * ux) ** 2 + (y - ay - t * uy) ** 2);
  }
  return Math.sqrt(best);
}

/** Distance from a point to a line in space. */
export function distanceToLine3(line: readonly Vec3[], q: Vec3): number {
  let best = Infinity;
  for (let i = 0; i + 1 < line.length; i++) {
    const a = line[i];
    const u = sub(line[i + 1], a);
    const w = sub(q, a);
    const t = Math.min(1, Math.max(0, (w[0] * u[0] + w[1] * u[1] + w[2] * u[2]) / (u[0] ** 2 + u[1] ** 2 + u[2] ** 2 || 1)));
    best = Math.min(best, (w[0] - t * u[0]) ** 2 + (w[1] - t * u[1]) ** 2 + (w[2] - t * u[2]) ** 2);
  }
  return Math.sqrt(best);
}

/** Length-weighted centroid of a closed curve given by its corners. */
export function closedCentroid(curve: readonly Vec3[]): Vec3 {
  let total = 0;
  const sum = [0, 0, 0];
  for (let i = 0; i < curve.length; i++) {
    const a = curve[i];
    const b = curve[(i + 1) % curve.length];
    const l = Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
    total += l;
    for (let k = 0; k < 3; k++) sum[k] += (l * (a[k] + b[k])) / 2;
  }
  return [sum[0] / total, sum[1] / total, sum[2] / total];
}

/** Height at which a closed curve crosses the half plane at an azimuth (the outermost crossing when there are several). */
export function heightAt(curve: readonly Vec3[], azimuth: number): number | null {
  let found: { r: number; z: number } | null = null;
  for (let i = 0; i < curve.length; i++) {
    const a = curve[i];
    const b = curve[(i + 1) % curve.length];
    const turn = (v: Vec3): number => ((azimuthOf(v[0], v[1]) - azimuth + 540) % 360) - 180;
    const ta = turn(a);
    const tb = turn(b);
    if (ta === tb || ta * tb > 0 || Math.abs(ta - tb) > 180) continue;
    // The crossing with the half plane, along the straight piece between the two corners.
    const s = Math.sin((azimuth * Math.PI) / 180);
    const q = Math.cos((azimuth * Math.PI) / 180);
    const da = a[0] * q - a[1] * s;
    const db = b[0] * q - b[1] * s;
    const f = da === db ? 0 : da / (da - db);
    const r = (a[0] + f * (b[0] - a[0])) * s + (a[1] + f * (b[1] - a[1])) * q;
    if (!found || r > found.r) found = { r, z: a[2] + f * (b[2] - a[2]) };
  }
  return found?.z ?? null;
}
