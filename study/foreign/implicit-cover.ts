// Family "implicit", partial covers: three-quarter crowns with grooves and boxes, and onlays, as functions of place.
import { bisected } from './bisected.ts';
import type { NamedCase, Truth } from './case.ts';
import { cavity } from './implicit.ts';
import { crown, crownTruths, finishHeight, type ImplicitCrown, middleOf, type Sides, sides, stumpOf, wallOf } from './implicit-crown.ts';
import { type Body, roundedBoth, roundedEither } from './implicit-mesh.ts';
import { placed, type Slot, slot, slotTruths } from './implicit-slot.ts';
import { type ImplicitTooth, landmarks, top, uncut } from './implicit-tooth.ts';
import { boxTruths, type Cut, floorDepths } from './implicit-truths.ts';
import { type ImplicitWork, scansOf } from './implicit-work.ts';
import { plateTruth } from './plate-truth.ts';

const RAD = Math.PI / 180;

export interface ThreeQuarter {
  readonly cover: ImplicitCrown;
  /** y from which the facial plate stands, and how far its top is lowered. */
  readonly plate: number;
  readonly plateDown: number;
  readonly slots: readonly Slot[];
}

export function threeQuarter(t: ImplicitTooth, c: ThreeQuarter) {
  const [own, stump] = [uncut(t), stumpOf(t, c.cover)];
  const solid: Body = (x, y, z) => {
    const plate = roundedBoth(c.plate - y, 0.8 * (z - top(t, x, y) + c.plateDown), c.cover.edge);
    return roundedEither(stump(x, y, z), plate, c.cover.fillet);
  };
  const slots = c.slots.map((s) => placed(t, c.cover, s).cutter);
  const cut: Body = (x, y, z) => slots.reduce((d, cutter) => Math.max(d, -cutter(x, y, z)), solid(x, y, z));
  const body: Body = (x, y, z) => Math.max(own(x, y, z), cut(x, y, z));
  return { solid, body };
}

/** Zones of the covered side alone. */
const LINGUAL = /^(margin\.(width|gingiva)|wall\.lean)$/;

function threeQuarterTruths(t: ImplicitTooth, c: ThreeQuarter): Truth[] {
  const { solid, body } = threeQuarter(t, c);
  const out = crownTruths(t, c.cover).filter((q) => (q.zone === 'lingual' && LINGUAL.test(q.name)) || q.name.startsWith('neighbour'));
  out.push(...slotTruths(t, c.cover, c.slots, c.plate, solid));
  out.push(...sliceTruths(t, c));
  out.push({ name: 'plate.thickness', zone: null, stat: 'min', value: plateTruth(uncut(t), body, landmarks(t)) });
  return out;
}

/** Lean of the wall beside the plate, seen from the middle, at heights between ledge and top; median from the plate to 45° past the side's middle. */
function sliceTruths(t: ImplicitTooth, c: ThreeQuarter): Truth[] {
  const wall = wallOf(t, c.cover);
  const [x0, y0] = middleOf(landmarks(t).gingivalMargin);
  return (['mesial', 'distal'] as const).map((zone) => {
    const way = zone === 'mesial' ? 1 : -1;
    const leans: number[] = [];
    for (let phi = 46; phi <= 135; phi++) {
      const [s, k] = [way * Math.sin(phi * RAD), Math.cos(phi * RAD)];
      const out = (z: number): number => bisected((r) => wall(x0 + r * s, y0 + r * k, z), 0, 9);
      const ledge = finishHeight(t, c.cover, [x0, y0, 0], way * phi);
      const [low, high] = [ledge + 1, ledge + 2];
      if (y0 + out(low) * k < c.plate) leans.push(Math.atan((out(low) - out(high)) / (high - low)) / RAD);
    }
    leans.sort((a, b) => a - b);
    return { name: 'slice.angle', zone, stat: 'median', value: leans[leans.length >> 1] };
  });
}

export interface Onlay {
  readonly covers: 'facial' | 'lingual';
  readonly cover: ImplicitCrown;
  /** mm from the middle to the covered side at which the cover ends. */
  readonly split: number;
  readonly inside: Cut;
}

export function onlay(t: ImplicitTooth, c: Onlay): Body {
  const [own, stump, taken] = [uncut(t), stumpOf(t, c.cover), cavity(c.inside)];
  const s = c.covers === 'facial' ? 1 : -1;
  return (x, y, z) => Math.max(own(x, y, z), Math.min(stump(x, y, z), s * y - c.split), -taken(x, y, z));
}

function onlayTruths(t: ImplicitTooth, c: Onlay): Truth[] {
  const out = crownTruths(t, c.cover).filter((q) => (q.zone === c.covers && LINGUAL.test(q.name)) || q.name.startsWith('neighbour'));
  const say = (name: string, zone: string | null, stat: string, value: number): void => void out.push({ name, zone, stat, value });
  const free = c.covers === 'facial' ? 'lingual' : 'facial';
  for (const side of ['facial', 'lingual', 'mesial', 'distal'] as const)
    if (side === free || (side !== c.covers && !c.inside.boxes.some((b) => b.side === side)))
      say('wall.angle', side, 'mean', c.inside.lean[side]);
  say('floor.pulpal.tilt', null, 'value', Math.abs(c.inside.tilt));
  floorDepths(t, c.inside, say);
  for (const b of c.inside.boxes) boxTruths(t, c.inside, b, say);
  // Where the cover took the box's own margin away there is none of its floor's.
  return out.filter((q) => !(q.name === 'box.axialdepth' && q.zone?.includes(c.covers)) && !q.zone?.endsWith(' path'));
}

