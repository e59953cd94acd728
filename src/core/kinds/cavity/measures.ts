import { axialLesion } from '../../measure/box/axial-lesion.ts';
import { axiopulpal } from '../../measure/box/axiopulpal.ts';
import { boxAxialForm } from '../../measure/box/box-axial-form.ts';
import { boxBevel } from '../../measure/box/box-bevel.ts';
import { boxClearance } from '../../measure/box/box-clearance.ts';
import { boxCorners } from '../../measure/box/box-corners.ts';
import { boxGap } from '../../measure/box/box-gap.ts';
import { boxSize } from '../../measure/box/box-size.ts';
import { instrumentBox } from '../../measure/box/instrument-box.ts';
import { cavosurface } from '../../measure/cavity/cavosurface.ts';
import { depthPulpal } from '../../measure/cavity/depth-pulpal.ts';
import { divergence } from '../../measure/cavity/divergence.ts';
import { enamelUndermined } from '../../measure/cavity/enamel-undermined.ts';
import { floorCusps } from '../../measure/cavity/floor-cusps.ts';
import { floorDentine } from '../../measure/cavity/floor-dentine.ts';
import { floorForm } from '../../measure/cavity/floor-form.ts';
import { instrumentFit } from '../../measure/cavity/instrument-fit.ts';
import { outlineCoverage } from '../../measure/cavity/outline-coverage.ts';
import { outlineCusp } from '../../measure/cavity/outline-cusp.ts';
import { outlineDovetail } from '../../measure/cavity/outline-dovetail.ts';
import { outlineIsthmus } from '../../measure/cavity/outline-isthmus.ts';
import { outlineRidge } from '../../measure/cavity/outline-ridge.ts';
import { outlineSmooth } from '../../measure/cavity/outline-smooth.ts';
import { outlineStep } from '../../measure/cavity/outline-step.ts';
import { retention } from '../../measure/cavity/retention.ts';
import { reverseCurve } from '../../measure/cavity/reverse-curve.ts';
import { wallAngle } from '../../measure/cavity/wall-angle.ts';
import { wallRough } from '../../measure/cavity/wall-rough.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import type { Measure } from '../kind.ts';

/** What speaks of the outline alone: an onlay, half finish line, has no such outline. */
export const OUTLINE: readonly Measure<CavityAnatomy>[] = [
  outlineIsthmus,
  outlineDovetail,
  outlineCoverage,
  outlineRidge,
  outlineCusp,
  outlineSmooth,
  outlineStep,
  reverseCurve,
  instrumentFit,
];

/** What speaks of floors, walls and boxes, and holds for an onlay's inside too. */
export const INSIDE: readonly Measure<CavityAnatomy>[] = [
  depthPulpal,
  floorForm,
  floorCusps,
  floorDentine,
  wallAngle,
  wallRough,
  divergence,
  cavosurface,
  boxSize,
  boxClearance,
  boxGap,
  boxCorners,
  boxBevel,
  axialLesion,
  instrumentBox,
  boxAxialForm,
  axiopulpal,
  retention,
  enamelUndermined,
];
