import { planOf } from '../../anatomy/anatomy.ts';
import { smoothstep, type ToothShape, type TopElement } from '../../anatomy/shape.ts';
import { IDENTITY } from '../../linalg/rigid.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { toRadians, type Vec3 } from '../../linalg/vec.ts';
import { type Master, PART, partAlone } from '../../master/master.ts';
import { castRay } from '../../spatial/ray.ts';
import type { Surface } from '../../spatial/surface.ts';
import { PolarCurve } from '../polar-curve.ts';
import type { Typodont } from '../typodont.ts';

/** mm and degrees between the places at which the scanned tooth is sounded. */
const STEP = 0.1;
const TURN = 1;
const AROUND = 360 / TURN;
/** mm: half width of the field of heights, and from where rays come. */
const HALF = 8;
const OUTSIDE = 13;
/** mm under the gingival margin to which the side is carried on. */
const BELOW = 2;
/** Rise over run from which a surface is a side and no top. */
const STEEP = 1.5;
/** mm: height that stands for “nothing there”. */
const NOTHING = -5;
/** mm from a cusp's tip over which its own depth holds, and over which it fades. */
const CUSP = 1.2;
/** mm between the depths for which a sunk surface is made. */
const RADIUS_STEP = 0.1;

/** The scanned target of a master as the simulator knows teeth, so that its cutters cut it and its truth is known; in the tooth frame. */
export function scannedTypodont(m: Master): Typodont {
  const surface = partAlone(m, PART.target) ?? m.target;
  const heights = new HeightField(surface);
  const sides = new SideField(surface, heights.highest);
  const curve = new PolarCurve(m.landmarks.gingivalMargin);
  const margin = (phi: number): number => curve.at((phi * 180) / Math.PI).z;
  const whole: TopElement = { kind: 'ridge', name: 'surface', slope: 0, height: (x, y) => heights.at(x, y) };
  const cusps = m.landmarks.cusps.map((c): TopElement => ({ kind: 'cusp', name: c.name, slope: 0, height: (x, y) => heights.at(x, y) }));
  /** Sunk by what is asked of the nearest cusp near its tip, by what is asked elsewhere away from all. */
  const sunkAt = (x: number, y: number, lower: (e: TopElement) => number): number => {
    const base = lower(whole);
    let by = base;
    m.landmarks.cusps.forEach((c, i) => {
      const own = lower(cusps[i]);
      if (own !== base) by += (own - base) * (1 - smoothstep((Math.hypot(x - c.at[0], y - c.at[1]) - CUSP) / CUSP));
    });
    if (by === base) return heights.sunk(base).at(x, y);
    // Fields are made for depths of a step; between two of them the surface runs straight.
    const k = Math.floor(by / RADIUS_STEP);
    const f = by / RADIUS_STEP - k;
    return (1 - f) * heights.sunk(k * RADIUS_STEP).at(x, y) + f * heights.sunk((k + 1) * RADIUS_STEP).at(x, y);
  };
  const side = (phi: number, z: number): number => sides.at(phi, Math.max(z, margin(phi) - BELOW));
  const shape: ToothShape = {
    tooth: m.description.tooth,
    plan: { ...planOf(m.description.tooth), height: heights.highest },
    side,
    top: (x, y, lower) => (lower ? sunkAt(x, y, lower) : heights.at(x, y)),
    inside: (x, y, z) => Math.min(side(Math.atan2(x, y), z) - Math.hypot(x, y), heights.at(x, y) - z),
    elements: [whole, ...cusps],
    cusps: m.landmarks.cusps,
    grooves: m.landmarks.grooves,
    ridges: { mesial: [...m.landmarks.ridges.mesial], distal: [...m.landmarks.ridges.distal], oblique: [...m.landmarks.ridges.oblique] },
  };
  return {
    target: shape,
    teeth: [{ shape, part: PART.target, place: IDENTITY, inverse: IDENTITY }],
    gingiva: (x, y) => margin(Math.atan2(x, y)),
    margin,
    gingivalMargin: m.landmarks.gingivalMargin.map((p): Vec3 => [p[0], p[1], p[2]]),
  };
}

/** Height of a surface over (x, y), bilinear between sounded places. */
class HeightField {
  readonly highest: number;
  private readonly n = Math.round((2 * HALF) / STEP) + 1;
  private readonly sunken = new Map<number, HeightField>();
  private readonly z: Float64Array;

  constructor(from: Surface | Float64Array) {
    if (from instanceof Float64Array) this.z = from;
    else {
      this.z = new Float64Array(this.n * this.n).fill(NOTHING);
      for (let j = 0; j < this.n; j++)
        for (let i = 0; i < this.n; i++) {
          const t = castRay(from, [i * STEP - HALF, j * STEP - HALF, 30], [0, 0, -1], 40);
          if (t !== null) this.z[j * this.n + i] = 30 - t;
        }
    }
    this.highest = this.z.reduce((a, b) => Math.max(a, b), NOTHING);
  }

