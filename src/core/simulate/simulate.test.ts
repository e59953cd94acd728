import { describe, expect, it } from 'vitest';
import { makeTooth } from '../anatomy/tooth.ts';
import { applyPoint, IDENTITY, multiply } from '../linalg/rigid.ts';
import type { Vec3 } from '../linalg/vec.ts';
import { faceNormals, makeMesh, triangleNeighbours } from '../mesh/mesh.ts';
import { toothSolid } from './bodies.ts';
import { cavityParts } from './cavity/cavity.ts';
import { loftSolid } from './cavity/loft.ts';
import { CLEAN_CLASS_I, cleanClassII } from './cavity/recipe.ts';
import { CrownEnvelope } from './crown/envelope.ts';
import { ANTERIOR_CERAMIC, CLEAN_CROWN, ZIRCONIA_POSTERIOR } from './crown/recipe.ts';
import { byHand, type Hand } from './hand.ts';
import { CLEAN_ONLAY } from './onlay/recipe.ts';
import { grooveSolid, partialParts, wallAt } from './partial/partial.ts';
import { CLEAN_PARTIAL, groove, THREE_QUARTER_BOXES } from './partial/recipe.ts';
import { preformedParts } from './preformed/preformed.ts';
import { CLEAN_PREFORMED } from './preformed/recipe.ts';
import { halfSpace, shaft } from './rings.ts';
import { crownTruth } from './truth/crown-truth.ts';
import { onlayTruth } from './truth/onlay-truth.ts';
import { partialTruth } from './truth/partial-truth.ts';
import { preformedTruth } from './truth/preformed-truth.ts';
import { makeTypodont } from './typodont.ts';

const TEETH = ['11', '22', '13', '43', '32', '14', '25', '34', '45', '16', '26', '36', '47', '51', '53', '75', '84'];

/** Twice the enclosed volume's sign and the border: a closed body with its outside outward. */
function closed(positions: Float64Array, triangles: Uint32Array): { open: number; volume: number } {
  const open = triangleNeighbours(triangles, positions.length / 3).filter((n) => n < 0).length;
  let volume = 0;
  for (let f = 0; f < triangles.length; f += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => 3 * triangles[f + k]);
    volume +=
      (positions[a] * (positions[b + 1] * positions[c + 2] - positions[b + 2] * positions[c + 1]) -
        positions[a + 1] * (positions[b] * positions[c + 2] - positions[b + 2] * positions[c]) +
        positions[a + 2] * (positions[b] * positions[c + 1] - positions[b + 1] * positions[c])) /
      6;
  }
  return { open, volume };
}

describe.each(TEETH)('tooth %s', (tooth) => {
  const shape = makeTooth(tooth);
  it('is a closed body with its outside outward', () => {
    const s = toothSolid({ shape, part: 1, place: IDENTITY, inverse: IDENTITY }, 16);
    const { open, volume } = closed(s.positions, s.triangles);
    expect(open).toBe(0);
    expect(volume).toBeGreaterThan(30);
    expect(faceNormals(makeMesh('tooth', s.positions, s.triangles)).areas.every((a) => a >= 0)).toBe(true);
  });
  it('carries its cusps on its surface', () => {
    for (const c of shape.cusps) expect(Math.abs(shape.inside(c.at[0], c.at[1], c.at[2]))).toBeLessThan(0.02);
  });
});

it('left and right teeth are one another’s mirror image: same shape, same seed', () => {
  const [right, left] = [makeTooth('16'), makeTooth('26')];
  for (const [x, y, z] of [
    [1, 2, 3],
    [-2, 1, 5],
    [3, -2, 2],
  ] as const)
    expect(right.inside(x, y, z)).toBe(left.inside(x, y, z));
});

