import { describe, expect, it } from 'vitest';
import { findEntry } from '#core/catalogue/catalogue.ts';
import { allowsZone } from '#core/catalogue/zones.ts';
import { type KindName, MEASURED_KINDS } from '#core/kinds/kinds.ts';
import { IDENTITY } from '#core/linalg/rigid.ts';
import { type Mesh, makeMesh } from '#core/mesh/mesh.ts';
import { measure } from '#core/pipeline.ts';
import { Fault } from '#core/result/fault.ts';
import { REFUSALS, type Reading } from '#core/result/reading.ts';
import { readScan } from '#core/scan/scan.ts';
import { writeStl } from '#core/simulate/write.ts';
import { seeded } from '#core/statistics/random.ts';
import { archMaster, archScan, COARSE, frustum } from '../helpers/bench-crown.ts';

/** Meshes as broken exports, slipped scanners and other programs make them; what is done to them must be said, never guessed. */
const master = archMaster();
const sound = archScan(frustum(0.8, 6, 0, COARSE));

type Scan = Mesh<'scanner'>;
const scan = (positions: ArrayLike<number>, triangles: ArrayLike<number>): Scan =>
  makeMesh('scanner', Float64Array.from(positions), Uint32Array.from(triangles));

/** The scan laid on by hand, so that even what no search would accept reaches the measures. */
const read = (kind: KindName, mesh: Scan): readonly Reading[] | Fault => {
  try {
    return measure(kind, mesh, master, { byHand: IDENTITY }).readings;
  } catch (e) {
    if (e instanceof Fault) return e;
    throw e;
  }
};

/** Every reading has a finite value with a finite, positive U, or none and a reason of the closed list. */
function expectHonest(readings: readonly Reading[]): void {
  for (const r of readings) {
    const what = `${r.name} ${r.zone ?? ''} ${r.stat}`;
    const entry = findEntry(r.name);
    expect(entry?.stats[r.stat]?.unit, what).toBe(r.unit);
    expect(entry && allowsZone(entry.zones, r.zone), what).toBe(true);
    if (r.value === null) {
      expect(Object.keys(REFUSALS), what).toContain(r.reason);
      expect(r.U, what).toBeNull();
    } else {
      expect(Number.isFinite(r.value), what).toBe(true);
      expect(Number.isFinite(r.U) && r.U >= 0, what).toBe(true);
      expect(r.reason, what).toBeNull();
      for (const c of r.at?.point ?? []) expect(Number.isFinite(c), what).toBe(true);
    }
    if (r.coverage !== null) expect(r.coverage >= 0 && r.coverage <= 1 + 1e-9, what).toBe(true);
  }
}

const random = seeded(11);
const kept = (keep: (x: number, y: number, z: number, f: number) => boolean): Scan => {
  const { positions: p, triangles: t } = sound;
  const out: number[] = [];
  for (let f = 0; f < t.length; f += 3) {
    const c = [0, 1, 2].map((k) => (p[3 * t[f] + k] + p[3 * t[f + 1] + k] + p[3 * t[f + 2] + k]) / 3);
    if (keep(c[0], c[1], c[2], f / 3)) out.push(t[f], t[f + 1], t[f + 2]);
  }
  return scan(p, out);
};
const moved = (by: (x: number, y: number, z: number) => readonly [number, number, number]): Scan => {
  const { positions: p, triangles } = sound;
  const out = new Float64Array(p.length);
  for (let i = 0; i < p.length; i += 3) out.set(by(p[i], p[i + 1], p[i + 2]), i);
  return scan(out, triangles);
};
/** Every tenth triangle twice, once the other way round, and a fin on some sides: no side knows which two triangles it has. */
function nonManifold(): Scan {
  const t = Array.from(sound.triangles);
  const p = Array.from(sound.positions);
  for (let f = 0; f < sound.triangles.length; f += 30) {
    t.push(t[f], t[f + 2], t[f + 1]);
    const fin = p.length / 3;
    p.push(p[3 * t[f]], p[3 * t[f] + 1], p[3 * t[f] + 2] + 0.3);
    t.push(t[f], t[f + 1], fin);
  }
  return scan(p, t);
}

const BROKEN: Record<string, () => Scan> = {
  empty: () => scan([], []),
  'one triangle': () => scan([0, 0, 5, 1, 0, 5, 0, 1, 5], [0, 1, 2]),
  'one triangle without area': () => scan([0, 0, 5, 1, 0, 5, 2, 0, 5], [0, 1, 2]),
  'points without triangles': () => scan(sound.positions, []),
  'sides that three and four triangles share': nonManifold,
  'every other triangle missing': () => kept((_x, _y, _z, f) => f % 2 === 0),
  'only the top': () => kept((_x, _y, z) => z > 4.5),
  'nothing over the finish line': () => kept((x, y, z) => z < 1 || Math.hypot(x, y) > 6),
  'one half of the tooth missing': () => kept((x) => x > 0),
  'all in one plane': () => moved((x, y) => [x, y, 1]),
  'turned inside out': () => scan(sound.positions, Array.from(sound.triangles).reverse()),
  'shaken by a tenth of a millimetre': () =>
    moved((x, y, z) => [x + 0.1 * random.normal(), y + 0.1 * random.normal(), z + 0.1 * random.normal()]),
  'a million times too large': () => moved((x, y, z) => [1e6 * x, 1e6 * y, 1e6 * z]),
  'a soup of random triangles': () => {
    const p = Array.from({ length: 3 * 6000 }, () => 12 * random.next() - 6);
    return scan(
      p,
      Array.from({ length: 3 * 1500 }, () => Math.floor(6000 * random.next())),
    );
  },
  'the untouched master': () => scan(archScan(null).positions, archScan(null).triangles),
};

/** Every scan as a crown and as one other kind in turn: what breaks a mesh reaches each kind several times. */
const [, ...OTHERS] = MEASURED_KINDS;
const kindsOf = (i: number): KindName[] => [MEASURED_KINDS[0], OTHERS[i % OTHERS.length]];

describe.each(Object.keys(BROKEN).map((name, i) => ({ name, kinds: kindsOf(i) })))('a scan that is $name', ({ name, kinds }) => {
  const mesh = BROKEN[name]();
  it.each(kinds)('as a %s is refused by name, or every reading is honest', (kind) => {
    const result = read(kind, mesh);
    if (result instanceof Fault) {
      expect(result.code).toMatch(/^[a-z]+\.[a-z-]+$/);
      for (const part of [result.message]) expect(part.length).toBeGreaterThan(20);
    } else expectHonest(result);
  });
});

describe('coordinates that are no numbers', () => {
  it.each([Number.NaN, Number.POSITIVE_INFINITY])('%s does not come past the reading of the file', (bad) => {
    const bytes = writeStl(scan([0, 0, 0, 1, 0, 0, 0, 1, 0], [0, 1, 2]));
    new DataView(bytes.buffer, bytes.byteOffset).setFloat32(84 + 12, bad, true);
    expect(() => readScan(bytes)).toThrow(Fault);
  });
});

it('the sound scan among them is read, so the others are refused for their faults', () => {
  const readings = read('crown', scan(sound.positions, sound.triangles));
  if (readings instanceof Fault) throw readings;
  expectHonest(readings);
  expect(readings.filter((r) => r.value !== null).length).toBeGreaterThan(0.6 * readings.length);
});