  at(x: number, y: number): number {
    const u = Math.min(this.n - 1.001, Math.max(0, (x + HALF) / STEP));
    const v = Math.min(this.n - 1.001, Math.max(0, (y + HALF) / STEP));
    const [i, j] = [Math.floor(u), Math.floor(v)];
    const [f, g] = [u - i, v - j];
    const k = j * this.n + i;
    const { z, n } = this;
    return (1 - g) * ((1 - f) * z[k] + f * z[k + 1]) + g * ((1 - f) * z[k + n] + f * z[k + n + 1]);
  }

  /** Heights where the surface looks upward, Infinity where it falls away as a side does. */
  private upward(): Float64Array {
    const { n, z } = this;
    return z.map((h, k) => {
      const i = k % n;
      if (h === NOTHING || i === 0 || i === n - 1 || k < n || k >= z.length - n) return Infinity;
      const slope = Math.hypot(z[k + 1] - z[k - 1], z[k + n] - z[k - n]) / (2 * STEP);
      return slope < STEEP ? h : Infinity;
    });
  }

  /** What a ball of the radius that rolls over the upward surface leaves under itself: every place of it lies that deep. */
  sunk(radius: number): HeightField {
    const known = this.sunken.get(radius);
    if (known) return known;
    const { n } = this;
    const z = this.upward();
    const out = new Float64Array(z.length).fill(Infinity);
    const r = Math.floor(radius / STEP);
    for (let dj = -r; dj <= r; dj++)
      for (let di = -r; di <= r; di++) {
        const under = radius ** 2 - (di * STEP) ** 2 - (dj * STEP) ** 2;
        if (under < 0) continue;
        const fall = Math.sqrt(under);
        for (let j = Math.max(0, -dj); j < Math.min(n, n - dj); j++)
          for (let i = Math.max(0, -di); i < Math.min(n, n - di); i++) {
            const lowered = z[(j + dj) * n + i + di] - fall;
            if (lowered < out[j * n + i]) out[j * n + i] = lowered;
          }
      }
    // Beyond the ball's reach of any top nothing is lowered.
    const field = new HeightField(out.map((h, k) => (h === Infinity ? this.z[k] : h)));
    this.sunken.set(radius, field);
    return field;
  }
}

/** Distance of the tooth's side from the axis by direction and height; where a neighbour hides it, bridged from both sides. */
class SideField {
  private readonly rows: Float64Array[] = [];

  constructor(
    surface: Surface,
    private readonly highest: number,
  ) {
    let below: Float64Array | null = null;
    for (let z = -BELOW - 2; z <= highest; z += STEP) {
      const seen = Array.from({ length: AROUND }, (_, k) => {
        const a = toRadians(k * TURN);
        const t = castRay(surface, [OUTSIDE * Math.sin(a), OUTSIDE * Math.cos(a), z], [-Math.sin(a), -Math.cos(a), 0], OUTSIDE);
        return t === null ? null : OUTSIDE - t;
      });
      const row: Float64Array | null = seen.filter((r) => r !== null).length > AROUND / 2 ? bridged(seen) : below;
      this.rows.push(row ?? new Float64Array(AROUND).fill(Number.NaN));
      below = row ?? below;
    }
    // Under the lowest height that is seen all round, the side runs straight down.
    const first = this.rows.find((r) => !Number.isNaN(r[0]));
    if (first) for (let i = 0; Number.isNaN(this.rows[i][0]); i++) this.rows[i] = first;
  }

  at(phi: number, z: number): number {
    const u = (azimuthOf(Math.sin(phi), Math.cos(phi)) / TURN + AROUND) % AROUND;
    const v = Math.min(this.rows.length - 1.001, Math.max(0, (Math.min(z, this.highest) + BELOW + 2) / STEP));
    const [i, j] = [Math.floor(u), Math.floor(v)];
    const [f, g] = [u - i, v - j];
    const at = (row: Float64Array): number => (1 - f) * row[i % AROUND] + f * row[(i + 1) % AROUND];
    return (1 - g) * at(this.rows[j]) + g * at(this.rows[j + 1]);
  }
}

/** A closed row with its gaps filled in a straight line from end to end. */
function bridged(seen: readonly (number | null)[]): Float64Array {
  const n = seen.length;
  return Float64Array.from(seen, (r, k) => {
    if (r !== null) return r;
    let [a, b] = [1, 1];
    while (seen[(k - a + n) % n] === null) a++;
    while (seen[(k + b) % n] === null) b++;
    const [p, q] = [seen[(k - a + n) % n] as number, seen[(k + b) % n] as number];
    return p + (a / (a + b)) * (q - p);
  });
}
