// What is true of the occlusal surface of the family "implicit": cusps in their row, and their inclines.
import { planeOf, planeThrough } from '#core/linalg/plane.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import type { Truth } from './case.ts';
import { type ImplicitCrown, mean, middleOf, stumpOf, wallOf } from './implicit-crown.ts';
import { type ImplicitTooth, landmarks, peak, tipsBeside } from './implicit-tooth.ts';

/** mm under the highest place of a cut cusp down to which its tip is. */
const PLATEAU = 0.05;

/** Signed distance (+ facial) of each cut functional cusp from the line through the neighbours' tips of its row. */
export function rowTruths(t: ImplicitTooth, c: ImplicitCrown): Truth[] {
  const functional = t.cusps.filter((q) => q.role === 'functional');
  const facial = functional[0].y > 0;
  const { mesial, distal } = tipsBeside(t);
  const row = [...mesial, ...distal].filter((p) => p[1] > 0 === facial);
  const [mx, my] = [0, 1].map((k) => mean(row.map((p) => p[k])));
  const b = row.reduce((s, p) => s + (p[0] - mx) * (p[1] - my), 0) / row.reduce((s, p) => s + (p[0] - mx) ** 2, 0);
  const stump = stumpOf(t, c);
  return functional.map(({ name, x, y }): Truth => {
    const [px, py, pz] = peak(stump, t.h - c.down, x, y);
    const cap: number[] = [];
    for (let u = -1.2; u <= 1.2; u += 0.04)
      for (let v = -1.2; v <= 1.2; v += 0.04)
        if (stump(px + u, py + v, pz - PLATEAU) < 0) cap.push((py + v - my - b * (px + u - mx)) / Math.hypot(1, b));
    return { name: 'line.cusps', zone: name, stat: 'value', value: mean(cap) };
  });
}

/** mm from a cusp's tip between which its incline is told, and between the places of its grid. */
const INCLINE = [0.25, 1.25] as const;
const GRID = 0.05;

/** Angle of each cut cusp's slope towards the tooth's middle to the plane through the tips of the tooth and its neighbours. */
export function inclineTruths(t: ImplicitTooth, c: ImplicitCrown): Truth[] {
  const marks = landmarks(t);
  const { mesial, distal } = tipsBeside(t);
  const plane = planeThrough([...marks.cusps.map((q) => q.at), ...mesial, ...distal]);
  if (!plane) return [];
  const middle = middleOf(marks.gingivalMargin);
  const [stump, wall] = [stumpOf(t, c), wallOf(t, c)];
  const height = (x: number, y: number): number => {
    let [lo, hi] = [t.h / 3, t.h + 1];
    for (let i = 0; i < 40; i++) {
      const m = (lo + hi) / 2;
      if (stump(x, y, m) < 0) lo = m;
      else hi = m;
    }
    return lo;
  };
  return marks.cusps.flatMap(({ name, at }): Truth[] => {
    const away = Math.hypot(at[0] - middle[0], at[1] - middle[1]);
    const places: Vec3[] = [];
    const areas: number[] = [];
    for (let u = -INCLINE[1]; u <= INCLINE[1]; u += GRID)
      for (let v = -INCLINE[1]; v <= INCLINE[1]; v += GRID) {
        const inward = -(u * (at[0] - middle[0]) + v * (at[1] - middle[1])) / away;
        if (Math.hypot(u, v) > INCLINE[1] || inward < INCLINE[0]) continue;
        const [x, y] = [at[0] + u, at[1] + v];
        const z = height(x, y);
        // Where the wall or its rounded edge has taken a part of the cusp's slope, which points are still its own is a matter of taste.
        if (wall(x, y, z) > -c.edge) return [];
        const e = 1e-3;
        places.push([x, y, z]);
        areas.push(Math.hypot(1, (height(x + e, y) - z) / e, (height(x, y + e) - z) / e));
      }
    const own = planeOf(places, areas);
    const [a, b] = [own?.normal ?? [0, 0, 1], plane.normal];
    const cosine = Math.abs(a[0] * b[0] + a[1] * b[1] + a[2] * b[2]);
    return [{ name: 'cusp.incline', zone: name, stat: 'value', value: (Math.acos(Math.min(1, cosine)) * 180) / Math.PI }];
  });
}
