import { type Told, tooFew } from './told.ts';

export interface PracticeLaw {
  /** Where it is levelling off. */
  readonly a: number;
  readonly b: number;
  /** Per attempt. */
  readonly c: number;
  /** By how much Akaike's corrected criterion is better than a straight line's. */
  readonly better: number;
  /** Whether it is to be shown: better than the line by more than 2. */
  readonly isShown: boolean;
}

const LEAST = 6;
/** Grid of learning rates: from one that halves what is left in seventy attempts to one that does it in a fifth. */
const RATES = Array.from({ length: 121 }, (_, i) => 0.01 * 350 ** (i / 120));

/** Akaike's criterion corrected for few points; `k` counts the variance too. */
const aicc = (rss: number, n: number, k: number): number =>
  n * Math.log(Math.max(rss, 1e-18) / n) + 2 * k + (2 * k * (k + 1)) / (n - k - 1);

/** Least squares of y on 1 and x. */
function fit(x: readonly number[], y: readonly number[]): { a: number; b: number; rss: number } {
  const n = x.length;
  const mx = x.reduce((s, v) => s + v, 0) / n;
  const my = y.reduce((s, v) => s + v, 0) / n;
  const xx = x.reduce((s, v) => s + (v - mx) ** 2, 0);
  const b = xx > 0 ? x.reduce((s, v, i) => s + (v - mx) * (y[i] - my), 0) / xx : 0;
  const a = my - b * mx;
  return { a, b, rss: x.reduce((s, v, i) => s + (y[i] - a - b * v) ** 2, 0) };
}

/**
 * Law of practice: what is gained from attempt to attempt becomes less by the same share each time.
 * @formula y = a + b · e^(−c(n − 1)), least squares over a grid of c; shown where AICc is lower than the straight line's by more than 2
 * @fails fewer than six attempts
 * @source Heathcote, Brown and Mewhort 2000; Hurvich and Tsai 1989
 */
export function practiceLaw(points: readonly { readonly n: number; readonly value: number }[]): Told<PracticeLaw> {
  const count = points.length;
  if (count < LEAST) return tooFew(count, LEAST);
  const y = points.map((p) => p.value);
  const line = fit(
    points.map((p) => p.n),
    y,
  );
  let best = { a: 0, b: 0, c: 0, rss: Infinity };
  for (const c of RATES) {
    const f = fit(
      points.map((p) => Math.exp(-c * (p.n - 1))),
      y,
    );
    if (f.rss < best.rss) best = { ...f, c };
  }
  const better = aicc(line.rss, count, 3) - aicc(best.rss, count, 4);
  return { given: { a: best.a, b: best.b, c: best.c, better, isShown: better > 2 } };
}
