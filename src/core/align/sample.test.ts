import { describe, expect, it } from 'vitest';
import { plate, revolve } from '../../../test/helpers/shapes.ts';
import { sampleSurface } from './sample.ts';

/** Half a ball, or a whole one, of radius 5. */
const ball = (to: number) => {
  const steps = 90;
  const profile = Array.from({ length: steps + 1 }, (_, i): [number, number] => {
    const t = (to * i) / steps;
    return [i === 0 || (to === Math.PI && i === steps) ? 0 : 5 * Math.sin(t), 5 * Math.cos(t)];
  });
  return revolve(profile, 180);
};

describe('points spread over a surface', () => {
  it('stand for its whole area, a ball’s being 4 π r²', () => {
    const s = sampleSurface(ball(Math.PI), 3000);
    expect(s.areaEach * s.count).toBeGreaterThan(0.995 * 100 * Math.PI);
    expect(s.areaEach * s.count).toBeLessThan(100 * Math.PI);
    expect(s.count).toBeGreaterThan(2900);
  });
  it('face away from a ball’s middle', () => {
    const s = sampleSurface(ball(Math.PI), 500);
    for (let i = 0; i < s.count; i++) for (let k = 0; k < 3; k++) expect(s.normals[3 * i + k] - s.points[3 * i + k] / 5).toBeCloseTo(0, 1);
  });
  it('tell a closed body from an open shell: a ball’s area vectors cancel, half a ball’s come to half its area', () => {
    const closed = sampleSurface(ball(Math.PI), 500).openness;
    expect(Math.hypot(...closed)).toBeLessThan(1e-3);
    // π r² of 2 π r², upward.
    const open = sampleSurface(ball(Math.PI / 2), 500).openness;
    expect(Math.hypot(open[0], open[1])).toBeLessThan(1e-3);
    expect(open[2]).toBeGreaterThan(0.49);
    expect(open[2]).toBeLessThan(0.52);
  });
  it('lie as dense everywhere, however the triangles do', () => {
    // Rings of a disc have as many triangles near the middle as at the rim.
    const disc = revolve(
      Array.from({ length: 101 }, (_, i): [number, number] => [i / 10, 0]),
      200,
    );
    const s = sampleSurface(disc, 4000);
    let inner = 0;
    for (let i = 0; i < s.count; i++) if (Math.hypot(s.points[3 * i], s.points[3 * i + 1]) < 5) inner++;
    expect(inner / s.count).toBeGreaterThan(0.22);
    expect(inner / s.count).toBeLessThan(0.28);
  });
  it('any first part of them is spread as evenly', () => {
    const s = sampleSurface(plate(10, 0, 100), 4000);
    for (const first of [200, 1000]) {
      const quadrants = [0, 0, 0, 0];
      for (let i = 0; i < first; i++) quadrants[(s.points[3 * i] > 0 ? 1 : 0) + (s.points[3 * i + 1] > 0 ? 2 : 0)]++;
      // A quarter each; four standard deviations of a count at random at the most.
      for (const n of quadrants) expect(Math.abs(n - first / 4)).toBeLessThan(4 * Math.sqrt((first * 3) / 16));
    }
  });
  it('keep off an open border', () => {
    const s = sampleSurface(plate(10, 0, 50), 2000);
    for (let i = 0; i < s.count; i++) expect(Math.max(Math.abs(s.points[3 * i]), Math.abs(s.points[3 * i + 1]))).toBeLessThan(10);
  });
});
