import type { Solid } from '../../anatomy/tessellate.ts';
import type { Side } from '../../linalg/sectors.ts';
import { toDegrees, toRadians, wrapDegrees } from '../../linalg/vec.ts';
import { type Master, PART } from '../../master/master.ts';
import { type Mesh, makeMesh, subMesh } from '../../mesh/mesh.ts';
import { toothSolid } from '../bodies.ts';
import type { CavityRecipe } from '../cavity/recipe.ts';
import { type CrownEnvelope, envelopeOf } from '../crown/envelope.ts';
import type { Preparation } from '../preparation.ts';
import { hollowsOf, shapedBody } from '../shaped.ts';
import { type Body, labelled, type SolidKernel } from '../solids.ts';
import type { Typodont } from '../typodont.ts';
import { type Arch, cutInto, QUICK } from './cut-into.ts';
import { scannedTypodont } from './scanned-tooth.ts';

/** Facets of the tooth that hollows are cut into, and mm of its triangles' sides afterwards. */
const FACETS = 36;
const FINE = 0.3;
/** Profiles round the tooth of which a crown's cut is put together. */
const TURNS = 120;
/** mm by which the cut tooth may be simplified: the lofts' slivers go, edges stay. */
const FLAT = 0.002;
/** Triangles of the rest of the arch: time to read them grows with these, and they carry no noise to be averaged. */
const REST = 14_000;
/** mm under the gingival margin to which the cut tooth is shown, as a scan would. */
const UNDER = 0.3;

/** A preparation, and the sides of a crown's that nobody has cut yet. */
export interface OwnCut {
  readonly preparation: Preparation;
  readonly standing: readonly Side[];
}

/** One master kept open, so that preparation after preparation is cut into its own scanned tooth. */
export class OwnShop {
  private readonly typodont: Typodont;
  private body: Body | null = null;
  private rest: Mesh<'tooth'> | null = null;
  private light: Arch | null = null;
  /** The last hollow: most steps of an onlay leave it as it is. */
  private hollow: { readonly of: string; readonly body: Body } | null = null;

  constructor(
    private readonly master: Master,
    private readonly kernel: () => Promise<SolidKernel>,
  ) {
    this.typodont = scannedTypodont(master);
  }

  /**
   * The arch with the preparation in it.
   * @units mm
   * @frame tooth
   */
  async cut({ preparation: p, standing }: OwnCut): Promise<Mesh<'tooth'>> {
    const kernel = await this.kernel();
    if (p.kind !== 'crown') return this.hollowed(p, kernel);
    this.light ??= lighterArch(this.master, kernel);
    return cutInto(this.light, sidesStanding(envelopeOf(this.typodont, p), standing), QUICK);
  }

