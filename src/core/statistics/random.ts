/** Seeded pseudo-random numbers (mulberry32), so that everything simulated is the same on every machine. */
export interface Random {
  /** Uniform in [0, 1). */
  next(): number;
  /** Uniform in [lo, hi). */
  between(lo: number, hi: number): number;
  /** Standard normal (Box–Muller). */
  normal(): number;
}

export function seeded(seed: number): Random {
  let state = seed >>> 0 || 0x9e3779b9;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  return {
    next,
    between: (lo, hi) => lo + (hi - lo) * next(),
    normal: () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next()),
  };
}
