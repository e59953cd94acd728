import { describe, expect, it } from 'vitest';
import { gingivaContact, neighbourDamage } from '#core/measure/surroundings/neighbour.ts';
import { makeMesh } from '#core/mesh/mesh.ts';
import type { Reading } from '#core/result/reading.ts';
import { archMaster, archScan, cylinderMaster, placed } from '../helpers/bench-crown.ts';

const master = archMaster();
const whole = archScan(null);
const of = (readings: Reading[], stat: string) => readings.find((r) => r.stat === stat)?.value;

/** The scene with every point of one place moved along x or z: a bowl of that depth and radius. */
function dented(at: readonly [number, number, number], axis: 0 | 2, by: number, radius: number) {
  const p = Float64Array.from(whole.positions);
  for (let i = 0; i < p.length; i += 3) {
    const r = Math.hypot(p[i] - at[0], p[i + 1] - at[1], p[i + 2] - at[2]);
    if (r < radius) p[i + axis] += by * (1 - (r / radius) ** 2);
  }
  return makeMesh('tooth', p, whole.triangles);
}

/** The point of a part of the master that lies nearest to the target, along the arch. */
function facing(side: 'mesial' | 'distal'): [number, number, number] {
  const p = (master[side] as NonNullable<typeof master.mesial>).mesh.positions;
  const s = side === 'mesial' ? 1 : -1;
  let best = 0;
  for (let i = 3; i < p.length; i += 3) if (p[i + 2] > 1 && s * p[i] < s * p[best]) best = i;
  return [p[best], p[best + 1], p[best + 2]];
}

describe('untouched surroundings', () => {
  it('show no loss', () => {
    const a = placed(whole);
    for (const r of [...neighbourDamage(a, master, 'mesial'), ...neighbourDamage(a, master, 'distal')])
      expect([r.name, r.value]).toEqual([r.name, 0]);
    // The scene's domes reach a tenth of a millimetre under its ground, and no deeper.
    expect(of(gingivaContact(a, master), 'max') as number).toBeLessThan(0.11);
  });
  it('that the master lacks are refused', () => {
    const alone = cylinderMaster();
    for (const r of [neighbourDamage(placed(whole), alone, 'mesial')[0], gingivaContact(placed(whole), alone)[0]])
      expect([r.value, r.reason]).toEqual([null, r.name === 'gingiva.contact' ? 'no-gingiva' : 'no-neighbour']);
  });
});

describe('a bowl ground into the gingiva', () => {
  const found = gingivaContact(placed(dented([-1, 7, -1.4], 2, -0.4, 1.2)), master);
  it('has its true depth', () => expect(Math.abs((of(found, 'max') as number) - 0.4)).toBeLessThan(0.05));
});

describe('how sure a depth is', () => {
  const read = (radius: number): Reading => gingivaContact(placed(dented([-1, 7, -1.4], 2, -0.4, radius)), master)[0];
  it('turns on how narrow the hollow is: a mean does not reach its bottom', () => {
    const [narrow, wide] = [read(0.9), read(2.4)];
    expect(narrow.U as number).toBeGreaterThan(1.2 * (wide.U as number));
    for (const r of [narrow, wide]) expect(Math.abs((r.value as number) - 0.4)).toBeLessThan(r.U as number);
  });
});

describe.each(['mesial', 'distal'] as const)('a bowl ground into the %s neighbour', (side) => {
  const s = side === 'mesial' ? 1 : -1;
  const scan = placed(dented(facing(side), 0, s * 0.3, 1));
  it('is found there with about its true depth', () => {
    const depth = of(neighbourDamage(scan, master, side), 'max') as number;
    expect(depth).toBeGreaterThan(0.2);
    expect(depth).toBeLessThan(0.33);
  });
  it('is not found on the other one', () =>
    expect(of(neighbourDamage(scan, master, side === 'mesial' ? 'distal' : 'mesial'), 'max')).toBe(0));
});
