import { describe, expect, it } from 'vitest';
import { seeded } from '../statistics/random.ts';
import { ballsOf } from './balls.ts';

describe('ballsOf', () => {
  const r = seeded(4);
  const positions = Float64Array.from({ length: 900 }, () => r.between(-5, 5));
  const places = Array.from({ length: 150 }, (_, i) => 2 * i);
  const balls = ballsOf(positions, places, 0.6);

  it('holds each place once, within its ball', () => {
    expect(balls.flatMap((b) => b.places).sort((a, b) => a - b)).toEqual(places);
    for (const b of balls)
      for (const v of b.places)
        expect(Math.hypot(positions[3 * v] - b.x, positions[3 * v + 1] - b.y, positions[3 * v + 2] - b.z)).toBeLessThanOrEqual(b.radius);
  });

  it('keeps balls within their cubes, negative coordinates included', () => {
    for (const b of balls) expect(b.radius).toBeLessThanOrEqual(0.6 * Math.sqrt(3));
    expect(ballsOf(Float64Array.from([-0.1, 0, 0, 0.1, 0, 0]), [0, 1], 0.6)).toHaveLength(2);
  });
});
