import type { Solid } from '../../anatomy/tessellate.ts';
import { add, cross, scale, sub, toRadians, unit, type Vec3 } from '../../linalg/vec.ts';
import { CrownEnvelope } from '../crown/envelope.ts';
import { between, outward, ringSolid } from '../rings.ts';
import type { Typodont } from '../typodont.ts';
import type { GrooveRecipe, PartialRecipe } from './recipe.ts';

/** A groove's cutter in place, in the construction frame. */
export interface PlacedGroove {
  readonly recipe: GrooveRecipe;
  /** Azimuth (radians) of the groove's middle, outward normal of the wall there. */
  readonly phi: number;
  readonly out: readonly [number, number];
  readonly from: number;
  readonly to: number;
  /** mm from the cutter's middle in to its bottom: its radius, or nothing of a box. */
  readonly inward: number;
  /** Middle of the cutter's round end, of a box the middle of its axial wall, at a height. */
  centre(z: number): readonly [number, number];
}

export interface PartialParts {
  readonly envelope: CrownEnvelope;
  /** y in front of which the facial plate stands. */
  readonly plateY: number;
  readonly grooves: readonly PlacedGroove[];
  readonly pin: null | { readonly x: number; readonly y: number; readonly radius: number; readonly bottom: number; readonly ledge: number };
}

/** mm of wall between a groove and the plate's inner face. */
const LAND = 0.35;

export function partialParts(t: Typodont, r: PartialRecipe): PartialParts {
  const envelope = new CrownEnvelope(t, { ...r.crown, kind: 'crown' });
  const plateY = (r.plate * t.target.plan.fl) / 2;
  const grooves = r.grooves.map((g) => place(envelope, g, plateY));
  const pin = r.pin && {
    x: 0,
    y: -r.pin.lingual,
    radius: r.pin.diameter / 2,
    ledge: envelope.topAt(0, -r.pin.lingual - 0.3),
    bottom: envelope.topAt(0, -r.pin.lingual - 0.3) - r.pin.depth,
  };
  return { envelope, plateY, grooves, pin };
}

/** Middle of the incisal groove's cutter over x, in the construction frame; null where the recipe has none. */
export function incisalCourse(p: PartialParts, r: PartialRecipe): ((x: number) => Vec3) | null {
  const { incisal } = r;
  if (!incisal) return null;
  const y = p.plateY - incisal.lingual;
  // The cutter's middle lies over the surface by what of its radius is not sunk, straight out of the slope.
  const out = incisal.width / 2 - incisal.depth;
  return (x) => {
    const fall = (p.envelope.topAt(x, y + 0.1) - p.envelope.topAt(x, y - 0.1)) / 0.2;
    const l = Math.hypot(fall, 1);
    return [x, y - (out * fall) / l, p.envelope.topAt(x, y) + out / l];
  };
}

/** The incisal groove's cutter: a tube of its width along its course, between the proximal grooves. */
export function incisalSolid(p: PartialParts, r: PartialRecipe): Solid | null {
  const course = incisalCourse(p, r);
  const [a, b] = p.grooves;
  if (!course || !r.incisal || !a || !b) return null;
  const [x0, x1] = [a, b].map((g) => g.centre(g.to)[0]).sort((q, s) => q - s);
  const radius = r.incisal.width / 2;
  const sections = Array.from({ length: 31 }, (_, i) => {
    const x = x0 + ((x1 - x0) * i) / 30;
    const m = course(x);
    // A round cutter is round across its way, which falls to both sides of a canine's tip.
    const along = unit(sub(course(x + 0.05), course(x - 0.05)));
    const side = unit(cross([0, 0, 1], along));
    const up = cross(along, side);
    return Array.from({ length: 24 }, (_, k): Vec3 => {
      const phi = (2 * Math.PI * k) / 24;
      return add(m, add(scale(side, radius * Math.cos(phi)), scale(up, radius * Math.sin(phi))));
    });
  });
  return outward(ringSolid(course(x0), sections, course(x1)));
}

/** The wall's point at an azimuth and height (construction frame); null above the wall's top. */
export function wallAt(e: CrownEnvelope, phi: number, z: number): readonly [number, number] {
  const p = e.profile(phi);
  const r = p.foot[0] - (z - p.foot[1]) * Math.tan(toRadians(p.lean));
  return [r * Math.sin(phi), r * Math.cos(phi)];
}

function place(e: CrownEnvelope, g: GrooveRecipe, plateY: number): PlacedGroove {
  const s = g.side === 'mesial' ? 1 : -1;
  const y = plateY - LAND - g.width / 2;
  // Azimuth at which the wall's middle passes that y.
  let phi = (s * Math.PI) / 2;
  let middle = 0;
  for (let i = 0; i < 12; i++) {
    const p = e.profile(phi);
    middle = (p.wallFoot + p.edge[1]) / 2;
    const w = wallAt(e, phi, middle);
    phi = Math.atan2(w[0], y);
  }
  const p = e.profile(phi);
  const [a, b] = [wallAt(e, phi - 0.1, middle), wallAt(e, phi + 0.1, middle)];
  const l = Math.hypot(b[0] - a[0], b[1] - a[1]);
  // Walking on in azimuth the outside lies to the left.
  const out: [number, number] = [-(b[1] - a[1]) / l, (b[0] - a[0]) / l];
  const w = wallAt(e, phi, middle);
  const inward = g.form === 'box' ? 0 : g.width / 2;
  const axis: [number, number] = [w[0] - out[0] * (g.depth - inward), w[1] - out[1] * (g.depth - inward)];
  const tanOut = Math.tan(toRadians(g.leanOut));
  const tanFacial = Math.tan(toRadians(g.leanFacial));
  return {
    recipe: g,
    phi,
    out,
    from: p.finish[1] + g.over,
    to: p.edge[1],
    inward,
    centre: (z) => [axis[0] + (z - middle) * tanOut * out[0], axis[1] + (z - middle) * (tanOut * out[1] + tanFacial)],
  };
}

/** Radius (mm) of a box's corners in plan. */
const CORNER = 0.2;

/** Places (across, outward) of the cutter's inner end from one side to the other: a half circle, or a box's axial wall between its corners. */
function innerEnd(g: GrooveRecipe): [number, number][] {
  const n = 48;
  const half = g.width / 2;
  if (g.form === 'groove')
    return Array.from({ length: n + 1 }, (_, i) => [-half * Math.cos((Math.PI * i) / n), -half * Math.sin((Math.PI * i) / n)]);
  const corner = (hand: 1 | -1): [number, number][] =>
    Array.from({ length: 9 }, (_, i) => {
      const a = (Math.PI * i) / 16;
      return [hand * (half - CORNER + CORNER * Math.cos(a)), CORNER - CORNER * Math.sin(a)];
    });
  return [...corner(-1), ...corner(1).reverse()];
}

/** The groove's cutter swept in from outside: its section over the groove's height, leaned as the handpiece was. */
export function grooveSolid(g: PlacedGroove, top: number): Solid {
  const radius = g.recipe.width / 2;
  const end = innerEnd(g.recipe);
  const side: [number, number] = [-g.out[1], g.out[0]];
  return between([g.from, top], (z) => {
    const c = g.centre(z);
    const at = (across: number, outward: number): Vec3 => [
      c[0] + across * side[0] + outward * g.out[0],
      c[1] + across * side[1] + outward * g.out[1],
      z,
    ];
    // Its end inward, straight sides outward.
    return [...end.map(([across, outward]) => at(across, outward)), at(radius, 3), at(-radius, 3)];
  });
}
