/** Lines and pieces in a profile's (r, z) plane. */

/** Prefix sums over points, so that the best line through any stretch costs the same. */
export class LineSums {
  private readonly s: Float64Array;
  constructor(
    readonly x: ArrayLike<number>,
    readonly y: ArrayLike<number>,
  ) {
    const n = x.length;
    this.s = new Float64Array(5 * (n + 1));
    for (let i = 0; i < n; i++) {
      const o = 5 * i;
      this.s[o + 5] = this.s[o] + x[i];
      this.s[o + 6] = this.s[o + 1] + y[i];
      this.s[o + 7] = this.s[o + 2] + x[i] * x[i];
      this.s[o + 8] = this.s[o + 3] + y[i] * y[i];
      this.s[o + 9] = this.s[o + 4] + x[i] * y[i];
    }
  }

  private moments(from: number, to: number) {
    const a = 5 * from;
    const b = 5 * to;
    const n = to - from;
    const mx = (this.s[b] - this.s[a]) / n;
    const my = (this.s[b + 1] - this.s[a + 1]) / n;
    return {
      n,
      mx,
      my,
      xx: this.s[b + 2] - this.s[a + 2] - n * mx * mx,
      yy: this.s[b + 3] - this.s[a + 3] - n * my * my,
      xy: this.s[b + 4] - this.s[a + 4] - n * mx * my,
    };
  }

  /** Sum of squared distances of points [from, to) to their total-least-squares line. */
  residual(from: number, to: number): number {
    const a = 5 * from;
    const b = 5 * to;
    const n = to - from;
    const sx = this.s[b] - this.s[a];
    const sy = this.s[b + 1] - this.s[a + 1];
    const xx = this.s[b + 2] - this.s[a + 2] - (sx * sx) / n;
    const yy = this.s[b + 3] - this.s[a + 3] - (sy * sy) / n;
    const xy = this.s[b + 4] - this.s[a + 4] - (sx * sy) / n;
    const d = xx - yy;
    return Math.max(0, 0.5 * (xx + yy - Math.sqrt(d * d + 4 * xy * xy)));
  }

  /** Least-squares line y = at + slope · x through points [from, to); null where they have no spread in x. */
  regression(from: number, to: number): { at: number; slope: number } | null {
    const m = this.moments(from, to);
    if (!(m.xx > 1e-12)) return null;
    const slope = m.xy / m.xx;
    return { at: m.my - slope * m.mx, slope };
  }

  /** Total-least-squares line through points [from, to), its direction along the points' own order. */
  line(from: number, to: number): Line {
    const m = this.moments(from, to);
    const t = 0.5 * Math.atan2(2 * m.xy, m.xx - m.yy);
    let dx = Math.cos(t);
    let dy = Math.sin(t);
    if ((this.x[to - 1] - this.x[from]) * dx + (this.y[to - 1] - this.y[from]) * dy < 0) {
      dx = -dx;
      dy = -dy;
    }
    const spread = Math.sqrt(Math.max(0, m.xx * dx * dx + 2 * m.xy * dx * dy + m.yy * dy * dy));
    return { x: m.mx, y: m.my, dx, dy, rms: Math.sqrt(this.residual(from, to) / m.n), spread, count: m.n };
  }
}

/** A line through (x, y) along the unit direction (dx, dy). `spread` = root of the summed squares along it. */
export interface Line {
  readonly x: number;
  readonly y: number;
  readonly dx: number;
  readonly dy: number;
  readonly rms: number;
  readonly spread: number;
  readonly count: number;
}

export function intersect(a: Pick<Line, 'x' | 'y' | 'dx' | 'dy'>, b: Pick<Line, 'x' | 'y' | 'dx' | 'dy'>): [number, number] | null {
  const det = a.dx * b.dy - a.dy * b.dx;
  if (Math.abs(det) < 1e-6) return null;
  const t = ((b.x - a.x) * b.dy - (b.y - a.y) * b.dx) / det;
  return [a.x + t * a.dx, a.y + t * a.dy];
}

/**
 * Splits a run of points into straight pieces: least sum of squared distances plus `penalty` per piece (dynamic
 * programming, exact). Returns the pieces' boundaries, starting with 0 and ending with n.
 * @source Killick, Fearnhead & Eckley (2012), for the starts that are left out
 */