  private hollowed(p: Preparation, kernel: SolidKernel): Mesh<'tooth'> {
    this.body ??= kernel.make(toothSolid(this.typodont.teeth[0], FACETS)).simplify(FLAT);
    const made: Body[] = [];
    const keep = (b: Body): Body => {
      made.push(b);
      return b;
    };
    const madeOf = (s: Solid): Body => keep(kernel.make(s));
    const cut = shapedBody(kernel, this.typodont, this.body, p, keep, madeOf, TURNS, (c) => [this.hollowOf(c, kernel, keep, madeOf)]);
    const { positions, triangles } = labelled(keep(cut.refineToLength(FINE)), new Map());
    for (const b of new Set(made)) if (b !== this.body) b.delete();
    const seen = (v: number): boolean => {
      const [x, y, z] = [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
      return z >= this.typodont.margin(Math.round((Math.atan2(x, y) * 180) / Math.PI) * toRadians(1)) - UNDER;
    };
    const shown = subMesh(makeMesh('tooth', positions, triangles), (f) => [0, 1, 2].every((k) => seen(triangles[3 * f + k]))).mesh;
    this.rest ??= lighter(withoutTarget(this.master), kernel, REST);
    return together(shown, this.rest);
  }

  private hollowOf(c: CavityRecipe, kernel: SolidKernel, keep: (b: Body) => Body, made: (s: Solid) => Body): Body {
    const of = JSON.stringify(c);
    if (this.hollow?.of !== of) {
      this.hollow?.body.delete();
      const whole = keep(kernel.union(hollowsOf(kernel, this.typodont, c, keep, made)));
      this.hollow = { of, body: whole.simplify(FLAT) };
    }
    return this.hollow.body;
  }
}

/** A mesh with at most so many triangles, where their loss moves the surface by less than a reading can tell. */
const lighter = (m: Mesh<'tooth'>, kernel: SolidKernel, most: number): Mesh<'tooth'> =>
  m.triangles.length / 3 <= most
    ? m
    : subMesh(makeMesh('tooth', m.positions, kernel.simplify(Float32Array.from(m.positions), m.triangles, most)), () => true).mesh;

const isTarget = (m: Master, f: number): boolean => [0, 1, 2].every((k) => m.wholeParts[m.whole.mesh.triangles[3 * f + k]] === PART.target);

/** An arch with its target as it was scanned and the rest of it lighter; both still share the places where they meet. */
function lighterArch(m: Master, kernel: SolidKernel): Arch {
  const { positions, triangles } = m.whole.mesh;
  const [own, others]: [number[], number[]] = [[], []];
  for (let f = 0; f < triangles.length / 3; f++) (isTarget(m, f) ? own : others).push(...triangles.subarray(3 * f, 3 * f + 3));
  const rest = others.length / 3 <= REST ? others : kernel.simplify(Float32Array.from(positions), Uint32Array.from(others), REST);
  const { mesh, from } = subMesh(makeMesh('tooth', positions, Uint32Array.from([...own, ...rest])), () => true);
  return { mesh, parts: Uint8Array.from(from, (v) => m.wholeParts[v]) };
}

/** Everything of the arch but the target. */
const withoutTarget = (m: Master): Mesh<'tooth'> => subMesh(m.whole.mesh, (f) => !isTarget(m, f)).mesh;

function together(a: Mesh<'tooth'>, b: Mesh<'tooth'>): Mesh<'tooth'> {
  const n = a.positions.length / 3;
  const positions = new Float64Array(a.positions.length + b.positions.length);
  positions.set(a.positions);
  positions.set(b.positions, a.positions.length);
  const triangles = new Uint32Array(a.triangles.length + b.triangles.length);
  triangles.set(a.triangles);
  triangles.set(
    b.triangles.map((v) => v + n),
    a.triangles.length,
  );
  return makeMesh('tooth', positions, triangles);
}

/** mm between points of a lowered top, and how far out it reaches. */
const STEP = 0.15;
const OUT = 9;

interface Lines {
  profile(phi: number): { readonly line: readonly (readonly [number, number])[] };
}

/** Lines from the axis outward over a top alone. */
const topLine = (envelope: CrownEnvelope, phi: number): ReturnType<Lines['profile']> => ({
  line: Array.from({ length: Math.round(OUT / STEP) }, (_, i): readonly [number, number] => [
    i * STEP,
    envelope.topAt(i * STEP * Math.sin(phi), i * STEP * Math.cos(phi)),
  ]),
});

/** Degrees round a contact that a cutter does not reach before the contact is broken. */
const CONTACT = 34;

/** A crown's cut with some of its sides still standing: there only the top is cut. */
function sidesStanding(envelope: CrownEnvelope, standing: readonly Side[]): Lines {
  if (standing.length === 0) return envelope;
  const stands = (phi: number): boolean => {
    const a = toDegrees(phi);
    const toContact = Math.min(Math.abs(wrapDegrees(a - 90)), Math.abs(wrapDegrees(a + 90)));
    const side: Side = toContact <= CONTACT ? (Math.sin(phi) > 0 ? 'mesial' : 'distal') : Math.cos(phi) > 0 ? 'facial' : 'lingual';
    return standing.includes(side);
  };
  return { profile: (phi) => (stands(phi) ? topLine(envelope, phi) : envelope.profile(phi)) };
}
