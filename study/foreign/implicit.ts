// Family "implicit": teeth and cavities as functions of place, joined by rounded minima and maxima and meshed by surface nets.
import type { Vec3 } from '#core/linalg/vec.ts';
import { PART } from '#core/master/master.ts';
import { type ForeignCase, type NamedCase, SCAN, type ScanOptions, usualAndCoarse } from './case.ts';
import { bevelBody, cariesTruth, dentineSheet, flareBody, lesionSheet, wavesOf } from './implicit-inner-truths.ts';
import { type Body, roundedBoth, roundedEither, surfaceNets } from './implicit-mesh.ts';
import { gum, IMPLICIT_TEETH, type ImplicitTooth, landmarks, neighbours, uncut } from './implicit-tooth.ts';
import { type Cut, implicitTruths, roughTruths } from './implicit-truths.ts';
import { type Ball, ballSheet, pulpTruth } from './pulp-truth.ts';
import { emptySheet, foreignMaster, type Sheet, scanOf } from './scanner.ts';

const RAD = Math.PI / 180;

/** Walls leaning by degrees (+ converging occlusally) over a level plan at height z0; negative inside. */
const wallsOf = (x0: number, x1: number, y0: number, y1: number, z0: number, lean: Cut['lean'], line: number): Body => {
  const side = (place: number, at: number, z: number, degrees: number): number =>
    (place - (at - (z - z0) * Math.tan(degrees * RAD))) * Math.cos(degrees * RAD);
  return (x, y, z) =>
    roundedBoth(
      Math.max(side(x, x1, z, lean.mesial), side(-x, -x0, z, lean.distal)),
      Math.max(side(y, y1, z, lean.facial), side(-y, -y0, z, lean.lingual)),
      line,
    );
};

/** What the cut takes away; negative inside. */
export function cavity(c: Cut): Body {
  const has = (side: 'mesial' | 'distal'): boolean => c.boxes.some((b) => b.side === side);
  const far = 9;
  const walls = wallsOf(
    has('distal') ? -far : -c.half[0],
    has('mesial') ? far : c.half[1],
    -c.width / 2,
    c.width / 2,
    c.floor,
    c.lean,
    c.line,
  );
  const floor: Body = (x, y, z) => {
    const dish = c.dish * Math.max(0, 1 - (x / 3) ** 2) * Math.max(0, 1 - (y / (0.5 * c.width)) ** 2);
    return (c.floor + Math.tan(c.tilt * RAD) * y - dish - z) * Math.cos(c.tilt * RAD);
  };
  const waves = wavesOf(c);
  let body: Body = (x, y, z) => roundedBoth(walls(x, y, z) + waves(z), floor(x, y, z), c.fillet);
  for (const b of c.boxes) {
    const s = b.side === 'mesial' ? 1 : -1;
    const lean = { facial: b.lean.facial, lingual: b.lean.lingual, mesial: s === 1 ? 0 : b.lean.axial, distal: s === 1 ? b.lean.axial : 0 };
    const [x0, x1] = s === 1 ? [b.axial, far] : [-far, -b.axial];
    const sides = wallsOf(x0, x1, b.y - b.width / 2, b.y + b.width / 2, b.floor, lean, c.line);
    const slot: Body = (x, y, z) => roundedBoth(sides(x, y, z) + waves(z), b.floor - z, c.fillet);
    const rest = body;
    const [bevel, flare] = [bevelBody(b), flareBody(b)];
    body = (x, y, z) =>
      Math.min(roundedEither(rest(x, y, z), slot(x, y, z), c.axiopulpal), b.bevel ? bevel(x, y, z) : 9, b.flare ? flare(x, y, z) : 9);
  }
  return body;
}

const PARTS = [PART.gingiva, PART.target, PART.mesial, PART.distal] as const;

