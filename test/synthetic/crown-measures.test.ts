import { describe, expect, it } from 'vitest';
import { clearance, gaugePass } from '#core/measure/arch/clearance.ts';
import { bevels } from '#core/measure/crown/bevel.ts';
import { crownContext } from '#core/measure/crown/context.ts';
import { drawTilt } from '#core/measure/crown/draw.ts';
import { edgeSharp } from '#core/measure/crown/edge-sharp.ts';
import { formLingual } from '#core/measure/crown/form-lingual.ts';
import { formOcclusal } from '#core/measure/crown/form-occlusal.ts';
import { marginCej } from '#core/measure/crown/margin-cej.ts';
import { marginEven } from '#core/measure/crown/margin-even.ts';
import { marginExit } from '#core/measure/crown/margin-exit.ts';
import { marginForm } from '#core/measure/crown/margin-form.ts';
import { marginGingiva } from '#core/measure/crown/margin-gingiva.ts';
import { marginLip } from '#core/measure/crown/margin-lip.ts';
import { marginWander } from '#core/measure/crown/margin-wander.ts';
import { marginWidth } from '#core/measure/crown/margin-width.ts';
import { planesFacial } from '#core/measure/crown/planes-facial.ts';
import { reductionAxial } from '#core/measure/crown/reduction-axial.ts';
import { reductionIncisal } from '#core/measure/crown/reduction-incisal.ts';
import { reductionOcclusal } from '#core/measure/crown/reduction-occlusal.ts';
import { reductionSites } from '#core/measure/crown/reduction-sites.ts';
import { resistance } from '#core/measure/crown/resistance.ts';
import { surfaceRough } from '#core/measure/crown/surface-rough.ts';
import { taperEven } from '#core/measure/crown/taper-even.ts';
import { taperWall } from '#core/measure/crown/taper-wall.ts';
import { toc } from '#core/measure/crown/toc.ts';
import { undercut } from '#core/measure/crown/undercut.ts';
import { wallHeight } from '#core/measure/crown/wall-height.ts';
import { finishScatter } from '#core/measure/uncertainty/finish-scatter.ts';
import { makeMesh } from '#core/mesh/mesh.ts';
import type { Reading } from '#core/result/reading.ts';
import { takeCrownApart } from '#core/segment/crown/crown.ts';
import { cylinderMaster, frustum, placed, rough, stump } from '../helpers/bench-crown.ts';
import { within } from '../helpers/within.ts';

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
    for (const stat of ['min', 'median', 'max']) within(value(marginWidth(c), null, stat), width, 0.01);
  });
  it('has that taper at every azimuth, and twice of it as convergence', () => {
    within(value(taperWall(c), null, 'min'), lean, 0.1);
    within(value(taperWall(c), 'distolingual', 'median'), lean, 0.1);
    for (const r of toc(c)) within(r.value, 2 * lean, 0.16);
  });
  it('is even all round, seen all round, and leans nowhere', () => {
    const [even, thinnest, seen] = marginEven(c);
    expect(even.value).toBeLessThan(0.01);
    within(thinnest.value, width, 0.01);
    expect(seen.value).toBe(1);
    const [spread, whole] = taperEven(c);
    expect(spread.value).toBeLessThan(0.15);
    expect(whole.value).toBeLessThan(0.1);
  });
  it('stands 1 mm over the gingiva', () => within(value(marginGingiva(c), 'lingual', 'median'), 1, 0.01));
  it('is reduced by 2 mm on top', () => {
    for (const zone of ['MB', 'central groove']) expect(value(reductionOcclusal(c), zone, 'median')).toBeCloseTo(2, 2);
  });
  it('is reduced at the wall by the width plus what the lean takes', () => {
    // The shortest way from a wall point to the cylinder is radial: 5 − r.
    const at = (z: number) => width + (z - 1) * Math.tan((lean * Math.PI) / 180);
    expect(value(reductionAxial(c), 'mesial gingival third', 'median')).toBeCloseTo(at(1 + 4 / 6), 1);
    within(value(reductionAxial(c), 'mesial mid third', 'median'), at(3), 0.02);
  });
});

