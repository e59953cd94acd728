import { bisected } from './bisected.ts';
import type { Body } from './implicit-mesh.ts';
import { type ImplicitTooth, landmarks, over } from './implicit-tooth.ts';
import type { Cut, Say } from './implicit-truths.ts';

const RAD = Math.PI / 180;

/** mm between the places of a groove at which it is asked whether they were cut. */
const ALONG = 0.01;

/** Share of the central groove that lies in the cavity. */
export function coverageTruth(t: ImplicitTooth, taken: Body, say: Say): void {
  const { groove } = landmarks(t);
  let [inside, whole] = [0, 0];
  for (let i = 0; i + 1 < groove.length; i++) {
    const [[x0, y0], [x1, y1]] = [groove[i], groove[i + 1]];
    const n = Math.max(1, Math.round(Math.hypot(x1 - x0, y1 - y0) / ALONG));
    for (let k = 0; k < n; k++) {
      const [x, y] = [x0 + ((k + 0.5) / n) * (x1 - x0), y0 + ((k + 0.5) / n) * (y1 - y0)];
      whole++;
      if (taken(x, y, over(t, x, y)) < 0) inside++;
    }
  }
  if (whole > 0) say('outline.coverage', 'central', 'share', inside / whole);
}

/** mm within which the outline's turn is looked at, degrees by which an arc of radius 0.3 turns there, and degrees to both sides that are called neither. */
const WINDOW = 0.4;
const CORNER = 76;
const DOUBTFUL = 10;

/** Corners of a Class I outline in plan, which lies about the tooth's middle like a star; none is told where one turns by nearly as much as a corner does. */
export function cornersTruth(t: ImplicitTooth, c: Cut, taken: Body, say: Say): void {
  if (c.boxes.length > 0) return;
  const loop = Array.from({ length: 3600 }, (_, i): [number, number] => {
    const [x, y] = [Math.sin(i * 0.1 * RAD), Math.cos(i * 0.1 * RAD)];
    const r = bisected((q) => taken(q * x, q * y, over(t, q * x, q * y)), 0.2, 5);
    return [r * x, r * y];
  });
  const at = [0];
  for (let i = 0; i < loop.length; i++) {
    const [p, q] = [loop[i], loop[(i + 1) % loop.length]];
    at.push(at[i] + Math.hypot(q[0] - p[0], q[1] - p[1]));
  }
  const length = at[loop.length];
  /** Direction of the outline so far along it, from the places 0.05 mm to both sides. */
  const place = (s: number): [number, number] => {
    const d = ((s % length) + length) % length;
    let [lo, hi] = [0, loop.length];
    while (hi - lo > 1) {
      const m = (lo + hi) >> 1;
      if (at[m] <= d) lo = m;
      else hi = m;
    }
    return loop[lo % loop.length];
  };
  const way = (s: number): number => {
    const [p, q] = [place(s - 0.05), place(s + 0.05)];
    return Math.atan2(q[1] - p[1], q[0] - p[0]) / RAD;
  };
  const steps = Math.round(length / 0.02);
  const turns = Array.from({ length: steps }, (_, i) => {
    const d = way(0.02 * i + WINDOW / 2) - way(0.02 * i - WINDOW / 2);
    return Math.abs(d - 360 * Math.round(d / 360));
  });
  const peaks = turns.flatMap((q, i) => {
    const near = Array.from({ length: 41 }, (_, k) => turns[(i + k - 20 + steps) % steps]);
    return q === Math.max(...near) && near.indexOf(q) === 20 ? [q] : [];
  });
  if (peaks.some((q) => Math.abs(q - CORNER) < DOUBTFUL)) return;
  say('outline.smooth.corners', null, 'count', peaks.filter((q) => q > CORNER).length);
}
