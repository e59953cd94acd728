import { smoothMin, type TopElement } from '../../anatomy/shape.ts';
import type { Solid } from '../../anatomy/tessellate.ts';
import { toRadians, type Vec3, wrapDegrees } from '../../linalg/vec.ts';
import { ringSolid, thinned } from '../rings.ts';
import { sideValue } from '../sides.ts';
import type { Typodont } from '../typodont.ts';
import { DepthCuts } from './depth-cuts.ts';
import { bump, FLOOR_SHARES, occlusoaxialEdge, roundCorner, sink, stretch } from './lines.ts';
import type { CrownRecipe } from './recipe.ts';

/** The cut profile at one azimuth, in (r, z): the places the truth speaks of, and the whole line. */
export interface CutProfile {
  /** Finish line: where the floor meets the uncut side. */
  readonly finish: readonly [number, number];
  /** Where the wall's line meets the floor's. */
  readonly foot: readonly [number, number];
  readonly width: number;
  /** Degrees, + converging. */
  readonly lean: number;
  /** Height at which the primary wall ends: at the top or at a second plane. */
  readonly wallTop: number;
  /** Occlusoaxial edge: where the side, second planes included, has turned by 45° from upright. */
  readonly edge: readonly [number, number];
  /** Height at which the floor has run into the straight wall. */
  readonly wallFoot: number;
  /** From the axis outward and down to beyond the tooth. */
  readonly line: readonly (readonly [number, number])[];
}

/** Height over which two cuts of a blade blend, per mm of the edges' roundness: both are steep. */
const ROUNDED = 2;

/** Cosine of 70°: on anterior teeth planes follow one another on the facial side only; elsewhere the wall ends at the fossa. */
const FACIAL_SIDE = 0.342;

/** mm of floor that a bevel leaves at the least. */
const LEAST_FLOOR = 0.05;

/** The solid that the cutter leaves standing: everything inside it (and inside the tooth) stays. */
export class CrownEnvelope {
  constructor(
    readonly typodont: Typodont,
    readonly recipe: CrownRecipe,
  ) {}

  private leanAt(phi: number): number {
    let lean = sideValue(this.recipe.taper, phi);
    for (const t of this.recipe.tilts) lean += t.lean * bump(phi, t.azimuth, t.halfWidth);
    return lean;
  }

  private readonly lowered = new Map<TopElement, number>();

  private lowerBy = (e: TopElement): number => {
    const known = this.lowered.get(e);
    if (known !== undefined) return known;
    const { occlusal } = this.recipe;
    const cusp = this.typodont.target.cusps.find((c) => c.name === e.name);
    const depth =
      e.kind === 'cusp' && cusp
        ? (occlusal.cusps?.[e.name] ?? (cusp.role === 'functional' ? occlusal.functional : occlusal.nonFunctional))
        : occlusal.elsewhere;
    const lower = depth * Math.sqrt(1 + e.slope * e.slope);
    this.lowered.set(e, lower);
    return lower;
  };

  /** Height of the reduced top over (x, y). */
  topAt(x: number, y: number): number {
    const { target } = this.typodont;
    const { flatten, incisal } = this.recipe;
    let z = this.loweredAt(x, y);
    // On a thin blade the cuts meet at sharp angles, which are rounded like its other edges.
    const round = target.plan.blade ? ROUNDED * this.recipe.edgeRadius : 0;
    if (flatten > 0) {
      const level = target.plan.height * 0.86 - this.recipe.occlusal.elsewhere;
      z = (1 - flatten) * z + flatten * Math.min(level, z + 2);
    }
    if (incisal !== undefined) {
      const fall = Math.tan(toRadians(this.recipe.incisalTilt ?? 0));
      z = smoothMin(z, this.edgeHeight() - incisal + (y - this.edgeY()) * fall, round);
    }
    const phi = Math.atan2(x, y);
    const r = Math.hypot(x, y);
    for (const p of this.recipe.planes) z = smoothMin(z, this.planeHeight(p, phi, r), round);
    return z;
  }

  private untouched: DepthCuts | null = null;

  /** Height of the top over (x, y) before it is flattened and its planes are cut. */
  private loweredAt(x: number, y: number): number {
    const { target } = this.typodont;
    const lowered = (): number => target.top(x, y, this.lowerBy);
    if (!this.recipe.top) return lowered();
    this.untouched ??= new DepthCuts(target, this.recipe.top);
    return this.untouched.topAt(x, y, lowered);
  }

  private edge: number | null = null;
  edgeHeight(): number {
    this.edge ??= Math.max(...this.typodont.target.cusps.map((c) => c.at[2]));
    return this.edge;
  }

  private edgeY(): number {
    return this.typodont.target.cusps.reduce((a, b) => (b.at[2] > a.at[2] ? b : a)).at[1];
  }

  private readonly supports = new Map<object, number[]>();

