import { describe, expect, it } from 'vitest';
import { axiopulpal } from '#core/measure/box/axiopulpal.ts';
import { boxAxialForm } from '#core/measure/box/box-axial-form.ts';
import { boxClearance } from '#core/measure/box/box-clearance.ts';
import { boxGap } from '#core/measure/box/box-gap.ts';
import { boxSize } from '#core/measure/box/box-size.ts';
import { divergence } from '#core/measure/cavity/divergence.ts';
import { outlineCoverage } from '#core/measure/cavity/outline-coverage.ts';
import { reverseCurve } from '#core/measure/cavity/reverse-curve.ts';
import { makeMesh } from '#core/mesh/mesh.ts';
import type { Reading } from '#core/result/reading.ts';
import { takeCavityApart } from '#core/segment/cavity/cavity.ts';
import { makeSurface } from '#core/spatial/surface.ts';
import { type BoxCut, boxBench, slotAndBox } from '../helpers/bench-box.ts';
import { placed } from '../helpers/bench-crown.ts';

async function anatomy(cut: BoxCut, gap?: number) {
  const { master, scan } = await boxBench(cut, gap);
  return takeCavityApart(placed(scan), master);
}
function value(readings: Reading[], name: string, zone: string | null): number {
  const r = readings.find((q) => q.name === name && q.zone === zone);
  if (!r || r.value === null) throw new Error(`no value for ${name} ${zone}: ${r?.reason}`);
  return r.value;
}

describe.each([
  { depth: 2, height: 2, wide: 3, axial: 1.4, gap: 0.6 },
  { depth: 1.6, height: 2.6, wide: 4, axial: 1.1, gap: 0.3 },
])('a box $wide wide, $height under a floor $depth deep, $axial to its axial wall, $gap from the neighbour', ({ gap, ...sizes }) => {
  it('reads so in every place', async () => {
    const a = await anatomy(slotAndBox(sizes), gap);
    expect(a.boxes.map((b) => b.side)).toEqual(['mesial']);
    const size = boxSize(a);
    for (const third of ['facial third', 'middle third', 'lingual third'])
      expect(Math.abs(value(size, 'box.axialdepth', `box mesial ${third}`) - sizes.axial)).toBeLessThan(0.03);
    expect(value(size, 'box.height', 'box mesial')).toBeCloseTo(sizes.height, 2);
    for (const where of ['floor', 'occlusal'])
      expect(Math.abs(value(size, 'box.width', `box mesial ${where}`) - sizes.wide)).toBeLessThan(0.03);
    for (const side of ['facial', 'lingual', 'gingival'])
      expect(Math.abs(value(boxClearance(a), `box.clearance.${side}`, 'box mesial') - gap)).toBeLessThan(0.03);
    expect(value(boxAxialForm(a), 'box.axialform', 'box mesial')).toBeLessThan(0.02);
    expect(Math.abs(value(divergence(a), 'divergence', 'box mesial'))).toBeLessThan(0.5);
  });
});

describe('the gap along a box', () => {
  /** A neighbour's face that crosses x = 5.1 at y = 0 and z = 4 and leans by so many degrees: away from the box upward, or towards facial. */
  const leaning = (up: number, facial: number) => {
    const [u, f] = [up, facial].map((d) => Math.tan((d * Math.PI) / 180));
    const corner = (y: number, z: number) => [5.1 + u * (z - 4) + f * y, y, z];
    const positions = [corner(-9, -3), corner(9, -3), corner(9, 12), corner(-9, 12)].flat();
    return makeSurface(makeMesh('tooth', Float64Array.from(positions), Uint32Array.from([0, 2, 1, 0, 3, 2])));
  };
  it('is even beside a face as upright as its walls', async () => {
    const a = await anatomy(slotAndBox(), 0.6);
    for (const r of boxGap({ ...a, master: { ...a.master, mesial: leaning(0, 0) } })) expect(r.value).toBeLessThan(0.05);
  });
  it('opens by the sine of the face’s lean over nine tenths of a margin', async () => {
    // Floor at z = 3 under an edge at z = 7.
    const a = await anatomy(slotAndBox({ depth: 2, height: 2, wide: 3 }), 0.6);
    const up = boxGap({ ...a, master: { ...a.master, mesial: leaning(10, 0) } });
    for (const side of ['facial', 'lingual'])
      expect(Math.abs(value(up, 'box.gap.even', `box mesial ${side}`) - 0.9 * 4 * Math.sin(Math.PI / 18))).toBeLessThan(0.06);
    expect(value(up, 'box.gap.even', 'box mesial gingival')).toBeLessThan(0.03);
    const across = boxGap({ ...a, master: { ...a.master, mesial: leaning(0, 8) } });
    expect(Math.abs(value(across, 'box.gap.even', 'box mesial gingival') - 0.9 * 3 * Math.sin((8 * Math.PI) / 180))).toBeLessThan(0.06);
  });
  it('without a neighbour there is none', async () => {
    const a = await anatomy(slotAndBox(), 0.6);
    for (const r of boxGap({ ...a, master: { ...a.master, mesial: null } }))
      expect(r).toMatchObject({ value: null, reason: 'no-neighbour' });
  });
});

