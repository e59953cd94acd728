import { wrapDegrees } from '../../linalg/vec.ts';

/** Shares of the floor’s width at which it has a row of points, so that a trough has a shape. */
export const FLOOR_SHARES = [0.12, 0.25, 0.4, 0.55, 0.7, 0.85];

/** Share of the width over which a trough lies inside the edge. */
const TROUGH = 0.7;

/** Sinks the floor inside the edge: nothing at the edge itself, `lip` in the trough's middle. */
export function sink(line: [number, number][], edge: number, width: number, lip: number): void {
  for (const p of line) {
    const u = (edge - p[0]) / (TROUGH * width);
    if (u > 0 && u < 1) p[1] -= lip * Math.sin(Math.PI * u) ** 2;
  }
}

/** From the wall's foot upward, the last point before the line runs more inward than up. */
export function occlusoaxialEdge(line: readonly (readonly [number, number])[], foot: number): readonly [number, number] {
  let i = line.length - 1;
  while (i > 0 && (line[i][1] < foot - 1e-9 || line[i - 1][1] <= foot + 1e-9)) i--;
  while (i > 0 && line[i - 1][1] - line[i][1] > line[i][0] - line[i - 1][0]) i--;
  return line[i];
}

/** Window of a fault: 1 within its stretch, 0 beyond the transition. */
export function stretch(phi: number, p: { azimuth: number; halfWidth: number; over: number }): number {
  const beyond = Math.abs(wrapDegrees((phi * 180) / Math.PI - p.azimuth)) - p.halfWidth;
  if (beyond <= 0) return 1;
  return beyond >= p.over ? 0 : 0.5 + 0.5 * Math.cos((Math.PI * beyond) / p.over);
}

/** 1 inside the stretch, falling smoothly to 0 at 1.5 half widths. */
export function bump(phi: number, azimuth: number, halfWidth: number): number {
  const d = Math.abs(wrapDegrees((phi * 180) / Math.PI - azimuth)) / halfWidth;
  if (d <= 0.7) return 1;
  if (d >= 1.5) return 0;
  return 0.5 + 0.5 * Math.cos((Math.PI * (d - 0.7)) / 0.8);
}

/** Rounds the corner at `index` by averaging each point near it over a window of arc length that shrinks away from it. */
export function roundCorner(line: [number, number][], index: number, radius: number): void {
  const s: number[] = [0];
  for (let i = 1; i < line.length; i++) s.push(s[i - 1] + Math.hypot(line[i][0] - line[i - 1][0], line[i][1] - line[i - 1][1]));
  const total = s[s.length - 1];
  const at = (t: number): [number, number] => {
    const u = Math.min(total, Math.max(0, t));
    let i = 1;
    while (i < s.length - 1 && s[i] < u) i++;
    const f = (u - s[i - 1]) / (s[i] - s[i - 1] || 1);
    return [line[i - 1][0] + f * (line[i][0] - line[i - 1][0]), line[i - 1][1] + f * (line[i][1] - line[i - 1][1])];
  };
  const rounded = line.map((p, i): [number, number] => {
    const d = Math.abs(s[i] - s[index]);
    const w = radius * Math.max(0, 1 - d / (2 * radius));
    if (w <= 0 || i === 0) return p;
    let r = 0;
    let z = 0;
    for (let k = -4; k <= 4; k++) {
      const q = at(s[i] + (k / 4) * w);
      r += q[0] / 9;
      z += q[1] / 9;
    }
    return [r, z];
  });
  rounded.forEach((p, i) => {
    line[i] = p;
  });
}
