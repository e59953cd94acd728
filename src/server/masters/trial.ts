import type { TrialLine } from '#contract/master-draft.ts';
import { planOf } from '#core/anatomy/anatomy.ts';
import { determinant3, fromRotation, fromTranslation, type Matrix, multiply, transformPoints } from '#core/linalg/rigid.ts';
import type { Master } from '#core/master/master.ts';
import { type Mesh, makeMesh } from '#core/mesh/mesh.ts';
import { measure } from '#core/pipeline.ts';
import { CrownEnvelope } from '#core/simulate/crown/envelope.ts';
import { CLEAN_CROWN, type CrownRecipe } from '#core/simulate/crown/recipe.ts';
import { archOf, cutInto } from '#core/simulate/own/cut-into.ts';
import { scannedTypodont } from '#core/simulate/own/scanned-tooth.ts';
import { crownTruth } from '#core/simulate/truth/crown-truth.ts';
import { seeded } from '#core/statistics/random.ts';

/** mm: noise of the scan that is made of the trial preparation. */
const NOISE = 0.012;
const SEED = 20;

/** A plain crown that any tooth can take: the same depth everywhere, walls of 6°, a chamfer over the gingiva. */
function trialRecipe(tooth: string): CrownRecipe {
  const isBroad = ['molar', 'premolar'].includes(planOf(tooth).kind);
  const depth = isBroad ? 1.5 : 0.7;
  const width = isBroad ? 0.6 : 0.4;
  return {
    ...CLEAN_CROWN,
    occlusal: { functional: depth, nonFunctional: depth, elsewhere: depth },
    taper: { facial: 6, mesial: 6, lingual: 6, distal: 6 },
    margin: {
      ...CLEAN_CROWN.margin,
      width: { facial: width, mesial: width, lingual: width, distal: width },
      height: { facial: 0.5, mesial: 0.5, lingual: 0.5, distal: 0.5 },
    },
  };
}

/** What is compared: one figure for each thing that a master is needed for. */
const COMPARED = [
  ['reduction.occlusal', 'median'],
  ['reduction.axial', 'median'],
  ['toc.mean', 'mean'],
  ['toc.faciolingual', 'mean'],
  ['toc.mesiodistal', 'mean'],
  ['taper.wall', 'median'],
  ['margin.width', 'median'],
  ['margin.gingiva', 'median'],
  ['wall.height', 'median'],
  ['draw.tilt', 'value'],
] as const;

/** Where the wall meets the top and the margin, thirds end by the form of the cut; the middle ones show the master. */
const isPlain = (zone: string | null): boolean => !zone?.endsWith('third') || zone.endsWith('mid third');

/**
 * The proof of a master before its first use: the simulator's cutter prepares a plain crown in it, the arch is scanned in another pose with
 * noise, aligned and measured as a student's would be, and what was read stands beside what was cut.
 */
export function trialOf(master: Master): TrialLine[] {
  const typodont = scannedTypodont(master);
  const envelope = new CrownEnvelope(typodont, trialRecipe(master.description.tooth));
  const m = measure('crown', scanned(cutInto(archOf(master), envelope), master), master);
  const truth = crownTruth(typodont, envelope);
  return COMPARED.flatMap(([name, stat]) =>
    truth
      .filter((t) => t.name === name && t.stat === stat && isPlain(t.zone))
      .flatMap((t): TrialLine[] => {
        const r = m.readings.find((q) => q.name === name && q.zone === t.zone && q.stat === stat);
        // A sector that the measure does not report is no line of the proof.
        if (!r) return [];
        return [
          {
            name,
            zone: t.zone,
            stat,
            unit: t.unit,
            cut: t.value,
            value: r.value,
            U: r.value === null ? null : r.U,
            reason: r.reason ?? null,
          },
        ];
      }),
  );
}

/** The prepared arch in a scanner's own frame, with noise along the surface's own directions. */
function scanned(mesh: Mesh<'tooth'>, master: Master): Mesh<'scanner'> {
  const random = seeded(SEED);
  // A tooth frame that mirrors its file is turned back, so that the scan shows the mouth's own side.
  const upright: Matrix = determinant3(master.toTooth) < 0 ? master.fromTooth : fromTranslation([0, 0, 0]);
  const pose = multiply(fromTranslation([12, -30, 7]), multiply(fromRotation([0.3, 1, 0.2], 1.1), upright));
  const positions = transformPoints(pose, mesh.positions).map((v) => v + NOISE * random.normal());
  return makeMesh('scanner', positions, facing(mesh, pose));
}

/** Triangles turned over where the pose mirrors. */
function facing(mesh: Mesh<'tooth'>, pose: Matrix): Uint32Array {
  const t = mesh.triangles;
  return determinant3(pose) < 0 ? t.map((_, i) => t[i - (i % 3) + [0, 2, 1][i % 3]]) : t;
}
