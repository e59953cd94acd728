import { sideAt } from './outer.ts';
import type { BladePlan, ToothPlan } from './plan.ts';
import { smoothstep } from './shape.ts';

/** What lies over an anterior tooth's sides: the incisal edge and the lingual face as one height over (x, y). */
export interface Blade {
  height(x: number, y: number): number;
  /** The same surface after everything nearer to it than `depth` (mm) was taken away. */
  sunk(depth: number): (x: number, y: number) => number;
}

/** mm: how gently the edge turns into the lingual face. */
const TURN = 0.3;
/** Share of half the faciolingual size over which the lingual face leaves the direction of the facial one. */
const OVER = 0.35;
/** Share of half the faciolingual size at which the cingulum stands, lingual of the axis. */
const CINGULUM = 0.75;

export function bladeOf(plan: ToothPlan & { readonly blade: BladePlan }): Blade {
  const { blade, height: h } = plan;
  const [a, b] = [plan.md / 2, plan.fl / 2];
  const edge = (u: number): number => h * edgeShare(blade, u);
  /** Where the edge's middle lies behind the facial face, by x. */
  const crestY = (u: number): number => {
    const z = edge(u);
    const facial = sideAt({ ...plan, blade: { ...blade, lobes: 0 } }, 0, z);
    const wide = plan.top[1] * 1.06;
    const n = plan.squareness;
    return facial * Math.max(0, 1 - (Math.abs(u) / wide) ** n) ** (1 / n) - blade.behind;
  };
  const middle = crestY(0);
  const over = OVER * b;
  const reach = middle + CINGULUM * b;
  const ratio = blade.concavity - 1;
  const gentle = ((1 - blade.cingulum) * h) / (reach + ratio * over * (1 - Math.exp(-reach / over)));
  // The crest as a table: it is asked for at every place of the surface.
  const N = 240;
  const table = Float64Array.from({ length: N + 1 }, (_, i) => crestY((2.4 * i) / N - 1.2));
  const crest = (u: number): number => {
    const t = ((Math.min(1.2, Math.max(-1.2, u)) + 1.2) / 2.4) * N;
    const i = Math.min(N - 1, Math.floor(t));
    return table[i] + (t - i) * (table[i + 1] - table[i]);
  };
  const height = (x: number, y: number): number => {
    const u = x / a;
    const d = crest(u) - y;
    const lingual = 0.5 * (d + Math.sqrt(d * d + TURN * TURN)) - 0.5 * TURN;
    const along = Math.max(0, lingual + hollow(blade, u, d / reach));
    return edge(u) - gentle * (along + ratio * over * (1 - Math.exp(-along / over)));
  };
  const known = new Map<number, (x: number, y: number) => number>();
  const sunk = (depth: number): ((x: number, y: number) => number) => {
    const made = known.get(depth) ?? eroded(height, depth, a + 1, b + 1);
    known.set(depth, made);
    return made;
  };
  return { height, sunk };
}

/** Height of the incisal edge, share of the crown's, at share u of half the mesiodistal size. */
function edgeShare({ corners, tip }: BladePlan, u: number): number {
  if (!tip) return 1 - corners[u > 0 ? 0 : 1] * Math.min(1.2, Math.abs(u) / 0.85) ** 5;
  const d = u - tip.at;
  const fall = d > 0 ? tip.mesial : tip.distal;
  return 1 - fall * (Math.sqrt(d * d + tip.round * tip.round) - tip.round);
}

/** mm by which the lingual face lies deeper than straight: the fossa between its marginal ridges, parted by a canine's ridge. */
function hollow({ fossa, tip }: BladePlan, u: number, t: number): number {
  if (t <= 0 || t >= 1) return 0;
  const along = Math.sin(Math.PI * t) ** 2;
  const w = Math.abs(u) / (0.78 - 0.36 * t);
  const between = 1 - smoothstep((w - 0.35) / 0.65);
  const parted = tip ? 1 - 0.85 * Math.exp(-(((u - 0.5 * tip.at) / 0.16) ** 2)) : 1;
  return fossa * along * between * parted;
}

/** mm between the places at which a sunk surface is kept, at the least, and as a share of the ball's radius. */
const STEP = 0.06;
const STEP_SHARE = 0.07;

/** Height of what stays when a ball of radius `depth` is rolled over the surface: the least over the ball of surface less ball. */
function eroded(height: (x: number, y: number) => number, depth: number, halfX: number, halfY: number): (x: number, y: number) => number {
  const gap = Math.max(STEP, STEP_SHARE * depth);
  const [nx, ny] = [2 * Math.ceil(halfX / gap) + 1, 2 * Math.ceil(halfY / gap) + 1];
  const [x0, y0] = [(-(nx - 1) / 2) * gap, (-(ny - 1) / 2) * gap];
  // The ball in rings: its rim matters as much as its middle where the face is steep.
  const ball: [number, number, number][] = [[0, 0, depth]];
  for (let ring = 1; ring <= 12; ring++) {
    const r = depth * Math.sin((ring * Math.PI) / 24);
    const n = 2 + 2 * ring;
    for (let k = 0; k < n; k++)
      ball.push([r * Math.cos((2 * Math.PI * k) / n), r * Math.sin((2 * Math.PI * k) / n), Math.sqrt(depth * depth - r * r)]);
  }
  const table = new Float64Array(nx * ny);
  for (let j = 0; j < ny; j++)
    for (let i = 0; i < nx; i++) {
      const [x, y] = [x0 + i * gap, y0 + j * gap];
      let least = Infinity;
      for (const [dx, dy, dz] of ball) least = Math.min(least, height(x + dx, y + dy) - dz);
      table[j * nx + i] = least;
    }
  return (x, y) => {
    const s = Math.min(nx - 1.001, Math.max(0, (x - x0) / gap));
    const t = Math.min(ny - 1.001, Math.max(0, (y - y0) / gap));
    const [i, j] = [Math.floor(s), Math.floor(t)];
    const [u, v] = [s - i, t - j];
    const at = j * nx + i;
    return (1 - v) * ((1 - u) * table[at] + u * table[at + 1]) + v * ((1 - u) * table[at + nx] + u * table[at + nx + 1]);
  };
}
