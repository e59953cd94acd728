import type { Side } from '../../linalg/sectors.ts';
import { toDegrees, toRadians, wrapDegrees } from '../../linalg/vec.ts';
import { type Master, PART } from '../../master/master.ts';
import { type Mesh, makeMesh, subMesh } from '../../mesh/mesh.ts';
import { toothSolid } from '../bodies.ts';
import { CrownEnvelope, envelopeOf } from '../crown/envelope.ts';
import type { CrownRecipe } from '../crown/recipe.ts';
import type { PreformedRecipe } from '../preformed/recipe.ts';
import type { Preparation } from '../preparation.ts';
import { shapedBody } from '../shaped.ts';
import { type Body, labelled, type SolidKernel } from '../solids.ts';
import type { Typodont } from '../typodont.ts';
import { cutInto, QUICK } from './cut-into.ts';
import { scannedTypodont } from './scanned-tooth.ts';

/** Facets of the tooth that hollows are cut into, and mm of its triangles' sides afterwards. */
const FACETS = 44;
const FINE = 0.24;
/** Profiles round the tooth of which a crown's cut is put together. */
const TURNS = 240;
/** mm by which the cut tooth may be simplified: the lofts' slivers go, edges stay. */
const FLAT = 0.002;
/** Triangles of the rest of the arch: time to read them grows with these, and they carry no noise to be averaged. */
const REST = 30_000;
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
    if (p.kind === 'crown') return cutInto(this.master, sidesStanding(envelopeOf(this.typodont, p), standing), QUICK);
    if (p.kind === 'preformed' && !p.mesial && !p.distal) return cutInto(this.master, topOnly(this.typodont, p), QUICK);
    return this.hollowed(p, await this.kernel());
  }

  private hollowed(p: Preparation, kernel: SolidKernel): Mesh<'tooth'> {
    this.body ??= kernel.make(toothSolid(this.typodont.teeth[0], FACETS));
    const made: Body[] = [];
    const keep = (b: Body): Body => {
      made.push(b);
      return b;
    };
    const cut = shapedBody(kernel, this.typodont, this.body, p, keep, (s) => keep(kernel.make(s)), TURNS);
    const { positions, triangles } = labelled(keep(keep(cut.simplify(FLAT)).refineToLength(FINE)), new Map());
    for (const b of new Set(made)) if (b !== this.body) b.delete();
    const seen = (v: number): boolean => {
      const [x, y, z] = [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
      return z >= this.typodont.margin(Math.round((Math.atan2(x, y) * 180) / Math.PI) * toRadians(1)) - UNDER;
    };
    const shown = subMesh(makeMesh('tooth', positions, triangles), (f) => [0, 1, 2].every((k) => seen(triangles[3 * f + k]))).mesh;
    this.rest ??= lighter(withoutTarget(this.master), kernel, REST);
    return together(shown, this.rest);
  }
}

/** A mesh with at most so many triangles, where their loss moves the surface by less than a reading can tell. */
const lighter = (m: Mesh<'tooth'>, kernel: SolidKernel, most: number): Mesh<'tooth'> =>
  m.triangles.length / 3 <= most
    ? m
    : subMesh(makeMesh('tooth', m.positions, kernel.simplify(Float32Array.from(m.positions), m.triangles, most)), () => true).mesh;

/** Everything of the arch but the target. */
function withoutTarget(m: Master): Mesh<'tooth'> {
  const t = m.whole.mesh.triangles;
  return subMesh(m.whole.mesh, (f) => [0, 1, 2].every((k) => m.wholeParts[t[3 * f + k]] !== PART.target)).mesh;
}

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

/** A top that was lowered while the sides stand. */
function topOnly(t: Typodont, p: PreformedRecipe): Lines {
  const crown: CrownRecipe = { ...PLAIN, occlusal: { functional: p.occlusal, nonFunctional: p.occlusal, elsewhere: p.occlusal } };
  const blade = t.target.plan.blade !== undefined;
  const envelope = new CrownEnvelope(
    t,
    blade ? { ...crown, occlusal: { functional: 0, nonFunctional: 0, elsewhere: 0 }, incisal: p.occlusal } : crown,
  );
  return { profile: (phi) => topLine(envelope, phi) };
}

const NONE = { facial: 0, mesial: 0, lingual: 0, distal: 0 };
const PLAIN: CrownRecipe = {
  kind: 'crown',
  occlusal: { functional: 0, nonFunctional: 0, elsewhere: 0 },
  flatten: 0,
  taper: NONE,
  margin: { width: NONE, rounding: 0, slope: 0, height: NONE, wander: 0, waves: 1 },
  planes: [],
  edgeRadius: 0.3,
  tilts: [],
};