describe('a stump that leans', () => {
  const c = contextOf(frustum(0.8, 6, 4));
  it('is drawn along its own axis, towards mesial', () => {
    const r = drawTilt(c)[0];
    expect(r.value).toBeCloseTo(4, 0);
    expect(Math.abs((r.at?.azimuth ?? 0) - 90)).toBeLessThan(3);
  });
  it('leans 4° as a whole, to mesial', () => {
    const whole = taperEven(c).find((r) => r.name === 'lean.whole');
    within(whole?.value, 4, 0.15);
    expect(Math.abs((whole?.at?.azimuth ?? 0) - 90)).toBeLessThan(3);
  });
  it('keeps its convergence', () => expect(toc(c).find((r) => r.name === 'toc.mesiodistal')?.value).toBeCloseTo(12, 0));
});

it('a margin whose width runs with the cosine of the azimuth spreads by what its quantiles say', () => {
  // The stump stands 0.2 mm to facial of its shoulder's middle: width = 0.8 − 0.2 cos φ, so its 95 % and 5 % lie 0.4 cos 9° apart.
  const m = frustum(0.8, 6);
  const positions = m.positions.slice();
  for (let i = 0; i < positions.length; i += 3) {
    const inside = Math.hypot(positions[i], positions[i + 1]);
    if (positions[i + 2] > 1 - 1e-9 && inside < 4.3) positions[i + 1] += 0.2;
  }
  const [even, thinnest] = marginEven(contextOf({ ...m, positions }));
  within(even.value, 0.4 * Math.cos((9 * Math.PI) / 180), 0.03);
  within(thinnest.value, 0.6, 0.02);
  expect(Math.min(thinnest.at?.azimuth ?? 90, 360 - (thinnest.at?.azimuth ?? 90))).toBeLessThan(20);
});

it('a wall that stands out over its margin hides it from the path of insertion', () => {
  // 12° outward over 4 mm: the top stands 0.85 mm beyond the foot, 0.45 mm beyond the finish line.
  const r = marginEven(contextOf(frustum(0.4, -12)))[2];
  expect(r).toMatchObject({ name: 'margin.visible', value: 0 });
});

it('a finish line at 1 over a junction at −0.5 stands 1.5 mm above it; a master without one says where to draw it', () => {
  const c = contextOf(frustum(0.8, 6));
  expect(marginCej(c)).toEqual(expect.arrayContaining([expect.objectContaining({ value: null, reason: 'no-cej' })]));
  const cej = Array.from({ length: 36 }, (_, i) => [5 * Math.cos(i / 5.73), 5 * Math.sin(i / 5.73), -0.5] as const);
  const own = { ...c, anatomy: { ...c.anatomy, master: { ...master, landmarks: { ...master.landmarks, cej } } } };
  for (const zone of [null, 'facial', 'distal']) within(value(marginCej(own), zone, 'median'), 1.5, 0.02);
});

it('an uncut tooth has no preparation to measure, and says so', () => {
  const c = contextOf(master.target.mesh);
  for (const m of [marginWidth, marginEven, taperEven, taperWall, toc, reductionOcclusal, reductionAxial, drawTilt, marginGingiva])
    for (const r of m(c)) {
      expect(r.value).toBeNull();
      expect(r.reason).toBeTruthy();
    }
});

const all = (corners: Parameters<typeof stump>[0], of = master) => crownContext(takeCrownApart(placed(stump(corners)), of));
const one = (readings: Reading[], name: string, zone: string | null, stat: string): number =>
  value(
    readings.filter((r) => r.name === name),
    zone,
    stat,
  );
const tan = (degrees: number): number => Math.tan((degrees * Math.PI) / 180);

