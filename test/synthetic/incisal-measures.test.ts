import { describe, expect, it } from 'vitest';
import { clearance } from '#core/measure/arch/clearance.ts';
import { gaugeCatch } from '#core/measure/arch/gauge-catch.ts';
import { planeIncisal } from '#core/measure/arch/plane-incisal.ts';
import { crownContext } from '#core/measure/crown/context.ts';
import { formCuspCanine } from '#core/measure/crown/form-cusp-canine.ts';
import { incisalAngle } from '#core/measure/crown/incisal-angle.ts';
import { porcelainUnsupported } from '#core/measure/crown/porcelain-unsupported.ts';
import { type Mesh, makeMesh } from '#core/mesh/mesh.ts';
import { takeCrownApart } from '#core/segment/crown/crown.ts';
import { makeSurface } from '#core/spatial/surface.ts';
import { COARSE, cylinderMaster, frustum, placed } from '../helpers/bench-crown.ts';
import { along, plate, revolve } from '../helpers/shapes.ts';
import { within } from '../helpers/within.ts';

const DEG = Math.PI / 180;

/** A frustum 4 mm high whose level top is given another height over (x, y). */
function topped(height: (x: number, y: number) => number): Mesh<'tooth'> {
  const m = frustum(0.8, 6, 0, COARSE);
  const p = m.positions.slice();
  for (let i = 0; i < p.length; i += 3) if (p[i + 2] > 1.5) p[i + 2] = Math.min(p[i + 2], height(p[i], p[i + 1]));
  return makeMesh('tooth', p, m.triangles);
}
type Master = ReturnType<typeof cylinderMaster>;
const contextOf = (mesh: Mesh<'tooth'>, master: Master) => crownContext(takeCrownApart(placed(mesh), master));
/** A plane as the opposing arch: through a point, looking along a direction that has no x. */
function opposite(at: readonly [number, number], look: readonly [number, number]) {
  const m = plate(12, 0, 60);
  const p = m.positions.slice();
  for (let i = 0; i < p.length; i += 3) {
    // The plate's y runs along the plane, square to where it looks.
    const along = p[i + 1];
    p[i + 1] = at[0] + along * look[1];
    p[i + 2] = at[1] - along * look[0];
  }
  return makeSurface(makeMesh('tooth', p, m.triangles));
}

describe('the incisal cut against the opposing tooth', () => {
  const front = (axis: readonly [number, number, number] | null): Master => {
    const master = cylinderMaster({ tooth: '11' });
    return axis ? { ...master, landmarks: { ...master.landmarks, opposingAxes: { '41': axis } } } : master;
  };
  const falling = (degrees: number) =>
    contextOf(
      topped((_, y) => 4.3 + y * Math.tan(degrees * DEG)),
      front([0, 0, -1]),
    );
  it.each([0, 8, -6])('falls to lingual by %i° of square to an axis along its own', (degrees) => {
    within(planeIncisal(falling(degrees))[0].value, 90 + degrees, 0.6);
  });
  it('counts from the plane square to an axis that leans', () => {
    const axis = [0, -Math.sin(5 * DEG), -Math.cos(5 * DEG)] as const;
    within(
      planeIncisal(
        contextOf(
          topped((_, y) => 4.3 + y * Math.tan(8 * DEG)),
          front(axis),
        ),
      )[0].value,
      90 + 8 + 5,
      0.6,
    );
  });
  it('says that the axis is missing, or the plane', () => {
    expect(
      planeIncisal(
        contextOf(
          topped(() => 4.3),
          front(null),
        ),
      )[0],
    ).toMatchObject({ reason: 'no-opposing-axis' });
    const round = topped((_, y) => 4.8 - 8 * y * y);
    expect(planeIncisal(contextOf(round, front([0, 0, -1])))[0]).toMatchObject({ reason: 'no-plane' });
  });
});

describe('corners and tip of an edge', () => {
  it.each([
    ['square', () => 4.5, 0],
    // Falling at 45° from x = 2.4 on, the face stands 2.4 + 1.4 out where it is looked for: 0.9 below the edge 0.5 inward of that.
    ['cut at 45°', (x: number) => 4.5 - Math.max(0, Math.abs(x) - 2.4), 0.9],
  ] as const)('corners that are %s', (_, height, lost) => {
    for (const r of incisalAngle(contextOf(topped(height), cylinderMaster({ tooth: '21' })))) within(r.value, lost, 0.12);
  });
  it('a canine’s slopes of 0.3 mm per mm leave its tip that much over their ends', () => {
    const c = contextOf(
      topped((x) => 4.8 - 0.3 * Math.abs(x)),
      cylinderMaster({ tooth: '13' }),
    );
    // The wall stands 3.8 mm out; four fifths of the edge count.
    within(formCuspCanine(c)[0].value, 0.3 * 0.8 * 3.8, 0.1);
    expect(
      formCuspCanine(
        contextOf(
          topped(() => 4.5),
          cylinderMaster({ tooth: '11' }),
        ),
      ),
    ).toEqual([]);
  });
});