function scene(t: ImplicitTooth, target: Body, cell: number, beside: { readonly mesial?: Body } = {}): Sheet {
  const { mesial, distal } = { ...neighbours(t), ...beside };
  const reach = t.md / 2 - 1;
  const bodies = (x: number, y: number, z: number): number[] => [
    gum(x, y, z),
    Math.abs(x) < reach + 3 ? target(x, y, z) : 9,
    x > reach ? mesial(x, y, z) : 9,
    x < -reach ? distal(x, y, z) : 9,
  ];
  const sheet = emptySheet();
  const half = [t.md / 2 + 5.5, t.fl / 2 + 2.5];
  surfaceNets(
    sheet,
    (x, y, z) => Math.min(...bodies(x, y, z)),
    // A neighbour that is looked at itself is seen whole.
    { from: [-half[0], -half[1], -1.4], to: [half[0] + (beside.mesial ? t.md / 2 : 0), half[1], t.h + 1.6] },
    cell,
    (p: Vec3) => {
      const values = bodies(...p);
      return PARTS[values.indexOf(Math.min(...values))];
    },
  );
  return sheet;
}

/** mm between the points of a master. */
const MASTER_CELL = 0.14;
const arches = new WeakMap<ImplicitTooth, Sheet>();

/** The uncut arch round a tooth, of which its master is made: once for each tooth, since it takes as long as cutting and measuring. */
export function archOf(t: ImplicitTooth): Sheet {
  const made = arches.get(t) ?? scene(t, uncut(t), MASTER_CELL);
  arches.set(t, made);
  return made;
}

/** How a tooth's scans and masters are made: options with their defaults, and the surface of any body in its place. */
export const implicitScene = (t: ImplicitTooth, options: Partial<ScanOptions>) => ({
  options: { ...SCAN, ...options },
  scene: (target: Body, cell: number, beside: { readonly mesial?: Body } = {}): Sheet => scene(t, target, cell, beside),
});

function implicitCase(form: string, cut: Cut, options: Partial<ScanOptions>): Omit<ForeignCase, 'name'> {
  const t = IMPLICIT_TEETH[form];
  const o = { ...SCAN, ...options };
  const tooth = uncut(t);
  const taken = cavity(cut);
  const pulp: Ball = { at: [0.3, -0.2, cut.floor - 2.4], radius: 1.3 };
  const inner = { dej: dentineSheet(t, 0.2), pulp: ballSheet(pulp), ...(cut.lesion && { caries: lesionSheet(cut.lesion) }) };
  const master = foreignMaster(`Implicit ${form}`, t.tooth, archOf(t), landmarks(t), inner);
  const { scan, pose } = scanOf(
    t.tooth,
    scene(t, (x, y, z) => Math.max(tooth(x, y, z), -taken(x, y, z)), o.spacing),
    o,
  );
  return {
    family: 'implicit',
    kind: 'cavity',
    master,
    scan,
    pose,
    truths: () => [
      ...implicitTruths(t, cut, taken),
      ...(o.correlation === 0 ? roughTruths(cut, o.noise) : []),
      pulpTruth(pulp, (x, y, z) => -taken(x, y, z)),
      ...(cut.lesion ? [cariesTruth(t, cut.lesion, taken)] : []),
    ],
    size: 1,
  };
}

const CLASS_I: Cut = {
  half: [3, 3],
  width: 1.6,
  floor: 3.6,
  tilt: 0,
  dish: 0,
  lean: { facial: -5, mesial: -6, lingual: -5, distal: -6 },
  fillet: 0.2,
  line: 0.3,
  boxes: [],
  axiopulpal: 0,
};
const BOX = { axial: 3.7, y: 0, width: 3.4, floor: 1.5, lean: { facial: -3, lingual: -3, axial: -3 } } as const;

