import { isLeftHanded } from '../anatomy/anatomy.ts';
import { type CariesRecipe, cariesPlace, cariesSolid, dentineSolid, pulpSolid } from '../anatomy/inner.ts';
import { leanMatrix, leanOf } from '../anatomy/lean.ts';
import type { Solid } from '../anatomy/tessellate.ts';
import { applyPoint, invertRigid, type Matrix, multiply } from '../linalg/rigid.ts';
import type { Vec3 } from '../linalg/vec.ts';
import { type MasterDescription, type MasterMeshes, PART } from '../master/master.ts';
import { intoFrame, makeMesh } from '../mesh/mesh.ts';
import { type Bodies, joined, moved, typodontBodies } from './bodies.ts';
import { envelopeOf } from './crown/envelope.ts';
import type { CrownRecipe } from './crown/recipe.ts';
import { clearOf, shellSolid } from './crown/shell.ts';
import { trenchSolid } from './crown/trench.ts';
import { damageBall } from './damage.ts';
import type { Recipe } from './recipe.ts';
import { type SimulatedScan, scanOf } from './scanner.ts';
import { shapedBody } from './shaped.ts';
import { type Body, type LabelledMesh, labelled, type SolidKernel } from './solids.ts';
import { withFaults } from './spoil.ts';
import { cavityTruth } from './truth/cavity-truth.ts';
import { contactTruth } from './truth/contact-truth.ts';
import { crownTruth } from './truth/crown-truth.ts';
import { damageTruth } from './truth/damage-truth.ts';
import { innerTruth } from './truth/inner-truth.ts';
import { onlayTruth } from './truth/onlay-truth.ts';
import { partialTruth } from './truth/partial-truth.ts';
import { preformedTruth } from './truth/preformed-truth.ts';
import type { Truth } from './truth/truth.ts';
import {
  type ArchExtent,
  axesOf,
  contactPoint,
  cuspsBeside,
  junctionOf,
  makeTypodont,
  opposingOf,
  seenFrom,
  type Typodont,
} from './typodont.ts';

export interface SimulatedMaster {
  readonly description: MasterDescription;
  readonly meshes: MasterMeshes;
}

export interface SimulatedCase {
  readonly typodont: Typodont;
  readonly master: SimulatedMaster;
  readonly scan: SimulatedScan;
  /** Row major, scanner frame → master file frame: what the alignment should find. */
  readonly scanToMaster: Matrix;
  /** True values of all readings that the recipe determines; computed when asked for. */
  truth(): Truth[];
}

/**
 * From the construction frame, which is the tooth's own, to the file's: z across the occlusal plane, the tooth leaning in
 * it as its arch has it. Construction is right-handed; left-handed quadrants are stored mirrored in y, as they are in the mouth.
 */
export const fileFrame = (tooth: string): Matrix =>
  multiply([1, 0, 0, 0, 0, isLeftHanded(tooth) ? -1 : 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1], leanMatrix(leanOf(tooth)));

interface MasterOptions {
  readonly name?: string;
  readonly caries?: CariesRecipe | null;
  readonly arch?: ArchExtent;
}

function masterFrom(
  t: Typodont,
  bodies: Bodies,
  seed: number,
  kernel: SolidKernel,
  { name, caries, arch: extent }: MasterOptions,
): SimulatedMaster {
  const { tooth } = t.target;
  const arch = joined(bodies, kernel);
  const opposing = opposingOf(t, seed, extent);
  const other = typodontBodies(opposing.typodont, kernel, true);
  const otherMesh = joined(other, kernel);
  for (const p of other.parts) p.body.delete();
  const frame = fileFrame(tooth);
  const inFile = (b: Solid): MasterMeshes['opposing'] => intoFrame(makeMesh('master', b.positions, b.triangles), frame, 'master');
  const placed = intoFrame(makeMesh('master', otherMesh.positions, otherMesh.triangles), opposing.place, 'master');
  return {
    description: describe(t, name ?? `Tooth ${tooth}, simulated series ${seed}`, axesOf(opposing)),
    meshes: {
      arch: { mesh: intoFrame(makeMesh('master', arch.positions, arch.triangles), frame, 'master'), parts: vertexParts(arch) },
      opposing: intoFrame(withoutBase(placed), frame, 'master'),
      dej: inFile(dentineSolid(t.target)),
      caries: caries ? inFile(cariesSolid(t.target, caries, placeOf(t, caries))) : null,
      pulp: inFile(pulpSolid(t.target)),
    },
  };
}