describe('a quadrant', () => {
  const whole = makeTypodont('36', 4, 'quadrant');
  const near = makeTypodont('36', 4);
  it('holds every tooth to the midline and one beyond; the neighbours do not depend on the rest', () => {
    expect(whole.teeth.map((t) => t.shape.tooth).sort()).toEqual(['31', '32', '33', '34', '35', '36', '37', '38', '41']);
    for (const t of near.teeth) expect(whole.teeth.find((q) => q.part === t.part)?.place).toEqual(t.place);
  });
  it('has its gingiva at the neck of every tooth, however that stands in the arch', () => {
    for (const t of whole.teeth)
      for (const phi of [0, Math.PI]) {
        const r = t.shape.side(phi, -0.45);
        const neck = applyPoint(t.place, [r * Math.sin(phi), r * Math.cos(phi), -0.45]);
        // Facial and lingual of each tooth the scallop lies lowest, lifted by up to half a papilla between narrow teeth.
        expect(Math.abs(whole.gingiva(neck[0], neck[1]) - neck[2]), `${t.shape.tooth} at ${phi}`).toBeLessThan(0.6);
      }
  });
  it('has its teeth in contact, each with the next: nearly touching, nowhere through one another', () => {
    const order = ['38', '37', '36', '35', '34', '33', '32', '31', '41'].map((n) => whole.teeth.find((t) => t.shape.tooth === n));
    for (let i = 0; i + 1 < order.length; i++) {
      const [a, b] = [order[i], order[i + 1]];
      if (!a || !b) throw new Error('a tooth is missing');
      let least = Infinity;
      for (let z = 0.5; z < a.shape.plan.height; z += 0.1)
        for (let phi = 0; phi < 2 * Math.PI; phi += 0.03) {
          const r = a.shape.side(phi, z);
          const p: Vec3 = [r * Math.sin(phi), r * Math.cos(phi), z];
          if (a.shape.top(0.98 * p[0], 0.98 * p[1]) < z) continue;
          const q = applyPoint(multiply(b.inverse, a.place), p);
          if (q[2] > 0 && q[2] < b.shape.plan.height)
            least = Math.min(least, Math.hypot(q[0], q[1]) - b.shape.side(Math.atan2(q[0], q[1]), q[2]));
        }
      expect(least).toBeGreaterThan(-0.05);
      expect(least).toBeLessThan(0.15);
    }
  });
});

describe('truth from construction', () => {
  const t = makeTypodont('16', 3);
  const truth = crownTruth(t, new CrownEnvelope(t, { ...CLEAN_CROWN, taper: { facial: 6, mesial: 6, lingual: 6, distal: 6 } }));
  const of = (name: string, zone: string | null, stat: string): number =>
    truth.find((q) => q.name === name && q.zone === zone && q.stat === stat)?.value as number;
  it('equals the recipe where the recipe states the figure', () => {
    expect(of('wall.lean', null, 'mean')).toBeCloseTo(6, 0);
    expect(of('margin.width', 'facial', 'median')).toBeCloseTo(CLEAN_CROWN.margin.width.facial, 1);
    expect(of('margin.gingiva', 'facial', 'max')).toBeCloseTo(CLEAN_CROWN.margin.height.facial, 1);
    expect(of('toc.mean', null, 'mean')).toBeCloseTo(12, 0);
  });
});

describe('what a crown’s cutter leaves standing', () => {
  it.each([
    ['16', CLEAN_CROWN],
    ['11', ANTERIOR_CERAMIC],
    ['84', { ...CLEAN_CROWN, flatten: 1, margin: { ...CLEAN_CROWN.margin, rounding: 0 } }],
  ] as const)('on %s it is closed, the right way out and without slivers at its middle', (tooth, recipe) => {
    const e = new CrownEnvelope(makeTypodont(tooth, 3), recipe);
    const s = e.solid();
    const { open, volume } = closed(s.positions, s.triangles);
    expect(open).toBe(0);
    expect(volume).toBeGreaterThan(20);
    const p = s.positions;
    let inMiddle = 0;
    for (let i = 0; i < p.length; i += 3) if (p[i + 2] > -5 && Math.hypot(p[i], p[i + 1]) < 0.2) inMiddle++;
    expect(inMiddle).toBeLessThan(200);
  });
  it('lowers a plate by its top alone: closed too', () => {
    const s = new CrownEnvelope(makeTypodont('26', 3), CLEAN_CROWN).topSolid();
    expect(closed(s.positions, s.triangles).open).toBe(0);
  });
});

