import { STEP } from './pieces.ts';

/** Points of a profile and their depths. */
interface Points {
  readonly r: readonly number[];
  readonly z: readonly number[];
  readonly w: readonly number[];
}

/**
 * Edge between floor and uncut surface: the floor's first 0.05–0.35 mm give position and depth as functions of arc length;
 * the edge is where the depth has run out to the level of the uncut surface outside. A bevel is straight, and no point past its end counts.
 */
export function refineEdge(p: Points, o: Pick<Points, 'w'>, floorEnd: number, straight = false) {
  const uncut = o.w.slice(3, 11);
  const level = uncut.length >= 3 ? Math.max(-0.02, Math.min(0.02, uncut.reduce((s, v) => s + v, 0) / uncut.length)) : 0;
  const last = straight ? Math.max(3, Math.min(8, floorEnd)) : Math.max(4, Math.min(8, Math.floor(0.75 * floorEnd)));
  const s: number[] = [];
  const idx: number[] = [];
  for (let i = 1; i < Math.min(last, p.r.length); i++) {
    s.push(i * STEP);
    idx.push(i);
  }
  const quadratic = !straight && s.length >= 5;
  const fit = (v: readonly number[]): readonly [number, number, number] =>
    quadratic
      ? fitQuadratic(
          s,
          idx.map((i) => v[i]),
        )
      : fitLinear(
          s,
          idx.map((i) => v[i]),
        );
  // On a curved floor the depth grows more slowly inward: a straight line through it would put the edge too far out.
  const d =
    quadratic || straight
      ? fit(p.w)
      : fitLinear(
          s.slice(0, 4),
          idx.slice(0, 4).map((i) => p.w[i]),
        );
  const slope = Math.max(d[1], 0.05);
  const s0 = Math.max(-0.4, Math.min(0.12, rootNear(d, level, slope)));
  const r = fit(p.r);
  const z = fit(p.z);
  const value = (c: readonly [number, number, number], t: number): number => c[0] + c[1] * t + c[2] * t * t;
  const middle = 0.1;
  const dr = r[1] + 2 * r[2] * middle;
  const dz = z[1] + 2 * z[2] * middle;
  const l = Math.hypot(dr, dz) || 1;
  const linear = [
    fitLinear(
      s,
      idx.map((i) => p.r[i]),
    ),
    fitLinear(
      s,
      idx.map((i) => p.z[i]),
    ),
  ];
  // Far outside its points the quadratic is not to be trusted: the straight continuation is used there.
  const [er, ez] = s0 < -0.15 ? [value(linear[0], s0), value(linear[1], s0)] : [value(r, s0), value(z, s0)];
  return {
    finish: { r: er, z: ez, u: Math.min(0.2, 0.008 / slope) },
    floor: { dr: dr / l, dz: dz / l },
    rise: Math.atan2(z[1] + 2 * z[2] * s0, -(r[1] + 2 * r[2] * s0)),
  };
}

/** Where a + bs + cs² comes down to `level`, starting from the straight continuation. */
function rootNear(d: readonly [number, number, number], level: number, slope: number): number {
  let s = -(d[0] - level) / slope;
  for (let i = 0; i < 4; i++) {
    const g = Math.max(0.5 * slope, d[1] + 2 * d[2] * s);
    s -= (d[0] + d[1] * s + d[2] * s * s - level) / g;
  }
  return s;
}

function fitLinear(s: readonly number[], v: readonly number[]): readonly [number, number, number] {
  const n = s.length;
  const ms = s.reduce((a, b) => a + b, 0) / n;
  const mv = v.reduce((a, b) => a + b, 0) / n;
  let ss = 0;
  let sv = 0;
  for (let i = 0; i < n; i++) {
    ss += (s[i] - ms) ** 2;
    sv += (s[i] - ms) * (v[i] - mv);
  }
  const b = ss > 0 ? sv / ss : 0;
  return [mv - b * ms, b, 0];
}

function fitQuadratic(s: readonly number[], v: readonly number[]): readonly [number, number, number] {
  // Orthogonal polynomials over the points: stable and without a general solver.
  const [a0, a1] = fitLinear(s, v);
  const q0 = fitLinear(
    s,
    s.map((t) => t * t),
  );
  let num = 0;
  let den = 0;
  for (let i = 0; i < s.length; i++) {
    const e = s[i] * s[i] - (q0[0] + q0[1] * s[i]);
    num += e * (v[i] - (a0 + a1 * s[i]));
    den += e * e;
  }
  const c = den > 0 ? num / den : 0;
  return [a0 - c * q0[0], a1 - c * q0[1], c];
}
