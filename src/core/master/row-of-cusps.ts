import { leastSquares } from '../linalg/least-squares.ts';
import type { Vec3 } from '../linalg/vec.ts';
import type { Landmarks } from './master.ts';

/** mm within which a cusp's tip is set on a master. */
const TIP = 0.1;

/** The line through the neighbours' cusp tips on the side of a tooth's functional cusps, seen along its axis. */
export interface RowOfCusps {
  /** Signed distance of a place, + facial. */
  from(p: Vec3): number;
  /** The line between its outermost tips, at their mean height. */
  readonly ends: readonly [Vec3, Vec3];
  /** mm: standard error at the target's middle, from how well tips are set. */
  readonly error: number;
}

/** The line through the neighbours' tips on the functional side; null without a tip on both sides. */
export function lineBeside(l: Pick<Landmarks, 'cusps' | 'neighbourCusps'>): RowOfCusps | null {
  const mean = (v: readonly number[]): number => v.reduce((s, x) => s + x, 0) / v.length;
  const all = mean(l.cusps.map((q) => q.at[1]));
  const side = Math.sign(mean(l.cusps.filter((q) => q.role === 'functional').map((q) => q.at[1])) - all) || 1;
  const [mesial, distal] = (['mesial', 'distal'] as const).map((s) => {
    const tips = l.neighbourCusps?.[s] ?? [];
    const middle = mean(tips.map((p) => p[1]));
    // A neighbour with one tip has it in the row.
    return tips.filter((p) => tips.length === 1 || side * (p[1] - middle) > 0);
  });
  if (mesial.length === 0 || distal.length === 0) return null;
  const s = leastSquares([...mesial, ...distal].map((p) => ({ f: [1, p[0]], x: p[1], w: 1 })));
  if (!s) return null;
  const [a, b] = s;
  const tips = [...mesial, ...distal];
  const height = mean(tips.map((p) => p[2]));
  const end = (x: number): Vec3 => [x, a + b * x, height];
  return {
    from: (p) => (p[1] - a - b * p[0]) / Math.hypot(1, b),
    ends: [end(Math.max(...tips.map((p) => p[0]))), end(Math.min(...tips.map((p) => p[0])))],
    error: (TIP * Math.hypot(1 / mesial.length, 1 / distal.length)) / 2,
  };
}
