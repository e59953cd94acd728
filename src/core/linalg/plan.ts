/** Plane geometry of closed curves seen along the axis; a curve is a list of (x, y) corners, closed by itself. */
export type Plan = readonly (readonly [number, number])[];

/** Even–odd rule. */
export function contains(plan: Plan, x: number, y: number): boolean {
  let inside = false;
  let b = plan[plan.length - 1];
  for (let i = 0; i < plan.length; i++) {
    const a = plan[i];
    if (a[1] > y !== b[1] > y && x < a[0] + ((y - a[1]) / (b[1] - a[1])) * (b[0] - a[0])) inside = !inside;
    b = a;
  }
  return inside;
}

/** Distance from (x, y) to the curve and the corner before the nearest place. */
export function nearestOn(plan: Plan, x: number, y: number): { distance: number; index: number } {
  // Squares, and corners read by index: this loop runs over every corner for thousands of points.
  let squared = Infinity;
  let index = 0;
  const n = plan.length;
  for (let i = 0; i < n; i++) {
    const a = plan[i];
    const b = plan[i + 1 === n ? 0 : i + 1];
    const ux = b[0] - a[0];
    const uy = b[1] - a[1];
    const vx = x - a[0];
    const vy = y - a[1];
    const t = Math.min(1, Math.max(0, (vx * ux + vy * uy) / (ux * ux + uy * uy || 1)));
    const d = (vx - t * ux) ** 2 + (vy - t * uy) ** 2;
    if (d < squared) {
      squared = d;
      index = i;
    }
  }
  return { distance: Math.sqrt(squared), index };
}

/** Distances along the line through (x, y) in direction (dx, dy) at which it crosses the curve, sorted. */
export function crossings(plan: Plan, x: number, y: number, dx: number, dy: number): number[] {
  const out: number[] = [];
  for (let i = 0; i < plan.length; i++) {
    const [ax, ay] = plan[i];
    const [bx, by] = plan[(i + 1) % plan.length];
    const sa = (ax - x) * dy - (ay - y) * dx;
    const sb = (bx - x) * dy - (by - y) * dx;
    if (sa > 0 === sb > 0) continue;
    const f = sa / (sa - sb);
    out.push((ax + f * (bx - ax) - x) * dx + (ay + f * (by - ay) - y) * dy);
  }
  return out.sort((a, b) => a - b);
}

/** Signed area, positive when the curve runs counter-clockwise. */
export function area(plan: Plan): number {
  let s = 0;
  for (let i = 0; i < plan.length; i++) {
    const [ax, ay] = plan[i];
    const [bx, by] = plan[(i + 1) % plan.length];
    s += (ax * by - bx * ay) / 2;
  }
  return s;
}

/** Length of an open line that lies inside the curve, by steps of 0.02 mm; and its whole length. */
export function lengthInside(plan: Plan, line: readonly (readonly number[])[]): { inside: number; whole: number } {
  let inside = 0;
  let whole = 0;
  for (let i = 0; i + 1 < line.length; i++) {
    const l = Math.hypot(line[i + 1][0] - line[i][0], line[i + 1][1] - line[i][1]);
    const n = Math.max(1, Math.ceil(l / 0.02));
    for (let k = 0; k < n; k++) {
      const t = (k + 0.5) / n;
      if (contains(plan, line[i][0] + t * (line[i + 1][0] - line[i][0]), line[i][1] + t * (line[i + 1][1] - line[i][1]))) inside += l / n;
    }
    whole += l;
  }
  return { inside, whole };
}

/** Moving mean of values round a closed curve over ± half places. */
export function movingMean(values: readonly number[], half: number): number[] {
  const n = values.length;
  return values.map((_, i) => {
    let sum = 0;
    for (let j = -half; j <= half; j++) sum += values[(i + j + n) % n];
    return sum / (2 * half + 1);
  });
}

/** Moving mean of a closed curve over ± half corners. */
export function smoothed(curve: readonly (readonly [number, number])[], half: number): [number, number][] {
  const y = movingMean(
    curve.map((p) => p[1]),
    half,
  );
  return movingMean(
    curve.map((p) => p[0]),
    half,
  ).map((x, i) => [x, y[i]]);
}

/** mm: side of the cells within which points share their answer where the curve is not near. */
const CELL = 0.25;

/** The same answers as `contains`, for many points of one plan: a cell that the curve does not come near is asked once. */
export function containment(plan: Plan): (x: number, y: number) => boolean {
  const cells = new Map<number, boolean | null>();
  return (x, y) => {
    const [i, j] = [Math.floor(x / CELL), Math.floor(y / CELL)];
    const key = (i + 2048) * 4096 + j + 2048;
    let all = cells.get(key);
    if (all === undefined) {
      const [cx, cy] = [(i + 0.5) * CELL, (j + 0.5) * CELL];
      all = nearestOn(plan, cx, cy).distance > CELL * Math.SQRT1_2 ? contains(plan, cx, cy) : null;
      cells.set(key, all);
    }
    return all ?? contains(plan, x, y);
  };
}
