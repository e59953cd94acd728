/** Where a function that begins negative changes its sign. */
export function bisected(f: (x: number) => number, from: number, to: number): number {
  let [lo, hi] = [from, to];
  for (let i = 0; i < 40; i++) {
    const m = (lo + hi) / 2;
    if (f(m) < 0) lo = m;
    else hi = m;
  }
  return lo;
}
