import { isLeftHanded } from '../anatomy/anatomy.ts';
import { type CariesRecipe, cariesPlace, cariesSolid, dentineSolid, pulpSolid } from '../anatomy/inner.ts';
import { leanMatrix, leanOf } from '../anatomy/lean.ts';
import type { Solid } from '../anatomy/tessellate.ts';
import { applyDirection, applyPoint, invertRigid, type Matrix, multiply } from '../linalg/rigid.ts';
import type { Vec3 } from '../linalg/vec.ts';
import { type MasterDescription, type MasterMeshes, PART } from '../master/master.ts';
import { intoFrame, makeMesh } from '../mesh/mesh.ts';
import { type Bodies, joined, typodontBodies } from './bodies.ts';
import type { LabelledMesh, SolidKernel } from './solids.ts';
import {
  type ArchExtent,
  axesOf,
  contactPoint,
  cuspsBeside,
  junctionOf,
  type opposingOf,
  type PlacedTooth,
  seenFrom,
  type Typodont,
} from './typodont.ts';

export interface SimulatedMaster {
  readonly description: MasterDescription;
  readonly meshes: MasterMeshes;
}

/**
 * From the construction frame, which is the tooth's own, to the file's: z across the occlusal plane, the tooth leaning in
 * it as its arch has it. Construction is right-handed; left-handed quadrants are stored mirrored in y, as they are in the mouth.
 */
export const fileFrame = (tooth: string): Matrix =>
  multiply([1, 0, 0, 0, 0, isLeftHanded(tooth) ? -1 : 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1], leanMatrix(leanOf(tooth)));

export interface MasterOptions {
  readonly name?: string;
  readonly caries?: CariesRecipe | null;
  readonly arch?: ArchExtent;
  /** Share of the usual facets, for trials that look at places and not at surfaces. */
  readonly detail?: number;
}

export function masterFrom(
  t: Typodont,
  bodies: Bodies,
  opposing: ReturnType<typeof opposingOf>,
  seed: number,
  kernel: SolidKernel,
  { name, caries, detail = 1 }: MasterOptions,
): SimulatedMaster {
  const { tooth } = t.target;
  const arch = joined(bodies, kernel);
  const other = typodontBodies(opposing.typodont, kernel, { opposing: true, detail });
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

export const placeOf = (t: Typodont, c: CariesRecipe): Vec3 =>
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

function describe(t: Typodont, name: string, opposingAxes: Readonly<Record<string, Vec3>>): MasterDescription {
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

/** The same arch as the master of another of its teeth, in that tooth's own file frame. */
export function masterOfAbutment(
  t: Typodont,
  second: PlacedTooth,
  bodies: Bodies,
  first: SimulatedMaster,
  kernel: SolidKernel,
): SimulatedMaster {
  const seen = seenFrom(t, second);
  const arch = joined(
    { parts: bodies.parts, labelOf: new Map(bodies.parts.map(({ part, body }, i) => [body.originalID(), seen.teeth[i]?.part ?? part])) },
    kernel,
  );
  const own = multiply(fileFrame(second.shape.tooth), invertRigid(seen.place));
  const fromFirst = multiply(own, invertRigid(fileFrame(t.target.tooth)));
  const { opposing } = first.meshes;
  const { opposingAxes = {} } = first.description;
  return {
    description: describe(
      seen,
      `Tooth ${second.shape.tooth}, beside ${first.description.name}`,
      Object.fromEntries(
        Object.entries(opposingAxes).map(([tooth, axis]) => [
          tooth,
          applyDirection(invertRigid(fileFrame(second.shape.tooth)), applyDirection(fromFirst, axis)),
        ]),
      ),
    ),
    meshes: {
      arch: { mesh: intoFrame(makeMesh('master', arch.positions, arch.triangles), own, 'master'), parts: vertexParts(arch) },
      opposing: opposing && intoFrame(opposing, fromFirst, 'master'),
      dej: null,
      caries: null,
      pulp: null,
    },
  };
}
