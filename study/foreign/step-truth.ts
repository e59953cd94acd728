import type { Body } from './implicit-mesh.ts';
import type { Cut, Say } from './implicit-truths.ts';

/** mm to both sides of the axial wall within which channel and box run into each other, and between the places of the outline. */
const NEAR = 1.2;
const STEP = 0.02;
/** mm of outline over which it is seen to turn. */
const WINDOW = 0.3;
/** Rise per mm of outline past which it runs down the tooth's side, and degrees of turn under which it has no corner. */
const STEEPEST = 0.75;
const LEAST_TURN = 12;

/**
 * Tightest corner of the outline where an occlusal channel runs into a box, seen along the axis: 0.3 mm over the largest turn in 0.3 mm.
 * `over` is the height of the uncut tooth, `margin` how far from the middle the channel's own margin lies at x.
 */
export function stepTruth(
  b: Cut['boxes'][number],
  taken: Body,
  over: (x: number, y: number) => number,
  margin: (x: number, side: 1 | -1) => number,
  say: Say,
): void {
  const s = b.side === 'mesial' ? 1 : -1;
  const cut = (x: number, y: number): number => taken(x, y, over(x, y));
  const slope = (x: number, y: number): readonly [number, number] => {
    const e = 1e-3;
    return [(cut(x + e, y) - cut(x - e, y)) / (2 * e), (cut(x, y + e) - cut(x, y - e)) / (2 * e)];
  };
  let most = 0;
  for (const side of [1, -1] as const) {
    const headings: number[] = [];
    const level: boolean[] = [];
    const first = s * (b.axial - 0.99 * NEAR);
    let [x, y] = [first, side * margin(first, side)];
    let way: readonly [number, number] = [s, 0];
    for (let i = 0; i < 6 / STEP && Math.abs(x - s * b.axial) <= NEAR; i++) {
      const [gx, gy] = slope(x, y);
      const g = Math.hypot(gx, gy);
      const turned = (-gy * way[0] + gx * way[1]) / g >= 0 ? 1 : -1;
      way = [(-gy / g) * turned, (gx / g) * turned];
      headings.push(Math.atan2(way[1], way[0]));
      const from = over(x, y);
      [x, y] = [x + STEP * way[0], y + STEP * way[1]];
      // Back onto the outline.
      const [hx, hy] = slope(x, y);
      const off = cut(x, y) / (hx * hx + hy * hy);
      [x, y] = [x - off * hx, y - off * hy];
      level.push(Math.abs(over(x, y) - from) < STEEPEST * STEP);
    }
    const apart = Math.round(WINDOW / STEP);
    for (let i = 0; i + apart < headings.length; i++) {
      if (!level[i + (apart >> 1)]) continue;
      const turn = headings[i + apart] - headings[i];
      most = Math.max(most, Math.abs(Math.atan2(Math.sin(turn), Math.cos(turn))));
    }
  }
  if (most > (LEAST_TURN * Math.PI) / 180) say('outline.step', `box ${b.side}`, 'min', WINDOW / most);
}