  /** Line at `angle` to the axis, `depth` below the line that just touches the tooth's profile at this azimuth. */
  private planeHeight(p: CrownRecipe['planes'][number], phi: number, r: number): number {
    const d = Math.abs(wrapDegrees((phi * 180) / Math.PI - p.azimuth));
    const over = d / p.halfWidth;
    if (over > 1.5) return Infinity;
    const rise = over <= 1 ? 0 : 3 * (over - 1) ** 2 * p.depth * 4;
    const c = Math.cos(toRadians(p.angle));
    const s = Math.sin(toRadians(p.angle));
    return (this.support(p, phi) - p.depth + rise - r * c) / s;
  }

  /** Support of the tooth's profile in direction (cos angle, sin angle), tabulated each degree. */
  private support(p: CrownRecipe['planes'][number], phi: number): number {
    let table = this.supports.get(p);
    if (!table) {
      table = [];
      const { target } = this.typodont;
      const c = Math.cos(toRadians(p.angle));
      const s = Math.sin(toRadians(p.angle));
      for (let k = 0; k < 360; k++) {
        const a = toRadians(k);
        let best = -Infinity;
        for (let z = 0.3 * target.plan.height; z < target.plan.height + 0.2; z += 0.1) {
          let lo = 0;
          let hi = 9;
          for (let i = 0; i < 22; i++) {
            const m = (lo + hi) / 2;
            if (target.inside(m * Math.sin(a), m * Math.cos(a), z) > 0) lo = m;
            else hi = m;
          }
          if (lo > 0) best = Math.max(best, lo * c + z * s);
        }
        table.push(best);
      }
      this.supports.set(p, table);
    }
    const d = ((((phi * 180) / Math.PI) % 360) + 360) % 360;
    const i = Math.floor(d);
    return table[i % 360] + (d - i) * (table[(i + 1) % 360] - table[i % 360]);
  }

  /** What the places of the margin add at this azimuth. */
  private locally(what: 'height' | 'width' | 'lip', phi: number): number {
    let sum = 0;
    for (const p of this.recipe.margin.places ?? []) if (p[what]) sum += (p[what] as number) * stretch(phi, p);
    return sum;
  }

  finishAt(phi: number): [number, number] {
    const { margin } = this.recipe;
    const z =
      this.typodont.margin(phi) +
      sideValue(margin.height, phi) +
      margin.wander * Math.sin(margin.waves * phi) +
      this.locally('height', phi);
    return [this.typodont.target.side(phi, z), z];
  }

  private readonly profiles = new Map<number, CutProfile>();

  profile(phi: number): CutProfile {
    const known = this.profiles.get(phi);
    if (known) return known;
    const made = this.profileAt(phi);
    this.profiles.set(phi, made);
    return made;
  }

