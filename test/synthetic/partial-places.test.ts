import { describe, expect, it } from 'vitest';
import { cingulumRecess } from '#core/measure/partial/cingulum-recess.ts';
import { partialContext } from '#core/measure/partial/context.ts';
import { grooveIncisal } from '#core/measure/partial/groove-incisal.ts';
import { groovePlace } from '#core/measure/partial/groove-place.ts';
import { plateThickness } from '#core/measure/partial/plate-thickness.ts';
import { type Mesh, makeMesh } from '#core/mesh/mesh.ts';
import { takeCrownApart } from '#core/segment/crown/crown.ts';
import { boxBench, slotAndBox } from '../helpers/bench-box.ts';
import { cylinderMaster, frustum, placed } from '../helpers/bench-crown.ts';
import { within } from '../helpers/within.ts';

const master = cylinderMaster();
const contextOf = (mesh: Mesh<'tooth'>, of = master) => partialContext(takeCrownApart(placed(mesh), of, { inBox: () => false }));

/** V-shaped grooves 1.2 mm wide and 0.6 deep, straight mesial and distal, from a height on. */
function grooved(from: number): Mesh<'tooth'> {
  const m = frustum(0.8, 4);
  const p = m.positions.slice();
  for (let i = 0; i < p.length; i += 3) {
    const r = Math.hypot(p[i], p[i + 1]);
    const along = Math.abs(Math.atan2(p[i + 1], Math.abs(p[i]))) * r;
    if (p[i + 2] < from || along > 0.6 || r < 2.2) continue;
    const k = (r - 0.6 * (1 - along / 0.6)) / r;
    p[i] *= k;
    p[i + 1] *= k;
  }
  return makeMesh('tooth', p, m.triangles);
}

describe('where a groove lies', () => {
  it.each([1.4, 1.8])('one from z = %s stands that much less 1 over the finish line', (from) => {
    const readings = groovePlace(contextOf(grooved(from))).filter((r) => r.name === 'groove.place.finish');
    expect(readings.map((r) => r.zone)).toEqual(['mesial', 'distal']);
    for (const r of readings) within(r.value, from - 1, 0.12);
  });
  it('has no slice’s edge where the wall runs all round', () => {
    for (const r of groovePlace(contextOf(grooved(1.4))).filter((q) => q.name === 'groove.place.edge'))
      expect(r).toMatchObject({ value: null, reason: 'no-outline' });
  });
  it('is asked for in vain without a groove', () => {
    for (const r of groovePlace(contextOf(frustum(0.8, 5)))) expect(r).toMatchObject({ value: null, reason: 'no-groove-cut' });
  });
});

describe('a groove across the top of an anterior stump', () => {
  const canine = cylinderMaster({ tooth: '13' });
  /** Half-round along x, from groove to groove or as far as `end`; or askew, by `askew` mm to facial for each to mesial. */
  function across(radius: number, end = 9, askew = 0): Mesh<'tooth'> {
    const m = grooved(1.4);
    const p = m.positions.slice();
    for (let i = 0; i < p.length; i += 3) {
      const off = (p[i + 1] - askew * p[i]) / Math.hypot(1, askew);
      if (p[i + 2] > 4.5 && Math.abs(off) < radius && p[i] < end) p[i + 2] -= Math.sqrt(radius ** 2 - off ** 2);
    }
    return makeMesh('tooth', p, m.triangles);
  }
  const read = (mesh: Mesh<'tooth'>) => grooveIncisal(contextOf(mesh, canine)).map((r) => r.value);
  it.each([0.4, 0.55])('of radius %s is twice that wide and joins both grooves', (radius) => {
    const [width, joins] = read(across(radius));
    within(width, 2 * radius, 0.12);
    expect(joins).toBeGreaterThan(0.85);
  });
  it('that runs askew is as wide as its cutter, not as it looks from the side', () => {
    // From the side it would be 17 % wider.
    within(read(across(0.55, 9, 0.6))[0], 1.1, 0.1);
  });
  it('that ends in the middle joins over half the way', () => within(read(across(0.5, 0))[1], 0.5, 0.12));
  it('is not there on a level top, and not asked for on a molar', () => {
    expect(read(grooved(1.4))).toEqual([null, null]);
    expect(grooveIncisal(contextOf(grooved(1.4)))).toEqual([]);
  });
});

it('a hole 1.8 mm behind the middle of a finish line of radius 5 stands 3.2 mm inside of it', () => {
  const m = frustum(0.8, 5);
  const p = m.positions.slice();
  for (let i = 0; i < p.length; i += 3) if (p[i + 2] > 4.9 && Math.hypot(p[i], p[i + 1] + 1.8) < 0.35) p[i + 2] -= 2;
  within(cingulumRecess(contextOf(makeMesh('tooth', p, m.triangles)))[0].value, 3.2, 0.08);
});

describe('the facial plate', () => {
  it.each([2, 3])('in front of a box %s mm wide in a block of 9 mm is what the box leaves', async (wide) => {
    const { master: block, scan } = await boxBench(slotAndBox({ wide }));
    const least = plateThickness(contextOf(scan, block)).find((r) => r.stat === 'min');
    within(least?.value, 4.5 - wide / 2, 0.03);
  });
  it('is none where nothing stands in front', () => {
    const solid = contextOf(frustum(0.8, 5));
    expect(plateThickness(solid).map((r) => r.value)).toEqual([null, null]);
  });
});
