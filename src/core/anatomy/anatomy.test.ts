import { describe, expect, it } from 'vitest';
import { isLeftHanded, isPrimary, isUpper, planOf } from './anatomy.ts';

const quadrant = (q: number, last: number): string[] => Array.from({ length: last }, (_, i) => `${q}${i + 1}`);
const PERMANENT = [1, 2, 3, 4].flatMap((q) => quadrant(q, 8));
const PRIMARY = [5, 6, 7, 8].flatMap((q) => quadrant(q, 5));
const ALL = [...PERMANENT, ...PRIMARY];
const position = (tooth: string): number => Number(tooth[1]);

describe('the 52 teeth', () => {
  it('are complete, with no other', () => {
    for (const t of ALL) expect(planOf(t).md, t).toBeGreaterThan(3.5);
    for (const t of ['19', '10', '56', '99']) expect(() => planOf(t), t).toThrow(/no tooth/);
  });
  it('stand in the arch and on the side that their number says', () => {
    expect(ALL.filter(isUpper).map((t) => t[0])).toEqual([...'11111111', ...'22222222', ...'55555', ...'66666']);
    expect(ALL.filter(isPrimary)).toEqual(PRIMARY);
    // The patient's right, forward and up are a right-handed frame; mesial of a molar is forward, facial its own side.
    for (const [tooth, facial, occlusal] of [
      ['16', 1, -1],
      ['26', -1, -1],
      ['36', -1, 1],
      ['46', 1, 1],
      ['55', 1, -1],
      ['65', -1, -1],
      ['75', -1, 1],
      ['85', 1, 1],
    ] as const) {
      // forward × (facial · right) = −facial · up
      expect(isLeftHanded(tooth), tooth).toBe(-facial !== occlusal);
    }
  });
  it.each([
    ['incisor', [1, 2]],
    ['canine', [3]],
  ])('an %s stands at its place in every quadrant', (kind, places) => {
    for (const t of ALL.filter((q) => places.includes(position(q)))) expect(planOf(t).kind, t).toBe(kind);
  });
  it('premolars are permanent only; primary molars stand where these will be', () => {
    for (const t of ALL.filter((q) => position(q) === 4 || position(q) === 5))
      expect(planOf(t).kind, t).toBe(isPrimary(t) ? 'molar' : 'premolar');
  });
  it('left and right have the same plan', () => {
    for (const [a, b] of [
      ['1', '2'],
      ['4', '3'],
      ['5', '6'],
      ['8', '7'],
    ])
      for (const n of [1, 2, 3, 4, 5]) expect(planOf(`${a}${n}`)).toEqual(planOf(`${b}${n}`));
  });
});

describe('their sizes', () => {
  // What textbooks of dental anatomy agree on: which of two is the larger, and roughly how large.
  it('lie within what teeth measure', () => {
    for (const t of ALL) {
      const { md, fl, height } = planOf(t);
      expect(md, t).toBeLessThanOrEqual(11.5);
      expect(fl, t).toBeLessThanOrEqual(11.5);
      expect(height, t).toBeGreaterThan(4.5);
      expect(height, t).toBeLessThanOrEqual(11.5);
    }
  });
  it('first molars are the largest, the lower central incisor the narrowest', () => {
    for (const q of [1, 4]) for (const n of [7, 8]) expect(planOf(`${q}6`).md).toBeGreaterThan(planOf(`${q}${n}`).md);
    for (const t of PERMANENT) expect(planOf(t).md).toBeGreaterThanOrEqual(planOf('41').md);
    expect(planOf('11').md).toBeGreaterThan(planOf('12').md);
    expect(planOf('42').md).toBeGreaterThan(planOf('41').md);
  });
  it('upper molars are wider faciolingually, lower ones mesiodistally', () => {
    for (const n of [6, 7]) {
      expect(planOf(`1${n}`).fl).toBeGreaterThan(planOf(`1${n}`).md);
      expect(planOf(`4${n}`).md).toBeGreaterThan(planOf(`4${n}`).fl);
    }
  });
  it('the second primary molar is the larger, and primary teeth are shorter than permanent ones', () => {
    for (const q of [5, 8]) expect(planOf(`${q}5`).md).toBeGreaterThan(planOf(`${q}4`).md);
    for (const n of [1, 2, 3]) expect(planOf(`5${n}`).height).toBeLessThan(planOf(`1${n}`).height);
  });
});

describe('their cusps', () => {
  const names = (t: string): string[] => planOf(t).cusps.map((c) => c.name);
  it('functional ones are lingual above and facial below', () => {
    for (const t of ALL.filter((q) => planOf(q).cusps.length > 1))
      for (const c of planOf(t).cusps) {
        const lingual = c.at[1] < 0;
        if (Math.abs(c.at[1]) > 0.2) expect(c.functional, `${t} ${c.name}`).toBe(planOf(t).upper ? lingual : !lingual);
      }
  });
  it('lie where their names say: mesial forward, facial outward', () => {
    for (const t of ALL)
      for (const c of planOf(t).cusps) {
        if (/^M[BL]/.test(c.name)) expect(c.at[0], `${t} ${c.name}`).toBeGreaterThan(0);
        if (/^D[BL]/.test(c.name)) expect(c.at[0], `${t} ${c.name}`).toBeLessThan(0);
        if (/B$/.test(c.name)) expect(c.at[1], `${t} ${c.name}`).toBeGreaterThan(0);
        if (/L$/.test(c.name)) expect(c.at[1], `${t} ${c.name}`).toBeLessThan(0);
      }
  });
  it('are five on the lower first molar, four on the other lower ones, two on premolars, one on canines', () => {
    expect(names('46')).toHaveLength(5);
    expect([names('47'), names('48'), names('16'), names('17')].map((n) => n.length)).toEqual([4, 4, 4, 4]);
    expect(names('14').length).toBe(2);
    for (const t of ['13', '33', '53']) expect(names(t), t).toHaveLength(1);
    expect(new Set(names('46')).size).toBe(5);
  });
  it('the mesiolingual cusp of an upper molar is joined to the distofacial one by an oblique ridge; lower ones have none', () => {
    for (const t of ['16', '17', '26'])
      expect(
        planOf(t).ridges.some((r) => r.name === 'oblique'),
        t,
      ).toBe(true);
    for (const t of ['36', '46', '47'])
      expect(
        planOf(t).ridges.some((r) => r.name === 'oblique'),
        t,
      ).toBe(false);
  });
  it('teeth that chew have a central groove and both marginal ridges', () => {
    for (const t of ALL.filter((q) => ['premolar', 'molar'].includes(planOf(q).kind))) {
      const plan = planOf(t);
      expect(plan.groove.length, t).toBeGreaterThanOrEqual(2);
      for (const side of ['mesial', 'distal'])
        expect(
          plan.ridges.some((r) => r.name === side),
          `${t} ${side}`,
        ).toBe(true);
    }
  });
});