  private profileAt(phi: number): CutProfile {
    const { margin, edgeRadius } = this.recipe;
    const finish = this.finishAt(phi);
    const width = Math.max(0.05, sideValue(margin.width, phi) + this.locally('width', phi));
    const lean = this.leanAt(phi);
    const tan = Math.tan(toRadians(lean));
    const slope = Math.tan(toRadians(margin.slope));
    const sin = Math.sin(phi);
    const cos = Math.cos(phi);
    // Where the floor begins: at the finish line, or over its bevel.
    const bevel = margin.bevel && {
      width: margin.bevel.width,
      out: Math.sin(toRadians(margin.bevel.angle)),
      up: Math.cos(toRadians(margin.bevel.angle)),
    };
    const corner: [number, number] = bevel ? [finish[0] - bevel.width * bevel.out, finish[1] + bevel.width * bevel.up] : [...finish];
    const floor = Math.max(LEAST_FLOOR, corner[0] - finish[0] + width);
    const foot: [number, number] = [corner[0] - floor, corner[1] + floor * slope];
    const wall = (z: number): number => foot[0] - (z - foot[1]) * tan;
    const over = (z: number): number => this.topAt(wall(z) * sin, wall(z) * cos) - z;
    let lo = foot[1];
    let hi = foot[1];
    while (over(hi) > 0 && hi < 20) {
      lo = hi;
      hi += 0.1;
    }
    for (let i = 0; i < 36; i++) {
      const m = (lo + hi) / 2;
      if (over(m) > 0) lo = m;
      else hi = m;
    }
    const wallTop = (lo + hi) / 2;
    const rTop = wall(wallTop);
    // Fillet between floor and wall, tangent to both, whose floor end lies `rounding` of the width inside the edge.
    const between = toRadians(90 + lean + margin.slope) / 2;
    // Every profile has the same number of points, so that neighbouring ones can be joined: a vanishing fillet keeps its arc.
    const reach = margin.rounding > 0 ? Math.max(1e-3, Math.min(margin.rounding * floor, 0.9 * (wallTop - foot[1]))) : 0;
    const radius = reach * Math.tan(between);
    const alongFloor: [number, number] = [
      foot[0] + reach * Math.cos(toRadians(margin.slope)),
      foot[1] - reach * Math.sin(toRadians(margin.slope)),
    ];
    const alongWall: [number, number] = [foot[0] - reach * Math.sin(toRadians(lean)), foot[1] + reach * Math.cos(toRadians(lean))];
    const line: [number, number][] = [];
    const tops = 56;
    for (let i = 0; i < tops; i++) {
      const r = (rTop * i) / tops;
      line.push([r, this.topAt(r * sin, r * cos)]);
    }
    const walls = 44;
    const edgeIndex = line.length;
    for (let i = 0; i < walls; i++) {
      const z = wallTop + ((alongWall[1] - wallTop) * i) / walls;
      line.push([wall(z), z]);
    }
    if (edgeRadius > 0) roundCorner(line, edgeIndex, edgeRadius);
    const arcs = reach > 0 ? 16 : 0;
    if (arcs) {
      const n: [number, number] = [Math.cos(toRadians(lean)), Math.sin(toRadians(lean))];
      const centre: [number, number] = [alongWall[0] + radius * n[0], alongWall[1] + radius * n[1]];
      const a0 = Math.atan2(alongWall[1] - centre[1], alongWall[0] - centre[0]);
      let a1 = Math.atan2(alongFloor[1] - centre[1], alongFloor[0] - centre[0]);
      if (a1 < a0) a1 += 2 * Math.PI;
      for (let i = 0; i <= arcs; i++) {
        const a = a0 + ((a1 - a0) * i) / arcs;
        line.push([centre[0] + radius * Math.cos(a), centre[1] + radius * Math.sin(a)]);
      }
    } else line.push([foot[0], foot[1]]);
    for (const t of FLOOR_SHARES) {
      const r = alongFloor[0] + t * (corner[0] - alongFloor[0]);
      line.push([r, foot[1] - (r - foot[0]) * slope]);
    }
    const lip = this.locally('lip', phi);
    if (lip > 0) sink(line, finish[0], width, lip);
    if (bevel) line.push(corner);
    const falls = bevel ? bevel.up / bevel.out : slope;
    for (const extra of [0, 0.25, 4.5]) line.push([finish[0] + extra, finish[1] - extra * falls]);
    const kind = this.typodont.target.plan.kind;
    const fossa = (kind === 'incisor' || kind === 'canine') && cos < FACIAL_SIDE;
    const edge: readonly [number, number] = fossa ? [rTop, wallTop] : occlusoaxialEdge(line, alongWall[1]);
    return { finish, foot, width: bevel ? finish[0] - foot[0] : width, lean, wallTop, wallFoot: alongWall[1], edge, line };
  }

  /** Closed solid under the reduced top alone, its sides far out: what lowers a plate without touching its face. */
  topSolid(azimuths = 256): Solid {
    const ring = (r: number, z: (x: number, y: number) => number): Vec3[] =>
      Array.from({ length: azimuths }, (_, j) => {
        const phi = (2 * Math.PI * j) / azimuths;
        const [x, y] = [r * Math.sin(phi), r * Math.cos(phi)];
        return [x, y, z(x, y)];
      });
    const tops = Array.from({ length: 60 }, (_, i) => ring(0.16 * (i + 1), (x, y) => this.topAt(x, y)));
    return ringSolid([0, 0, this.topAt(0, 0)], [...thinned(tops), ring(9.6, () => -9)], [0, 0, -9]);
  }

  /** Closed solid: the profiles swept round the axis, with a floor well below the finish line. */
  solid(azimuths = 480): Solid {
    const turns = Array.from({ length: azimuths }, (_, j) => {
      const phi = (2 * Math.PI * j) / azimuths;
      return { sin: Math.sin(phi), cos: Math.cos(phi), line: this.profile(phi).line };
    });
    const n = turns[0].line.length;
    const rings = Array.from({ length: n - 1 }, (_, i) =>
      turns.map(({ sin, cos, line: l }): Vec3 => [l[i + 1][0] * sin, l[i + 1][0] * cos, l[i + 1][1]]),
    );
    const skirt = turns.map(({ sin, cos, line: l }): Vec3 => [(l[n - 1][0] + 0.5) * sin, (l[n - 1][0] + 0.5) * cos, -9]);
    return ringSolid([0, 0, turns[0].line[0][1]], [...thinned(rings), skirt], [0, 0, -9]);
  }
}

const made = new WeakMap<Typodont, WeakMap<CrownRecipe, CrownEnvelope>>();

/** What the cutter leaves of a tooth by a recipe; the same one for whoever asks again, with the profiles that it knows. */
export function envelopeOf(t: Typodont, recipe: CrownRecipe): CrownEnvelope {
  const of = made.get(t) ?? new WeakMap<CrownRecipe, CrownEnvelope>();
  made.set(t, of);
  const known = of.get(recipe) ?? new CrownEnvelope(t, recipe);
  of.set(recipe, known);
  return known;
}