describe('a frustum on a square shoulder, wall 4 mm high at 6 degrees', () => {
  const c = contextOf(frustum(0.8, 6));
  it('leaves the surface at 90 degrees', () => expect(Math.abs(one(marginExit(c), 'margin.exit', null, 'median') - 90)).toBeLessThan(1));
  it('has no lip, and a finish line that neither wanders nor steps', () => {
    expect(one(marginLip(c), 'margin.lip', null, 'max')).toBeLessThan(0.01);
    expect(one(marginWander(c), 'margin.wander', null, 'value')).toBeLessThan(0.01);
    expect(one(marginWander(c), 'margin.step', null, 'max')).toBeLessThan(0.02);
  });
  it('is a shoulder all round', () => expect(one(marginForm(c), 'margin.form', 'shoulder', 'share')).toBeGreaterThan(0.95));
  it('is 4 mm high, 0.4 of its base', () => {
    expect(one(wallHeight(c), 'wall.height', null, 'mean')).toBeCloseTo(4, 1);
    within(one(wallHeight(c), 'wall.height.ratio', null, 'value'), 0.4, 0.016);
  });
  it('has no undercut', () => expect(one(undercut(c), 'undercut.depth', null, 'max')).toBe(0));
  it('has one facial plane and no bevel', () => {
    expect(one(planesFacial(c), 'planes.facial', null, 'count')).toBe(1);
    for (const r of bevels(c)) expect(r.reason).toMatch(/no-bevel|no-landmark/);
  });
  it('has a square edge round its top', () =>
    expect(Math.abs(one(edgeSharp(c), 'edge.sharp', null, 'value') / (2 * Math.PI * (4.2 - 4 * tan(6))) - 1)).toBeLessThan(0.1));
  it('is smooth', () => expect(one(surfaceRough(c), 'surface.rough', 'wall', 'median')).toBeLessThan(0.003));
  it('follows the level top', () => {
    expect(one(formOcclusal(c), 'form.occlusal', null, 'median')).toBeLessThan(1.5);
  });
  it('reads 2 mm at every site under the level top', () => {
    for (const site of ['mesial functional', 'middle groove', 'distal functional'])
      expect(one(reductionSites(c), 'reduction.sites', site, 'value')).toBeCloseTo(2, 2);
  });
  it('resists only where its wall is steeper than the arc of a tipping crown', () => {
    // In the plane through the axis the far wall, 9.2 mm off, resists from (9.2 / 2) · sin 12° = 0.96 mm upward; to the sides it lies nearer.
    const least = ((9.2 / 2) * Math.sin((12 * Math.PI) / 180)) / 4;
    const share = one(resistance(c), 'resistance.share', null, 'mean');
    expect(share).toBeGreaterThan(1 - 1.35 * least - 0.05);
    expect(share).toBeLessThan(1 - 0.6 * least + 0.05);
    // Walls 4 mm high on a base 10 mm wide: half of the wall resists up to ½ asin(0.4) = 11.8°.
    expect(Math.abs(one(resistance(c), 'resistance.taper', null, 'min') - 11.79)).toBeLessThan(0.5);
  });
  it('clears a level opposing arch by what stands between', () => {
    const clear = crownContext(takeCrownApart(placed(frustum(0.8, 6)), cylinderMaster({ opposingAt: 6.3 })));
    const readings = clearance(clear);
    expect(one(readings, 'clearance.static', 'MB', 'min')).toBeCloseTo(1.3, 2);
    expect(one(readings, 'clearance.protrusive', 'MB', 'min')).toBeCloseTo(1.3, 2);
    const gauges = gaugePass(readings);
    expect([1, 1.5, 2].map((t) => one(gauges, `gauge.pass(${t.toFixed(1)})`, 'MB', 'value'))).toEqual([1, 0, 0]);
  });
});

