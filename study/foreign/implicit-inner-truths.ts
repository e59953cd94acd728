import { cross, length, sub, type Vec3 } from '#core/linalg/vec.ts';
import { bisected } from './bisected.ts';
import type { Truth } from './case.ts';
import { type Body, surfaceNets } from './implicit-mesh.ts';
import { type ImplicitTooth, normalOf, uncut } from './implicit-tooth.ts';
import { type Cut, floorPlaces, level, type Say } from './implicit-truths.ts';
import { ballSheet } from './pulp-truth.ts';
import { emptySheet, type Sheet } from './scanner.ts';

const RAD = Math.PI / 180;
/** How far the dentine's surface lies inside the tooth's own, in its function's own measure (about mm). */
const ENAMEL = 1.4;

/** The dentine: the tooth's own function, so much further in. */
const dentine = (t: ImplicitTooth): Body => {
  const own = uncut(t);
  return (x, y, z) => own(x, y, z) + ENAMEL;
};

const meshed = (f: Body, half: readonly [number, number], z0: number, z1: number, cell: number): Sheet => {
  const sheet = emptySheet();
  surfaceNets(sheet, f, { from: [-half[0], -half[1], z0], to: [half[0], half[1], z1] }, cell, () => 1);
  return sheet;
};

export const dentineSheet = (t: ImplicitTooth, cell: number): Sheet => meshed(dentine(t), [t.md / 2, t.fl / 2], -1, t.h + 1, cell);

export const lesionSheet = (l: NonNullable<Cut['lesion']>): Sheet => ballSheet({ at: [l.x, 0, l.z], radius: l.radius });

/** mm between the places at which decay is counted. */
const COUNTED = 0.03;

/** Volume of the ball that is in what is left of the tooth. */
export function cariesTruth(t: ImplicitTooth, l: NonNullable<Cut['lesion']>, taken: Body): Truth {
  const tooth = uncut(t);
  let count = 0;
  for (let x = -l.radius; x < l.radius; x += COUNTED)
    for (let y = -l.radius; y < l.radius; y += COUNTED)
      for (let z = -l.radius; z < l.radius; z += COUNTED)
        if (Math.hypot(x, y, z) < l.radius && tooth(l.x + x, y, l.z + z) < 0 && taken(l.x + x, y, l.z + z) > 0) count++;
  return { name: 'caries.left', zone: null, stat: 'value', value: count * COUNTED ** 3 };
}

/** Depth of the floor under the dentine's surface: least distance to a fine mesh of it. */
export function dentineTruth(t: ImplicitTooth, c: Cut, say: Say): void {
  const { positions: p } = dentineSheet(t, 0.1);
  const inside = dentine(t);
  // Every third place each way is enough for a quantile.
  const depths = floorPlaces(c)
    .filter((_, i) => i % 5 === 0)
    .map(([x, y, z]) => {
      let best = Infinity;
      for (let i = 0; i < p.length; i += 3) best = Math.min(best, (p[i] - x) ** 2 + (p[i + 1] - y) ** 2 + (p[i + 2] - z) ** 2);
      return inside(x, y, z) < 0 ? Math.sqrt(best) : -Math.sqrt(best);
    })
    .sort((a, b) => a - b);
  say('floor.dentine', null, 'p05', depths[Math.floor(0.05 * depths.length)]);
  say('floor.dentine', null, 'median', depths[depths.length >> 1]);
}

/** mm from the outline within which enamel is looked at, mm inward, and mm between the places on the way. */
const BESIDE = 2;
const INWARD = 4;
const WAY = 0.02;

/** Area of the uncut surface beside the outline from which the way straight inward comes into the cavity before it comes into dentine. */
export function underminedTruth(t: ImplicitTooth, taken: Body, outline: readonly Vec3[], say: Say): void {
  const [own, inside] = [uncut(t), dentine(t)];
  const { positions: p, triangles } = meshed(own, [t.md / 2 + 0.5, t.fl / 2 + 0.5], -0.5, t.h + 1.5, 0.14);
  let area = 0;
  for (let f = 0; f < triangles.length; f += 3) {
    const [a, b, c] = [0, 1, 2].map((k): Vec3 => [p[3 * triangles[f + k]], p[3 * triangles[f + k] + 1], p[3 * triangles[f + k] + 2]]);
    const at: Vec3 = [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3, (a[2] + b[2] + c[2]) / 3];
    if (taken(...at) <= 0 || !outline.some((o) => Math.hypot(o[0] - at[0], o[1] - at[1], o[2] - at[2]) < BESIDE)) continue;
    const n = normalOf(own, at);
    for (let d = WAY; d < INWARD; d += WAY) {
      const q: Vec3 = [at[0] - d * n[0], at[1] - d * n[1], at[2] - d * n[2]];
      if (taken(...q) < 0) {
        area += length(cross(sub(b, a), sub(c, a))) / 2;
        break;
      }
      if (inside(...q) < 0) break;
    }
  }
  say('enamel.undermined', null, 'value', area);
}

