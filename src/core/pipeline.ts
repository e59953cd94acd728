import { type Alignment, align } from './align/align.ts';
import { cavityCurves, crownCurves } from './curves.ts';
import { applyPoint, type Matrix, multiply } from './linalg/rigid.ts';
import type { Master } from './master/master.ts';
import { axiopulpal } from './measure/cavity/axiopulpal.ts';
import { boxAxialForm } from './measure/cavity/box-axial-form.ts';
import { boxClearance } from './measure/cavity/box-clearance.ts';
import { boxSize } from './measure/cavity/box-size.ts';
import { cariesLeft } from './measure/cavity/caries-left.ts';
import { cavosurface } from './measure/cavity/cavosurface.ts';
import { depthPulpal } from './measure/cavity/depth-pulpal.ts';
import { floorForm } from './measure/cavity/floor-form.ts';
import { instrumentFit } from './measure/cavity/instrument-fit.ts';
import { outlineCoverage } from './measure/cavity/outline-coverage.ts';
import { outlineCusp } from './measure/cavity/outline-cusp.ts';
import { outlineIsthmus } from './measure/cavity/outline-isthmus.ts';
import { outlineRidge } from './measure/cavity/outline-ridge.ts';
import { outlineSmooth } from './measure/cavity/outline-smooth.ts';
import { retention } from './measure/cavity/retention.ts';
import { wallAngle } from './measure/cavity/wall-angle.ts';
import { bevels } from './measure/crown/bevel.ts';
import { clearance, gaugePass } from './measure/crown/clearance.ts';
import { type CrownContext, crownContext } from './measure/crown/context.ts';
import { drawTilt } from './measure/crown/draw.ts';
import { edgeSharp } from './measure/crown/edge-sharp.ts';
import { formLingual } from './measure/crown/form-lingual.ts';
import { formOcclusal } from './measure/crown/form-occlusal.ts';
import { marginExit } from './measure/crown/margin-exit.ts';
import { marginForm } from './measure/crown/margin-form.ts';
import { marginGingiva } from './measure/crown/margin-gingiva.ts';
import { marginLip } from './measure/crown/margin-lip.ts';
import { marginWander } from './measure/crown/margin-wander.ts';
import { marginWidth } from './measure/crown/margin-width.ts';
import { planesFacial } from './measure/crown/planes-facial.ts';
import { reductionAxial } from './measure/crown/reduction-axial.ts';
import { reductionIncisal } from './measure/crown/reduction-incisal.ts';
import { reductionOcclusal } from './measure/crown/reduction-occlusal.ts';
import { reductionSites } from './measure/crown/reduction-sites.ts';
import { resistance } from './measure/crown/resistance.ts';
import { surfaceRough } from './measure/crown/surface-rough.ts';
import { taperWall } from './measure/crown/taper-wall.ts';
import { toc } from './measure/crown/toc.ts';
import { undercut } from './measure/crown/undercut.ts';
import { wallHeight } from './measure/crown/wall-height.ts';
import { gingivaContact, neighbourDamage } from './measure/surroundings/neighbour.ts';
import type { Mesh } from './mesh/mesh.ts';
import { Fault } from './result/fault.ts';
import type { Reading } from './result/reading.ts';
import { type CavityAnatomy, takeCavityApart } from './segment/cavity.ts';
import { takeCrownApart } from './segment/crown.ts';
import { refuseWrongTooth } from './segment/wrong-tooth.ts';

/** The stages in order; contracts, records, pages and worker messages use these words. */
export const STAGES = ['scan', 'align', 'segment', 'measure', 'score', 'sign', 'progress'] as const;
export type Stage = (typeof STAGES)[number];

/** Kinds that the core measures; the others wait for their measures. */
const MEASURABLE = ['crown', 'cavity'] as const;
export const isMeasurable = (k: string): k is (typeof MEASURABLE)[number] => (MEASURABLE as readonly string[]).includes(k);

