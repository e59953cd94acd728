import { describe, expect, it } from 'vitest';
import { crownContext } from '#core/measure/crown/context.ts';
import { drawTilt } from '#core/measure/crown/draw.ts';
import { marginGingiva } from '#core/measure/crown/margin-gingiva.ts';
import { marginWidth } from '#core/measure/crown/margin-width.ts';
import { reductionAxial } from '#core/measure/crown/reduction-axial.ts';
import { reductionOcclusal } from '#core/measure/crown/reduction-occlusal.ts';
import { taperWall } from '#core/measure/crown/taper-wall.ts';
import { toc } from '#core/measure/crown/toc.ts';
import type { Reading } from '#core/result/reading.ts';
import { takeCrownApart } from '#core/segment/crown.ts';
import { cylinderMaster, frustum, placed } from '../helpers/bench-crown.ts';

const master = cylinderMaster();
const contextOf = (mesh: Parameters<typeof placed>[0]) => crownContext(takeCrownApart(placed(mesh), master));
const value = (readings: Reading[], zone: string | null, stat: string): number => {
  const r = readings.find((q) => q.zone === zone && q.stat === stat);
  if (!r || r.value === null) throw new Error(`no value for ${zone} ${stat}: ${r?.reason}`);
  return r.value;
};

describe.each([
  { width: 1, lean: 6 },
  { width: 0.6, lean: 3 },
  { width: 0.4, lean: 12 },
])('a frustum with a $width mm shoulder and walls leaning $lean degrees', ({ width, lean }) => {
  const c = contextOf(frustum(width, lean));
  it('has that margin width all round', () => {
    for (const stat of ['min', 'median', 'max']) expect(value(marginWidth(c), null, stat)).toBeCloseTo(width, 1.7);
  });
  it('has that taper at every azimuth, and twice of it as convergence', () => {
    expect(value(taperWall(c), null, 'min')).toBeCloseTo(lean, 0.7);
    expect(value(taperWall(c), 'distolingual', 'median')).toBeCloseTo(lean, 0.7);
    for (const r of toc(c)) expect(r.value).toBeCloseTo(2 * lean, 0.5);
  });
  it('stands 1 mm over the gingiva', () => expect(value(marginGingiva(c), 'lingual', 'median')).toBeCloseTo(1, 1.7));
  it('is reduced by 2 mm on top', () => {
    for (const zone of ['MB', 'central groove']) expect(value(reductionOcclusal(c), zone, 'median')).toBeCloseTo(2, 2);
  });
  it('is reduced at the wall by the width plus what the lean takes', () => {
    // The shortest way from a wall point to the cylinder is radial: 5 − r.
    const at = (z: number) => width + (z - 1) * Math.tan((lean * Math.PI) / 180);
    expect(value(reductionAxial(c), 'mesial gingival third', 'median')).toBeCloseTo(at(1 + 4 / 6), 1);
    expect(value(reductionAxial(c), 'mesial mid third', 'median')).toBeCloseTo(at(3), 1.4);
  });
});

describe('a stump that leans', () => {
  const c = contextOf(frustum(0.8, 6, 4));
  it('is drawn along its own axis, towards mesial', () => {
    const r = drawTilt(c)[0];
    expect(r.value).toBeCloseTo(4, 0);
    expect(r.at?.azimuth).toBeCloseTo(90, -1);
  });
  it('keeps its convergence', () => expect(toc(c).find((r) => r.name === 'toc.mesiodistal')?.value).toBeCloseTo(12, 0));
});

it('an uncut tooth has no preparation to measure, and says so', () => {
  const c = contextOf(master.target.mesh);
  for (const m of [marginWidth, taperWall, toc, reductionOcclusal, reductionAxial, drawTilt, marginGingiva])
    for (const r of m(c)) {
      expect(r.value).toBeNull();
      expect(r.reason).toBeTruthy();
    }
});