describe('solids of partial crowns', () => {
  const t = makeTypodont('26', 3);
  const parts = partialParts(t, CLEAN_PARTIAL);
  it('cutters, half spaces and shafts are closed and stand the right way out', () => {
    const solids = [...parts.grooves.map((g) => grooveSolid(g, 12)), halfSpace(1, 1), halfSpace(1, -1), shaft(0, -1, 0.35, 1, 5)];
    for (const s of solids) {
      const { open, volume } = closed(s.positions, s.triangles);
      expect(open).toBe(0);
      expect(volume).toBeGreaterThan(0.5);
    }
  });
  it('a groove goes as deep into its wall at its middle as the recipe says', () => {
    for (const g of parts.grooves) {
      const z = (g.from + g.recipe.over * -1 + g.to) / 2;
      const c = g.centre(z);
      const bottom = Math.hypot(c[0] - (g.recipe.width / 2) * g.out[0], c[1] - (g.recipe.width / 2) * g.out[1]);
      const w = wallAt(parts.envelope, g.phi, z);
      expect(Math.abs(Math.hypot(w[0], w[1]) - bottom - g.recipe.depth)).toBeLessThan(0.12);
    }
  });
  it('a box is cut as wide as its recipe says, its axial wall as deep, its corners inside both', () => {
    const [b] = partialParts(t, THREE_QUARTER_BOXES).grooves;
    const { positions } = grooveSolid(b, 12);
    const z = b.from;
    const c = b.centre(z);
    const level = Array.from(
      { length: positions.length / 3 },
      (_, i) => [positions[3 * i] - c[0], positions[3 * i + 1] - c[1], positions[3 * i + 2]] as const,
    )
      .filter((p) => Math.abs(p[2] - z) < 1e-6)
      .map(([x, y]) => ({ across: Math.abs(x * b.out[1] - y * b.out[0]), outward: x * b.out[0] + y * b.out[1] }))
      // The middle of the cap is no place of its outline.
      .filter((p) => p.across > 1e-6 || p.outward < 1e-6);
    expect(Math.max(...level.map((p) => p.across))).toBeCloseTo(b.recipe.width / 2, 6);
    expect(Math.min(...level.map((p) => p.outward))).toBeCloseTo(0, 6);
    // Rounded by 0.2 mm: nothing in the square corner itself.
    const inCorner = level.filter((p) => p.outward < 0.05 && p.across > b.recipe.width / 2 - 0.05);
    expect(inCorner).toEqual([]);
    const w = wallAt(parts.envelope, b.phi, (b.from - b.recipe.over + b.to) / 2);
    const bottom = b.centre((b.from - b.recipe.over + b.to) / 2);
    expect(Math.abs(Math.hypot(w[0] - bottom[0], w[1] - bottom[1]) - b.recipe.depth)).toBeLessThan(0.12);
  });
  it('both grooves of a clean recipe run along the axis', () => {
    for (const g of parts.grooves) expect(g.centre(1)).toEqual(g.centre(4));
  });
});

describe('truth of partial cover', () => {
  const of = (truth: ReturnType<typeof partialTruth>, name: string, zone: string | null) =>
    truth.find((q) => q.name === name && q.zone === zone)?.value;
  const t = makeTypodont('26', 3);
  it('a groove that leans by 8 degrees stands 8 degrees off one that does not', () => {
    const recipe = { ...CLEAN_PARTIAL, grooves: [groove('mesial'), groove('distal', { leanFacial: 8 })] };
    const truth = partialTruth(t, recipe);
    expect(of(truth, 'groove.parallel', 'mesial distal')).toBeCloseTo(8, 3);
    expect(of(truth, 'groove.width', 'mesial')).toBeCloseTo(1, 1);
  });
  it('is absent on the uncut side', () => {
    const zones = partialTruth(t, CLEAN_PARTIAL).map((q) => q.zone ?? '');
    expect(zones.some((z) => z.startsWith('facial'))).toBe(false);
  });
  it('an onlay’s box walls diverge by the sum of their leans', () =>
    expect(of(onlayTruth(t, CLEAN_ONLAY), 'divergence', 'box mesial')).toBeCloseTo(10, 6));
  it('an onlay over the lingual cusps has its truth on the lingual side', () => {
    const truth = onlayTruth(t, { ...CLEAN_ONLAY, covers: 'lingual' });
    expect(truth.some((q) => q.name === 'margin.width' && q.zone === 'lingual')).toBe(true);
    expect(truth.some((q) => q.name === 'margin.width' && q.zone === 'facial')).toBe(false);
  });
  it('needs a central groove', () => expect(() => onlayTruth(makeTypodont('11', 3), CLEAN_ONLAY)).toThrow(/central groove/));
});