const placeOf = (t: Typodont, c: CariesRecipe): Vec3 =>
  cariesPlace(t.target, c, c.site === 'occlusal' ? null : contactPoint(t, PART[c.site]));

/** The far side of the opposing block is no part of an opposing arch. */
function withoutBase(m: ReturnType<typeof intoFrame<'master'>>) {
  const kept: number[] = [];
  let high = -Infinity;
  for (let i = 2; i < m.positions.length; i += 3) high = Math.max(high, m.positions[i]);
  for (let f = 0; f < m.triangles.length; f += 3) {
    let z = 0;
    for (let k = 0; k < 3; k++) z += m.positions[3 * m.triangles[f + k] + 2] / 3;
    if (z < high - 2.2) kept.push(m.triangles[f], m.triangles[f + 1], m.triangles[f + 2]);
  }
  return makeMesh('master', m.positions, Uint32Array.from(kept));
}

function describe(t: Typodont, name: string, opposingAxes: ReturnType<typeof axesOf>): MasterDescription {
  const frame = fileFrame(t.target.tooth);
  const p = (v: Vec3): Vec3 => applyPoint(frame, v);
  const contact = (part: number) => {
    const c = contactPoint(t, part);
    return c && p(c);
  };
  return {
    name,
    tooth: t.target.tooth,
    axis: p([0, 0, 1]),
    mesial: p([1, 0, 0]),
    facial: p([0, 1, 0]),
    cusps: t.target.cusps.map((c) => ({ ...c, at: p(c.at) })),
    grooves: t.target.grooves.map((g) => ({ ...g, line: g.line.map(p) })),
    ridges: { mesial: t.target.ridges.mesial.map(p), distal: t.target.ridges.distal.map(p), oblique: t.target.ridges.oblique.map(p) },
    contacts: { mesial: contact(PART.mesial), distal: contact(PART.distal) },
    gingivalMargin: t.gingivalMargin.map(p),
    neighbourCusps: { mesial: cuspsBeside(t, 'mesial').map(p), distal: cuspsBeside(t, 'distal').map(p) },
    cej: junctionOf(t).map(p),
    opposingAxes: Object.fromEntries(Object.entries(opposingAxes).map(([tooth, axis]) => [tooth, p(axis)])),
  };
}

function vertexParts(m: LabelledMesh): Uint8Array {
  const parts = new Uint8Array(m.positions.length / 3);
  // Gingiva first, teeth over it: a vertex on their common line belongs to the tooth.
  for (const tooth of [false, true])
    for (let f = 0; f < m.labels.length; f++) {
      if ((m.labels[f] !== PART.gingiva) !== tooth) continue;
      for (let k = 0; k < 3; k++) parts[m.triangles[3 * f + k]] = m.labels[f];
    }
  return parts;
}

/** A preparation cut into its typodont. */
export interface Carved {
  readonly solid: LabelledMesh;
  truth(): Truth[];
}

/** One typodont kept open, so that many preparations can be cut from the same tooth without building it each time. */
export class Workshop {
  readonly typodont: Typodont;
  readonly master: SimulatedMaster;
  private readonly bodies: Bodies;