/** mm over the gingival floor from which the lesion faces the axial wall. */
const OVER = 0.1;

/** Least distance along the arch from the ball's surface to the axial wall's plane, over the heights that the wall has. */
export function lesionTruth(c: Cut, b: Cut['boxes'][number], say: Say): void {
  const { lesion } = c;
  const s = b.side === 'mesial' ? 1 : -1;
  if (!lesion || s * lesion.x <= 0) return;
  let least = Infinity;
  for (let z = b.floor + OVER; z <= c.floor; z += 0.005) {
    const chord = lesion.radius ** 2 - (z - lesion.z) ** 2;
    if (chord < 0) continue;
    const wall = b.axial + (z - b.floor) * Math.tan(b.lean.axial * RAD);
    least = Math.min(least, s * lesion.x - Math.sqrt(chord) - wall);
  }
  if (least < Infinity) say('axial.lesion', `box ${b.side}`, 'value', least);
}

/** mm by which a chattering cutter's waves stand out of a cavity's walls at a height. */
export const wavesOf =
  ({ chatter }: Cut) =>
  (z: number): number =>
    chatter ? chatter.height * Math.sin((2 * Math.PI * z) / chatter.length) : 0;

/** What a bevel takes: everything outward of where it begins and over its plane, between the box's side walls; negative inside. */
export const bevelBody = (b: Cut['boxes'][number]): Body => {
  const s = b.side === 'mesial' ? 1 : -1;
  const { from, angle } = b.bevel ?? { from: 9, angle: 0 };
  return (x, y, z) => {
    const out = s * x - b.axial - from;
    return Math.max(
      -out,
      (b.floor - out * Math.tan(angle * RAD) - z) * Math.cos(angle * RAD),
      Math.abs(y - b.y) - b.width / 2,
      z - b.floor - 0.5,
    );
  };
};

/** Width of the gingival bevel from the floor to the tooth's own side, mean over the middle of the box, and its angle. */
export function bevelTruth(t: ImplicitTooth, b: Cut['boxes'][number], say: Say): void {
  if (!b.bevel) return;
  const s = b.side === 'mesial' ? 1 : -1;
  const { from, angle } = b.bevel;
  const widths = Array.from({ length: 41 }, (_, k) => {
    const y = b.y + (0.8 * b.width * (k - 20)) / 40;
    let [lo, hi] = [0, 3];
    for (let i = 0; i < 40; i++) {
      const m = (lo + hi) / 2;
      if (b.axial + from + m * Math.cos(angle * RAD) < level(t, s, y, b.floor - m * Math.sin(angle * RAD))) lo = m;
      else hi = m;
    }
    return lo;
  });
  say('bevel.gingival.width', `box ${b.side}`, 'value', widths.reduce((sum, w) => sum + w, 0) / widths.length);
  say('bevel.gingival.angle', `box ${b.side}`, 'value', angle);
}

/** What a bevel of the facial margin takes: everything outward of where it begins and to lingual of its plane, over the box's floor; negative inside. */
export const flareBody = (b: Cut['boxes'][number]): Body => {
  const s = b.side === 'mesial' ? 1 : -1;
  const { from, angle } = b.flare ?? { from: 9, angle: 0 };
  return (x, y, z) => {
    const out = s * x - b.axial - from;
    const wall = b.y + b.width / 2 - (z - b.floor) * Math.tan(b.lean.facial * RAD);
    return Math.max(-out, (y - wall - out * Math.tan(angle * RAD)) * Math.cos(angle * RAD), b.floor - z, b.y - y);
  };
};

/** Width of the facial margin's bevel from its wall to the tooth's own side, mean over the box's height, and how far it turns off the wall. */
export function flareTruth(t: ImplicitTooth, b: Cut['boxes'][number], top: number, say: Say): void {
  if (!b.flare) return;
  const s = b.side === 'mesial' ? 1 : -1;
  const { from, angle } = b.flare;
  const widths = Array.from({ length: 21 }, (_, k) => {
    const z = b.floor + ((top - b.floor) * k) / 20;
    const wall = b.y + b.width / 2 - (z - b.floor) * Math.tan(b.lean.facial * RAD);
    return bisected((m) => b.axial + from + m * Math.cos(angle * RAD) - level(t, s, wall + m * Math.sin(angle * RAD), z), 0, 3);
  });
  say('bevel.facial.width', `box ${b.side}`, 'value', widths.reduce((sum, w) => sum + w, 0) / widths.length);
  say('bevel.facial.angle', `box ${b.side}`, 'value', angle);
}
