// Family "implicit", anterior crowns: a stump under a cut edge, level or with a canine's tip, as functions of place.
import type { Vec3 } from '#core/linalg/vec.ts';
import type { NamedCase, Truth } from './case.ts';
import { crown, crownTruths, type ImplicitCrown, prepared, sides } from './implicit-crown.ts';
import type { Body } from './implicit-mesh.ts';
import { type ImplicitTooth, uncut } from './implicit-tooth.ts';
import { scansOf } from './implicit-work.ts';

const RAD = Math.PI / 180;

interface Top {
  readonly x: number;
  readonly z: number;
}

/** mm between the columns of an edge, and between the places along one. */
const COLUMN = 0.1;
const PLACE = 0.02;

/** Highest place of every column of a body, seen from facial: where it ends over any y. */
function columns(t: ImplicitTooth, body: Body): Top[] {
  const out: Top[] = [];
  for (let i = Math.ceil(-t.md / 2 / COLUMN); i <= t.md / 2 / COLUMN; i++) {
    const x = i * COLUMN;
    // Looked for in the upper half: a column that does not reach it has no edge.
    let best = t.h / 2;
    for (let y = -t.fl / 2; y <= t.fl / 2; y += PLACE) {
      let [lo, hi] = [best, t.h + 1];
      if (body(x, y, lo + 0.001) >= 0) continue;
      for (let k = 0; k < 40; k++) {
        const m = (lo + hi) / 2;
        if (body(x, y, m) < 0) lo = m;
        else hi = m;
      }
      best = lo;
    }
    if (best > t.h / 2) out.push({ x, z: best });
  }
  return out;
}

/** The middle 80 % of an edge, which is all within 1.5 mm of its highest place. */
function edgeOf(tops: readonly Top[]): Top[] {
  const high = Math.max(...tops.map((q) => q.z));
  const edge = tops.filter((q) => q.z > high - 1.5);
  const cut = Math.round(0.1 * edge.length);
  return edge.slice(cut, edge.length - cut);
}

/** Height of an edge at x, in a line between two columns. */
const at = (tops: readonly Top[], x: number): number => {
  const i = Math.max(
    1,
    tops.findIndex((q) => q.x >= x),
  );
  const [a, b] = [tops[i - 1], tops[i]];
  return a.z + ((x - a.x) / (b.x - a.x)) * (b.z - a.z);
};

/** Where a body's mesial and distal faces stand farthest out between two heights. */
function facesBetween(t: ImplicitTooth, body: Body, from: number, to: number): readonly [number, number] {
  const reach = (s: 1 | -1): number => {
    let best = 0;
    for (let z = from; z <= to; z += 0.1)
      for (let y = -2; y <= 2; y += 0.1) {
        let [lo, hi] = [0, t.md / 2 + 1];
        if (body(0, y, z) >= 0) continue;
        for (let k = 0; k < 40; k++) {
          const m = (lo + hi) / 2;
          if (body(s * m, y, z) < 0) lo = m;
          else hi = m;
        }
        best = Math.max(best, lo);
      }
    return s * best;
  };
  return [reach(-1), reach(1)];
}

/** Least-squares line of z over x. */
function lineOf(tops: readonly Top[]): (x: number) => number {
  const n = tops.length;
  const [mx, mz] = [tops.reduce((s, q) => s + q.x, 0) / n, tops.reduce((s, q) => s + q.z, 0) / n];
  const slope = tops.reduce((s, q) => s + (q.x - mx) * (q.z - mz), 0) / tops.reduce((s, q) => s + (q.x - mx) ** 2, 0);
  return (x) => mz + slope * (x - mx);
}

/** What is true of a cut edge: its corners, its angle, a canine's tip, and by how much the tooth was shortened. */
export function edgeTruths(t: ImplicitTooth, c: ImplicitCrown, opposing: Vec3): Truth[] {
  const out: Truth[] = [];
  const say = (name: string, zone: string | null, value: number, stat = 'value'): void => void out.push({ name, zone, stat, value });
  const body = prepared(t, c);
  const tops = columns(t, body);
  const high = Math.max(...tops.map((q) => q.z));
  const [x0, x1] = facesBetween(t, body, high - 1.4, high - 0.8);
  const quarter = (x1 - x0) / 4;
  const line = lineOf(tops.filter((q) => q.x > x0 + quarter && q.x < x1 - quarter));
  for (const [side, x] of [
    ['mesial', x1 - 0.5],
    ['distal', x0 + 0.5],
  ] as const)
    say('incisal.angle', side, line(x) - at(tops, x));
  // A canine's cut is no one plane.
  if (c.incisal && c.incisal.slopes === 0) say('plane.incisal', null, 90 + c.incisal.fall - Math.atan2(-opposing[1], opposing[2]) / RAD);
  const edge = edgeOf(tops);
  if (t.tooth[1] === '3') {
    const tip = edge.reduce((a, b) => (b.z > a.z ? b : a));
    const [first, last] = [edge[0], edge[edge.length - 1]];
    say('form.cusp.canine', null, tip.z - first.z - ((last.z - first.z) * (tip.x - first.x)) / (last.x - first.x));
  }
  const cuts = edgeOf(columns(t, uncut(t)))
    .filter((q) => q.x >= edge[0].x && q.x <= edge[edge.length - 1].x)
    .map((q) => q.z - at(tops, q.x))
    .sort((a, b) => a - b);
  say('reduction.incisal', null, cuts[cuts.length >> 1]);
  return out;
}

/** Words, tooth, cut, and degrees by which the opposing tooth's axis leans to facial. */
const WORKS: readonly (readonly [string, string, ImplicitCrown, number])[] = [
  ['level cut', 'incisor21', { ...crown(0.6, sides(0.9, 0.8), sides(9, 5, 10), 2, 0.25, 0.1), incisal: { fall: 0, slopes: 0 } }, 0],
  [
    'cut that falls to lingual, opposing tooth leaning',
    'incisor21',
    { ...crown(0.5, sides(0.8, 0.7, 0.6), sides(8, 4), 1.6, 0.4, 0.15), incisal: { fall: 14, slopes: 0 } },
    6,
  ],
  ['two slopes', 'canine43', { ...crown(0.6, sides(0.9, 0.7), sides(8, 4, 9), 1.8, 0.2, 0.2), incisal: { fall: 8, slopes: 20 } }, 3],
  ['cut nearly straight', 'canine43', { ...crown(0.5, sides(0.6), sides(7, 5), 2.2, 0.35, 0.3), incisal: { fall: 4, slopes: 7 } }, 0],
];

/** The tooth of the other jaw that stands across from one. */
const ACROSS: Readonly<Record<string, string>> = { '21': '31', '43': '13' };

export const IMPLICIT_BLADES: readonly NamedCase[] = scansOf(
  WORKS.map(([words, form, cut, lean]) => {
    const axis: Vec3 = [0, Math.sin(lean * RAD), Math.cos(lean * RAD)];
    return {
      kind: 'crown',
      name: `${form} crown, ${words}`,
      form,
      body: (t) => prepared(t, cut),
      truths: (t) => [...crownTruths(t, cut), ...edgeTruths(t, cut, axis)],
      marks: (t) => ({ opposingAxes: { [ACROSS[t.tooth]]: axis } }),
    };
  }),
  1040,
);