describe('faults on a stump', () => {
  it('walls that lean out hide what they overhang', () => {
    const c = all([
      [0, 5],
      [4.2 + 4 * tan(3), 5],
      [4.2, 1],
      [5, 1],
      [5, -1.5],
    ]);
    const hidden = one(undercut(c), 'undercut.depth', 'long axis', 'max');
    expect(Math.abs(hidden - 4 * tan(3))).toBeLessThan(0.03);
    within(one(taperWall(c), 'taper.wall', null, 'median'), -3, 0.1);
  });
  it('a floor that dips under its own edge has a lip of that height', () => {
    const c = all([
      [0, 5],
      [4 - 3.9 * tan(5), 5],
      [4, 1.1],
      [4.2, 0.9],
      [4.75, 0.88],
      [5, 1.02],
      [5, -1.5],
    ]);
    expect(Math.abs(one(marginLip(c), 'margin.lip', null, 'median') - 0.13)).toBeLessThan(0.04);
    expect(one(marginForm(c), 'margin.form', 'lipped', 'share')).toBeGreaterThan(0.9);
    // Its crest is what a scan blunts: everything read at the finish line is the less sure for it.
    const plain = contextOf(frustum(0.8, 6));
    for (const off of finishScatter(c)) expect(off as number).toBeGreaterThan(0.05);
    for (const off of finishScatter(plain)) expect(off as number).toBeLessThan(0.02);
    const sure = (of: typeof c) => marginGingiva(of).find((r) => r.zone === 'facial' && r.stat === 'median')?.U as number;
    expect(sure(c)).toBeGreaterThan(2 * sure(plain));
  });
  it('two planes are two, and bend by what stands between them', () => {
    const c = all([
      [0, 5.5],
      [2.6, 5.5],
      [4 - 2 * tan(4), 3],
      [4, 1],
      [5, 1],
      [5, -1.5],
    ]);
    expect(one(planesFacial(c), 'planes.facial', null, 'count')).toBe(2);
    const second = (Math.atan2(4 - 2 * tan(4) - 2.6, 2.5) * 180) / Math.PI;
    expect(Math.abs(one(planesFacial(c), 'planes.facial.angle', null, 'value') - (second - 4))).toBeLessThan(1.5);
  });
  it('a bevel over the cusp reads its angle and width', () => {
    const c = all([
      [0, 5.2],
      [2.9, 5.2],
      [3.9, 4.2],
      [4.2, 1],
      [5, 1],
      [5, -1.5],
    ]);
    expect(Math.abs(one(bevels(c), 'bevel.functional.angle', null, 'value') - 45)).toBeLessThan(4);
    expect(Math.abs(one(bevels(c), 'bevel.functional.width', null, 'value') - Math.SQRT2)).toBeLessThan(0.25);
  });
  it('a rounded edge is not sharp', () => {
    const corner = Array.from({ length: 9 }, (_, i): [number, number] => [
      3.4 + 0.4 * Math.sin((i * Math.PI) / 16),
      4.6 + 0.4 * Math.cos((i * Math.PI) / 16),
    ]);
    expect(one(edgeSharp(all([[0, 5], ...corner, [4.2, 1], [5, 1], [5, -1.5]])), 'edge.sharp', null, 'value')).toBe(0);
  });
});

describe('an anterior stump', () => {
  const anterior = cylinderMaster({ tooth: '11' });
  const c = crownContext(takeCrownApart(placed(frustum(0.8, 6)), anterior));
  it('is shortened by 2 mm along the axis', () => within(one(reductionIncisal(c), 'reduction.incisal', null, 'value'), 2, 0.016));
  it('has a lingual wall that meets the facial one at twice the lean', () => {
    expect(one(formLingual(c), 'form.lingual.angle', null, 'value')).toBeCloseTo(12, 0);
    expect(Math.abs(one(formLingual(c), 'form.lingual.height', null, 'value') - 4)).toBeLessThan(0.2);
  });
  it.each([
    ['hollow by 0.3 mm', 0.3, 0.3],
    ['straight', 0, 0],
    ['bulging by 0.3 mm', -0.3, 0],
  ])('with a fossa %s reads how hollow it is', (_, sagitta, hollow) => {
    // An arc between the wall's end and the edge, 0.1 mm under which the straightedge lies.
    const [from, to] = [
      [3.9, 2.8],
      [1, 5],
    ];
    const [dr, dz] = [to[0] - from[0], to[1] - from[1]];
    const l = Math.hypot(dr, dz);
    const arc = Array.from({ length: 25 }, (_, i): [number, number] => {
      const s = 1 - i / 24;
      const inward = 4 * sagitta * s * (1 - s);
      return [from[0] + s * dr - (inward * dz) / l, from[1] + s * dz + (inward * dr) / l];
    });
    const cut = crownContext(takeCrownApart(placed(stump([[0, 5], ...arc, [4.1, 1], [5, 1], [5, -1.5]])), anterior));
    expect(Math.abs(one(formLingual(cut), 'form.lingual.concavity', null, 'value') - hollow)).toBeLessThan(0.03);
    expect(Math.abs(one(formLingual(cut), 'form.lingual.height', null, 'value') - 1.8)).toBeLessThan(0.2);
  });
  it('has no occlusal form, sites or bevels to read', () => {
    for (const m of [formOcclusal, bevels]) expect(m(c)).toEqual([]);
  });
});

