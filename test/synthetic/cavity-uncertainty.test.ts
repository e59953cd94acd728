import { describe, expect, it } from 'vitest';
import { depthPulpal } from '#core/measure/cavity/depth-pulpal.ts';
import { floorForm } from '#core/measure/cavity/floor-form.ts';
import { outlineCusp } from '#core/measure/cavity/outline-cusp.ts';
import { outlineIsthmus } from '#core/measure/cavity/outline-isthmus.ts';
import { wallAngle } from '#core/measure/cavity/wall-angle.ts';
import { cornerError, edgeError } from '#core/measure/uncertainty/outline-error.ts';
import { makeMesh } from '#core/mesh/mesh.ts';
import type { Reading } from '#core/result/reading.ts';
import { type CavityAnatomy, takeCavityApart } from '#core/segment/cavity/cavity.ts';
import type { OutlinePoint } from '#core/segment/cavity/outline.ts';
import { tableMaster, trough } from '../helpers/bench-cavity.ts';
import { placed, rough } from '../helpers/bench-crown.ts';
import { within } from '../helpers/within.ts';

const master = tableMaster();
const [length, width, depth, lean] = [4, 1.6, 2, 6];
const out = depth * Math.tan((lean * Math.PI) / 180);
/** True values of the trough, from its own dimensions. */
const TRUE: readonly [string, string | null, string, number][] = [
  ['depth.pulpal', null, 'p05', depth],
  ['depth.pulpal', null, 'median', depth],
  ['depth.pulpal', null, 'p95', depth],
  ['outline.isthmus', null, 'min', width + 2 * out],
  ['outline.cusp', 'MB', 'min', 3 - width / 2 - out],
  ['wall.angle', 'facial', 'mean', -lean],
  ['wall.angle', 'lingual', 'mean', -lean],
];
const readingsOf = (a: CavityAnatomy): Reading[] => [
  ...depthPulpal(a),
  ...outlineIsthmus(a),
  ...outlineCusp(a),
  ...wallAngle(a),
  ...floorForm(a),
];
const scans = [0.01, 0.02, 0.03].flatMap((noise) =>
  [1, 2, 3, 4].map((seed) => ({
    noise,
    a: takeCavityApart({ ...placed(rough(trough(length, width, depth, lean), noise, seed)), noise, rms: noise }, master),
  })),
);
const of = (
  a: CavityAnatomy,
  [name, zone, stat]: readonly [string, string | null, string, number],
): Reading & { value: number; U: number } =>
  readingsOf(a).find((r) => r.name === name && r.zone === zone && r.stat === stat) as Reading & { value: number; U: number };

describe('U of a cavity from its own scan', () => {
  it('holds the true value in at least nine scans of ten', () => {
    const missed = scans.flatMap(({ a, noise }) =>
      TRUE.flatMap((t) =>
        Math.abs(of(a, t).value - t[3]) <= of(a, t).U ? [] : [`${noise} ${t.join(' ')}: ${of(a, t).value} ± ${of(a, t).U}`],
      ),
    );
    expect(missed.length / (scans.length * TRUE.length), missed.join('\n')).toBeLessThan(0.1);
  });
  it('grows with the scan’s noise', () => {
    for (const t of TRUE) {
      const mean = (noise: number): number => scans.filter((s) => s.noise === noise).reduce((sum, s) => sum + of(s.a, t).U, 0) / 4;
      expect(mean(0.03), t[0]).toBeGreaterThan(mean(0.01));
    }
  });
  it('of an edge is larger where the scan is rougher', () => {
    const at = (noise: number): number => edgeError(scans.find((s) => s.noise === noise)?.a as CavityAnatomy, null);
    expect(at(0.03)).toBeGreaterThan(1.5 * at(0.01));
  });
  it.each([0.4, 0.5])('of an edge says that a chattering cutter left waves %s mm long on the walls under it', (wave) => {
    // The rim stays where it is: the waves begin with nothing there.
    const mesh = rough(trough(length, width, depth, lean), 0.02, 5);
    const top = Math.max(...mesh.positions.filter((_, i) => i % 3 === 2));
    const positions = mesh.positions.map((q, i) => {
      const under = top - mesh.positions[i - (i % 3) + 2];
      const isWall = i % 3 === 1 && under > 0.02 && under < depth - 0.1 && Math.abs(q) < width / 2 + 2 * out;
      return isWall ? q + Math.sign(q) * 0.05 * Math.sin((2 * Math.PI * under) / wave) : q;
    });
    const a = takeCavityApart({ ...placed(makeMesh('tooth', positions, mesh.triangles)), noise: 0.02, rms: 0.02 }, master);
    expect(edgeError(a, null)).toBeGreaterThan(1.5 * edgeError(scans[4].a, null));
    for (const t of TRUE.filter(([name]) => name.startsWith('outline')))
      expect(Math.abs(of(a, t).value - t[3]), `${t[0]} ${of(a, t).value} ± ${of(a, t).U}, ${t[3]} is true`).toBeLessThanOrEqual(of(a, t).U);
  });
});