it('an axial wall that swings across the box spreads its depth by as much of the swing as is seen', async () => {
  const a = await anatomy(slotAndBox({ lean: 0.8 }));
  // Between the 5 % and the 95 % of a wall that is read over 94 % of the floor's 3 mm, 0.3 mm clear of both side walls.
  expect(Math.abs(value(boxAxialForm(a), 'box.axialform', 'box mesial') - (0.9 * (0.94 * 3 - 0.6) * 0.8) / 3)).toBeLessThan(0.07);
  const thirds = ['lingual third', 'middle third', 'facial third'].map((t) => value(boxSize(a), 'box.axialdepth', `box mesial ${t}`));
  expect(thirds[2] - thirds[0]).toBeCloseTo((0.8 * 2) / 3, 1);
});

describe('the line angle between pulpal floor and axial wall', () => {
  it.each([0.3, 0.6])('reads a bevel of %s mm as wide as it is, and as the radius that stands as far off', async (wide) => {
    const leg = wide / Math.SQRT2;
    const cut = slotAndBox();
    const [x, z] = [4.5 - 1.4, 5];
    const section = [
      [x + 0.3, z + 0.3],
      [x - leg - 0.3, z + 0.3],
      [x + 0.3, z - leg - 0.3],
    ] as const;
    const a = await anatomy({ ...cut, bars: [{ section, y: [-0.7, 0.7] }] });
    const readings = axiopulpal(a);
    expect(Math.abs(value(readings, 'axiopulpal.bevel', 'box mesial') - wide)).toBeLessThan(0.06);
    expect(Math.abs(value(readings, 'axiopulpal.radius', 'box mesial') - wide / 2 / (Math.SQRT2 - 1))).toBeLessThan(0.08);
  });
  it('reads nothing where it was left sharp', async () => {
    expect(value(axiopulpal(await anatomy(slotAndBox())), 'axiopulpal.bevel', 'box mesial')).toBeLessThan(0.05);
  });
});

describe('the reverse curve', () => {
  /** The slot's facial edge swings round the ridge by an arc about a place in the tooth, and runs into the box's axial wall all but along it. */
  const swung = (radius: number): BoxCut => {
    const turn = (84 * Math.PI) / 180;
    const from = 3.1 - radius * Math.sin(turn);
    const facial = Array.from({ length: 40 }, (_, i): readonly [number, number] => {
      const t = (turn * i) / 39;
      return [from + radius * Math.sin(t), 0.7 + radius * (1 - Math.cos(t))];
    });
    const end = facial[39];
    return {
      box: slotAndBox({ wide: 4.6 }).box,
      occlusal: { z: 5, plan: [[-2.5, -0.7], [5.5, -0.7], [5.5, end[1]], ...[...facial].reverse(), [-2.5, 0.7]] },
    };
  };
  it.each([0.8, 1.3])('reads the radius of its arc: %s mm', async (radius) => {
    const r = value(reverseCurve(await anatomy(swung(radius))), 'reversecurve.radius', 'box mesial');
    expect(Math.abs(r - radius)).toBeLessThan(0.1 + 0.16 * radius);
  });
  it('leaves the box’s facial margin square to the face', async () => {
    expect(Math.abs(value(reverseCurve(await anatomy(slotAndBox())), 'reversecurve.exit', 'box mesial') - 90)).toBeLessThan(4);
  });
});

it('a secondary groove is entered from the central groove to the wall that crosses it', async () => {
  const readings = outlineCoverage(await anatomy(slotAndBox()));
  expect(value(readings, 'outline.entered', 'facial')).toBeCloseTo(0.7, 1);
});
