// Family "implicit", anterior three-quarter crowns: lingual face, slots, and an incisal groove from one to the other, as functions of place.
import type { Vec3 } from '#core/linalg/vec.ts';
import type { NamedCase, Truth } from './case.ts';
import { crown, crownTruths, type ImplicitCrown, ledgeAt, sides, wallOf } from './implicit-crown.ts';
import { type Body, roundedBoth, roundedEither } from './implicit-mesh.ts';
import { placed, type Slot, slot, slotTruths } from './implicit-slot.ts';
import { type Blade, bladeFace, type ImplicitTooth, landmarks, uncut } from './implicit-tooth.ts';
import { scansOf } from './implicit-work.ts';
import { plateTruth } from './plate-truth.ts';

const RAD = Math.PI / 180;

interface AnteriorCover {
  /** Its ledge and its walls; the top is the lingual face's. */
  readonly cover: ImplicitCrown;
  /** mm by which the lingual face is lowered, and y from which the facial plate stands. */
  readonly lingual: number;
  readonly plate: number;
  readonly slots: readonly Slot[];
  /** The incisal groove: its round cutter's width, how deep it is sunk into the slope, and mm under the edge; degrees by which it falls to both sides of the middle. */
  readonly incisal: { readonly width: number; readonly depth: number; readonly under: number; readonly fall: number };
}

/** mm by which the groove's cutter stops short of the slots' outer ends. */
const SHORT = 0.5;

/** The groove's cutter: a ball drawn along the lowered slope from its middle to both slots; negative inside. */
function grooveCutter(t: ImplicitTooth, c: AnteriorCover): Body {
  const { slope, from } = bladeFace(t, t.blade as Blade, -1);
  const l = Math.hypot(1, slope);
  const z = t.h - c.incisal.under;
  const over = c.incisal.width / 2 - c.incisal.depth;
  // On the lowered slope, and then out of it by what of the radius is not sunk.
  const middle: Vec3 = [0, -t.fl / 2 + slope * (z - from) + c.lingual * l - over / l, z + (over * slope) / l];
  const k = Math.tan(c.incisal.fall * RAD);
  const way = Math.hypot(1, slope * k, k);
  const reach = (t.md / 2 - SHORT) * way;
  return (x, y, w) => {
    const [dx, dy, dz] = [Math.abs(x), y - middle[1], w - middle[2]];
    const along = Math.min(reach, Math.max(0, (dx - slope * k * dy - k * dz) / way));
    return Math.hypot(dx - along / way, dy + (slope * k * along) / way, dz + (k * along) / way) - c.incisal.width / 2;
  };
}

function anterior(t: ImplicitTooth, c: AnteriorCover): { readonly solid: Body; readonly body: Body } {
  const [own, wall, face] = [uncut(t), wallOf(t, c.cover), bladeFace(t, t.blade as Blade, -1).body];
  const solid: Body = (x, y, z) => {
    const stump = roundedBoth(wall(x, y, z), face(x, y, z) + c.lingual, c.cover.edge);
    return roundedEither(roundedEither(stump, z - ledgeAt(c.cover, x, y), c.cover.fillet), c.plate - y, c.cover.fillet);
  };
  const cutters = [...c.slots.map((s) => placed(t, c.cover, s).cutter), grooveCutter(t, c)];
  return { solid, body: (x, y, z) => cutters.reduce((d, cutter) => Math.max(d, -cutter(x, y, z)), Math.max(own(x, y, z), solid(x, y, z))) };
}

/** Zones of the covered side alone. */
const LINGUAL = /^margin\.(width|gingiva)$/;

function truthsOf(t: ImplicitTooth, c: AnteriorCover): Truth[] {
  const { solid, body } = anterior(t, c);
  const { width, depth } = c.incisal;
  const out = crownTruths(t, c.cover).filter((q) => (q.zone === 'lingual' && LINGUAL.test(q.name)) || q.name.startsWith('neighbour'));
  out.push(...slotTruths(t, c.cover, c.slots, c.plate, solid));
  // Chord of the cutter's circle where the slope cuts it.
  out.push({ name: 'groove.incisal.width', zone: null, stat: 'median', value: 2 * Math.sqrt((width / 2) ** 2 - (width / 2 - depth) ** 2) });
  out.push({ name: 'groove.incisal.joins', zone: null, stat: 'share', value: 1 });
  out.push({ name: 'plate.thickness', zone: null, stat: 'min', value: plateTruth(uncut(t), body, landmarks(t)) });
  return out;
}

const cover = (over: number, width: number, lean: number, edge: number): ImplicitCrown =>
  crown(over, sides(width), sides(lean, 2), 0, 0.3, edge);
const WORKS: readonly (readonly [string, string, AnteriorCover])[] = [
  [
    'incisal groove',
    'incisor21',
    {
      cover: cover(0.6, 0.5, 4, 0.15),
      lingual: 0.7,
      plate: 0.05,
      slots: [slot('mesial', { y: -0.9, depth: 0.8, width: 0.9 }), slot('distal', { y: -0.8, depth: 0.8, width: 0.9 })],
      incisal: { width: 1, depth: 0.45, under: 1.6, fall: 0 },
    },
  ],
  [
    'incisal groove along two slopes',
    'canine43',
    {
      cover: cover(0.5, 0.6, 5, 0.25),
      lingual: 0.6,
      plate: -0.1,
      slots: [slot('mesial', { y: -1, depth: 0.8, width: 1 }), slot('distal', { y: -1.1, depth: 0.8, width: 0.9 })],
      incisal: { width: 0.9, depth: 0.4, under: 2, fall: 22 },
    },
  ],
  [
    'shallow incisal groove',
    'canine43',
    {
      cover: cover(0.7, 0.5, 3, 0.1),
      lingual: 0.8,
      plate: 0.1,
      slots: [slot('mesial', { y: -0.8, depth: 0.7, width: 0.8 }), slot('distal', { y: -0.8, depth: 0.7, width: 0.8 })],
      incisal: { width: 1.2, depth: 0.3, under: 1.9, fall: 14 },
    },
  ],
];

export const IMPLICIT_ANTERIOR_COVERS: readonly NamedCase[] = scansOf(
  WORKS.map(([words, form, c]) => ({
    kind: 'partial',
    name: `${form} three-quarter crown, ${words}`,
    form,
    body: (t) => anterior(t, c).body,
    truths: (t) => truthsOf(t, c),
  })),
  1060,
);
