import type { CariesRecipe } from '../anatomy/inner.ts';
import type { Solid } from '../anatomy/tessellate.ts';
import { invertRigid, type Matrix } from '../linalg/rigid.ts';
import { PART } from '../master/master.ts';
import { type Bodies, moved, typodontBodies } from './bodies.ts';
import { envelopeOf } from './crown/envelope.ts';
import type { CrownRecipe } from './crown/recipe.ts';
import { clearOf, shellSolid } from './crown/shell.ts';
import { trenchSolid } from './crown/trench.ts';
import { damageBall } from './damage.ts';
import { fileFrame, type MasterOptions, masterFrom, masterOfAbutment, placeOf, type SimulatedMaster } from './master.ts';
import type { Recipe } from './recipe.ts';
import { type SimulatedScan, scanOf } from './scanner.ts';
import { shapedBody } from './shaped.ts';
import { type Body, type LabelledMesh, labelled, type SolidKernel } from './solids.ts';
import { withFaults } from './spoil.ts';
import { abutmentTruth } from './truth/abutment-truth.ts';
import type { Opposing } from './truth/bite-truth.ts';
import { cavityTruth } from './truth/cavity-truth.ts';
import { contactTruth } from './truth/contact-truth.ts';
import { crownTruth } from './truth/crown-truth.ts';
import { damageTruth } from './truth/damage-truth.ts';
import { innerTruth } from './truth/inner-truth.ts';
import { onlayTruth } from './truth/onlay-truth.ts';
import { partialTruth } from './truth/partial-truth.ts';
import { preformedTruth } from './truth/preformed-truth.ts';
import { roughTruth } from './truth/rough-truth.ts';
import type { Truth } from './truth/truth.ts';
import { abutmentOf, makeTypodont, opposingOf, type PlacedTooth, seenFrom, type Typodont } from './typodont.ts';

export interface SimulatedCase {
  readonly typodont: Typodont;
  readonly master: SimulatedMaster;
  readonly scan: SimulatedScan;
  /** Row major, scanner frame → master file frame: what the alignment should find. */
  readonly scanToMaster: Matrix;
  /** The same arch as the master of the second prepared tooth. */
  readonly abutment?: SimulatedMaster;
  /** True values of all readings that the recipe determines; computed when asked for. */
  truth(): Truth[];
}

/** A preparation cut into its typodont. */
export interface Carved {
  readonly solid: LabelledMesh;
  /** A second prepared tooth, up to whose far side the scan reaches. */
  readonly second: PlacedTooth | null;
  readonly preparation: Recipe['preparation'];
  /** True values of what was cut; computed once, when asked for. */
  truth(): readonly Truth[];
}

/** One typodont kept open, so that many preparations can be cut from the same tooth without building it each time. */
export class Workshop {
  readonly typodont: Typodont;
  readonly master: SimulatedMaster;
  private readonly bodies: Bodies;
  private readonly opposing: Opposing;

  constructor(
    readonly tooth: string,
    readonly seed: number,
    private readonly kernel: SolidKernel,
    private readonly options: MasterOptions = {},
  ) {
    this.typodont = makeTypodont(tooth, seed, options.arch);
    this.bodies = typodontBodies(this.typodont, kernel, { detail: options.detail ?? 1 });
    this.opposing = opposingOf(this.typodont, seed, options.arch);
    this.master = masterFrom(this.typodont, this.bodies, this.opposing, seed, kernel, options);
  }

  /** Cuts and scans one preparation; `scanSeed` draws the noise, the pose and the border. */
  cut(recipe: Omit<Recipe, 'tooth' | 'seed' | 'format'>, scanSeed: number): SimulatedCase {
    return this.scan(this.carve(recipe), recipe.scan, scanSeed);
  }

  /** The finished preparation in its arch, which can be scanned any number of times. */
  carve(recipe: Pick<Recipe, 'preparation' | 'neighbourDamage' | 'scan' | 'cut' | 'abutment'>): Carved {
    const { typodont, kernel } = this;
    const made: Body[] = [];
    const keep = (b: Body): Body => {
      made.push(b);
      return b;
    };
    const cut = recipe.cut ? PART[recipe.cut] : PART.target;
    const { abutment } = recipe;
    const second = abutment ? abutmentOf(typodont, abutment.tooth) : null;
    const parts = this.bodies.parts.map(({ part, body }, i) => {
      // Bodies stand in the order of the teeth, the gingiva after them.
      const tooth: PlacedTooth | undefined = typodont.teeth[i];
      if (abutment && tooth && tooth === second) return this.prepare(body, abutment.preparation, keep, tooth);
      if (part === cut) return this.prepare(body, recipe.preparation, keep, tooth);
      if (part === PART.gingiva && cut === PART.target) return this.trenched(body, recipe.preparation, keep);
      const depth = part === PART.mesial ? recipe.neighbourDamage.mesial : part === PART.distal ? recipe.neighbourDamage.distal : 0;
      if (depth === 0) return body;
      const ball = damageBall(typodont, part, depth);
      return keep(body.subtract(keep(kernel.sphere(ball.radius, ball.centre))));
    });
    // Fine enough that simplification, not the solids' facets, decides on the scan's triangles.
    const scene = keep(keep(kernel.union(parts)).refineToLength(Math.max(0.05, Math.sqrt(140 / recipe.scan.triangles) * 3.2)));
    const solid = labelled(scene, new Map());
    for (const b of made) b.delete();
    let known: readonly Truth[] | null = null;
    const truth = (): readonly Truth[] => {
      known ??= truthOf(typodont, this.opposing, recipe, this.options.caries ?? null);
      return known;
    };
    return { solid, second, preparation: recipe.preparation, truth };
  }