export function straightPieces(sums: LineSums, penalty: number, shortest = 3): number[] {
  const n = sums.x.length;
  if (n < 2 * shortest) return [0, n];
  const best = new Float64Array(n + 1).fill(Infinity);
  const from = new Int32Array(n + 1).fill(-1);
  best[0] = 0;
  // Where a piece's last points are better off without its first ones, no longer piece from that start can win either.
  const starts = new Int32Array(n + 1);
  const overAt = new Int32Array(n + 1).fill(n + 1);
  let left = 0;
  for (let j = shortest; j <= n; j++) {
    starts[left++] = j - shortest;
    let kept = 0;
    for (let s = 0; s < left; s++) {
      const i = starts[s];
      if (j >= overAt[i]) continue;
      starts[kept++] = i;
      const cost = best[i] + sums.residual(i, j);
      if (cost + penalty < best[j]) {
        best[j] = cost + penalty;
        from[j] = i;
      }
      if (cost > best[j] && overAt[i] > n) overAt[i] = j + shortest;
    }
    left = kept;
  }
  const cuts = [n];
  while (cuts[cuts.length - 1] > 0) cuts.push(from[cuts[cuts.length - 1]]);
  return cuts.reverse();
}

/** Points at equal steps of arc length along a polyline, with a value carried along. */
export function resample(
  r: ArrayLike<number>,
  z: ArrayLike<number>,
  w: ArrayLike<number>,
  step: number,
  longest: number,
): { r: number[]; z: number[]; w: number[] } {
  const out = { r: [r[0]], z: [z[0]], w: [w[0]] };
  let travelled = 0;
  let next = step;
  for (let i = 1; i < r.length; i++) {
    const l = Math.hypot(r[i] - r[i - 1], z[i] - z[i - 1]);
    while (next <= travelled + l && l > 0) {
      const f = (next - travelled) / l;
      out.r.push(r[i - 1] + f * (r[i] - r[i - 1]));
      out.z.push(z[i - 1] + f * (z[i] - z[i - 1]));
      out.w.push(w[i - 1] + f * (w[i] - w[i - 1]));
      next += step;
      if (next > longest) return out;
    }
    travelled += l;
  }
  return out;
}

/**
 * The same points without folds: where a path comes back to within `near` of a point that it left `least` or more points before
 * (at most `reach` points ago), what lies between goes. A surface cut by a plane does not meet itself; slivers that noise has
 * turned over do.
 */
export function unfolded(
  p: { r: number[]; z: number[]; w: number[] },
  near: number,
  least: number,
  reach: number,
): { r: number[]; z: number[]; w: number[] } {
  const out: { r: number[]; z: number[]; w: number[] } = { r: [], z: [], w: [] };
  const n = p.r.length;
  for (let i = 0; i < n; i++) {
    for (let j = Math.min(n - 1, i + reach); j >= i + least; j--) {
      const dr = p.r[j] - p.r[i];
      const dz = p.z[j] - p.z[i];
      if (dr * dr + dz * dz > near * near) continue;
      i = j;
      break;
    }
    out.r.push(p.r[i]);
    out.z.push(p.z[i]);
    out.w.push(p.w[i]);
  }
  return out;
}

/** Direction (unit, along the points' order) and middle of the best line through points [from, to): [dx, dy, x, y]; null for fewer than three. */
export function fitDirection(
  x: ArrayLike<number>,
  y: ArrayLike<number>,
  from: number,
  to: number,
): [number, number, number, number] | null {
  const n = to - from;
  if (n < 3) return null;
  let mx = 0;
  let my = 0;
  for (let i = from; i < to; i++) {
    mx += x[i] / n;
    my += y[i] / n;
  }
  let xx = 0;
  let yy = 0;
  let xy = 0;
  for (let i = from; i < to; i++) {
    xx += (x[i] - mx) ** 2;
    yy += (y[i] - my) ** 2;
    xy += (x[i] - mx) * (y[i] - my);
  }
  const t = 0.5 * Math.atan2(2 * xy, xx - yy);
  const s = (x[to - 1] - x[from]) * Math.cos(t) + (y[to - 1] - y[from]) * Math.sin(t) < 0 ? -1 : 1;
  return [s * Math.cos(t), s * Math.sin(t), mx, my];
}
