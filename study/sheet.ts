// Contact sheets of the simulated teeth and preparations, to be looked at: node scripts/run-ts.mjs study/sheet.ts teeth|layers|preparations OUT.png
import { writeFileSync } from 'node:fs';
import { PNG } from 'pngjs';
import { IDENTITY } from '#core/linalg/rigid.ts';
import { CLEAN_CLASS_I, cleanClassII } from '#core/simulate/cavity/recipe.ts';
import { CLEAN_ONLAY } from '#core/simulate/onlay/recipe.ts';
import { CLEAN_PARTIAL, THREE_QUARTER_ANTERIOR } from '#core/simulate/partial/recipe.ts';
import { ANTERIOR_CERAMIC, defaultRecipe, METAL_CERAMIC_FACIAL, type Recipe, ZIRCONIA_POSTERIOR } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { caries, cariesPlace, dentine, pulp } from '#core/simulate/tooth/inner.ts';
import { makeTooth } from '#core/simulate/tooth/tooth.ts';
import { toothSolid } from '#core/simulate/typodont.ts';
import { blank, draw, VIEWS } from '../src/files/render.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';

const [what, out] = process.argv.slice(2);
const CELL = 150;
const GROUND = [229, 235, 232];
const IVORY = [0.95, 0.92, 0.84] as const;

function teeth(): PNG {
  const rows = [
    ['11', '12', '13', '14', '15', '16', '17', '18'],
    ['41', '42', '43', '44', '45', '46', '47', '48'],
    ['51', '52', '53', '54', '55', '83', '84', '85'],
  ];
  const png = blank(8 * CELL, rows.length * 2 * CELL, GROUND);
  rows.forEach((row, j) => {
    row.forEach((tooth, i) => {
      const shape = makeTooth(tooth);
      const s = toothSolid({ shape, part: 1, place: IDENTITY, inverse: IDENTITY }, 60);
      const mesh = { positions: s.positions, triangles: s.triangles, colour: () => IVORY };
      draw(png, mesh, { ...VIEWS.occlusal, centre: [0, 0, 0], scale: 11 }, { x: i * CELL, y: 2 * j * CELL, width: CELL, height: CELL });
      draw(
        png,
        mesh,
        { ...VIEWS.facial, centre: [0, 0, 3], scale: 9.5 },
        { x: i * CELL, y: (2 * j + 1) * CELL, width: CELL, height: CELL },
      );
    });
  });
  return png;
}

const LAYERS = { enamel: [243, 240, 228], dentine: [224, 200, 150], pulp: [196, 110, 98], caries: [110, 78, 52] };

/** Each tooth cut open along the axis: faciolingually above, mesiodistally below, decay where it begins most often. */
function layers(): PNG {
  const teeth = ['11', '13', '24', '16', '32', '45', '37', '51', '74'];
  const png = blank(teeth.length * CELL, 2 * CELL, GROUND);
  teeth.forEach((tooth, i) => {
    const shape = makeTooth(tooth);
    const decay = { site: shape.grooves.length ? ('occlusal' as const) : ('mesial' as const), depth: 2, width: 2 };
    const bodies = [
      [caries(shape, decay, cariesPlace(shape, decay, null)).within, LAYERS.caries],
      [pulp(shape), LAYERS.pulp],
      [dentine(shape), LAYERS.dentine],
      [shape.inside, LAYERS.enamel],
    ] as const;
    for (let v = 0; v < 2 * CELL; v++)
      for (let u = 0; u < CELL; u++) {
        const across = (u - CELL / 2) / 11;
        const z = 9.5 - (v % CELL) / 11.5;
        const [x, y] = v < CELL ? [0, across] : [across, 0];
        const layer = z > -3 ? bodies.find(([within]) => within(x, y, z) > 0)?.[1] : undefined;
        if (layer) png.data.set(layer, 4 * (v * png.width + i * CELL + u));
      }
  });
  return png;
}

async function preparations(): Promise<PNG> {
  const kernel = await solidKernel();
  const cases: [string, Recipe['preparation']][] = [
    ['16', ZIRCONIA_POSTERIOR],
    ['25', METAL_CERAMIC_FACIAL],
    ['22', ANTERIOR_CERAMIC],
    ['13', ANTERIOR_CERAMIC],
    ['37', CLEAN_CLASS_I],
    ['34', cleanClassII('distal', { width: 2.6 })],
    ['46', { ...cleanClassII('mesial'), boxes: [...cleanClassII('mesial').boxes, ...cleanClassII('distal').boxes] }],
    ['45', { ...cleanClassII('mesial', { width: 2.4 }), occlusal: null }],
    ['46', CLEAN_ONLAY],
    ['16', { ...CLEAN_ONLAY, covers: 'lingual' }],
    ['26', CLEAN_PARTIAL],
    ['13', THREE_QUARTER_ANTERIOR],
  ];
  const across = 6;
  const size = 210;
  const png = blank(across * size, Math.ceil(cases.length / across) * 3 * size, GROUND);
  for (const [i, [tooth, preparation]] of cases.entries()) {
    const w = new Workshop(tooth, 5, kernel);
    const scan = { ...defaultRecipe(tooth, 1).scan, noise: 0, pose: 'none' as const };
    const { mesh } = w.cut({ preparation, neighbourDamage: { mesial: 0, distal: 0 }, scan }, 2).scan;
    // The prepared tooth alone: its neighbours would stand in front of it.
    const reach = 0.5 * w.typodont.target.plan.md + 0.1;
    const kept = mesh.triangles.filter((_, k) => {
      const f = k - (k % 3);
      return [0, 1, 2].every((j) => Math.abs(mesh.positions[3 * mesh.triangles[f + j]]) < reach);
    });
    const m = { positions: mesh.positions, triangles: kept, colour: () => IVORY };
    for (const [row, view] of (['occlusal', 'lingual', 'mesial'] as const).entries())
      draw(
        png,
        m,
        { ...VIEWS[view], centre: [0, 0, 3], scale: 15 },
        { x: (i % across) * size, y: (3 * Math.floor(i / across) + row) * size, width: size, height: size },
      );
  }
  return png;
}

writeFileSync(out, PNG.sync.write(await { teeth, layers, preparations }[what as 'teeth']()));
