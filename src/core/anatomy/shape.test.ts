import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planOf } from './anatomy.ts';
import { sideAt } from './outer.ts';
import { smoothMin, smoothstep, surfaceZ } from './shape.ts';

const number = fc.double({ min: -20, max: 20, noNaN: true });

describe('the lesser of two heights with a rounded corner', () => {
  it('is the lesser of them where they lie farther apart than the rounding', () => {
    expect(smoothMin(1, 4, 0.5)).toBe(1);
    expect(smoothMin(4, 1, 0.5)).toBe(1);
    expect(smoothMin(3, 2, 0)).toBe(2);
  });
  it('is a quarter of the rounding lower where both are alike', () => expect(smoothMin(2, 2, 0.8)).toBeCloseTo(1.8, 12));
  it('never lies above either, whichever comes first, and no deeper than that quarter', () =>
    fc.assert(
      fc.property(number, number, fc.double({ min: 0.01, max: 3, noNaN: true }), (a, b, k) => {
        const m = smoothMin(a, b, k);
        expect(m).toBe(smoothMin(b, a, k));
        expect(m).toBeLessThanOrEqual(Math.min(a, b));
        expect(m).toBeGreaterThanOrEqual(Math.min(a, b) - k / 4 - 1e-12);
      }),
    ));
  it('has no corner: its slope goes over from the one to the other without a jump', () => {
    // Along a roof of two slopes of 45° the slope falls from 1 to −1 evenly over the rounding.
    const slope = (x: number): number => (smoothMin(x + 1e-5, -x - 1e-5, 0.5) - smoothMin(x - 1e-5, -x + 1e-5, 0.5)) / 2e-5;
    for (let x = -0.4; x < 0.4; x += 0.01) expect(Math.abs(slope(x + 0.01) - slope(x))).toBeLessThan(0.09);
    expect(slope(-0.4)).toBeCloseTo(1, 6);
    expect(slope(0.4)).toBeCloseTo(-1, 6);
  });
});

describe('a step without a corner', () => {
  it('is nought before it, one behind it and half in its middle', () => {
    expect([-3, 0, 0.5, 1, 9].map(smoothstep)).toEqual([0, 0, 0.5, 1, 1]);
  });
  it('only rises, and is the same from both ends', () =>
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (a, b) => {
        if (a < b) expect(smoothstep(a)).toBeLessThanOrEqual(smoothstep(b));
        expect(smoothstep(1 - a)).toBeCloseTo(1 - smoothstep(a), 12);
      }),
    ));
});

describe('the surface seen from above', () => {
  /** A ball of radius 4 about z = 1, in a plan as tall as it. */
  const ball = (radius: number) => ({
    plan: { ...planOf('16'), height: 1 + radius },
    inside: (x: number, y: number, z: number) => radius - Math.hypot(x, y, z - 1),
    top: () => 1 + radius,
  });
  it.each([
    [0, 0],
    [1, -2],
    [-2.5, 2.5],
  ])('of a ball lies where it is over %f, %f', (x, y) => expect(surfaceZ(ball(4), x, y)).toBeCloseTo(1 + Math.sqrt(16 - x * x - y * y), 5));
  it('under which there is nothing is as low as is looked for', () => expect(surfaceZ(ball(2), 3, 0)).toBeCloseTo(-3, 0));
});

describe('the side of a crown', () => {
  const TEETH = ['11', '13', '14', '16', '31', '33', '34', '36', '37', '55', '75'];
  const widest = (tooth: string, phi: number): number => {
    const plan = planOf(tooth);
    let most = 0;
    for (let z = 0; z < plan.height; z += plan.height / 200) most = Math.max(most, sideAt({ ...plan, blade: undefined }, phi, z));
    return most;
  };
  it.each(TEETH)('of %s is as wide as its plan says where it bulges most', (tooth) => {
    const plan = planOf(tooth);
    // Straight to mesial and distal it is already narrowed by half of what the lingual side is.
    const narrow = plan.narrow ?? 0.05;
    expect(widest(tooth, Math.PI / 2) + widest(tooth, -Math.PI / 2)).toBeCloseTo((1 - narrow) * plan.md, 1);
    // Facial and lingual, without what the lobes stand out.
    expect(widest(tooth, 0)).toBeCloseTo(plan.fl / 2, 3);
    expect(widest(tooth, Math.PI)).toBeCloseTo(plan.fl / 2, 3);
  });
  it.each(TEETH)('of %s draws in towards its neck and towards its top', (tooth) => {
    const plan = planOf(tooth);
    for (const phi of [0, Math.PI / 2, Math.PI, -Math.PI / 2]) {
      const most = widest(tooth, phi);
      expect(sideAt(plan, phi, 0), `${phi} neck`).toBeLessThan(most);
      expect(sideAt(plan, phi, plan.height), `${phi} top`).toBeLessThan(most);
      // And the root goes on nearly straight.
      expect(sideAt(plan, phi, -1.5)).toBeLessThanOrEqual(sideAt(plan, phi, 0) + 1e-9);
      expect(sideAt(plan, phi, -1.5)).toBeGreaterThan(0.9 * sideAt(plan, phi, 0));
    }
  });
  it('teeth bulge near the neck to facial, and at their contacts farther up', () => {
    for (const tooth of TEETH) {
      const { contour } = planOf(tooth);
      const [facial, mesial, , distal] = contour;
      expect(facial, tooth).toBeLessThan(mesial);
      expect(facial, tooth).toBeLessThan(distal);
      // The distal contact lies no nearer to the top than the mesial one.
      expect(distal, tooth).toBeLessThanOrEqual(mesial);
    }
  });
  it('the lingual half is the narrower one, as the embrasures show', () => {
    for (const tooth of TEETH) {
      const plan = planOf(tooth);
      const z = plan.contour[1] * plan.height;
      const across = (phi: number): number => sideAt({ ...plan, blade: undefined }, phi, z) * Math.sin(phi);
      expect(across((140 * Math.PI) / 180), tooth).toBeLessThan(across((40 * Math.PI) / 180));
    }
  });
  it('has no jump anywhere round the tooth', () => {
    for (const tooth of TEETH) {
      const plan = planOf(tooth);
      for (const z of [-1, 0.3 * plan.height, 0.7 * plan.height])
        for (let a = 0; a < 360; a += 2) {
          const [here, next] = [a, a + 2].map((d) => sideAt(plan, (d * Math.PI) / 180, z));
          expect(Math.abs(next - here), `${tooth} at ${a}°, ${z} mm`).toBeLessThan(0.3);
        }
    }
  });
});