describe('cavity solids', () => {
  const t = makeTypodont('34', 3);
  it.each([
    ['Class I', CLEAN_CLASS_I],
    ['Class II', cleanClassII('distal', { width: 2.6 })],
  ])('%s parts are closed and stand the right way out', (_, recipe) => {
    const parts = cavityParts(t, recipe);
    for (const l of [parts.occlusal, ...parts.boxes.map((b) => b.loft)]) {
      if (!l) continue;
      const s = loftSolid(l);
      const { open, volume } = closed(s.positions, s.triangles);
      expect(open).toBe(0);
      expect(volume).toBeGreaterThan(1);
    }
  });
});

describe('preparations for preformed crowns', () => {
  const t = makeTypodont('75', 3);
  const slice = { lean: 8, over: 0, ledge: 0 };
  const truthOf = (mesial: typeof slice | null) => {
    const truth = preformedTruth(t, { ...CLEAN_PREFORMED, mesial });
    return (name: string, zone: string) => truth.find((q) => q.name === name && q.zone === zone)?.value;
  };
  it('slices are closed, stand the right way out and lean as asked', () => {
    for (const s of preformedParts(t, CLEAN_PREFORMED).slices) {
      const { open, volume } = closed(s.solid.positions, s.solid.triangles);
      expect(open).toBe(0);
      expect(volume).toBeGreaterThan(100);
      expect((Math.atan(s.faceX(2) - s.faceX(3)) * 180) / Math.PI).toBeCloseTo(CLEAN_PREFORMED.mesial?.lean as number, 6);
    }
  });
  it('a steeper slice and a ledge open the contact further', () => {
    const clean = truthOf(slice)('contact.broken', 'mesial') as number;
    expect(clean).toBeGreaterThan(0.05);
    expect(truthOf({ ...slice, lean: 14 })('contact.broken', 'mesial') as number).toBeGreaterThan(clean + 0.05);
    const ledge = truthOf({ ...slice, ledge: 0.4 });
    expect(ledge('ledge', 'mesial')).toBe(0.4);
    expect(ledge('contact.broken', 'mesial') as number).toBeGreaterThan(clean + 0.3);
  });
  it('is absent on a side without a slice', () => {
    expect(truthOf(null)('slice.angle', 'mesial')).toBeUndefined();
    expect(truthOf(null)('slice.angle', 'distal')).toBe(CLEAN_PREFORMED.distal?.lean);
  });
});

describe('a hand', () => {
  const hand: Hand = { seed: 4, skill: 0.3, learning: 0.4, habits: { overTaperDistal: 0.9 } };
  const task = { kind: 'crown', aim: ZIRCONIA_POSTERIOR } as const;
  const taper = (attempt: number): number => {
    const p = byHand(hand, task, attempt).preparation;
    return p.kind === 'crown' ? p.taper.distal : Number.NaN;
  };
  it('repeats itself for the same seed and attempt', () => expect(byHand(hand, task, 2)).toEqual(byHand(hand, task, 2)));
  it('leans its habit into the distal wall, less with practice', () => {
    expect(taper(0)).toBeGreaterThan(ZIRCONIA_POSTERIOR.taper.distal + 4);
    expect(taper(5)).toBeLessThan(taper(0));
  });
  it('cuts onlays and three-quarter crowns, and leans its grooves', () => {
    expect(byHand(hand, { kind: 'onlay', aim: CLEAN_ONLAY }, 0).preparation.kind).toBe('onlay');
    const p = byHand(hand, { kind: 'partial', aim: CLEAN_PARTIAL }, 0).preparation;
    expect(p.kind === 'partial' && p.grooves.some((g) => Math.abs(g.leanFacial) > 0.1)).toBe(true);
  });
  it('cuts cavities as well', () => expect(byHand(hand, { kind: 'cavity', aim: CLEAN_CLASS_I }, 0).preparation.kind).toBe('cavity'));
});
