// Contact sheets of the simulated teeth and preparations, to be looked at: node scripts/run-ts.mjs study/sheet.ts teeth|forms|quadrants|layers|preparations|parts|faults OUT.png
import { writeFileSync } from 'node:fs';
import { PNG } from 'pngjs';
import { isLeftHanded } from '#core/anatomy/anatomy.ts';
import { caries, cariesPlace, dentine, pulp } from '#core/anatomy/inner.ts';
import { makeTooth } from '#core/anatomy/tooth.ts';
import { IDENTITY, invertRigid, type Matrix, multiply } from '#core/linalg/rigid.ts';
import { SECTORS } from '#core/linalg/sectors.ts';
import { intoFrame, type Mesh } from '#core/mesh/mesh.ts';
import { toothSolid } from '#core/simulate/bodies.ts';
import { CLEAN_CLASS_I, cleanClassII } from '#core/simulate/cavity/recipe.ts';
import { ANTERIOR_CERAMIC, METAL_CERAMIC_FACIAL, ZIRCONIA_POSTERIOR } from '#core/simulate/crown/recipe.ts';
import { FAULTS, type FaultName } from '#core/simulate/faults/faults.ts';
import { fileFrame } from '#core/simulate/master.ts';
import { CLEAN_ONLAY } from '#core/simulate/onlay/recipe.ts';
import { CLEAN_PARTIAL } from '#core/simulate/partial/recipe.ts';
import { CLEAN_PREFORMED } from '#core/simulate/preformed/recipe.ts';
import { defaultRecipe, type Recipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { withFaults } from '#core/simulate/spoil.ts';
import { makeSurface, type Surface, signedDistance } from '#core/spatial/surface.ts';
import { blank, draw, VIEWS } from '../src/files/render.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';
import { AIMS } from '../src/seed/aims.ts';
import { type Cell, captioned, GROUND } from './captioned.ts';
import { BENCHES, TRIALS } from './fault-trials.ts';
import { parts } from './parts-sheet.tsx';

const [what, out] = process.argv.slice(2);
const CELL = 150;
const SIZE = 210;
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

/** Incisors, canines and premolars from facial, lingual, mesial and incisal. */
function forms(): PNG {
  const rows = [
    ['11', '12', '13', '14', '15', '51', '53'],
    ['41', '42', '43', '44', '45', '81', '83'],
  ];
  const views = ['facial', 'lingual', 'mesial', 'occlusal'] as const;
  const png = blank(7 * SIZE, rows.length * 4 * SIZE, GROUND);
  rows.forEach((row, j) => {
    row.forEach((tooth, i) => {
      const s = toothSolid({ shape: makeTooth(tooth), part: 1, place: IDENTITY, inverse: IDENTITY }, 90);
      const mesh = { positions: s.positions, triangles: s.triangles, colour: () => IVORY };
      views.forEach((v, k) => {
        const centre = v === 'occlusal' ? [0, 0, 0] : [0, 0, 3.6];
        draw(png, mesh, { ...VIEWS[v], centre, scale: 15 }, { x: i * SIZE, y: (4 * j + k) * SIZE, width: SIZE, height: SIZE });
      });
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

type Look = { readonly right: readonly number[]; readonly up: readonly number[]; readonly eye: readonly number[] };

/** The prepared tooth alone: its neighbours would stand in front of it. */
function portrait(mesh: Mesh, md: number, look: Look, colour: (v: number) => readonly [number, number, number]): PNG {
  const reach = 0.5 * md + 0.1;
  const kept = mesh.triangles.filter((_, k) => {
    const f = k - (k % 3);
    return [0, 1, 2].every((j) => Math.abs(mesh.positions[3 * mesh.triangles[f + j]]) < reach);
  });
  const png = blank(SIZE, SIZE, GROUND);
  draw(png, { positions: mesh.positions, triangles: kept, colour }, { ...look, centre: [0, 0, 3], scale: 15 } as never, {
    x: 0,
    y: 0,
    width: SIZE,
    height: SIZE,
  });
  return png;
}

/** Files hold a tooth leaning as its arch has it; its portrait is taken along its own axis. */
function upright(mesh: Mesh, tooth: string): Mesh {
  const handed: Matrix = [1, 0, 0, 0, 0, isLeftHanded(tooth) ? -1 : 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  return intoFrame(mesh, multiply(handed, invertRigid(fileFrame(tooth))), 'master');
}

const clean = (tooth: string) => ({ ...defaultRecipe(tooth, 1).scan, triangles: 90_000, noise: 0, pose: 'none' as const });

async function preparations(): Promise<Buffer> {
  const kernel = await solidKernel();
  const both = [...cleanClassII('mesial').boxes, ...cleanClassII('distal').boxes];
  const inlay = { facial: -5, mesial: -5, lingual: -5, distal: -5 };
  const cases: [string, string, Recipe['preparation']][] = [
    ['16', 'crown, zirconia', ZIRCONIA_POSTERIOR],
    ['25', 'crown, metal-ceramic', METAL_CERAMIC_FACIAL],
    ['22', 'crown, incisor', ANTERIOR_CERAMIC],
    ['13', 'crown, canine', ANTERIOR_CERAMIC],
    ['37', 'Class I', CLEAN_CLASS_I],
    ['24', 'Class II, DO', AIMS['class2-amalgam-minimal'].task.aim],
    ['46', 'MOD', { ...cleanClassII('mesial'), boxes: both }],
    ['45', 'slot', { ...cleanClassII('mesial', { width: 2.4 }), occlusal: null }],
    [
      '36',
      'inlay, MOD',
      {
        ...CLEAN_CLASS_I,
        occlusal: { ...(CLEAN_CLASS_I.occlusal as NonNullable<typeof CLEAN_CLASS_I.occlusal>), isthmus: 2, walls: inlay },
        boxes: both.map((b) => ({ ...b, facial: -5, lingual: -5, axial: -4 })),
      },
    ],
    ['46', 'onlay, facial cusps', CLEAN_ONLAY],
    ['16', 'onlay, lingual cusps', { ...CLEAN_ONLAY, covers: 'lingual' }],
    ['26', 'three-quarter crown', CLEAN_PARTIAL],
    ['13', 'three-quarter, anterior', AIMS['three-quarter-anterior-practice'].task.aim],
    ['75', 'preformed crown', CLEAN_PREFORMED],
  ];
  const cells = cases.map(([tooth, caption, preparation]): Cell => {
    const w = new Workshop(tooth, 5, kernel);
    const mesh = upright(w.cut({ preparation, neighbourDamage: { mesial: 0, distal: 0 }, scan: clean(tooth) }, 2).scan.mesh, tooth);
    const looks = (['occlusal', 'lingual', 'mesial'] as const).map((v) => VIEWS[v]);
    return { caption: `${tooth}: ${caption}`, pictures: looks.map((l) => portrait(mesh, w.typodont.target.plan.md, l, () => IVORY)) };
  });
  return captioned(cells, 7, SIZE);
}

/** Looking at an azimuth of a tooth from so many radians over the horizon; left-handed quadrants lie mirrored in their files. */
function lookAt(azimuth: number, tooth: string, over = 0.6): Look {
  const a = (azimuth * Math.PI) / 180;
  const out = [Math.sin(a), (isLeftHanded(tooth) ? -1 : 1) * Math.cos(a)];
  const [c, s] = [Math.cos(over), Math.sin(over)];
  return { right: [-out[1], out[0], 0], up: [-out[0] * s, -out[1] * s, c], eye: [out[0] * c, out[1] * c, s] };
}

/** Every fault of the simulator, large, where it is cut: rust where more was taken than from clean work, teal where less. */
async function faults(): Promise<Buffer> {
  const kernel = await solidKernel();
  const shops = new Map<string, Workshop>();
  const cleanOnes = new Map<string, Surface>();
  const cells = TRIALS.map((t): Cell => {
    const { teeth, preparation } = BENCHES[t.on];
    const tooth = teeth[0];
    const w = shops.get(tooth) ?? new Workshop(tooth, 5, kernel);
    shops.set(tooth, w);
    const cut = (list: { fault: FaultName; size: number; at?: string }[]): Mesh => {
      const r = withFaults({ ...defaultRecipe(tooth, 1, preparation), faults: list });
      return upright(w.cut({ ...r, scan: clean(tooth) }, 2).scan.mesh, tooth);
    };
    const sound = cleanOnes.get(t.on) ?? makeSurface(cut([]));
    cleanOnes.set(t.on, sound);
    const usual = FAULTS[t.fault].at;
    const at = t.at === 'cusp' ? (w.typodont.target.cusps.find((c) => c.role === 'functional')?.name ?? '') : (t.at ?? usual);
    const size = t.sizes[t.sizes.length - 1];
    const mesh = cut([{ fault: t.fault, size, ...(at ? { at } : {}) }]);
    const sector = SECTORS.find((s) => s.name === at);
    const p = mesh.positions;
    const colour = (v: number): readonly [number, number, number] => {
      const d = signedDistance(sound, p[3 * v], p[3 * v + 1], p[3 * v + 2]) ?? 0;
      const share = Math.min(1, Math.max(0, (Math.abs(d) - 0.02) / 0.15));
      const tint = d < 0 ? [0.75, 0.32, 0.17] : [0.07, 0.45, 0.5];
      return [0, 1, 2].map((k) => IVORY[k] + share * (tint[k] - IVORY[k])) as unknown as [number, number, number];
    };
    const look = lookAt(sector?.centre ?? 180, tooth);
    const unit = FAULTS[t.fault].unit;
    const amount = unit === 'mm' ? `${size} mm` : unit === 'deg' ? `${size}°` : `${Math.round(100 * size)} %`;
    return {
      caption: `${FAULTS[t.fault].words}, ${amount}`,
      pictures: [
        portrait(mesh, w.typodont.target.plan.md + 3, t.on === 'cavity' || t.fault === 'neighbour' ? VIEWS.occlusal : look, colour),
      ],
    };
  });
  return captioned(cells, 7, SIZE);
}

/** An upper and a lower quadrant as their masters hold them: from above, and the opposing one from the cheek. */
async function quadrants(): Promise<Buffer> {
  const kernel = await solidKernel();
  const cells = ['16', '36'].map((tooth): Cell => {
    const { arch, opposing } = new Workshop(tooth, 4, kernel, { arch: 'quadrant' }).master.meshes;
    const side = isLeftHanded(tooth) ? 1 : -1;
    const pictures = [
      { mesh: arch.mesh, look: VIEWS.occlusal, centre: [10, side * 6, 3] },
      { mesh: opposing as Mesh, look: lookAt(0, tooth, -0.35), centre: [10, side * 6, 8] },
    ].map(({ mesh, look, centre }) => {
      const png = blank(2 * SIZE, SIZE, GROUND);
      const view = { ...look, centre, scale: 6.4 } as never;
      draw(png, { positions: mesh.positions, triangles: mesh.triangles, colour: () => IVORY }, view, {
        x: 0,
        y: 0,
        width: 2 * SIZE,
        height: SIZE,
      });
      return png;
    });
    return { caption: `quadrant of ${tooth}, and what bites against it`, pictures };
  });
  return captioned(cells, 2, 2 * SIZE);
}

const sheets = {
  quadrants,
  teeth: () => PNG.sync.write(teeth()),
  forms: () => PNG.sync.write(forms()),
  layers: () => PNG.sync.write(layers()),
  preparations,
  parts,
  faults,
};
writeFileSync(out, await sheets[what as keyof typeof sheets]());
