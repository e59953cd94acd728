import { beforeAll, describe, expect, it } from 'vitest';
import { within } from '../../../test/helpers/within.ts';
import { solidKernel } from '../../files/solid-kernel.ts';
import { applyDirection, fromRotation, transformPoints as moved } from '../linalg/rigid.ts';
import { angleBetween, distance, type Vec3 } from '../linalg/vec.ts';
import { PART, prepareMaster } from '../master/master.ts';
import { type Mesh, makeMesh, vertexAreas } from '../mesh/mesh.ts';
import type { SimulatedMaster } from '../simulate/master.ts';
import { Workshop } from '../simulate/simulate.ts';
import { carryMarks, isCounterpart } from './carry.ts';
import { checkArch, checkMirror } from './checks.ts';
import { concavity } from './concavity.ts';
import { needsOf } from './needs.ts';
import { opposingAxes } from './opposing.ts';
import { type Proposal, propose } from './propose.ts';
import { mirror } from './template.ts';
import { upward } from './upward.ts';

/** A net of points over [−half, half]², raised to z(x, y), its triangles looking up. */
function sheet(z: (x: number, y: number) => number, half = 10, step = 0.25): Mesh {
  const n = Math.round((2 * half) / step) + 1;
  const positions = new Float64Array(3 * n * n);
  const triangles: number[] = [];
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const [x, y] = [-half + i * step, -half + j * step];
      positions.set([x, y, z(x, y)], 3 * (j * n + i));
      if (i + 1 < n && j + 1 < n) {
        const a = j * n + i;
        triangles.push(a, a + 1, a + n + 1, a, a + n + 1, a + n);
      }
    }
  return makeMesh('master', positions, Uint32Array.from(triangles));
}
const stateOf = (m: Mesh, what: string) => checkArch(m).find((c) => c.what === what);

describe('what an arch is like', () => {
  const dome = sheet((x, y) => 6 - 0.05 * (x * x + y * y));
  it('it looks away from its opening, however it lies', () => {
    const turn = fromRotation([0.2, 0.9, -0.3], 2.2);
    const p = moved(turn, dome.positions);
    const up: Vec3 = [turn[2], turn[6], turn[10]];
    expect(angleBetween(upward(makeMesh('master', p, dome.triangles)).direction, up)).toBeLessThan(0.5);
  });
  it('a closed block looks away from its flat base', () => {
    // The dome and a base far under it: area vectors of all sides add up to nothing.
    const base = sheet(() => -4);
    const n = dome.positions.length / 3;
    const both = makeMesh(
      'master',
      Float64Array.from([...dome.positions, ...base.positions]),
      Uint32Array.from([...dome.triangles, ...Array.from(base.triangles, (_, i) => base.triangles[i - (i % 3) + [0, 2, 1][i % 3]] + n)]),
    );
    expect(angleBetween(upward(both).direction, [0, 0, 1])).toBeLessThan(8);
  });
  it.each([
    ['metres', 0.001, 1000],
    ['inches', 1 / 25.4, 25.4],
    ['micrometres', 1000, 0.001],
  ])('lengths in %s are recognised', (_, scale, factor) => {
    const m = makeMesh(
      'master',
      dome.positions.map((v) => v * scale),
      dome.triangles,
    );
    expect(stateOf(m, 'unit')?.state).toBe('stop');
    expect(stateOf(m, 'unit')?.factors).toContain(factor);
    expect(stateOf(dome, 'unit')?.state).toBe('fine');
  });
  it('holes are counted and the large one is grave', () => {
    const without = (r: number): Mesh => {
      const keep: number[] = [];
      for (let f = 0; f < dome.triangles.length; f += 3) {
        const v = 3 * dome.triangles[f];
        if (Math.hypot(dome.positions[v], dome.positions[v + 1]) > r) keep.push(...dome.triangles.slice(f, f + 3));
      }
      return makeMesh('master', dome.positions, Uint32Array.from(keep));
    };
    expect(stateOf(dome, 'holes')).toMatchObject({ state: 'fine', figure: 0 });
    // 2π · 1 mm and 2π · 6 mm round.
    expect(stateOf(without(1), 'holes')).toMatchObject({ state: 'look', figure: 1 });
    expect(stateOf(without(6), 'holes')).toMatchObject({ state: 'stop', figure: 1 });
  });
  it('two pieces and coarse points are told', () => {
    const halves = makeMesh(
      'master',
      dome.positions,
      dome.triangles.filter((_, i) => Math.abs(dome.positions[3 * dome.triangles[i - (i % 3)]]) > 0.5),
    );
    expect(stateOf(halves, 'pieces')).toMatchObject({ state: 'look', figure: 2 });
    expect(
      stateOf(
        sheet(() => 0, 10, 0.5),
        'coarse',
      ),
    ).toMatchObject({ state: 'look' });
    expect(
      stateOf(
        sheet(() => 0, 10, 0.8),
        'coarse',
      ),
    ).toMatchObject({ state: 'stop' });
    within(
      stateOf(
        sheet(() => 0),
        'coarse',
      )?.figure ?? 0,
      0.25,
      0.01,
    );
  });
  it('a valley is hollow as its radius says, a ridge is not', () => {
    // z = x² / 2R has curvature 1 / R across at its bottom and none along: the mean over all directions is half of it.
    const at = (m: Mesh): number => {
      const v = Array.from({ length: m.positions.length / 3 }, (_, k) => k).find(
        (k) => Math.hypot(m.positions[3 * k], m.positions[3 * k + 1]) < 1e-9,
      ) as number;
      return concavity(m).hollow[v];
    };
    within(at(sheet((x) => (x * x) / 4)), 0.25, 0.06);
    expect(at(sheet((x) => (-x * x) / 4))).toBe(0);
  });
});

