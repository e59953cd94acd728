import { describe, expect, it } from 'vitest';
import { axialLesion } from '#core/measure/box/axial-lesion.ts';
import { boxBevel } from '#core/measure/box/box-bevel.ts';
import { boxCorners } from '#core/measure/box/box-corners.ts';
import { boxParallel } from '#core/measure/box/box-parallel.ts';
import { instrumentBox } from '#core/measure/box/instrument-box.ts';
import { outlineDovetail } from '#core/measure/cavity/outline-dovetail.ts';
import { outlineStep } from '#core/measure/cavity/outline-step.ts';
import { makeMesh } from '#core/mesh/mesh.ts';
import type { Reading } from '#core/result/reading.ts';
import { type CavityAnatomy, takeCavityApart } from '#core/segment/cavity/cavity.ts';
import { makeSurface } from '#core/spatial/surface.ts';
import { type BoxCut, boxBench, slotAndBox } from '../helpers/bench-box.ts';
import { placed } from '../helpers/bench-crown.ts';
import { within } from '../helpers/within.ts';

/** Cut once for each shape, however many readings are asked of it. */
const made = new Map<string, Promise<CavityAnatomy>>();
function anatomy(cut: BoxCut, gap?: number): Promise<CavityAnatomy> {
  const key = JSON.stringify([cut, gap]);
  const known = made.get(key) ?? boxBench(cut, gap).then(({ master, scan }) => takeCavityApart(placed(scan), master));
  made.set(key, known);
  return known;
}
const value = (readings: Reading[], name: string, zone: string | null): number | null =>
  readings.find((q) => q.name === name && q.zone === zone)?.value ?? null;

describe('inside angles of a box', () => {
  it('are 90° where its walls are square', async () => {
    for (const r of boxCorners(await anatomy(slotAndBox()))) within(r.value, 90, 0.5);
  });
  it('an axial wall that swings by 0.6 over 3 mm opens one corner by its slope and closes the other', async () => {
    const readings = boxCorners(await anatomy(slotAndBox({ lean: 0.6 })));
    const slope = (Math.atan(0.6 / 3) * 180) / Math.PI;
    // The wall runs deeper into the tooth on the facial side: there the corner is sharper.
    within(value(readings, 'box.corners', 'box mesial facial'), 90 - slope, 0.8);
    within(value(readings, 'box.corners', 'box mesial lingual'), 90 + slope, 0.8);
  });
  it('square beside a wall that flares to its margin are told with that in their uncertainty', async () => {
    const plain = slotAndBox();
    // The facial wall turns out by 35° half way.
    const x = 4.5 - 1.4;
    const flared: BoxCut = {
      ...plain,
      box: {
        ...plain.box,
        plan: [
          [x, -1.5],
          [5.5, -1.5],
          [5.5, 1.5 + 1.7 * Math.tan((35 * Math.PI) / 180)],
          [x + 0.7, 1.5],
          [x, 1.5],
        ],
      },
    };
    const readings = boxCorners(await anatomy(flared));
    const of = (side: string, all: readonly Reading[]) => all.find((r) => r.zone === `box mesial ${side}`);
    const [facial, lingual] = ['facial', 'lingual'].map((side) => of(side, readings));
    expect(Math.abs((facial?.value ?? Number.NaN) - 90)).toBeLessThan(facial?.U as number);
    expect(facial?.U).toBeGreaterThan(2 * (lingual?.U as number));
    within(lingual?.value, 90, 1.5);
  });
});

describe('the way out of a box', () => {
  it('runs along upright walls', async () => {
    const [pair, path] = boxParallel(await anatomy(slotAndBox()));
    expect(pair).toMatchObject({ value: null, reason: 'no-pair' });
    within(path.value, 0, 0.3);
  });
  it('lies off another path by what that leans to facial', async () => {
    const a = await anatomy(slotAndBox());
    const tilt = (7 * Math.PI) / 180;
    const path = boxParallel(a, [Math.sin(tilt), Math.sin(tilt), Math.cos(tilt)]).find((r) => r.zone === 'box mesial path');
    within(path?.value ?? null, 7, 0.3);
  });
});

describe('instruments in a box', () => {
  it.each([
    { axial: 1.4, gap: 0.6, wide: 3, condenser: 2, hatchet: 3 },
    { axial: 1.1, gap: 0.3, wide: 4, condenser: 1.4, hatchet: 4 },
    { axial: 1.6, gap: 2.4, wide: 2.4, condenser: 2.4, hatchet: 2.4 },
  ])(
    'between an axial wall $axial in, a neighbour $gap out and walls $wide apart: $condenser and $hatchet',
    async ({ axial, gap, wide, condenser, hatchet }) => {
      const readings = instrumentBox(await anatomy(slotAndBox({ axial, wide }), gap));
      const widest = value(readings, 'instrument.box.condenser', 'box mesial');
      within(widest, condenser, 0.12);
      within(value(readings, 'instrument.box.hatchet', 'box mesial'), hatchet, 0.15);
    },
  );
  it('says that there is no neighbour to keep clear of', async () => {
    const a = await anatomy(slotAndBox());
    for (const r of instrumentBox({ ...a, master: { ...a.master, mesial: null } }))
      expect(r).toMatchObject({ value: null, reason: 'no-neighbour' });
  });
});

