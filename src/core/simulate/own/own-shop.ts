import { toRadians } from '../../linalg/vec.ts';
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
const FINE = 0.16;
/** mm under the gingival margin to which the cut tooth is shown, as a scan would. */
const UNDER = 0.3;

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
  async cut(p: Preparation): Promise<Mesh<'tooth'>> {
    if (p.kind === 'crown') return cutInto(this.master, envelopeOf(this.typodont, p), QUICK);
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
    const cut = shapedBody(kernel, this.typodont, this.body, p, keep, (s) => keep(kernel.make(s)));
    const { positions, triangles } = labelled(keep(cut.refineToLength(FINE)), new Map());
    for (const b of new Set(made)) if (b !== this.body) b.delete();
    const seen = (v: number): boolean => {
      const [x, y, z] = [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
      return z >= this.typodont.margin(Math.round((Math.atan2(x, y) * 180) / Math.PI) * toRadians(1)) - UNDER;
    };
    const shown = subMesh(makeMesh('tooth', positions, triangles), (f) => [0, 1, 2].every((k) => seen(triangles[3 * f + k]))).mesh;
    this.rest ??= withoutTarget(this.master);
    return together(shown, this.rest);
  }
}

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

/** A top that was lowered while the sides stand: lines from the axis outward. */
function topOnly(t: Typodont, p: PreformedRecipe): { profile(phi: number): { readonly line: readonly (readonly [number, number])[] } } {
  const crown: CrownRecipe = { ...PLAIN, occlusal: { functional: p.occlusal, nonFunctional: p.occlusal, elsewhere: p.occlusal } };
  const blade = t.target.plan.blade !== undefined;
  const envelope = new CrownEnvelope(
    t,
    blade ? { ...crown, occlusal: { functional: 0, nonFunctional: 0, elsewhere: 0 }, incisal: p.occlusal } : crown,
  );
  return {
    profile: (phi) => ({
      line: Array.from({ length: Math.round(OUT / STEP) }, (_, i): readonly [number, number] => [
        i * STEP,
        envelope.topAt(i * STEP * Math.sin(phi), i * STEP * Math.cos(phi)),
      ]),
    }),
  };
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