  constructor(
    readonly tooth: string,
    readonly seed: number,
    private readonly kernel: SolidKernel,
    private readonly options: MasterOptions = {},
  ) {
    this.typodont = makeTypodont(tooth, seed, options.arch);
    this.bodies = typodontBodies(this.typodont, kernel);
    this.master = masterFrom(this.typodont, this.bodies, seed, kernel, options);
  }

  /** Cuts and scans one preparation; `scanSeed` draws the noise, the pose and the border. */
  cut(recipe: Omit<Recipe, 'tooth' | 'seed' | 'format'>, scanSeed: number): SimulatedCase {
    return this.scan(this.carve(recipe), recipe.scan, scanSeed);
  }

  /** The finished preparation in its arch, which can be scanned any number of times. */
  carve(recipe: Pick<Recipe, 'preparation' | 'neighbourDamage' | 'scan' | 'cut'>): Carved {
    const { typodont, kernel } = this;
    const made: Body[] = [];
    const keep = (b: Body): Body => {
      made.push(b);
      return b;
    };
    const cut = recipe.cut ? PART[recipe.cut] : PART.target;
    const parts = this.bodies.parts.map(({ part, body }) => {
      if (part === cut) return this.prepare(body, recipe.preparation, keep, part);
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
    return { solid, truth: () => truthOf(typodont, recipe, this.options.caries ?? null) };
  }

  scan({ solid, truth }: Carved, recipe: Recipe['scan'], scanSeed: number): SimulatedCase {
    const { typodont, kernel } = this;
    // The border lies a little beyond the neighbours' middles, however much of the arch stands.
    const half = Math.max(...typodont.teeth.flatMap((q) => (q.part === PART.other ? [] : [Math.abs(q.place[3])])));
    const scan = scanOf(solid, fileFrame(this.tooth), recipe, half, scanSeed, kernel);
    return { typodont, master: this.master, scan, scanToMaster: invertRigid(scan.pose), truth };
  }

  /** The gingiva, with what the cutter took of it on its way to a finish line under it. */
  private trenched(body: Body, p: Recipe['preparation'], keep: (b: Body) => Body): Body {
    const trench = p.kind === 'crown' ? trenchSolid(this.typodont, envelopeOf(this.typodont, p)) : null;
    return trench ? keep(body.subtract(keep(this.kernel.make(trench)))) : body;
  }

  private prepare(body: Body, p: Recipe['preparation'], keep: (b: Body) => Body, part: number): Body {
    const elsewhere = part === PART.target ? null : seenFrom(this.typodont, part);
    const typodont = elsewhere ?? this.typodont;
    const made = (s: Solid): Body => keep(this.kernel.make(elsewhere ? moved(s, elsewhere.place) : s));
    const prepared = shapedBody(this.kernel, typodont, body, p, keep, made);
    const shell = shellOf(p);
    return shell ? keep(prepared.add(keep(body.intersect(made(shellSolid(typodont, shell)))))) : prepared;
  }
}

const shellOf = (p: Recipe['preparation']): CrownRecipe['shell'] =>
  p.kind === 'crown' ? p.shell : p.kind === 'onlay' ? p.cover.shell : p.kind === 'partial' ? p.crown.shell : undefined;

function truthOf(t: Typodont, recipe: Pick<Recipe, 'preparation' | 'neighbourDamage' | 'cut'>, caries: CariesRecipe | null): Truth[] {
  const p = recipe.preparation;
  // Another tooth was cut, so this one has no true values.
  if (recipe.cut) return [];
  const shell = shellOf(p);
  return [
    ...preparationTruth(t, p).filter((q) => !shell || clearOf(shell.side, q.zone)),
    ...damageTruth(t, recipe.neighbourDamage),
    ...innerTruth(t, p, caries && { recipe: caries, at: placeOf(t, caries) }),
  ];
}

function preparationTruth(t: Typodont, p: Recipe['preparation']): Truth[] {
  switch (p.kind) {
    case 'crown': {
      const envelope = envelopeOf(t, p);
      return [...crownTruth(t, envelope), ...contactTruth(t, envelope)];
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