const made = new Map<string, SimulatedMaster>();
async function masterOf(tooth: string): Promise<SimulatedMaster> {
  const m = made.get(tooth) ?? new Workshop(tooth, 31, await solidKernel(), { name: tooth, caries: null, detail: 0.6 }).master;
  made.set(tooth, m);
  return m;
}

const centre = (points: readonly Vec3[]): Vec3 =>
  [0, 1, 2].map((k) => points.reduce((s, p) => s + p[k], 0) / points.length) as [number, number, number];

// The usual forms are the simulator's own, so that these only show that nothing is lost on the way; docs/masters.md has the foreign families.
describe.each(['46', '21'])('an arch round %s, touched once', (tooth) => {
  let master: SimulatedMaster;
  let p: Proposal;
  beforeAll(async () => {
    master = await masterOf(tooth);
    const m = centre(master.description.cusps.map((c) => c.at));
    p = propose(master.meshes.arch.mesh, tooth, m);
  }, 60_000);
  it('its axis is found within 2°, and which way mesial is', () => {
    expect(angleBetween(p.description.axis, master.description.axis)).toBeLessThan(2);
    expect(angleBetween(p.description.mesial, master.description.mesial)).toBeLessThan(4);
  });
  // An incisal edge is level: where along it its landmark stands is a matter of hundredths of a millimetre of height.
  it('its tips and its margin within half a millimetre', () => {
    for (const c of master.description.cusps) {
      const own = p.description.cusps.find((q) => q.name === c.name);
      expect(own && distance(own.at, c.at), c.name).toBeLessThan(0.5);
    }
    for (const q of p.description.gingivalMargin)
      expect(Math.min(...master.description.gingivalMargin.map((g) => distance(g, q)))).toBeLessThan(0.6);
  });
  it('is no mirror image, and its mirror image is told', () => {
    expect(checkMirror(p.mirrored, p.teeth[0].rms).state).toBe('fine');
    if (tooth !== '46') return;
    const m = master.meshes.arch.mesh;
    const touched = centre(master.description.cusps.map((c) => c.at));
    const q = propose(mirror(m), tooth, [touched[0], -touched[1], touched[2]]);
    expect(checkMirror(q.mirrored, q.teeth[0].rms).state).toBe('look');
  }, 60_000);
  it('97 % of its surface is given to the right part', () => {
    const areas = vertexAreas(master.meshes.arch.mesh);
    let [same, all] = [0, 0];
    for (let v = 0; v < areas.length; v++) {
      if (master.meshes.arch.parts[v] === PART.other) continue;
      all += areas[v];
      if (p.parts[v] === master.meshes.arch.parts[v]) same += areas[v];
    }
    expect(same / all).toBeGreaterThan(0.97);
  });
  it('says what the master can give', () => {
    const needs = needsOf({ parts: p.parts, landmarks: p.description, opposing: false, inner: {} });
    const has = Object.fromEntries(needs.map((n) => [n.need, n.has]));
    expect(has).toMatchObject({
      target: true,
      mesial: true,
      distal: true,
      gingiva: true,
      cusps: true,
      gingivalMargin: true,
      opposing: false,
      pulp: false,
    });
    expect(needs.find((n) => n.need === 'opposing')?.readings).toContain('clearance.static');
    expect(needs.every((n) => n.need === 'target' || n.readings.length > 0)).toBe(true);
  });
});

