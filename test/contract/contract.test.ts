import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { hostname, tmpdir } from 'node:os';
import path from 'node:path';
import * as v from 'valibot';
import { afterAll, describe, expect, it } from 'vitest';
import { checked } from '#contract/check.ts';
import { depthColour, partColour, partOf, plateColour, SURFACE, surfaceCode, surfaceOf } from '#contract/depth-ramp.ts';
import { packDisplay, unpackDisplay } from '#contract/display.ts';
import { RecipeFile } from '#contract/recipe.ts';
import { RubricFile, rubricFrom } from '#contract/rubric.ts';
import { type StandardFile, standardFrom } from '#contract/standard.ts';
import { Fault } from '#core/result/fault.ts';
import { reading } from '#core/result/reading.ts';
import { canonical } from '#core/sign/canonical.ts';
import { lockFolder } from '#server/database/lock.ts';
import { FileStore } from '#server/scans/files.ts';
import { bandsOf } from '#server/view/bands.ts';
import { bandWords, handWords, readingWords, valueWords } from '#words/readings.ts';
import { stretches } from '../../src/charts/stretches.ts';
import { readingEntry } from '../../src/cli/readings-file.ts';
import { RUBRIC } from '../helpers/school.ts';

const folder = mkdtempSync(path.join(tmpdir(), 'veritor-contract-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const shipped = (kind: string) => readdirSync(`data/${kind}`).map((f) => [f, JSON.parse(readFileSync(`data/${kind}/${f}`, 'utf8'))]);

describe.each(shipped('rubrics'))('the rubric %s', (file, json) => {
  const rubric = v.parse(RubricFile, json);
  it('keeps to the contract and is named like its file', () => expect(`${rubric.id}.json`).toBe(file));
  it('is for a standard that is shipped', () => expect(existsSync(`data/standards/${rubric.standard}.json`)).toBe(true));
  it('has bands that lie in one another: band in fair in poor', () => {
    const within = (a: { lo: number | null; hi: number | null }, b: { lo: number | null; hi: number | null }) =>
      (a.lo ?? -Infinity) >= (b.lo ?? -Infinity) && (a.hi ?? Infinity) <= (b.hi ?? Infinity);
    for (const t of rubric.criteria.flatMap((c) => c.targets)) {
      expect(within(t.band, t.fair), `${t.reading} ${t.zone}`).toBe(true);
      expect(within(t.fair, t.poor), `${t.reading} ${t.zone}`).toBe(true);
    }
  });
  it('every band is its standard’s field, or says why the course’s own differs', () => {
    const standard = standardFrom(JSON.parse(readFileSync(`data/standards/${rubric.standard}.json`, 'utf8')), rubric.standard);
    const fields = new Map<string, { reading: string; zone: string | null; stat: string; band: object }>([
      ...standard.lines.flatMap((l) => l.fields.map((f) => [f.id, f] as const)),
      ...standard.critical.map((e) => [e.id, { ...e, band: e.allowed }] as const),
    ]);
    const untraced = [
      ...rubric.criteria.flatMap((c) => c.targets),
      ...rubric.critical.map((e) => ({ ...e, band: e.allowed, own: undefined })),
    ].filter((t) => {
      const f = fields.get(t.field ?? '');
      return (
        !f ||
        f.reading !== t.reading ||
        f.zone !== t.zone ||
        f.stat !== t.stat ||
        (!t.own && JSON.stringify(f.band) !== JSON.stringify(t.band))
      );
    });
    expect(untraced.map((t) => t.field)).toEqual([]);
    for (const c of rubric.criteria.filter((q) => q.asks)) expect(standard.lines.find((l) => l.id === c.field)?.asks).toEqual(c.asks);
  });
  it('asks on no line for what every preparation gives', () => {
    // Few readings run below nothing: a band that is open upwards from there passes whatever was cut.
    const open = rubric.criteria
      .flatMap((c) => c.targets)
      .filter(({ band: { lo, hi } }) => (hi === null || hi === Infinity) && (lo ?? 0) <= 0);
    expect(open.map((t) => `${t.reading} ${t.zone}`)).toEqual([]);
  });
  it('names each line once', () => {
    const ids = [...rubric.criteria, ...rubric.critical].map((c) => c.id);
    expect(new Set(ids).size).toBe(ids.length);
  });
});

describe.each(shipped('standards'))('the standard %s', (file, json) => {
  it('keeps to the contract and is named like its file', () => expect(`${standardFrom(json, file).id}.json`).toBe(file));
  it('has a rubric', () => expect(shipped('rubrics').some(([, r]) => r.standard === json.id)).toBe(true));
});

describe('a standard that cannot be used', () => {
  const base = shipped('standards').find(([f]) => f === 'metal-mid.json')?.[1];
  const saying = (change: (s: StandardFile) => void): string => {
    const copy = structuredClone(base);
    change(copy);
    try {
      standardFrom(copy, 'mine.json');
    } catch (e) {
      return (e as Fault).message;
    }
    return 'loaded';
  };
  it('says what is wrong, where, and the nearest names', () => {
    expect(
      saying((s) => {
        s.lines[0].fields[0].reading = 'reduction.oclusal';
      }),
    ).toMatch(/occlusal-functional.*no reading “reduction\.oclusal”; the nearest are “reduction\.occlusal”/);
    expect(
      saying((s) => {
        s.lines[0].fields[0].unit = 'deg';
      }),
    ).toMatch(/is in “mm”, not in “deg”/);
    expect(
      saying((s) => {
        s.lines[1].fields[0].id = s.lines[1].fields[1].id;
      }),
    ).toMatch(/this id stands twice/);
    expect(
      saying((s) => {
        s.lines[0].fields = [];
      }),
    ).toMatch(/at least one figure, or asks a person/);
    expect(
      saying((s) => {
        (s as { format: string }).format = 'veritor-standard/1';
      }),
    ).toMatch(/veritor-standard\/2/);
    expect(saying(() => undefined)).toBe('loaded');
  });
});

describe('a rubric that asks for what there is not', () => {
  const base = shipped('rubrics').find(([f]) => f === 'zirconia-posterior-practice.json')?.[1];
  const asking = (change: object) => {
    const copy = structuredClone(base);
    Object.assign(copy.criteria[0].targets[0], change);
    try {
      rubricFrom(copy, 'mine.json');
    } catch (e) {
      return (e as Fault).message;
    }
    return 'loaded';
  };
  it.each([
    [
      'a reading',
      { reading: 'margin.widht', zone: null },
      /mine\.json, line “occlusal-functional”.*no reading “margin\.widht”; the nearest are “margin\.width”/,
    ],
    ['a zone', { reading: 'margin.width', zone: 'facal', stat: 'median' }, /not read at “facal”; the nearest are “facial”/],
    ['the whole of what is read by zone', { zone: null }, /not read at the whole preparation/],
    ['a statistic', { stat: 'share' }, /no statistic “share”; it has “p05”, “median”, “p95”/],
    ['a stretch of what has no curve', { along: { full: 0.9, fair: 0.8, poor: 0.5 } }, /no curve along an edge/],
  ])('%s does not load and names its nearest relatives', (_, change, message) => expect(asking(change)).toMatch(message));
  it.each(shipped('rubrics'))('%s loads', (file, json) => expect(rubricFrom(json, file).id).toBe(json.id));
});

describe('what does not keep to a contract', () => {
  const say = (value: unknown): Fault => {
    try {
      checked(RecipeFile, value, 'recipe.invalid', 'my.json', 'Correct it.');
    } catch (e) {
      return e as Fault;
    }
    throw new Error('was accepted');
  };
  it('names the field, what was expected and what came', () => {
    const f = say({ format: 'veritor-recipe/1', tooth: '16', preparation: { kind: 'crown', flatten: 3 } });
    expect(f).toBeInstanceOf(Fault);
    expect(f.message).toMatch(/my\.json.*preparation\.flatten.*3/s);
    expect(f.message).toContain('Correct it.');
  });
  it('uses the contract’s own sentence where it has one', () =>
    expect(say({ format: 'veritor-recipe/1', tooth: '99', preparation: { kind: 'crown' } }).message).toContain('two FDI digits'));
  it('a recipe that only names tooth and kind is a clean one', () => {
    const r = v.parse(RecipeFile, { format: 'veritor-recipe/1', tooth: '75', preparation: { kind: 'preformed' } });
    expect(r).toMatchObject({ seed: 1, caries: null, faults: [], scan: { triangles: 150_000, file: 'stl' } });
    expect(r.preparation).toMatchObject({ occlusal: 1.3, mesial: { lean: 6, ledge: 0 } });
  });
});

describe('a display file', () => {
  const mesh = {
    name: 'scan',
    positions: Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0]),
    indices: Uint32Array.from([0, 1, 2]),
    depth: Float32Array.from([0.1, 0.2, 0.3]),
    surface: Uint8Array.from([1, 2, 3]),
  };
  it('comes out as it went in, whatever its header’s length', () => {
    for (const extra of ['', 'a', 'ab', 'abc']) {
      const header = { mesialSign: -1 as const, parts: ['', `wall${extra}`], finishLine: [[1, 2, 3] as [number, number, number]] };
      const plain = { ...mesh, name: 'master', depth: null, surface: null };
      const bytes = packDisplay(header, [mesh, plain]);
      const back = unpackDisplay(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer);
      expect(back.header.parts).toEqual(header.parts);
      expect(back.header.mesialSign).toBe(-1);
      expect(Array.from(back.meshes[0].depth as Float32Array)).toEqual(Array.from(mesh.depth));
      expect(Array.from(back.meshes[0].surface as Uint8Array)).toEqual([1, 2, 3]);
      expect(Array.from(back.meshes[1].positions)).toEqual(Array.from(mesh.positions));
      expect(back.meshes[1].depth).toBeNull();
    }
  });
});

