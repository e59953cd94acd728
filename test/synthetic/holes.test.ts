import { describe, expect, it } from 'vitest';
import { azimuthOf } from '#core/linalg/sectors.ts';
import { crownContext } from '#core/measure/crown/context.ts';
import { marginWidth } from '#core/measure/crown/margin-width.ts';
import { taperWall } from '#core/measure/crown/taper-wall.ts';
import { wallHeight } from '#core/measure/crown/wall-height.ts';
import { type Mesh, makeMesh } from '#core/mesh/mesh.ts';
import type { Reading } from '#core/result/reading.ts';
import { takeCavityApart } from '#core/segment/cavity/cavity.ts';
import { takeCrownApart } from '#core/segment/crown/crown.ts';
import { tableMaster, trough } from '../helpers/bench-cavity.ts';
import { cylinderMaster, frustum, placed } from '../helpers/bench-crown.ts';

/** The scan without the triangles whose middle lies in some place. */
function holed(m: Mesh<'tooth'>, gone: (x: number, y: number, z: number) => boolean): Mesh<'tooth'> {
  const kept: number[] = [];
  for (let f = 0; f < m.triangles.length; f += 3) {
    const c = [0, 1, 2].map((k) => [0, 1, 2].reduce((s, i) => s + m.positions[3 * m.triangles[f + i] + k] / 3, 0));
    if (!gone(c[0], c[1], c[2])) kept.push(m.triangles[f], m.triangles[f + 1], m.triangles[f + 2]);
  }
  return makeMesh('tooth', m.positions, Uint32Array.from(kept));
}

const master = cylinderMaster();
/** A shoulder of 1 mm all round at z = 1, walls leaning by 6°. */
const whole = frustum(1, 6);
const contextOf = (gone: Parameters<typeof holed>[1]) => crownContext(takeCrownApart(placed(holed(whole, gone)), master));
const find = (readings: Reading[], zone: string | null, stat: string) =>
  readings.find((r) => r.zone === zone && r.stat === stat) as Reading;
const within = (x: number, y: number, centre: number, half: number) => Math.abs(((azimuthOf(x, y) - centre + 540) % 360) - 180) < half;

describe('a hole in a wall', () => {
  const c = contextOf((x, y, z) => within(x, y, 90, 12) && z > 1.8 && z < 2.6);
  it('is carried across: the wall’s taper and the margin’s width stay what they are', () => {
    expect(find(taperWall(c), 'mesial', 'median').value).toBeCloseTo(6, 0);
    expect(find(marginWidth(c), 'mesial', 'max').value).toBeCloseTo(1, 1);
    expect(find(marginWidth(c), 'mesial', 'median').coverage).toBeCloseTo(1, 1);
  });
  it('does not shorten the wall', () => expect(find(wallHeight(c), 'mesial', 'min').value as number).toBeGreaterThan(3));
});

describe('a hole across the finish line', () => {
  const edge = (half: number) => contextOf((x, y, z) => within(x, y, 180, half) && z > 0.6 && z < 1.4 && Math.hypot(x, y) > 4.6);
  it('leaves that place unread, and the rest of the side as it is', () => {
    const c = edge(8);
    expect(c.anatomy.profiles[90]).toBeNull();
    const r = find(marginWidth(c), 'lingual', 'median');
    expect(r.value).toBeCloseTo(1, 1);
    expect(r.coverage).toBeGreaterThan(0.75);
    expect(r.coverage).toBeLessThan(0.9);
  });
  it('gives no value once half of the side is missing', () => {
    const r = find(marginWidth(edge(26)), 'lingual', 'median');
    expect([r.value, r.reason]).toEqual([null, 'no-finish-line']);
  });
});

describe('a floor that runs into a hole at its mesial end', () => {
  // A deeper step at the mesial end, its end wall unseen: it may open on the tooth's side as well as not.
  const bench = trough(5, 2, 1.5, 5);
  const deep = makeMesh(
    'tooth',
    bench.positions.map((v, i) => (i % 3 === 2 && bench.positions[i - 2] > 1.4 && v < 5.6 ? v - 1.5 : v)),
    bench.triangles,
  );
  it('is no part of the pulpal floor', () => {
    const a = takeCavityApart(placed(holed(deep, (x) => x > 2.45 && x < 2.9)), tableMaster());
    expect(a.pulpal?.centre[2]).toBeCloseTo(5.5, 1);
    expect(a.pulpal?.plane.flat as number).toBeLessThan(0.05);
  });
});
