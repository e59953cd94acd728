import { describe, expect, it } from 'vitest';
import { bevelOpposing } from '#core/measure/arch/bevel-opposing.ts';
import { cuspIncline } from '#core/measure/arch/cusp-incline.ts';
import { lineCusps } from '#core/measure/arch/line-cusps.ts';
import { crownContext } from '#core/measure/crown/context.ts';
import { makeMesh } from '#core/mesh/mesh.ts';
import { takeCrownApart } from '#core/segment/crown/crown.ts';
import { makeSurface } from '#core/spatial/surface.ts';
import { cylinderMaster, frustum, placed, stump } from '../helpers/bench-crown.ts';
import { within } from '../helpers/within.ts';

const master = cylinderMaster();

describe('against its arch', () => {
  /** Walls of 6° to z = 4, a bevel of 45° and 1 mm over them, a flat top at 4.71. */
  const bevelled: Parameters<typeof stump>[0] = [
    [0, 4 + Math.SQRT1_2],
    [3.9 - Math.SQRT1_2, 4 + Math.SQRT1_2],
    [3.9, 4],
    [4.2, 1],
    [5, 1],
    [5, -1.5],
  ];
  const cusps = [
    { name: 'MB', role: 'functional', at: [1.6, 2.6, 7] },
    { name: 'DB', role: 'functional', at: [-1.6, 2.6, 7] },
    { name: 'ML', role: 'non-functional', at: [1.6, -2.6, 7] },
    { name: 'DL', role: 'non-functional', at: [-1.6, -2.6, 7] },
  ] as const;
  const neighbourCusps = {
    mesial: [
      [9, 2.1, 7],
      [9, -2.5, 7],
    ],
    distal: [
      [-9, 2.1, 7],
      [-9, -2.5, 7],
    ],
  } as const;
  /** An opposing plane through (0, 3.9, 6) that rises by so many degrees to lingual, and so faces a bevel whose normal leans to facial. */
  const opposing = (rise: number): NonNullable<typeof master.opposing> => {
    const flat = cylinderMaster({ opposingAt: 0 }).opposing as NonNullable<typeof master.opposing>;
    const t = Math.tan((rise * Math.PI) / 180);
    const p = flat.mesh.positions.slice();
    for (let i = 0; i < p.length; i += 3) p[i + 2] = 6 - t * (p[i + 1] - 3.9);
    return makeSurface(makeMesh('tooth', p, flat.mesh.triangles));
  };
  const context = (more: Partial<typeof master> = {}) =>
    crownContext(
      takeCrownApart(placed(stump(bevelled)), { ...master, landmarks: { ...master.landmarks, cusps, neighbourCusps }, ...more }),
    );

  it.each([35, 45, 58])('a bevel of 45° under inclines of %i° lies that much off them', (rise) => {
    const [r] = bevelOpposing(context({ opposing: opposing(rise) }));
    // The cusps' bevels face 32° to either side of facial: cos of the angle between the normals by the scalar product.
    const [a, b, phi] = [45, rise, Math.atan2(1.6, 2.6)].map((v, i) => (i < 2 ? (v * Math.PI) / 180 : v));
    const angle = Math.acos(Math.cos(a) * Math.cos(phi) * Math.sin(b) + Math.sin(a) * Math.cos(b));
    within(r.value, (angle * 180) / Math.PI, 1);
  });
  it('without an opposing arch, or one within reach, there is nothing to compare', () => {
    expect(bevelOpposing(context())[0]).toMatchObject({ value: null, reason: 'no-opposing' });
    expect(bevelOpposing(crownContext(takeCrownApart(placed(frustum(0.8, 6)), master)))[0].value).toBeNull();
  });
  it('the bevel’s edge stands off the neighbours’ row by the difference, + to facial', () => {
    const edge = lineCusps(context()).find((r) => r.name === 'line.cusps.bevel');
    // Edge: a circle of 3.19 about the axis; its mean y over the cusps' 18° to both sides by the integral of the cosine.
    const [r, phi, half] = [3.9 - Math.SQRT1_2, Math.atan2(1.6, 2.6), Math.PI / 10];
    const y = (r * (Math.sin(phi + half) - Math.sin(phi - half))) / (2 * half);
    within(edge?.value ?? null, y - 2.1, 0.06);
  });
  it('a flat cut lies 0° off level cusps, and says that its cusps have no one tip', () => {
    const c = context();
    for (const q of cuspIncline(c)) within(q.value, 0, 0.3);
    const tip = lineCusps(c).find((r) => r.zone === 'MB');
    expect(tip?.value === null ? 0 : tip?.U).toBeGreaterThan(0.5);
  });
  it('tips that rise by 1 in 10 to facial make a level cut lie 5.7° off', () => {
    const risen = cusps.map((q) => ({ ...q, at: [q.at[0], q.at[1], 7 + q.at[1] / 10] as const }));
    const c = context({ landmarks: { ...master.landmarks, cusps: risen } });
    for (const q of cuspIncline(c)) within(q.value, (Math.atan(0.1) * 180) / Math.PI, 0.3);
  });
  it('says which landmark is missing', () => {
    const reasons = lineCusps(context({ landmarks: { ...master.landmarks, cusps } })).map((r) => r.value === null && r.reason);
    expect(new Set(reasons)).toEqual(new Set(['no-neighbour-cusps']));
  });
});
