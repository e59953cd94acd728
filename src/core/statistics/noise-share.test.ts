import { describe, expect, it } from 'vitest';
import { smoothAround } from '../segment/around.ts';
import { noiseLeft, withoutNoise } from './noise-share.ts';
import { seeded } from './random.ts';

const std = (v: readonly number[]): number => {
  const m = v.reduce((s, q) => s + q, 0) / v.length;
  return Math.sqrt(v.reduce((s, q) => s + (q - m) ** 2, 0) / v.length);
};

describe('extremes without noise’s share', () => {
  const random = seeded(3);
  const noise = Array.from({ length: 400 }, () => 0.02 * random.normal());
  it('a constant read with noise keeps its middle and loses its spread', () => {
    const v = withoutNoise(
      noise.map((q) => 0.8 + q),
      0.025,
    );
    expect(Math.max(...v) - Math.min(...v)).toBe(0);
    expect(Math.abs(v[0] - 0.8)).toBeLessThan(0.003);
  });
  it('a true spread keeps its size: variances add', () => {
    const wave = noise.map((_, i) => 0.1 * Math.sin(i / 10));
    const v = withoutNoise(
      wave.map((q, i) => q + noise[i]),
      0.02,
    );
    expect(Math.abs(std(v) - std(wave))).toBeLessThan(0.004);
  });
  it('few values, or values without noise, are unchanged', () => {
    expect(withoutNoise([1, 2], 0.5)).toEqual([1, 2]);
    expect(withoutNoise([1, 2, 4], 0)).toEqual([1, 2, 4]);
  });
  it('tells what smoothing leaves from how far places lie off it: a quarter more than of noise that no two places share', () => {
    const circle = Array.from({ length: 180 * 20 }, () => 0.02 * random.normal());
    const smoothed = smoothAround(circle, 5);
    const left = std(smoothed.map((v) => v ?? 0));
    expect(Math.abs(noiseLeft(circle, smoothed, 5) / left - 1.25)).toBeLessThan(0.06);
    expect(noiseLeft([null, 1], [0, null], 5)).toBe(0);
  });
});