describe('depth colours', () => {
  const bands = { occlusal: [1, 1.5], axial: [0.5, 1] } as const;
  const at = (depth: number, surface: number) => depthColour(depth, surfaceCode(surface, 0), bands);
  it('are the same anywhere in the band, and others on either side of it', () => {
    expect(at(1.1, SURFACE.occlusal)).toEqual(at(1.4, SURFACE.occlusal));
    const [little, much] = [at(0.6, SURFACE.occlusal), at(2, SURFACE.occlusal)];
    // Amber is redder than blue, violet the other way round.
    expect(little[0]).toBeGreaterThan(little[2]);
    expect(much[2]).toBeGreaterThan(much[1]);
  });
  it('each surface has its own band', () => expect(at(0.7, SURFACE.wall)).not.toEqual(at(0.7, SURFACE.occlusal)));
  it('grow stronger with the miss, and stop', () => {
    expect(at(0.9, SURFACE.occlusal)[2]).toBeGreaterThan(at(0.7, SURFACE.occlusal)[2]);
    expect(at(0.3, SURFACE.occlusal)).toEqual(at(0, SURFACE.occlusal));
  });
  it('a code holds surface and part; parts go round their colours', () => {
    const code = surfaceCode(SURFACE.wall, 5);
    expect([surfaceOf(code), partOf(code)]).toEqual([SURFACE.wall, 5]);
    expect(partColour(1)).toEqual(partColour(19));
    expect(partColour(1)).not.toEqual(partColour(2));
  });
  it('come from the rubric’s own bands', () => {
    expect(bandsOf(RUBRIC as never)).toEqual({ occlusal: [0, 99], axial: [0, 99], plate: null });
    const [, json] = shipped('rubrics').find(([f]) => f === 'zirconia-posterior-practice.json') as [string, never];
    expect(bandsOf(json)).toEqual({ occlusal: [1, 1.5], axial: [0.5, 1.6], plate: null });
    const [, partial] = shipped('rubrics').find(([f]) => f === 'three-quarter-posterior-practice.json') as [string, never];
    expect(bandsOf(partial).plate).toBe(1);
  });
  it('of a plate are orange where it is thinner than it has to be, and the more petrol the thicker', () => {
    const warm = (mm: number, least: number | null): number => plateColour(mm, least)[0] - plateColour(mm, least)[2];
    expect([0.3, 0.8, 1, 1.8, 3].map((mm) => warm(mm, 1))).toEqual(
      [...[0.3, 0.8, 1, 1.8, 3].map((mm) => warm(mm, 1))].sort((a, b) => b - a),
    );
    expect(warm(0.8, 1)).toBeGreaterThan(0.2);
    expect(warm(2.9, 1)).toBeLessThan(-0.2);
    // Where nobody says how thick it has to be, nothing is too thin.
    expect(warm(0.1, null)).toBeLessThan(0.1);
  });
});