describe('a bevel along the gingival margin', () => {
  /** The margin's edge stands at x = 4.5, z = 3; a bar takes `along` of the floor and falls by `angle`. */
  const bevelled = (along: number, angle: number): BoxCut => {
    const fall = Math.tan((angle * Math.PI) / 180);
    const x = 4.5 - along;
    return {
      ...slotAndBox(),
      bars: [
        {
          section: [
            [x, 3],
            [x + 2, 3 - 2 * fall],
            [x + 2, 3.3],
            [x, 3.3],
          ],
          y: [-1.5, 1.5],
        },
      ],
    };
  };
  it.each([
    [0.4, 45],
    [0.6, 30],
  ])('%s mm of the floor at %s° is that over its cosine wide', async (along, angle) => {
    const readings = boxBevel(await anatomy(bevelled(along, angle)));
    within(value(readings, 'bevel.gingival.angle', 'box mesial'), angle, 3);
    within(value(readings, 'bevel.gingival.width', 'box mesial'), along / Math.cos((angle * Math.PI) / 180), 0.1);
  });
  it('is not found on a square margin', async () => {
    for (const r of boxBevel(await anatomy(slotAndBox()))) expect(r).toMatchObject({ value: null, reason: 'no-bevel' });
  });
});

describe('the axial wall against its lesion', () => {
  /** An octahedron whose innermost point lies at x. */
  const lesion = (x: number) => {
    const positions = [x, 0, 4, x + 1, 0.8, 4, x + 1, -0.8, 4, x + 1, 0, 4.6, x + 1, 0, 3.4, x + 1.5, 0, 4];
    const triangles = [0, 1, 3, 0, 3, 2, 0, 2, 4, 0, 4, 1, 5, 3, 1, 5, 2, 3, 5, 4, 2, 5, 1, 4];
    return makeSurface(makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles)));
  };
  it.each([
    [3.6, 0.5],
    [2.9, -0.2],
  ])('decay to x = %s before a wall at 3.1 leaves %s mm', async (x, left) => {
    const a = await anatomy(slotAndBox());
    within(axialLesion({ ...a, master: { ...a.master, caries: lesion(x) } })[0].value, left, 0.03);
  });
  it('without decay in the master there is none to compare with', async () => {
    expect(axialLesion(await anatomy(slotAndBox()))[0]).toMatchObject({ value: null, reason: 'no-caries' });
  });
});

describe('steps between isthmus and box', () => {
  /** Channel and box joined by a quarter of a circle of that radius at each inward corner. */
  const joined = (radius: number): BoxCut => {
    const [x, y] = [3.1, 0.7];
    const arc = (from: number, sign: 1 | -1) =>
      Array.from({ length: 13 }, (_, i) => {
        const a = ((from + (i * 90) / 12) * Math.PI) / 180;
        return [x - radius + radius * Math.cos(a), sign * (y + radius) + radius * Math.sin(a)] as const;
      });
    return {
      ...slotAndBox({ wide: 4 }),
      occlusal: {
        plan: [[-2.5, -y], ...arc(0, -1).reverse(), [5.5, -y - radius], [5.5, y + radius], ...arc(270, 1).reverse(), [-2.5, y]],
        z: 5,
      },
    };
  };
  it('a square corner reads no more radius than the outline’s blur, and says how unsure that is', async () => {
    const [r] = outlineStep(await anatomy(slotAndBox({ wide: 4 })));
    within(r.value, 0.2, 0.1);
    expect(Math.abs(r.value as number)).toBeLessThan(2 * (r.U as number));
  });
  it('a box as wide as the channel has no corner', async () => {
    expect(outlineStep(await anatomy(slotAndBox({ wide: 1.4 })))[0]).toMatchObject({
      zone: 'box mesial',
      value: null,
      reason: 'no-corner',
    });
  });
  it('an arc of 0.8 mm reads its radius', async () => {
    const a = await anatomy(joined(0.8));
    // The box's own corners are square: only its inner ones are asked for here.
    within(
      outlineStep({ ...a, outline: a.outline.map((o) => (Math.abs(o.p[1]) > 1.4 ? { ...o, tangent: [0, 0, 1] as const } : o)) })[0].value,
      0.8,
      0.2,
    );
  });
});

describe('a dovetail', () => {
  /** A channel 1.4 wide whose distal end widens to `end` over a millimetre. */
  const widened = (end: number): BoxCut => ({
    ...slotAndBox(),
    occlusal: {
      plan: [
        [-2.6, -end / 2],
        [-1.4, -end / 2],
        [-0.8, -0.7],
        [5.5, -0.7],
        [5.5, 0.7],
        [-0.8, 0.7],
        [-1.4, end / 2],
        [-2.6, end / 2],
      ],
      z: 5,
    },
  });
  it.each([2.2, 2.8])('an end of %s mm stands over an isthmus of 1.4', async (end) => {
    within(outlineDovetail(await anatomy(widened(end)))[0].value, end / 1.4, 0.12);
  });
  it('a channel of one width has none', async () => {
    within(outlineDovetail(await anatomy(slotAndBox()))[0].value, 1, 0.06);
  });
});