/** Corners of a stump whose floor rises inward by `slope` degrees to a wall that leans `lean`. */
const sloped = (width: number, slope: number, lean: number): [number, number][] => {
  const tan = (degrees: number): number => Math.tan((degrees * Math.PI) / 180);
  const foot: [number, number] = [5 - width, 1 + width * tan(slope)];
  return [[0, 5], [foot[0] - (5 - foot[1]) * tan(lean), 5], foot, [5, 1], [5, -1.5]];
};
/** The same with a circle that is tangent to the floor at the edge and to the wall: the corner of both is where it was. */
const chamfered = (width: number, lean: number): [number, number][] => {
  const l = (lean * Math.PI) / 180;
  const foot = 5 - width;
  const radius = width * Math.tan((Math.PI / 2 + l) / 2);
  const centre = [foot - width * Math.sin(l) + radius * Math.cos(l), 1 + width * Math.cos(l) + radius * Math.sin(l)];
  const arc = Array.from({ length: 31 }, (_, i): [number, number] => {
    // From the wall (normal pointing outward along its own) down to straight under the centre.
    const a = Math.PI + l + ((Math.PI / 2 - l) * i) / 30;
    return [centre[0] + radius * Math.cos(a), centre[1] + radius * Math.sin(a)];
  });
  return [[0, 5], [foot - 4 * Math.tan(l), 5], ...arc, [5, -1.5]];
};

describe.each([0, 0.02])('the width of any margin, at %f mm of noise', (noise) => {
  const widthOf = (corners: [number, number][]): number =>
    value(marginWidth(contextOf(noise ? rough(stump(corners), noise) : stump(corners))), null, 'median');
  const within = noise ? 0.02 : 0.006;
  it.each([
    [0.4, 10, 10],
    [0.6, 25, 3],
    [1, 25, 10],
    [0.6, 40, 10],
  ])('a shoulder of %f mm that rises %i° to a wall of %i°', (width, slope, lean) =>
    expect(Math.abs(widthOf(sloped(width, slope, lean)) - width)).toBeLessThan(within),
  );
  it.each([
    [0.4, 2],
    [0.4, 6],
    [0.6, 12],
    [0.8, 6],
  ])('a chamfer of %f mm under a wall of %i°', (width, lean) =>
    expect(Math.abs(widthOf(chamfered(width, lean)) - width)).toBeLessThan(within),
  );
});

describe('a stump with an edge like an incisor’s', () => {
  /** A roof along the mesial–distal line, its crest beside the axis: half planes on both sides run along it. */
  const roofed = (noise: number) => {
    const m = frustum(0.8, 5);
    const positions = m.positions.slice();
    for (let i = 0; i < positions.length; i += 3)
      positions[i + 2] = Math.min(positions[i + 2], 5 - 0.9 * Math.abs(positions[i + 1] - 0.25));
    return rough(makeMesh('tooth', positions, m.triangles), noise);
  };
  it.each([0, 0.02, 0.03])('has no undercut at %f mm of noise', (noise) => {
    for (const r of undercut(contextOf(roofed(noise)))) expect(r.value, `${r.name} ${r.zone}`).toBe(0);
  });
  it('has one where its walls lean out below the edge', () => {
    const deep = contextOf(frustum(1.2, -4));
    expect(one(undercut(deep), 'undercut.depth', 'long axis', 'max')).toBeGreaterThan(0.2);
  });
});
