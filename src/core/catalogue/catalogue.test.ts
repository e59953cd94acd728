import { describe, expect, it } from 'vitest';
import { CATALOGUE, findEntry, methodUncertainty, titleOf, unitOf } from './catalogue.ts';
import type { Stat } from './terms.ts';
import { allowsZone } from './zones.ts';

describe('the catalogue', () => {
  it('describes each reading once', () => {
    const names = CATALOGUE.map((e) => e.name);
    expect(names.filter((n, i) => names.indexOf(n) !== i)).toEqual([]);
  });
  it('has words for each reading, digits and unit for each statistic', () => {
    for (const e of CATALOGUE) {
      expect(e.title, e.name).toMatch(/^[a-z].{3,}$/);
      expect(Object.keys(e.stats).length, e.name).toBeGreaterThan(0);
      for (const [stat, s] of Object.entries(e.stats))
        expect(Number.isInteger(s.digits) && s.unit !== undefined, `${e.name} ${stat}`).toBe(true);
    }
  });
  it('says “thinnest” and “deepest” of depths, of damage and of a plate only', () => {
    const depthWords = CATALOGUE.filter((e) => Object.values(e.stats).some((s) => /thinnest|deepest/.test(s.words))).map((e) => e.name);
    expect(
      depthWords.filter(
        (n) => !/^(reduction|planes\.facial\.depth|depth\.pulpal|neighbour|gingiva|undercut|retention|caries|plate)/.test(n),
      ),
    ).toEqual([]);
    expect(CATALOGUE.find((e) => e.name === 'margin.width')?.stats.p05?.words).toBe('5th percentile');
  });
  it('is referred to by takes and curves that exist', () => {
    for (const e of CATALOGUE) for (const t of e.takes) expect(findEntry(t.reading), `${e.name} takes ${t.reading}`).not.toBeNull();
  });
  it.each([
    ['reversecurve.radius', 'min', 'mm'],
    ['reversecurve.exit', 'mean', 'deg'],
    ['resistance.taper', 'min', 'deg'],
    ['form.occlusal', 'median', 'deg'],
    ['facial.extension', 'value', 'mm'],
    ['facial.extension', 'share', 'share'],
    ['caries.left', 'value', 'mm3'],
    ['enamel.undermined', 'value', 'mm2'],
    ['planes.facial', 'count', 'count'],
    ['cavosurface', 'share', 'share'],
    ['wall.height.ratio', 'value', 'ratio'],
  ] as const)('%s, %s is read in %s', (name, stat, unit) => expect(unitOf(name, stat)).toBe(unit));
  it('knows names that carry a size', () => {
    expect(titleOf('gauge.pass(1.5)')).toBe('gauge passes, 1.5 mm');
    for (const name of ['gauge.pass', 'gauge.pass(x)', 'margin.width(1.0)', 'no.such']) expect(findEntry(name), name).toBeNull();
  });
  it('refuses unknown names', () => {
    expect(() => unitOf('no.such', 'value')).toThrow(/no reading/);
    expect(() => unitOf('margin.width', 'count' as Stat)).toThrow(/no count/);
    expect(() => methodUncertainty('margin.form', 'share')).toThrow(/no method uncertainty/);
  });
  it('ends of a distribution carry more of the method’s uncertainty than its middle, or as much', () => {
    for (const e of CATALOGUE)
      if (e.method && e.name !== 'taper.wall' && e.name !== 'wall.lean' && e.name !== 'wall.height')
        expect(e.method.edge, e.name).toBeGreaterThanOrEqual(e.method.middle);
  });
});

describe('zones', () => {
  const allows = (name: string, zone: string | null) => allowsZone(findEntry(name)?.zones ?? { list: [] }, zone);
  it.each([
    ['reduction.occlusal', 'MB', true],
    ['reduction.occlusal', 'functional cusps', true],
    ['reduction.occlusal', null, false],
    ['margin.width', null, true],
    ['margin.width', 'mesiofacial', true],
    ['margin.width', 'functional cusps', false],
    ['reduction.axial', 'facial mid third', true],
    ['reduction.axial', 'facial middle third', false],
    ['box.axialdepth', 'every place', true],
    ['box.axialdepth', 'box mesial facial third', true],
    ['wall.angle', 'every box', true],
    ['margin.width', 'every box', false],
    ['outline.coverage', 'central', true],
    ['neighbour.mesial', 'mesial', false],
  ])('%s at %s: %s', (name, zone, expected) => expect(allows(name, zone)).toBe(expected));
});
