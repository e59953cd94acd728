/** One attempt on a criterion's curve. */
export interface CurvePoint {
  readonly attempt: number;
  readonly value: number;
}

/**
 * Straight-line trend of a value over attempts, by least squares.
 * @formula slope = Σ (x − x̄)(y − ȳ) / Σ (x − x̄)²
 * @units value per attempt
 * @fails null with fewer than two different attempts
 * @example values 1, 2, 3 at attempts 1, 2, 3 have slope 1
 */
export function trend(points: readonly CurvePoint[]): number | null {
  if (points.length < 2) return null;
  const mx = points.reduce((s, p) => s + p.attempt, 0) / points.length;
  const my = points.reduce((s, p) => s + p.value, 0) / points.length;
  const xx = points.reduce((s, p) => s + (p.attempt - mx) ** 2, 0);
  if (xx === 0) return null;
  return points.reduce((s, p) => s + (p.attempt - mx) * (p.value - my), 0) / xx;
}
