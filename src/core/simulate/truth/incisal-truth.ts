import type { Vec3 } from '../../linalg/vec.ts';
import type { CrownEnvelope } from '../crown/envelope.ts';
import type { Typodont } from '../typodont.ts';
import type { Sample, Truth } from './truth.ts';

/** mm: half width of a column across the edge, and step from column to column. */
const HALF = 0.04;
const STEP = 0.1;
/** mm of the plan in which a cusp's highest place is looked for. */
const NEAR = 0.6;
const COPINGS = [0.3, 0.5];

interface Top {
  readonly x: number;
  readonly z: number;
}

/** Highest place of every column of the cut surface, seen from facial. */
function columns(cut: readonly Sample[]): Top[] {
  const by = new Map<number, number>();
  for (const { p } of cut)
    for (let i = Math.ceil((p[0] - HALF) / STEP); i <= Math.floor((p[0] + HALF) / STEP); i++)
      by.set(i, Math.max(by.get(i) ?? -Infinity, p[2]));
  return [...by].map(([i, z]) => ({ x: i * STEP, z })).sort((a, b) => a.x - b.x);
}

/** The line of z over x that lies nearest to places. */
function lineOf(tops: readonly Top[]): (x: number) => number {
  const n = tops.length;
  const [mx, mz] = [tops.reduce((s, t) => s + t.x, 0) / n, tops.reduce((s, t) => s + t.z, 0) / n];
  const slope = tops.reduce((s, t) => s + (t.x - mx) * (t.z - mz), 0) / tops.reduce((s, t) => s + (t.x - mx) ** 2, 0);
  return (x) => mz + slope * (x - mx);
}

/** What a recipe says of an anterior tooth's edge, of a canine's tip, and of the porcelain over the coping; `o` is the tooth frame's origin. */
export function incisalTruth(t: Typodont, e: CrownEnvelope, o: Vec3, cut: readonly Sample[]): Truth[] {
  const mm = (name: string, zone: string | null, value: number): Truth => ({ name, zone, stat: 'value', unit: 'mm', value });
  const porcelain = (most: number): Truth[] => COPINGS.map((c) => mm(`porcelain.unsupported(${c.toFixed(1)})`, null, most - c));
  if (Number(t.target.tooth[1]) > 3) {
    // What is left under a tip, its slopes and walls included: a cut may take the place itself away.
    const cuts = t.target.cusps.flatMap((q) => {
      const under = cut.filter(({ p }) => Math.hypot(p[0] + o[0] - q.at[0], p[1] + o[1] - q.at[1]) <= NEAR);
      return under.length ? [q.at[2] - o[2] - Math.max(...under.map(({ p }) => p[2]))] : [];
    });
    return porcelain(Math.max(...cuts));
  }
  const tops = columns(cut);
  const high = Math.max(...tops.map((q) => q.z));
  const sides = cut.filter(({ p }) => p[2] > high - 1.4 && p[2] < high - 0.8).map(({ p }) => p[0]);
  const [x0, x1] = [Math.min(...sides), Math.max(...sides)];
  const quarter = (x1 - x0) / 4;
  const line = lineOf(tops.filter((q) => q.x > x0 + quarter && q.x < x1 - quarter));
  const at = (x: number): number => tops.reduce((a, b) => (Math.abs(b.x - x) < Math.abs(a.x - x) ? b : a)).z;
  const out = [mm('incisal.angle', 'mesial', line(x1 - 0.5) - at(x1 - 0.5)), mm('incisal.angle', 'distal', line(x0 + 0.5) - at(x0 + 0.5))];
  // The opposing teeth of a simulated arch stand along the same axis.
  if (e.recipe.incisal !== undefined)
    out.push({ name: 'plane.incisal', zone: null, stat: 'value', unit: 'deg', value: 90 + (e.recipe.incisalTilt ?? 0) });
  const edge = middleOf(tops);
  const whole = middleOf(edgeOf(t, o));
  const [from, to] = [edge[0].x, edge[edge.length - 1].x];
  const inner = whole.filter((q) => q.x > from + 0.15 * (to - from) && q.x < to - 0.15 * (to - from));
  out.push(...porcelain(Math.max(...inner.map((q) => q.z - at(q.x)))));
  if (t.target.tooth[1] === '3') {
    const tip = edge.reduce((a, b) => (b.z > a.z ? b : a));
    // Its ends are steep: a tenth of a millimetre there is as much in height.
    const [first, last] = middleEnds(tops, tip).map((x) => ({ x, z: heightBetween(tops, x) }));
    out.push(mm('form.cusp.canine', null, tip.z - first.z - ((last.z - first.z) * (tip.x - first.x)) / (last.x - first.x)));
  }
  return out;
}

/** The middle 80 % of an edge, which is everything within 1.5 mm of its highest place. */
function middleOf(tops: readonly Top[]): Top[] {
  const high = Math.max(...tops.map((q) => q.z));
  const edge = tops.filter((q) => q.z > high - 1.5);
  const [x0, x1] = [edge[0].x, edge[edge.length - 1].x];
  return edge.filter((q) => q.x >= x0 + 0.1 * (x1 - x0) && q.x <= x1 - 0.1 * (x1 - x0));
}

/** The uncut tooth's edge, column by column, from its formula. */
function edgeOf(t: Typodont, o: Vec3): Top[] {
  const out: Top[] = [];
  const half = t.target.plan.md / 2;
  for (let x = -half; x <= half; x += STEP) {
    let z = -Infinity;
    for (let y = -t.target.plan.fl / 2; y <= t.target.plan.fl / 2; y += 0.02) {
      const top = t.target.top(x, y);
      if (t.target.inside(x, y, top - 0.01) > 0) z = Math.max(z, top);
    }
    if (Number.isFinite(z)) out.push({ x: x - o[0], z: z - o[2] });
  }
  return out;
}

/** Where the middle 80 % of the edge ends, between two columns. */
function middleEnds(tops: readonly Top[], tip: Top): readonly [number, number] {
  const low = tip.z - 1.5;
  const [x0, x1] = [-1, 1].map((way) => {
    let i = tops.indexOf(tip);
    while (tops[i + way] && tops[i + way].z > low) i += way;
    const [a, b] = [tops[i], tops[i + way]];
    return b ? a.x + ((a.z - low) / (a.z - b.z)) * (b.x - a.x) : a.x;
  });
  return [x0 + 0.1 * (x1 - x0), x1 - 0.1 * (x1 - x0)];
}

function heightBetween(tops: readonly Top[], x: number): number {
  const i = tops.findIndex((q) => q.x > x);
  const [a, b] = [tops[i - 1], tops[i]];
  return a.z + ((x - a.x) / (b.x - a.x)) * (b.z - a.z);
}