/** An outline in the plane z = 0 as a cavity's, its other parts left out. */
function outline(places: readonly (readonly [number, number])[]): CavityAnatomy {
  const points = places.map(
    ([x, y]): OutlinePoint => ({
      p: [x, y, 0],
      tangent: [1, 0, 0],
      normal: [0, 0, 1],
      inward: null,
      angle: null,
      moved: 0,
      off: 0,
      turned: 0,
    }),
  );
  return { outline: points, plan: places } as unknown as CavityAnatomy;
}

describe('a corner that a scan has rounded', () => {
  /** A square of side 6 whose corners are arcs of radius r, points 0.1 mm apart; the place in the middle of the first arc is number 0. */
  const square = (r: number): CavityAnatomy => {
    const s = 3 - r;
    const arc = Math.max(2, Math.round((r * Math.PI) / 2 / 0.1));
    const places: [number, number][] = [];
    for (const q of [0, 1, 2, 3]) {
      const turn = ([x, y]: [number, number]): [number, number] =>
        [
          [x, y],
          [-y, x],
          [-x, -y],
          [y, -x],
        ][q] as [number, number];
      for (let k = 0; k <= arc; k++) {
        const a = ((k / arc) * Math.PI) / 2;
        places.push(turn([s + r * Math.cos(a), s + r * Math.sin(a)]));
      }
      for (let x = s - 0.1; x > -s + 0.05; x -= 0.1) places.push(turn([x, 3]));
    }
    const middle = Math.round(arc / 2);
    return outline([...places.slice(middle), ...places.slice(0, middle)]);
  };
  it('is uncertain by what averaging over it takes off a bend so tight', () => {
    // Seen along the diagonal the places 0.4 mm to either side lie (0.4 − π r / 4 + r) ÷ √2 from the corner of the sides, the arc's middle r (√2 − 1).
    const r = 0.2;
    const height = (0.4 - (Math.PI * r) / 4 + r) / Math.SQRT2 - r * (Math.SQRT2 - 1);
    within(cornerError(square(r), 0, [6, 6, 0]), height / 3, 0.02);
    // More than six tenths of what the arc itself takes off the corner.
    expect(height / 3).toBeGreaterThan(0.6 * r * (Math.SQRT2 - 1));
  });
  it('does not matter across the distance', () => expect(cornerError(square(0.2), 0, [6, 0, 0])).toBeLessThan(0.6 * 0.2));
  it('was cut round where the arc is larger: nothing but what averaging takes off its bend', () =>
    within(cornerError(square(2.5), 0, [6, 6, 0]), (2.5 - 2.5 * Math.cos(0.4 / 2.5)) / 3, 0.003));
  it('is none on a straight edge', () => expect(cornerError(square(0.2), 20, [6, 20, 0])).toBeCloseTo(0, 9));
});
