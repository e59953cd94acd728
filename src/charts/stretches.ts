export interface RingPoint {
  readonly azimuth: number;
  readonly value: number;
}

/** Splits a curve round the tooth into stretches without gaps larger than one step. */
export function stretches(points: readonly RingPoint[], step = 2): RingPoint[][] {
  const out: RingPoint[][] = [];
  for (const p of points) {
    const last = out[out.length - 1];
    if (last && p.azimuth - last[last.length - 1].azimuth <= 1.5 * step) last.push(p);
    else out.push([p]);
  }
  return out;
}
