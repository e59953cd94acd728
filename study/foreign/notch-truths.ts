import type { Truth } from './case.ts';
import type { Body } from './implicit-mesh.ts';

const RAD = Math.PI / 180;
type Place = readonly [number, number];

/** A groove or box cut into a wall, as functions of place. */
export interface Notch {
  readonly zone: string;
  /** What stands before the notch is cut, and what its cutter takes; both negative inside. */
  readonly solid: Body;
  readonly cutter: Body;
  /** A place inside both at a height, from which the cutter's outline is seen all round. */
  readonly middle: (z: number) => Place;
  readonly from: number;
  readonly to: number;
  /** A box: its depth is that of its bottom's middle. */
  readonly level: boolean;
}

/** Steps of the way round a cutter's outline. */
const TURNS = 1440;

/** Where the cutter's outline leaves the solid at a height, facial lip first, and how deep its bottom lies under the chord between them. */
export function lipsAt(n: Notch, z: number): { facial: Place; lingual: Place; depth: number } | null {
  const [x, y] = n.middle(z);
  const outline = Array.from({ length: TURNS }, (_, k): Place | null => {
    const [s, c] = [Math.sin((360 / TURNS) * k * RAD), Math.cos((360 / TURNS) * k * RAD)];
    let [lo, hi] = [0, 3];
    for (let i = 0; i < 40; i++) {
      const m = (lo + hi) / 2;
      if (n.cutter(x + m * s, y + m * c, z) < 0) lo = m;
      else hi = m;
    }
    const q: Place = [x + lo * s, y + lo * c];
    return lo < 2.9 && n.solid(...q, z) < 0 ? q : null;
  });
  const first = outline.findIndex((q, k) => q && !outline[(k + TURNS - 1) % TURNS]);
  if (first < 0) return null;
  const run: Place[] = [];
  for (let k = first; outline[k % TURNS]; k++) run.push(outline[k % TURNS] as Place);
  const [a, b] = [run[0], run[run.length - 1]];
  const l = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const along = (q: Place): number => ((q[0] - a[0]) * (b[0] - a[0]) + (q[1] - a[1]) * (b[1] - a[1])) / l ** 2;
  const bottom = n.level ? run.filter((q) => Math.abs(along(q) - 0.5) < 0.02) : run;
  const depth = Math.max(...bottom.map((q) => Math.abs((b[0] - a[0]) * (q[1] - a[1]) - (b[1] - a[1]) * (q[0] - a[0])))) / l;
  return a[1] > b[1] ? { facial: a, lingual: b, depth } : { facial: b, lingual: a, depth };
}

const middleOf = (v: readonly number[]): number => [...v].sort((a, b) => a - b)[v.length >> 1];

/** Depth and width of a notch, medians over its height. */
export function notchTruths(n: Notch): Truth[] {
  const all = Array.from({ length: 24 }, (_, k) => lipsAt(n, n.from + 0.1 + ((n.to - n.from - 0.3) * k) / 23)).flatMap((q) => q ?? []);
  const say = (name: string, values: readonly number[]): Truth => ({ name, zone: n.zone, stat: 'median', value: middleOf(values) });
  return [
    say(
      'groove.depth',
      all.map((q) => q.depth),
    ),
    say(
      'groove.width',
      all.map((q) => Math.hypot(q.facial[0] - q.lingual[0], q.facial[1] - q.lingual[1])),
    ),
  ];
}

/** Least way from a notch's facial lip to the edge of the cut, over the middle half of its height. */
export function placeOfEdge(n: Notch, edgeAt: (z: number) => Place): Truth {
  const ways = Array.from({ length: 21 }, (_, k) => {
    const z = n.from + (n.to - n.from) * (0.25 + (0.5 * k) / 20);
    const [lips, edge] = [lipsAt(n, z), edgeAt(z)];
    return lips ? Math.hypot(edge[0] - lips.facial[0], edge[1] - lips.facial[1]) : Infinity;
  });
  return { name: 'groove.place.edge', zone: n.zone, stat: 'value', value: Math.min(...ways) };
}