it('a tooth without marks gives what needs none', () => {
  const none = {
    cusps: [],
    grooves: [],
    ridges: { mesial: [], distal: [], oblique: [] },
    contacts: { mesial: null, distal: null },
    gingivalMargin: [],
  };
  const needs = needsOf({ parts: [PART.target], landmarks: none, opposing: true, inner: { pulp: true } });
  expect(needs.filter((n) => n.has).map((n) => n.need)).toEqual(['target', 'opposing', 'pulp']);
});

describe('marks taken over', () => {
  it('from 46 stand on the same tooth of the other side, whose arch lies elsewhere', async () => {
    const [one, other] = ['46', '36'];
    // The same seed makes the same tooth on both sides: what is known of one is the truth of the other.
    const [from, to] = [await masterOf(one), await masterOf(other)];
    const d = to.description;
    const tilt = fromRotation(d.facial, 0.12);
    const at = {
      ...d,
      axis: applyDirection(tilt, d.axis),
      mesial: applyDirection(tilt, d.mesial),
      gingivalMargin: d.gingivalMargin.map((p): Vec3 => [p[0] + 0.4, p[1] - 0.3, p[2]]),
    };
    const { description: c, rms } = carryMarks(prepareMaster(from.description, from.meshes), {
      ...to.meshes.arch,
      tooth: other,
      at,
    });
    expect(rms).toBeLessThan(0.05);
    within(angleBetween(c.axis, d.axis), 0, 0.3);
    within(angleBetween(c.facial, d.facial), 0, 0.5);
    expect(c.cusps.map((k) => k.name)).toEqual(d.cusps.map((k) => k.name));
    c.cusps.forEach((k, i) => {
      within(distance(k.at, d.cusps[i].at), 0, 0.06);
    });
    c.gingivalMargin.forEach((p) => {
      within(Math.min(...d.gingivalMargin.map((q) => distance(p, q))), 0, 0.15);
    });
  });
  it('are refused on a tooth of another form', async () => {
    const [from, to] = [await masterOf('46'), await masterOf('31')];
    expect(() => carryMarks(prepareMaster(from.description, from.meshes), { ...to.meshes.arch, tooth: '31', at: to.description })).toThrow(
      /mm off/,
    );
  });
  it('are asked for on the same tooth of either side only', () => {
    expect(isCounterpart('36', '46')).toBe(true);
    expect(isCounterpart('36', '36')).toBe(true);
    expect(isCounterpart('36', '26')).toBe(false);
    expect(isCounterpart('36', '47')).toBe(false);
  });
});

it('the axes of opposing teeth are found by their forms', async () => {
  const { description: d, meshes } = await masterOf('46');
  const top = d.cusps
    .map((c) => c.at)
    .reduce<Vec3>((s, p) => [s[0] + p[0] / d.cusps.length, s[1] + p[1] / d.cusps.length, s[2] + p[2] / d.cusps.length], [0, 0, 0]);
  const axes = opposingAxes(meshes.opposing as Mesh, '46', top, d.axis);
  // The simulator stands the tooth of the same place straight over the target.
  within(angleBetween(axes['16'], [-d.axis[0], -d.axis[1], -d.axis[2]]), 0, 0.5);
  expect(Object.keys(axes).sort()).toEqual(['15', '16', '17']);
});
