import { describe, expect, it } from 'vitest';
import { cavityTruth } from '../truth/cavity-truth.ts';
import { makeTypodont } from '../typodont.ts';
import { cavityParts, facialBevelAt } from './cavity.ts';
import { cleanClassII } from './recipe.ts';

const t = makeTypodont('46', 4);
const truths = (change: Parameters<typeof cleanClassII>[1], more: object = {}) =>
  new Map(cavityTruth(t, { ...cleanClassII('mesial', change), ...more }).map((q) => [`${q.name} ${q.zone ?? ''} ${q.stat}`, q.value]));

const square = truths({});

/** Volume of a closed solid whose outside is outward. */
function volume({ positions: p, triangles }: { positions: Float64Array; triangles: Uint32Array }): number {
  let sum = 0;
  for (let f = 0; f < triangles.length; f += 3) {
    const [a, b, c] = [3 * triangles[f], 3 * triangles[f + 1], 3 * triangles[f + 2]];
    sum +=
      p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) -
      p[a + 1] * (p[b] * p[c + 2] - p[b + 2] * p[c]) +
      p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c]);
  }
  return sum / 6;
}

describe('a bevel of a box’s facial margin', () => {
  const parts = cavityParts(t, cleanClassII('mesial', { facial: 4, facialBevel: { along: 0.5, angle: 40 } }));
  it('is cut by one more solid, its outside outward', () => {
    expect(parts.bevels).toHaveLength(cavityParts(t, cleanClassII('mesial', { facial: 4 })).bevels.length + 1);
    expect(volume(parts.bevels[parts.bevels.length - 1])).toBeGreaterThan(1);
  });
  it('begins so far inside the tooth’s side at every height, on a wall that leans as it should', () => {
    const [box] = parts.boxes;
    const at = facialBevelAt(t.target, box);
    for (const up of [0.3, 0.8, 1.3]) {
      const [x, y] = at(box.floorZ + up);
      expect(t.target.inside(x + 0.49, y, box.floorZ + up)).toBeGreaterThan(0);
      expect(t.target.inside(x + 0.51, y, box.floorZ + up)).toBeLessThan(0);
    }
    expect(at(box.floorZ)[1] - at(box.floorZ + 1)[1]).toBeCloseTo(Math.tan((4 * Math.PI) / 180), 9);
  });
  it('has its own truths, and takes those of the margin that it moved', () => {
    const bevelled = truths({ facialBevel: { along: 0.5, angle: 40 } });
    expect(bevelled.get('bevel.facial.angle box mesial value')).toBe(40);
    // Along a bevel of 40° the way out is longer than along the wall, and the side falls away from it.
    expect(bevelled.get('bevel.facial.width box mesial value')).toBeGreaterThan(0.5);
    expect(bevelled.get('bevel.facial.width box mesial value')).toBeLessThan(0.5 / Math.cos((40 * Math.PI) / 180) + 0.05);
    expect(bevelled.has('box.clearance.facial box mesial min')).toBe(false);
    expect(square.has('box.clearance.facial box mesial min')).toBe(true);
    expect(square.has('bevel.facial.width box mesial value')).toBe(false);
  });
});

describe('truths of a box', () => {
  it('corners turn by more than a right angle where the channel widens into it', () => {
    const step = square.get('outline.step box mesial min') as number;
    // A quarter turn within 0.3 mm of outline is 0.19 mm, half a turn 0.095 mm.
    expect(step).toBeGreaterThan(0.3 / Math.PI);
    expect(step).toBeLessThan(0.25);
  });
  it('its height goes to the plane that lies in a hollow floor', () => {
    const [even, hollow] = [square, truths({}, { occlusal: { ...cleanClassII('mesial').occlusal, dish: 0.2 } })].map(
      (q) => q.get('box.height box mesial value') as number,
    );
    expect(even - hollow).toBeGreaterThan(0.05);
    expect(even - hollow).toBeLessThan(0.2);
  });
  it('its width is that of its plan half way along the floor', () =>
    expect(truths({ width: 3.2, facial: 0, lingual: 0, axialDepth: 1.6 }).get('box.width box mesial floor value')).toBeCloseTo(3.2, 1));
});