  scan({ solid, truth, second, preparation }: Carved, recipe: Recipe['scan'], scanSeed: number): SimulatedCase {
    const { typodont, kernel } = this;
    // The border lies a little beyond the neighbours' middles, however much of the arch stands.
    const half = Math.max(
      ...typodont.teeth.flatMap((q) => (q.part === PART.other ? [] : [Math.abs(q.place[3])])),
      ...(second ? [Math.abs(second.place[3]) + second.shape.plan.md] : []),
    );
    const scan = scanOf(solid, fileFrame(this.tooth), recipe, half, scanSeed, kernel);
    return {
      typodont,
      master: this.master,
      scan,
      scanToMaster: invertRigid(scan.pose),
      ...(second ? { abutment: masterOfAbutment(this.typodont, second, this.bodies, this.master, kernel) } : {}),
      truth: () => [...truth(), ...roughTruth(preparation, recipe.noise)],
    };
  }

  /** The gingiva, with what the cutter took of it on its way to a finish line under it. */
  private trenched(body: Body, p: Recipe['preparation'], keep: (b: Body) => Body): Body {
    const trench = p.kind === 'crown' ? trenchSolid(this.typodont, envelopeOf(this.typodont, p)) : null;
    return trench ? keep(body.subtract(keep(this.kernel.make(trench)))) : body;
  }

  private prepare(body: Body, p: Recipe['preparation'], keep: (b: Body) => Body, tooth: PlacedTooth): Body {
    const elsewhere = tooth.part === PART.target ? null : seenFrom(this.typodont, tooth);
    const typodont = elsewhere ?? this.typodont;
    const made = (s: Solid): Body => keep(this.kernel.make(elsewhere ? moved(s, elsewhere.place) : s));
    const prepared = shapedBody(this.kernel, typodont, body, p, keep, made);
    const shell = shellOf(p);
    return shell ? keep(prepared.add(keep(body.intersect(made(shellSolid(typodont, shell)))))) : prepared;
  }
}

const shellOf = (p: Recipe['preparation']): CrownRecipe['shell'] =>
  p.kind === 'crown' ? p.shell : p.kind === 'onlay' ? p.cover.shell : p.kind === 'partial' ? p.crown.shell : undefined;

function truthOf(
  t: Typodont,
  opposing: Opposing,
  recipe: Pick<Recipe, 'preparation' | 'neighbourDamage' | 'cut' | 'abutment'>,
  caries: CariesRecipe | null,
): Truth[] {
  const p = recipe.preparation;
  // Another tooth was cut, so this one has no true values.
  if (recipe.cut) return [];
  const shell = shellOf(p);
  return [
    ...preparationTruth(t, opposing, p).filter((q) => !shell || clearOf(shell.side, q.zone)),
    ...damageTruth(t, recipe.neighbourDamage, recipe.abutment?.tooth),
    ...(recipe.abutment ? abutmentTruth(t, p, recipe.abutment) : []),
    ...innerTruth(t, p, caries && { recipe: caries, at: placeOf(t, caries) }),
  ];
}

function preparationTruth(t: Typodont, opposing: Opposing, p: Recipe['preparation']): Truth[] {
  switch (p.kind) {
    case 'crown': {
      const envelope = envelopeOf(t, p);
      return [...crownTruth(t, envelope, opposing), ...contactTruth(t, envelope)];
    }
    case 'cavity':
      return cavityTruth(t, p);
    case 'onlay':
      return onlayTruth(t, p);
    case 'partial':
      return partialTruth(t, p);
    case 'preformed':
      return preformedTruth(t, p);
  }
}

export function simulate(recipe: Recipe, kernel: SolidKernel): SimulatedCase {
  const spoiled = withFaults(recipe);
  return new Workshop(recipe.tooth, recipe.seed, kernel, {
    caries: recipe.caries ?? null,
    ...(recipe.arch ? { arch: recipe.arch } : {}),
  }).cut(spoiled, recipe.seed);
}