const CUTS: readonly (readonly [string, string, Partial<Cut>])[] = [
  ['Class I', 'molar36', {}],
  ['Class I, converging', 'molar17', { width: 2, floor: 3.1, lean: { facial: 4, mesial: -5, lingual: 4, distal: -5 }, half: [2.6, 2.8] }],
  ['Class I, tilted floor', 'premolar25', { half: [1.7, 1.7], width: 1.5, floor: 3.9, tilt: 5, fillet: 0.15 }],
  [
    'Class I, dished floor, wide',
    'molar36',
    { width: 2.6, dish: 0.25, fillet: 0.4, line: 0.5, lean: { facial: -9, mesial: -8, lingual: -7, distal: -10 } },
  ],
  ['Class II', 'molar36', { boxes: [{ ...BOX, side: 'mesial' }], axiopulpal: 0.2 }],
  [
    'Class II, converging box',
    'molar17',
    {
      floor: 3.1,
      half: [2.6, 2.6],
      width: 1.4,
      fillet: 0.1,
      line: 0.15,
      boxes: [{ side: 'distal', axial: 3.3, y: 0.3, width: 3.8, floor: 1.4, lean: { facial: 4, lingual: 3, axial: -2 } }],
    },
  ],
  [
    'MOD',
    'molar36',
    {
      fillet: 0.25,
      axiopulpal: 0.3,
      boxes: [
        { ...BOX, side: 'mesial' },
        { ...BOX, side: 'distal', y: -0.2, width: 3.8, floor: 1.2, axial: 3.9 },
      ],
    },
  ],
  [
    'MOD, steep',
    'premolar25',
    {
      width: 1.3,
      floor: 4,
      fillet: 0.12,
      line: 0.2,
      axiopulpal: 0.4,
      lean: { facial: -2, mesial: 0, lingual: -2, distal: 0 },
      boxes: [
        { side: 'mesial', axial: 2, y: 0, width: 3, floor: 1.8, lean: { facial: -1, lingual: -2, axial: -4 } },
        { side: 'distal', axial: 2, y: 0, width: 2.8, floor: 2, lean: { facial: -2, lingual: -1, axial: -4 } },
      ],
    },
  ],
  [
    'Class II, bevelled, decay',
    'molar36',
    {
      axiopulpal: 0.2,
      lesion: { x: 5.4, z: 2.8, radius: 1.4 },
      boxes: [{ ...BOX, side: 'mesial', bevel: { from: 1.05, angle: 40 } }],
    },
  ],
  [
    'Class II, bevelled deep, decay left',
    'molar17',
    {
      floor: 3.1,
      half: [2.6, 2.6],
      axiopulpal: 0.2,
      lesion: { x: -5, z: 2.4, radius: 1.6 },
      boxes: [
        {
          side: 'distal',
          axial: 3.3,
          y: 0.2,
          width: 3.8,
          floor: 1.5,
          lean: { facial: -3, lingual: -3, axial: -2 },
          bevel: { from: 0.9, angle: 30 },
        },
      ],
    },
  ],
  [
    'Class II, rough walls, wide step',
    'molar36',
    { axiopulpal: 0.7, line: 0.4, chatter: { height: 0.05, length: 0.5 }, boxes: [{ ...BOX, side: 'mesial', width: 4.2 }] },
  ],
  ['Class II, facial bevel', 'molar36', { axiopulpal: 0.2, boxes: [{ ...BOX, side: 'mesial', flare: { from: 0.9, angle: 40 } }] }],
  [
    'Class II, facial bevel, narrow',
    'molar17',
    {
      floor: 3.1,
      half: [2.6, 2.6],
      axiopulpal: 0.2,
      boxes: [
        {
          side: 'distal',
          axial: 3.2,
          y: 0,
          width: 3,
          floor: 1.5,
          lean: { facial: -4, lingual: -4, axial: -2 },
          flare: { from: 1.1, angle: 30 },
        },
      ],
    },
  ],
  ['Class I, rough walls', 'molar17', { width: 2, floor: 2.8, half: [2.6, 2.8], chatter: { height: 0.03, length: 0.45 } }],
  [
    'Class I, undermined',
    'molar36',
    { line: 0.08, width: 1.8, half: [2.8, 2.8], lean: { facial: 16, mesial: 10, lingual: 12, distal: 14 } },
  ],
];

/** Every cut with usual noise, and once more coarser with noise that neighbouring points share. */
export const IMPLICIT_CASES: readonly NamedCase[] = CUTS.flatMap(([cut, form, own], i) =>
  usualAndCoarse(`${form} ${cut}`, 900 + 2 * i, 0.22, (more) => implicitCase(form, { ...CLASS_I, ...own }, more)),
);