describe('porcelain over a coping', () => {
  it.each(['47', '11'])('on tooth %s the way from full contour to the cut, less the coping', (tooth) => {
    const readings = porcelainUnsupported(contextOf(frustum(0.8, 6, 0, COARSE), cylinderMaster({ tooth })));
    within(readings.find((r) => r.name === 'porcelain.unsupported(0.3)')?.value, 1.7, 0.05);
    within(readings.find((r) => r.name === 'porcelain.unsupported(0.5)')?.value, 1.5, 0.05);
  });
});

describe('a gauge on its way through', () => {
  const master = cylinderMaster();
  const rise = 10 * DEG;
  /** A plane over the middle at that height, rising to facial by 10°. */
  const under = (height: number) =>
    contextOf(frustum(0.8, 6, 0, COARSE), { ...master, opposing: opposite([0, height], [Math.sin(rise), -Math.cos(rise)]) });
  const way = (c: ReturnType<typeof under>, t: string, side: string) =>
    gaugeCatch(c).find((r) => r.name === `gauge.catch(${t})` && r.zone === side);
  const narrow = under(6.6);
  const edge = 4.2 - 4 * Math.tan(6 * DEG);
  it.each([
    ['1.0', 1],
    ['1.5', 1.5],
    ['2.0', 2],
  ] as const)('of %s mm is caught from facial where the gap has closed to that', (name, t) => {
    const y = (t / Math.cos(rise) + 5 - 6.6) / Math.tan(rise);
    within(way(narrow, name, 'facial')?.value, edge - y, 0.25);
  });
  it('is caught at once from lingual where the gap is narrowest', () => within(way(narrow, '1.5', 'lingual')?.value, 0, 0.1));
  it('goes through under a plane that leaves room', () =>
    expect(way(under(8), '1.5', 'facial')).toMatchObject({ value: null, reason: 'passes' }));
});

it('clearance of the cingulum is the way to what stands behind the wall’s end', () => {
  const master = { ...cylinderMaster({ tooth: '11' }), opposing: opposite([-6, 4], [1, 0]) };
  const r = clearance(contextOf(frustum(0.8, 6, 0, COARSE), master)).find((q) => q.name === 'clearance.static' && q.zone === 'cingulum');
  // The wall ends at z = 5; 0.4 mm under that it stands 4.2 − 3.6 tan 6° from the axis.
  within(r?.value, 6 - (4.2 - 3.6 * Math.tan(6 * DEG)), 0.08);
});

describe('an opposing cusp, a cone of 45° that points down over the middle', () => {
  /** Its tip at that height and x; the stump's level top stands at 5. */
  const under = (height: number, x = 2) => {
    const cone = revolve(
      along([
        [3, height + 3],
        [0, height],
      ]),
    );
    const p = cone.positions.map((v, i) => v + [x, 2, 0][i % 3]);
    const master = { ...cylinderMaster(), opposing: makeSurface(makeMesh('tooth', p, cone.triangles)) };
    return clearance(contextOf(frustum(0.8, 6, 0, COARSE), master));
  };
  const least = (readings: ReturnType<typeof under>, name: string) => readings.find((r) => r.name === name && r.zone === 'MB')?.value;
  it('that ends 1 mm over it leaves that room', () => within(least(under(6), 'clearance.static'), 1, 0.03));
  it('that stands 1 mm deep in it is met with its whole depth, though places beside it are clear', () =>
    within(least(under(4), 'clearance.static'), -Math.SQRT1_2, 0.05));
  it('that glides over the stump is met where it is deepest on its way', () => {
    // A lower tooth: with the jaw forward the upper arch runs back by 1.73 mm and up by 1. The zone is a disc of 1.25 mm in the level top.
    const [x, z] = [3.6, 4.3];
    const depths = Array.from({ length: 9 }, (_, i) => i / 8).map((share) => {
      const away = Math.max(0, x - 2 * Math.cos(30 * DEG) * share - 2 - 1.25);
      return (5 - z - share - away) * Math.SQRT1_2;
    });
    expect(Math.max(...depths)).toBeGreaterThan(depths[0] + 0.05);
    within(least(under(z, x), 'clearance.protrusive'), -Math.max(...depths), 0.05);
  });
});