export const cover = (over: number, width: number, lean: Sides, down: number, fillet: number, edge: number): ImplicitCrown =>
  crown(over, sides(width), lean, down, fillet, edge);
const THREE_QUARTERS: readonly (readonly [string, string, ThreeQuarter])[] = [
  [
    'grooves',
    'molar17',
    {
      cover: cover(0.6, 0.5, sides(5, 3), 1, 0.4, 0.1),
      plate: 2.6,
      plateDown: 1,
      slots: [slot('mesial', { y: 1.6 }), slot('distal', { y: 1.4 })],
    },
  ],
  [
    'grooves apart by 5°',
    'molar36',
    {
      cover: cover(0.5, 0.6, sides(6, 4), 1.2, 0.3, 0.3),
      plate: 2.4,
      plateDown: 0.9,
      slots: [slot('mesial', { lean: 3, depth: 0.6 }), slot('distal', { lean: -2, width: 1.2 })],
    },
  ],
  [
    'boxes',
    'molar36',
    {
      cover: cover(0.5, 0.5, sides(5, 4), 1.2, 0.3, 0.2),
      plate: 2.8,
      plateDown: 1,
      slots: [
        slot('mesial', { round: false, width: 2.6, depth: 1, y: 0.8 }),
        slot('distal', { round: false, width: 2.2, depth: 0.9, y: 0.6 }),
      ],
    },
  ],
  [
    'a box and a groove',
    'premolar25',
    {
      cover: cover(0.5, 0.5, sides(5, 3), 1, 0.25, 0.15),
      plate: 2.4,
      plateDown: 1,
      slots: [slot('mesial', { round: false, width: 2.2, depth: 0.8, y: 0.4, over: 0.7 }), slot('distal', { width: 0.9, depth: 0.6 })],
    },
  ],
];

export const INSIDE: Cut = {
  half: [3, 3],
  width: 2.2,
  floor: 3.3,
  tilt: 0,
  dish: 0,
  lean: { facial: -5, mesial: -5, lingual: -5, distal: -5 },
  fillet: 0.25,
  line: 0.3,
  boxes: [],
  axiopulpal: 0.25,
};
const BOX = { axial: 3.6, y: 0, width: 3.6, floor: 1.4, lean: { facial: -5, lingual: -5, axial: -4 } } as const;
const ONLAYS: readonly (readonly [string, string, Onlay])[] = [
  [
    'facial, two boxes',
    'molar36',
    {
      covers: 'facial',
      cover: cover(2.3, 1, sides(6), 1.8, 0.35, 0.3),
      split: 0.9,
      inside: {
        ...INSIDE,
        boxes: [
          { ...BOX, side: 'mesial' },
          { ...BOX, side: 'distal', axial: 3.7, width: 3.4 },
        ],
      },
    },
  ],
  [
    'lingual, one box',
    'molar17',
    {
      covers: 'lingual',
      cover: cover(2.2, 0.8, sides(7, 5), 1.6, 0.3, 0.4),
      split: 0.8,
      inside: { ...INSIDE, width: 2, floor: 3, half: [2.4, 2.4], boxes: [{ ...BOX, side: 'mesial', axial: 3.2, width: 3.8, floor: 1.3 }] },
    },
  ],
  [
    'lingual, premolar, two boxes',
    'premolar25',
    {
      covers: 'lingual',
      cover: cover(2.6, 1, sides(6, 4), 2, 0.3, 0.3),
      split: 0.7,
      inside: {
        ...INSIDE,
        width: 1.8,
        floor: 3.8,
        boxes: [
          { ...BOX, side: 'mesial', axial: 2.1, width: 3, floor: 1.7 },
          { ...BOX, side: 'distal', axial: 2, width: 2.8, floor: 1.8, lean: { facial: -4, lingual: -6, axial: -5 } },
        ],
      },
    },
  ],
];

const WORK: readonly ImplicitWork[] = [
  ...THREE_QUARTERS.map(([words, form, c]) => ({
    kind: 'partial' as const,
    name: `${form} three-quarter crown, ${words}`,
    form,
    body: (t: ImplicitTooth) => threeQuarter(t, c).body,
    truths: (t: ImplicitTooth) => threeQuarterTruths(t, c),
  })),
  ...ONLAYS.map(([words, form, c]) => ({
    kind: 'onlay' as const,
    name: `${form} onlay, ${words}`,
    form,
    body: (t: ImplicitTooth) => onlay(t, c),
    truths: (t: ImplicitTooth) => onlayTruths(t, c),
  })),
];

export const IMPLICIT_COVERS: readonly NamedCase[] = scansOf(WORK, 1000);
