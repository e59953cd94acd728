import { acrossFrom, isPrimary, isUpper, planOf } from '../anatomy/anatomy.ts';
import { leanMatrix, leanOf } from '../anatomy/lean.ts';
import { surfaceZ, type ToothShape } from '../anatomy/shape.ts';
import { makeTooth } from '../anatomy/tooth.ts';
import {
  applyDirection,
  applyPoint,
  fromRotation,
  fromTranslation,
  IDENTITY,
  invertRigid,
  type Matrix,
  multiply,
} from '../linalg/rigid.ts';
import { toRadians, unit, type Vec3 } from '../linalg/vec.ts';
import { PART } from '../master/master.ts';
import { seeded } from '../statistics/random.ts';

/** One tooth placed in the arch: `place` takes its own frame to the target tooth's construction frame. */
export interface PlacedTooth {
  readonly shape: ToothShape;
  readonly part: number;
  readonly place: Matrix;
  readonly inverse: Matrix;
}

/** A target tooth with its neighbours and gingiva, before meshing: everything the truth is computed from. */
export interface Typodont {
  readonly target: ToothShape;
  readonly teeth: readonly PlacedTooth[];
  /** Height of the gingiva over (x, y). */
  gingiva(x: number, y: number): number;
  /** Height of the gingival margin at azimuth (radians). */
  margin(phi: number): number;
  readonly gingivalMargin: Vec3[];
}

/** mm under the gingival margin of the facial side at which the cemento-enamel junction runs, and by which it rises to the contacts. */
const JUNCTION = { under: 0.3, rise: 0.8 };

/** The cemento-enamel junction: near the gingival margin facially and lingually, rising to both contacts and there under the papilla. */
export const junctionOf = (t: Typodont): Vec3[] =>
  Array.from({ length: 120 }, (_, i): Vec3 => {
    const phi = (2 * Math.PI * i) / 120;
    const z = junctionAt(t, phi);
    const r = t.target.side(phi, z);
    return [r * Math.sin(phi), r * Math.cos(phi), z];
  });
export const junctionAt = (t: Typodont, phi: number): number =>
  Math.min(t.margin(0), t.margin(Math.PI)) - JUNCTION.under + JUNCTION.rise * Math.sin(phi) ** 2;

/** Cusp tips of the tooth beside the target. */
export const cuspsBeside = (t: Typodont, side: 'mesial' | 'distal'): Vec3[] =>
  t.teeth.filter((q) => q.part === PART[side]).flatMap((q) => q.shape.cusps.map((c) => applyPoint(q.place, c.at)));

/** mm left between neighbouring crowns at the contact. */
const CONTACT_GAP = 0.04;

const neighbourOf = (tooth: string, step: -1 | 1): string | null => {
  const quadrant = Number(tooth[0]);
  const position = Number(tooth[1]) + step;
  if (position === 0) {
    // Over the midline: the other side's first tooth.
    const other = { 1: 2, 2: 1, 3: 4, 4: 3, 5: 6, 6: 5, 7: 8, 8: 7 }[quadrant];
    return `${other}1`;
  }
  return position > (isPrimary(tooth) ? 5 : 8) ? null : `${quadrant}${position}`;
};

/** How much of the arch is built: the tooth and its neighbours, as a scan shows them, or its whole quadrant. */
export type ArchExtent = 'neighbours' | 'quadrant';

export function makeTypodont(tooth: string, seed: number, extent: ArchExtent = 'neighbours'): Typodont {
  const random = seeded(seed);
  const vary = (spread: number) => 1 + spread * random.between(-1, 1);
  const target = makeTooth(tooth, vary);
  const own: PlacedTooth = { shape: target, part: PART.target, place: IDENTITY, inverse: IDENTITY };
  const teeth = [own];
  // Outward from the target, one tooth to each side in turn: the neighbours are the same whatever stands beyond them.
  const rows = [
    { step: -1 as const, last: own },
    { step: 1 as const, last: own },
  ];
  for (let n = 0; n < (extent === 'quadrant' ? 7 : 1); n++)
    for (const row of rows) {
      const name = neighbourOf(row.last.shape.tooth, row.step);
      // The midline is crossed to the tooth beside it and no farther.
      if (!name || row.last.shape.tooth[0] !== tooth[0]) continue;
      const next = beside(row.last, makeTooth(name, vary), row.step);
      row.last = n === 0 ? { ...next, part: row.step === -1 ? PART.mesial : PART.distal } : next;
      teeth.push(row.last);
    }
  return standing(target, teeth, gingivaOf(teeth));
}

/** Degrees by which the arch turns from each tooth to the next one behind it. */
const BEND = [9, 13, 12, 6, 4, 3, 3];

