import { describe, expect, it } from 'vitest';
import { DEG } from '../../linalg/vec.ts';
import { seeded } from '../../statistics/random.ts';
import { type Fillet, fitFillet, type Way } from './margin-fillet.ts';
import { STEP } from './pieces.ts';

/**
 * A floor of a width that rises inward by `rise` degrees from (5, 0), a wall that leans inward by `lean`, and an arc between: walked along in
 * steps, the arc by its own length.
 */
function way(
  radius: number,
  { width = 0.9, rise = 0, lean = 6, noise = () => 0 }: Partial<{ width: number; rise: number; lean: number; noise: () => number }> = {},
): Way {
  const [f, w] = [
    [-Math.cos(rise * DEG), Math.sin(rise * DEG)],
    [-Math.sin(lean * DEG), Math.cos(lean * DEG)],
  ];
  const corner = [5 + width * f[0], width * f[1]];
  // Floor and wall turn by so much; the arc touches both as far from the corner.
  const turn = (90 - lean - rise) * DEG;
  const reach = radius * Math.tan(turn / 2);
  const middle = [corner[0] - reach * f[0] + radius * f[1], corner[1] - reach * f[1] - radius * f[0]];
  const at = (s: number): readonly [number, number] => {
    if (s < width - reach) return [5 + s * f[0], s * f[1]];
    const onArc = s - (width - reach);
    if (onArc < radius * turn) {
      const angle = -(90 + rise) * DEG - onArc / radius;
      return [middle[0] + radius * Math.cos(angle), middle[1] + radius * Math.sin(angle)];
    }
    const up = reach + onArc - radius * turn;
    return [corner[0] + up * w[0], corner[1] + up * w[1]];
  };
  const n = Math.floor((width + 0.6) / STEP);
  const places = Array.from({ length: n }, (_, i) => at(i * STEP)).map(([r, z]) => [r + noise(), z + noise()]);
  return {
    finish: { r: 5, z: 0 },
    wall: { x: corner[0] + w[0], y: corner[1] + w[1], dx: w[0], dy: w[1], rms: 0, spread: 1, count: 20 },
    r: places.map(([r]) => r),
    z: places.map(([, z]) => z),
    from: 2,
    to: n,
  };
}

const ways = (radius: number, of?: Parameters<typeof way>[1]): Way[] => Array.from({ length: 11 }, () => way(radius, of));

const fitted = (...of: Parameters<typeof fitFillet>): Fillet => {
  const fit = fitFillet(...of);
  if (!fit || fit === 'runs-on') throw new Error(`no fillet: ${fit}`);
  return fit;
};

describe('the fillet between floor and wall', () => {
  it.each([0.1, 0.2, 0.45, 0.7])('of %s mm is found between a level floor and a leaning wall', (radius) =>
    expect(fitted(ways(radius), 0, 0.36).radius).toBeCloseTo(radius, 3),
  );
  it.each([-12, 8, 25])('is found where the floor rises by %s°, from a guess of no rise', (rise) =>
    expect(fitted(ways(0.3, { rise }), 0, 0.36).radius).toBeCloseTo(0.3, 3),
  );
  it('is found to end where a chamfer begins at the finish line itself', () => {
    const width = 0.5;
    const radius = width / Math.tan((42 * Math.PI) / 180);
    expect(Math.abs(fitted(ways(radius, { width }), 0, 0.2).radius - radius)).toBeLessThan(0.01);
  });
  it('of a sharp corner is none to speak of', () => expect(fitted(ways(0), 0, 0.36).radius).toBeLessThan(0.02));
  it('lies within two of its uncertainties for 9 of 10 noisy margins at the least', () => {
    const random = seeded(5);
    let held = 0;
    for (let i = 0; i < 60; i++) {
      const radius = 0.15 + 0.01 * i;
      const fit = fitted(ways(radius, { noise: () => 0.015 * random.normal() }), 0, 0.36);
      if (Math.abs(fit.radius - radius) < 2 * fit.u) held++;
    }
    expect(held).toBeGreaterThanOrEqual(54);
  });
  it('is not told where floor and wall run on into each other', () =>
    expect(fitFillet(ways(0.1, { rise: 78 }), 78 * DEG, 0.1)).toBe('runs-on'));
  it('is not told from a handful of places', () => expect(fitFillet([{ ...way(0.2), to: 10 }], 0, 0.36)).toBeNull());
});
