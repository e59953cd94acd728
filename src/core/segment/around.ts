/** Values round the tooth, one per azimuth step; null where nothing could be read. */
export type Around = readonly (number | null)[];

/**
 * Local quadratic smoothing round the circle over ± half steps (Savitzky–Golay weights by least squares, gaps allowed).
 * Takes out profile-to-profile noise and keeps peaks' heights; null stays null; where fewer than three symmetric pairs are there, the value stays as it is.
 */
export function smoothAround(values: Around, half: number): (number | null)[] {
  const n = values.length;
  return values.map((own, k) => {
    if (own === null) return null;
    let s0 = 0;
    let s2 = 0;
    let s4 = 0;
    let y0 = 0;
    let y2 = 0;
    let pairs = 0;
    // Only symmetric pairs: odd terms drop out and a gap on one side does not tilt the fit.
    for (let j = 0; j <= half; j++) {
      const a = values[(k + j) % n];
      const b = values[(k - j + n) % n];
      if (a === null || b === null) continue;
      const t = (j / half) ** 2;
      const w = j === 0 ? 1 : 2;
      const y = j === 0 ? a : a + b;
      s0 += w;
      s2 += w * t;
      s4 += w * t * t;
      y0 += y;
      y2 += y * t;
      pairs++;
    }
    if (pairs < 3) return own;
    const det = s0 * s4 - s2 * s2;
    return det > 1e-9 ? (y0 * s4 - y2 * s2) / det : y0 / s0;
  });
}

export const present = (values: Around): number[] => values.filter((v): v is number => v !== null);