export const KINDS = ['crown', 'cavity', 'onlay', 'partial', 'preformed', 'restoration'] as const;
export type Kind = (typeof KINDS)[number];

interface MeasuredBase {
  readonly alignment: Alignment;
  /** Scanner frame → master file frame. */
  readonly scanToMaster: Matrix;
  /** Places are points of the master file's frame. */
  readonly readings: readonly Reading[];
  readonly curves: Readonly<Record<string, readonly (readonly number[])[]>>;
}

/** What a cavity's readings and pictures are made from. */
export interface CavityContext {
  readonly kind: 'cavity';
  readonly anatomy: CavityAnatomy;
}
const cavityContext = (anatomy: CavityAnatomy): CavityContext => ({ kind: 'cavity', anatomy });

export type Measured = MeasuredBase & ({ readonly context: CrownContext } | { readonly context: CavityContext });

export type Report = (stage: Stage, share: number) => void;

/** Every reading of a full crown that comes from its own surface; the order is that of measures.md. */
const CROWN_MEASURES: readonly ((c: CrownContext) => Reading[])[] = [
  reductionOcclusal,
  reductionIncisal,
  reductionAxial,
  reductionSites,
  clearance,
  taperWall,
  toc,
  drawTilt,
  undercut,
  wallHeight,
  resistance,
  marginWidth,
  marginForm,
  marginExit,
  marginLip,
  marginGingiva,
  marginWander,
  planesFacial,
  bevels,
  formOcclusal,
  formLingual,
  edgeSharp,
  surfaceRough,
];

/** Every reading of a cavity that comes from its own surface. */
const CAVITY_MEASURES: readonly ((a: CavityAnatomy) => Reading[])[] = [
  outlineIsthmus,
  outlineCoverage,
  outlineRidge,
  outlineCusp,
  outlineSmooth,
  depthPulpal,
  floorForm,
  wallAngle,
  cavosurface,
  boxSize,
  boxClearance,
  boxAxialForm,
  axiopulpal,
  retention,
  instrumentFit,
  cariesLeft,
];

/** Scan and master to readings: align, take apart, measure. Throws a Fault when the scan cannot be used. */
export function measure(
  kind: Kind,
  scan: Mesh<'scanner'>,
  master: Master,
  report: Report = () => {},
  byHand: Matrix | null = null,
): Measured {
  if (!isMeasurable(kind))
    throw new Fault('kind.unsupported', {
      expected: `${MEASURABLE.join(' and ')} can be measured so far`,
      received: `“${kind}” cannot`,
      remedy: 'Grade this attempt by hand readings, or choose another kind.',
    });
  report('align', 0);
  const alignment = align(scan, master, (s) => report('align', s), byHand);
  refuseWrongTooth(alignment.scan, master);
  report('segment', 0);
  const context = kind === 'crown' ? crownContext(takeCrownApart(alignment, master)) : cavityContext(takeCavityApart(alignment, master));
  report('measure', 0);
  const readings = context.kind === 'crown' ? run(CROWN_MEASURES, context, report) : run(CAVITY_MEASURES, context.anatomy, report);
  readings.push(
    ...gaugePass(readings),
    ...neighbourDamage(alignment, master, 'mesial'),
    ...neighbourDamage(alignment, master, 'distal'),
    ...gingivaContact(alignment, master),
  );
  const inFile = (r: Reading): Reading =>
    r.value !== null && r.at?.point ? { ...r, at: { ...r.at, point: applyPoint(master.fromTooth, r.at.point) } } : r;
  const shared = { alignment, scanToMaster: multiply(master.fromTooth, alignment.matrix), readings: readings.map(inFile) };
  return context.kind === 'crown'
    ? { ...shared, curves: crownCurves(context), context }
    : { ...shared, curves: cavityCurves(context.anatomy), context };
}

function run<T>(measures: readonly ((of: T) => Reading[])[], of: T, report: Report): Reading[] {
  return measures.flatMap((m, i) => {
    const r = m(of);
    report('measure', (i + 1) / (measures.length + 1));
    return r;
  });
}
