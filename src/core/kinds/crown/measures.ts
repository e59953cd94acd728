import { bevelOpposing } from '../../measure/arch/bevel-opposing.ts';
import { clearance, gaugePass } from '../../measure/arch/clearance.ts';
import { contactBroken } from '../../measure/arch/contact-broken.ts';
import { cuspIncline } from '../../measure/arch/cusp-incline.ts';
import { gaugeCatch } from '../../measure/arch/gauge-catch.ts';
import { lineCusps } from '../../measure/arch/line-cusps.ts';
import { planeIncisal } from '../../measure/arch/plane-incisal.ts';
import { bevels } from '../../measure/crown/bevel.ts';
import type { CrownContext } from '../../measure/crown/context.ts';
import { drawTilt } from '../../measure/crown/draw.ts';
import { edgeSharp } from '../../measure/crown/edge-sharp.ts';
import { formCuspCanine } from '../../measure/crown/form-cusp-canine.ts';
import { formLingual } from '../../measure/crown/form-lingual.ts';
import { formOcclusal } from '../../measure/crown/form-occlusal.ts';
import { incisalAngle } from '../../measure/crown/incisal-angle.ts';
import { marginCej } from '../../measure/crown/margin-cej.ts';
import { marginEven } from '../../measure/crown/margin-even.ts';
import { marginExit } from '../../measure/crown/margin-exit.ts';
import { marginForm } from '../../measure/crown/margin-form.ts';
import { marginGingiva } from '../../measure/crown/margin-gingiva.ts';
import { marginLip } from '../../measure/crown/margin-lip.ts';
import { marginWander } from '../../measure/crown/margin-wander.ts';
import { marginWidth } from '../../measure/crown/margin-width.ts';
import { planesFacial } from '../../measure/crown/planes-facial.ts';
import { porcelainUnsupported } from '../../measure/crown/porcelain-unsupported.ts';
import { reductionAxial } from '../../measure/crown/reduction-axial.ts';
import { reductionIncisal } from '../../measure/crown/reduction-incisal.ts';
import { reductionOcclusal } from '../../measure/crown/reduction-occlusal.ts';
import { reductionSites } from '../../measure/crown/reduction-sites.ts';
import { resistance } from '../../measure/crown/resistance.ts';
import { surfaceRough } from '../../measure/crown/surface-rough.ts';
import { taperEven } from '../../measure/crown/taper-even.ts';
import { taperWall } from '../../measure/crown/taper-wall.ts';
import { toc } from '../../measure/crown/toc.ts';
import { undercut } from '../../measure/crown/undercut.ts';
import { wallHeight } from '../../measure/crown/wall-height.ts';
import { marginBevel } from '../../measure/partial/margin-bevel.ts';
import type { Measure } from '../kind.ts';

/** Every clearance, and what flat gauges would say of it. */
const clearances: Measure<CrownContext> = (c) => {
  const statics = clearance(c);
  return [...statics, ...gaugePass(statics)];
};

/** Parts common to every covered side. */
const COVER: readonly Measure<CrownContext>[] = [
  reductionOcclusal,
  reductionAxial,
  reductionSites,
  clearances,
  taperWall,
  drawTilt,
  wallHeight,
  marginWidth,
  marginForm,
  marginExit,
  marginLip,
  marginGingiva,
  marginWander,
  formOcclusal,
  edgeSharp,
  surfaceRough,
  contactBroken,
];

/** The covered side of an onlay or a partial crown. */
export const COVERED_SIDE: readonly Measure<CrownContext>[] = [...COVER, marginBevel];

/** A full crown, posterior or anterior: measures of the one refuse or keep silent on the other. */
export const FULL_CROWN: readonly Measure<CrownContext>[] = [
  ...COVER,
  reductionIncisal,
  toc,
  undercut,
  marginEven,
  marginCej,
  taperEven,
  resistance,
  planesFacial,
  bevels,
  bevelOpposing,
  cuspIncline,
  lineCusps,
  gaugeCatch,
  planeIncisal,
  incisalAngle,
  porcelainUnsupported,
  formCuspCanine,
  formLingual,
];
