/**
 * Weighted quantile: the value at which the cumulated weight, counted to the middle of each sample's own weight,
 * reaches `q` of the total; linear in between. With equal weights this is the Hazen plotting position. Samples of
 * one value stand in the order of their weights, so that the quantile does not depend on the order of the list.
 * @source Hyndman & Fan (1996), definition 5, carried over to weights
 */
export function weightedQuantiles(values: ArrayLike<number>, weights: ArrayLike<number>, qs: readonly number[]): number[] {
  const n = values.length;
  if (n === 0) throw new RangeError('no values to take a quantile of');
  const order = Uint32Array.from({ length: n }, (_, i) => i).sort((i, j) => values[i] - values[j] || weights[i] - weights[j]);
  let total = 0;
  for (let i = 0; i < n; i++) total += weights[i];
  return qs.map((q) => {
    const target = q * total;
    let before = 0;
    let lastMiddle = 0;
    let lastValue = values[order[0]];
    for (let k = 0; k < n; k++) {
      const w = weights[order[k]];
      const middle = before + w / 2;
      if (middle >= target) {
        if (k === 0) return values[order[0]];
        const f = (target - lastMiddle) / (middle - lastMiddle || 1);
        return lastValue + f * (values[order[k]] - lastValue);
      }
      before += w;
      lastMiddle = middle;
      lastValue = values[order[k]];
    }
    return lastValue;
  });
}

export function median(values: ArrayLike<number>): number {
  const sorted = Float64Array.from(values).sort();
  const n = sorted.length;
  if (n === 0) throw new RangeError('no values to take a median of');
  return n % 2 ? sorted[(n - 1) / 2] : (sorted[n / 2 - 1] + sorted[n / 2]) / 2;
}

export const mean = (values: readonly number[]): number => values.reduce((s, v) => s + v, 0) / values.length;

/** Root mean square. */
export const rms = (values: readonly number[]): number => Math.sqrt(values.reduce((s, v) => s + v * v, 0) / values.length);

/** Robust standard deviation: 1.4826 × the median absolute deviation. */
export function madSigma(values: ArrayLike<number>): number {
  const m = median(values);
  return 1.4826 * median(Float64Array.from(values, (v) => Math.abs(v - m)));
}

/** Standard error of a median of normal values of which every `alike` neighbours share their error: 1.25 σ ÷ √n. */
export const errorOfMedian = (values: ArrayLike<number>, alike: number): number =>
  (1.25 * madSigma(values)) / Math.sqrt(Math.max(1, values.length / alike));

/** Quantile of plain values, linear between order statistics. */
export function quantile(values: ArrayLike<number>, q: number): number {
  const s = Float64Array.from(values).sort();
  const at = q * (s.length - 1);
  const i = Math.floor(at);
  return i + 1 < s.length ? s[i] + (at - i) * (s[i + 1] - s[i]) : s[s.length - 1];
}
