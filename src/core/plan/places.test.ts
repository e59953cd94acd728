import { describe, expect, it } from 'vitest';
import type { Guide } from './guide.ts';
import { placesOf } from './places.ts';
import type { PlannedStep } from './plan.ts';

/** A tooth of 10 by 8 mm with two cusps and a central groove along the arch. */
const guide = {
  outline: Array.from({ length: 72 }, (_, i) => [5 * Math.sin((i * Math.PI) / 36), 4 * Math.cos((i * Math.PI) / 36)]),
  neck: [],
  grooves: [
    [
      [-3, 0],
      [-1, 0],
      [0, 0],
      [1, 0],
      [3, 0],
    ],
    [
      [0, 0],
      [0, 2],
    ],
  ],
  cusps: [
    { name: 'F', role: 'functional', at: [0, 2] },
    { name: 'L', role: 'non-functional', at: [0, -2] },
  ],
  mesialSign: 1,
} as unknown as Guide;
const plan = (more: object = {}) =>
  ({ boxes: [], choices: { depthCuts: 'in the grooves' }, ...more }) as unknown as Parameters<typeof placesOf>[2];
const at = (id: string, more: object = {}, own: Guide = guide) => placesOf({ id, duty: '' } as unknown as PlannedStep, own, plan(more));

describe('where a step cuts, from above', () => {
  it('depth cuts lie in the middle of the grooves, or at the cusps where the course cuts them on the ridges', () => {
    expect(at('depth-cuts')).toEqual([
      [0, 0],
      [0, 2],
    ]);
    expect(at('depth-cuts', { choices: { depthCuts: 'on the ridges' } })).toEqual([
      [0, 2],
      [0, -2],
    ]);
  });
  it('a tooth without grooves has its depth cuts at the cusps', () =>
    expect(at('depth-cuts', {}, { ...guide, grooves: [] } as Guide)).toHaveLength(2));
  it('the functional bevel lies outside of the functional cusp alone', () => expect(at('functional-bevel')).toEqual([[0, 2.5]]));
  it('the top is between the cusps', () => expect(at('occlusal')).toEqual([[0, 0]]));
  it('contacts are opened at both ends, mesial first', () => {
    const [mesial, distal] = at('contacts');
    expect(mesial[0]).toBeGreaterThan(4);
    expect(distal[0]).toBeLessThan(-4);
    expect(Math.abs(mesial[1]) + Math.abs(distal[1])).toBe(0);
  });
  it('axial walls have their numbers facial and lingual, inside of the outline', () => {
    const places = at('axial');
    expect(places.map((p) => Math.sign(p[1]))).toEqual([1, -1]);
    for (const [x, y] of places) expect((x / 5) ** 2 + (y / 4) ** 2).toBeLessThan(1);
  });
  it('boxes lie on the sides that have one', () => {
    expect(at('box-open', { boxes: ['distal'] }).map((p) => Math.sign(p[0]))).toEqual([-1]);
    expect(at('box-open')).toEqual([]);
    // The shell is broken out from inside.
    const [shell] = at('box-shell', { boxes: ['mesial'] });
    const [open] = at('box-open', { boxes: ['mesial'] });
    expect(shell[0]).toBeLessThan(open[0]);
  });
  it('an outline is begun in the longest groove', () => expect(at('outline')[0][1]).toBe(0));
  it('the fossa and the pinhole lie lingual, and a step that cuts nothing has no place', () => {
    expect(at('lingual-fossa')[0][1]).toBeLessThan(0);
    expect(at('pinhole')[0][1]).toBeLessThan(0);
    expect(at('smooth')).toEqual([]);
  });
});