describe('a grade’s canonical text', () => {
  it('does not depend on the order of keys, and keeps that of lists', () => {
    expect(canonical({ b: 1, a: [2, 1, { d: null, c: 'x' }] })).toBe('{"a":[2,1,{"c":"x","d":null}],"b":1}');
    expect(canonical({ a: 1, b: undefined })).toBe(canonical({ a: 1 }));
    expect(canonical(1.0)).toBe('1');
  });
  it('refuses values without a text form', () => {
    expect(() => canonical({ a: Number.NaN })).toThrow(/finite/);
    expect(() => canonical({ a: () => 1 })).toThrow(/function/);
  });
});

describe('words and figures', () => {
  it('a value, its U and its unit are written the same everywhere', () => {
    expect(valueWords(1.234, 0.0456, 'mm')).toBe('1.23 ± 0.05 mm');
    expect(valueWords(9.44, 0.71, 'deg')).toBe('9.4 ± 0.7 °');
    // Nothing is surer than its last digit.
    expect(valueWords(1, 0.0001, 'mm')).toBe('1.00 ± 0.01 mm');
    expect(valueWords(null, null, 'mm', 'no wall')).toBe('no wall');
    // A code of the closed list becomes its sentence.
    expect(valueWords(null, null, 'mm', 'not-seen')).toBe('less than half of this place was scanned');
    expect([bandWords(0.4, 0.8, 'mm'), bandWords(null, 0.1, 'mm'), bandWords(3, null, 'deg')]).toEqual([
      '0.4 to 0.8 mm',
      'up to 0.1 mm',
      '3 ° or more',
    ]);
  });
  it('a reading by hand is an interval', () => {
    expect(handWords(1, 1.5, 'mm')).toBe('1.00 to 1.50 mm');
    expect(handWords(2, 2, 'count')).toBe('2');
  });
  it('readings have their names in words', () => {
    expect(readingWords('reduction.occlusal', 'ML', 'p05')).toContain('ML, thinnest');
    expect(readingWords('margin.width', null, 'p95')).toBe('margin width, 95th percentile');
    expect(readingWords('margin.width', 'facial', 'median')).toBe('margin width, facial, median');
    expect(readingWords('planes.facial', null, 'count')).toBe('facial planes');
  });
  it('the readings file rounds to what is meant and says reasons in sentences', () => {
    const r = reading({ name: 'outline.oblique', value: 1.23456789, U: 0.1, at: { azimuth: 12.3456, point: [1, 2, 3.0000004] } });
    expect(readingEntry(r)).toMatchObject({ value: 1.23457, at: { azimuth: 12.35, point: [1, 2, 3] }, reason: null });
    expect(readingEntry(reading({ name: 'outline.oblique', value: Number.NaN, U: 1 })).reason).toMatch(/no number/);
  });
  it('curves break where places are missing', () => {
    const points = [0, 2, 4, 10, 12].map((azimuth) => ({ azimuth, value: 1 }));
    expect(stretches(points).map((s) => s.length)).toEqual([3, 2]);
    expect(stretches([])).toEqual([]);
  });
});

