import { expect, it } from 'vitest';
import { within } from '../../../test/helpers/within.ts';
import {
  CUTTER_FORMS,
  CUTTER_TIPS,
  type Cutter,
  diameterAt,
  expectedConvergence,
  halfOutline,
  halfTaper_deg,
  shareSunk,
  widestMargin,
} from './cutter.ts';

const taper: Cutter = { form: 'taper', tip: 'round', shank_mm: 1.8, tip_mm: 1.2, length_mm: 6 };
it('a 1.8 / 1.2 cutter is 1.5 at half its length, and no wider beyond its ends', () => {
  within(diameterAt(taper, 3), 1.5, 1e-12);
  within(diameterAt(taper, 9), 1.8, 1e-12);
  within(diameterAt(taper, -1), 1.2, 1e-12);
});
it('its half taper is the angle whose tangent is a quarter of a millimetre and a bit over six', () => {
  // tan x = 0.05: x = 0.05 − 0.05³ / 3 rad = 2.8624°.
  within(halfTaper_deg(taper), ((0.05 - 0.05 ** 3 / 3) * 180) / Math.PI, 1e-4);
  within(expectedConvergence(taper, 3), 2 * (2.8624 + 3), 1e-3);
  within(expectedConvergence({ ...taper, tip_mm: 1.8 }, 0), 0, 1e-12);
});
it('a cutter 2.0 long is sunk three quarters for 1.5, and cannot be sunk 2.1', () => {
  expect(shareSunk({ length_mm: 2 }, 1.5)).toBe(0.75);
  expect(shareSunk({ length_mm: 2 }, 2.1)).toBeNull();
});
it('a round tip leaves a lip beyond half its width, a flat one beyond its width, a point at once', () => {
  expect(widestMargin({ tip: 'round', tip_mm: 1.2 })).toBe(0.6);
  expect(widestMargin({ tip: 'flat', tip_mm: 1 })).toBe(1);
  expect(widestMargin({ tip: 'pointed', tip_mm: 0.2 })).toBe(0);
});
it.each(CUTTER_FORMS.flatMap((form) => CUTTER_TIPS.map((tip) => [form, tip] as const)))(
  'a %s with a %s tip is drawn within its own figures',
  (form, tip) => {
    const c: Cutter = { form, tip, shank_mm: 1.6, tip_mm: form === 'inverted cone' ? 2 : 1, length_mm: 5 };
    const line = halfOutline(c);
    const widest = Math.max(...line.map(([, r]) => r));
    expect(line[0][1]).toBeLessThan(1e-9);
    expect(widest).toBeLessThanOrEqual(Math.max(c.shank_mm, c.tip_mm) / 2 + 1e-9);
    expect(widest).toBeGreaterThan(0.4);
    line.forEach(([x], i) => {
      expect(x).toBeGreaterThanOrEqual(i ? line[i - 1][0] - 1e-9 : 0);
      expect(x).toBeLessThanOrEqual(c.length_mm + 1e-9);
    });
  },
);