/** The next tooth of the arch, in contact with one that stands. */
function beside(from: PlacedTooth, shape: ToothShape, step: -1 | 1): PlacedTooth {
  const side = step === -1 ? 1 : -1;
  // Over the midline the neighbour's mesial faces ours, so its frame is turned about: mirrored along the arch.
  const mirrored = step === -1 && Number(from.shape.tooth[1]) === 1;
  const reach = contactReach(from.shape, side) + contactReach(shape, mirrored ? 1 : (-side as 1 | -1)) + CONTACT_GAP;
  const inner = Math.min(Number(from.shape.tooth[1]), Number(shape.tooth[1]));
  const bend = toRadians(BEND[inner - 1]);
  const [mesial, facial] = leanOf(shape.tooth);
  // Each tooth leans in the arch in its own way; seen from its neighbour it leans by the difference.
  const lean = multiply(invertRigid(leanMatrix(leanOf(from.shape.tooth))), leanMatrix([mirrored ? -mesial : mesial, facial]));
  let rest = multiply(lean, fromRotation([0, 0, 1], -side * bend));
  if (mirrored) rest = multiply(rest, [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);
  const at = (x: number): Matrix => multiply(fromTranslation([side * x, side === 1 ? -0.25 : -0.2, 0]), rest);
  const place = multiply(from.place, at(inContact(from.shape, shape, at, reach, side)));
  return { shape, part: PART.other, place, inverse: invertRigid(place) };
}

/** The tooth of an arch that is a second abutment: it and the teeth to its both sides must stand, or its scan has nothing to lie on. */
export function abutmentOf(t: Typodont, tooth: string): PlacedTooth {
  const found = t.teeth.find((q) => q.shape.tooth === tooth);
  if (!found || found.part === PART.target || tooth[0] !== t.target.tooth[0])
    throw new RangeError(
      `tooth ${tooth} is no second abutment: choose another tooth of the quadrant of ${t.target.tooth}, with "arch": "quadrant"`,
    );
  return found;
}

/** The same arch in the frame of another of its teeth, as target. */
export function seenFrom(t: Typodont, n: PlacedTooth): Typodont & { readonly place: Matrix } {
  const own = n.shape.tooth;
  const parts = new Map<string | null, number>([
    [neighbourOf(own, -1), PART.mesial],
    [neighbourOf(own, 1), PART.distal],
    [own, PART.target],
  ]);
  const teeth = t.teeth.map((q): PlacedTooth => {
    const place = multiply(n.inverse, q.place);
    return { shape: q.shape, part: parts.get(q.shape.tooth) ?? PART.other, place, inverse: invertRigid(place) };
  });
  const gingiva = (x: number, y: number): number => {
    const [X, Y] = applyPoint(n.place, [x, y, 0]);
    return applyPoint(n.inverse, [X, Y, t.gingiva(X, Y)])[2];
  };
  return { ...standing(n.shape, teeth, gingiva), place: n.place };
}

function standing(target: ToothShape, teeth: readonly PlacedTooth[], gingiva: Typodont['gingiva']): Typodont {
  // Asked for again and again at the same azimuths, by profiles and by every truth.
  const known = new Map<number, number>();
  const margin = (phi: number): number => {
    const before = known.get(phi);
    if (before !== undefined) return before;
    let z = 0;
    for (let i = 0; i < 60; i++) {
      const r = target.side(phi, z);
      const next = z + 0.6 * (gingiva(r * Math.sin(phi), r * Math.cos(phi)) - z);
      if (next === z) break;
      z = next;
    }
    known.set(phi, z);
    return z;
  };
  const gingivalMargin = Array.from({ length: 120 }, (_, i): Vec3 => {
    const phi = (2 * Math.PI * i) / 120;
    const z = margin(phi);
    const r = target.side(phi, z);
    return [r * Math.sin(phi), r * Math.cos(phi), z];
  });
  return { target, teeth, gingiva, margin, gingivalMargin };
}

function contactReach(shape: ToothShape, side: 1 | -1): number {
  let reach = 0;
  for (let z = 0.2; z < shape.plan.height; z += 0.1) reach = Math.max(reach, shape.side((side * Math.PI) / 2, z));
  return reach;
}

/** mm along the arch at which the gap between two crowns is the contact gap (bodies may bulge past each other). */
function inContact(from: ToothShape, shape: ToothShape, at: (x: number) => Matrix, about: number, side: 1 | -1): number {
  const inverse = invertRigid(at(about));
  const gap = (shift: number): number => {
    let least = Infinity;
    for (let z = 0.5; z < from.plan.height; z += 0.25)
      for (let phi = -0.9; phi <= 0.9; phi += 0.06) {
        const a = side * (Math.PI / 2) + phi;
        const r = from.side(a, z);
        if (from.top(r * Math.sin(a) * 0.98, r * Math.cos(a) * 0.98) < z) continue;
        const p = applyPoint(inverse, [r * Math.sin(a) - side * shift, r * Math.cos(a), z]);
        least = Math.min(least, Math.hypot(p[0], p[1]) - shape.side(Math.atan2(p[0], p[1]), p[2]));
      }
    return least;
  };
  let lo = -1.5;
  let hi = 1.5;
  for (let k = 0; k < 24; k++) {
    const m = (lo + hi) / 2;
    if (gap(m) < CONTACT_GAP) lo = m;
    else hi = m;
  }
  return about + hi;
}

/** mm: height of the gingiva at the facial and lingual middle of a tooth, in its own frame. */
const NECK = -0.45;

/** Scalloped gingiva: low at the facial and lingual middle of each tooth, rising to a papilla between them, falling away outside. */
function gingivaOf(teeth: readonly PlacedTooth[]): (x: number, y: number) => number {
  return (x, y) => {
    let sum = 0;
    let weight = 0;
    let outside = 0;
    for (const t of teeth) {
      // Where the upright through (x, y) passes the level of the tooth's own neck: a leaning tooth stands beside its foot.
      const i = t.inverse;
      const p = applyPoint(i, [x, y, (NECK - i[8] * x - i[9] * y - i[11]) / i[10]]);
      const r = Math.hypot(p[0], p[1]);
      const phi = Math.atan2(p[0], p[1]);
      const e = Math.max(r - t.shape.side(phi, 0), -1);
      const s = Math.sin(phi);
      const height = applyPoint(t.place, [p[0], p[1], NECK + 1.25 * s * s * s * s])[2];
      const w = 1 / (0.3 + Math.max(e, 0)) ** 3;
      sum += w * height;
      weight += w;
      // A soft minimum, so that the gingiva has no crease half way between two teeth.
      outside += Math.exp(-2.5 * e);
    }
    const e = Math.max(-Math.log(outside) / 2.5, 0);
    return sum / weight - 0.32 * e - 0.16 * e * e;
  };
}

/** Contact point of the target with its neighbour on that side: where the gap is least. */
export function contactPoint(t: Typodont, part: number): Vec3 | null {
  const n = t.teeth.find((q) => q.part === part);
  if (!n) return null;
  const side = part === PART.mesial ? 1 : -1;
  let best: Vec3 | null = null;
  let least = Infinity;
  for (let z = 1; z < t.target.plan.height; z += 0.1)
    for (let phi = -0.8; phi <= 0.8; phi += 0.04) {
      const a = side * (Math.PI / 2) + phi;
      const r = t.target.side(a, z);
      const p = applyPoint(n.inverse, [r * Math.sin(a), r * Math.cos(a), z]);
      const gap = Math.hypot(p[0], p[1]) - n.shape.side(Math.atan2(p[0], p[1]), p[2]);
      if (gap < least && n.shape.top(p[0], p[1]) > p[2]) {
        least = gap;
        best = [r * Math.sin(a), r * Math.cos(a), z];
      }
    }
  return best;
}

/** The opposing quadrant, turned over and lowered until the first cusps touch. */
export function opposingOf(t: Typodont, seed: number, extent: ArchExtent = 'neighbours'): { typodont: Typodont; place: Matrix } {
  const name = t.target.tooth;
  const typodont = makeTypodont(acrossFrom(name), seed + 1, extent);
  // Upper crowns overhang the lower ones to the facial side, and lower molars stand half a cusp to the mesial.
  const upper = isUpper(name);
  const posterior = ['molar', 'premolar'].includes(planOf(name).kind);
  const dy = (upper ? -1 : 1) * (posterior ? 1.9 : 2.2);
  const dx = (upper ? 1 : -1) * (posterior ? 1.6 : 0.6);
  let height = -Infinity;
  for (let x = -5.5; x <= 5.5; x += 0.3)
    for (let y = -5.5; y <= 5.5; y += 0.3) {
      const own = highest(t, x, y);
      const other = highest(typodont, x - dx, y - dy);
      if (own > -2 && other > -2) height = Math.max(height, own + other);
    }
  return { typodont, place: [1, 0, 0, dx, 0, 1, 0, dy, 0, 0, -1, height, 0, 0, 0, 1] };
}

/** Long axes of the opposing teeth that stand, pointing occlusally, by tooth number. */
export const axesOf = ({ typodont, place }: ReturnType<typeof opposingOf>): Readonly<Record<string, Vec3>> =>
  Object.fromEntries(typodont.teeth.map((q) => [q.shape.tooth, unit(applyDirection(multiply(place, q.place), [0, 0, 1]))]));

function highest(t: Typodont, x: number, y: number): number {
  let z = -3;
  for (const q of t.teeth) {
    const p = applyPoint(q.inverse, [x, y, 0]);
    if (Math.hypot(p[0], p[1]) < q.shape.plan.fl) z = Math.max(z, surfaceZ(q.shape, p[0], p[1]));
  }
  return z;
}