describe('files and their folder', () => {
  it('are kept once by content and read back', async () => {
    const store = new FileStore(path.join(folder, 'files'));
    const [a, b] = await Promise.all(['one', 'one'].map((t) => store.keep(new TextEncoder().encode(t))));
    expect(a).toEqual(b);
    expect(new TextDecoder().decode(await store.read(a.sha256))).toBe('one');
    expect(() => store.read('../../etc/passwd')).toThrow(/64 hexadecimal/);
  });
  it('a data folder belongs to one process at a time; a dead one’s lock is no lock', () => {
    const unlock = lockFolder(folder);
    expect(() => lockFolder(folder)).toThrow(/in use by process/);
    unlock();
    writeFileSync(path.join(folder, 'veritor.lock'), '999999999');
    lockFolder(folder)();
    // Process ids are given out again, above all to the first process of a container.
    const dead = { pid: process.pid, started: '1', host: hostname(), token: 'x' };
    writeFileSync(path.join(folder, 'veritor.lock'), JSON.stringify(dead));
    lockFolder(folder)();
    // One on another machine shows by its signs of life whether it lives.
    writeFileSync(path.join(folder, 'veritor.lock'), JSON.stringify({ ...dead, host: 'elsewhere' }));
    expect(() => lockFolder(folder)).toThrow(/in use by process .* on elsewhere/);
    utimesSync(path.join(folder, 'veritor.lock'), new Date(0), new Date(0));
    lockFolder(folder)();
    expect(existsSync(path.join(folder, 'veritor.lock'))).toBe(false);
  });
});
