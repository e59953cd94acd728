import { type Alignment, align } from './align/align.ts';
import { curvesOf } from './curves.ts';
import { applyPoint, type Matrix, multiply } from './linalg/rigid.ts';
import type { Master } from './master/master.ts';
import { axiopulpal } from './measure/cavity/axiopulpal.ts';
import { boxAxialForm } from './measure/cavity/box-axial-form.ts';
import { boxClearance } from './measure/cavity/box-clearance.ts';
import { boxSize } from './measure/cavity/box-size.ts';
import { cavosurface } from './measure/cavity/cavosurface.ts';
import { depthPulpal } from './measure/cavity/depth-pulpal.ts';
import { divergence } from './measure/cavity/divergence.ts';
import { enamelUndermined } from './measure/cavity/enamel-undermined.ts';
import { floorForm } from './measure/cavity/floor-form.ts';
import { instrumentFit } from './measure/cavity/instrument-fit.ts';
import { outlineCoverage } from './measure/cavity/outline-coverage.ts';
import { outlineCusp } from './measure/cavity/outline-cusp.ts';
import { outlineIsthmus } from './measure/cavity/outline-isthmus.ts';
import { outlineRidge } from './measure/cavity/outline-ridge.ts';
import { outlineSmooth } from './measure/cavity/outline-smooth.ts';
import { retention } from './measure/cavity/retention.ts';
import { reverseCurve } from './measure/cavity/reverse-curve.ts';
import { wallAngle, wallNormals } from './measure/cavity/wall-angle.ts';
import { bevels } from './measure/crown/bevel.ts';
import { clearance, gaugePass } from './measure/crown/clearance.ts';
import { contactBroken } from './measure/crown/contact-broken.ts';
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
import { type PartialContext, partialContext } from './measure/partial/context.ts';
import { facialExtension } from './measure/partial/facial-extension.ts';
import { groove } from './measure/partial/groove.ts';
import { marginBevel } from './measure/partial/margin-bevel.ts';
import { parallel } from './measure/partial/parallel.ts';
import { pin } from './measure/partial/pin.ts';
import { sliceAngle } from './measure/partial/slice-angle.ts';
import { cariesLeft } from './measure/surroundings/caries-left.ts';
import { gingivaContact, neighbourDamage } from './measure/surroundings/neighbour.ts';
import { pulpDistance } from './measure/surroundings/pulp-distance.ts';
import type { Mesh } from './mesh/mesh.ts';
import { Fault } from './result/fault.ts';
import type { Reading } from './result/reading.ts';
import { type CavityAnatomy, takeCavityApart } from './segment/cavity.ts';
import { takeCrownApart } from './segment/crown.ts';
import { takeOnlayApart } from './segment/onlay.ts';
import type { OutlinePoint } from './segment/outline.ts';
import type { TargetRegion } from './segment/target.ts';
import { refuseWrongTooth } from './segment/wrong-tooth.ts';

/** The stages in order; contracts, records, pages and worker messages use these words. */
export const STAGES = ['scan', 'align', 'segment', 'measure', 'score', 'sign', 'progress'] as const;
export type Stage = (typeof STAGES)[number];

/** Kinds that the core measures; the others wait for their measures. */
const MEASURABLE = ['crown', 'cavity', 'onlay', 'partial'] as const;
export const isMeasurable = (k: string): k is (typeof MEASURABLE)[number] => (MEASURABLE as readonly string[]).includes(k);

export const KINDS = ['crown', 'cavity', 'onlay', 'partial', 'preformed', 'restoration'] as const;
export type Kind = (typeof KINDS)[number];

interface MeasuredBase {
  readonly master: Master;
  /** The scan round the target tooth. */
  readonly region: TargetRegion;
  readonly alignment: Alignment;
  /** Scanner frame → master file frame. */
  readonly scanToMaster: Matrix;
  /** Places are points of the master file's frame. */
  readonly readings: readonly Reading[];
  readonly curves: Readonly<Record<string, readonly (readonly number[])[]>>;
}

/** What readings and pictures are made from: the covered side, the inside, or both. */
export type Context =
  | { readonly kind: 'crown'; readonly crown: CrownContext; readonly cavity: null }
  | { readonly kind: 'partial'; readonly crown: CrownContext; readonly cavity: null; readonly partial: PartialContext }
  | { readonly kind: 'cavity'; readonly crown: null; readonly cavity: CavityAnatomy }
  | { readonly kind: 'onlay'; readonly crown: CrownContext; readonly cavity: CavityAnatomy; readonly edge: readonly OutlinePoint[] };

export interface Measured extends MeasuredBase {
  readonly context: Context;
}

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
  contactBroken,
];

/** Of a crown's readings those that hold for a side that is covered, whatever the rest looks like. */
const COVERED_MEASURES: readonly ((c: CrownContext) => Reading[])[] = [
  reductionOcclusal,
  reductionAxial,
  reductionSites,
  clearance,
  taperWall,
  drawTilt,
  wallHeight,
  marginWidth,
  marginForm,
  marginExit,
  marginLip,
  marginGingiva,
  marginWander,
  marginBevel,
  formOcclusal,
  edgeSharp,
  surfaceRough,
  contactBroken,
];

/** What a partial crown has beyond its covered side. */
const PARTIAL_MEASURES: readonly ((c: PartialContext) => Reading[])[] = [groove, pin, parallel, facialExtension];

/** Of a cavity's readings those that speak of its outline alone: an onlay, half finish line, has no such outline. */
const OUTLINE_MEASURES: readonly ((a: CavityAnatomy) => Reading[])[] = [
  outlineIsthmus,
  outlineCoverage,
  outlineRidge,
  outlineCusp,
  outlineSmooth,
  reverseCurve,
  instrumentFit,
];

/** Those of floors, walls and boxes, which hold for an onlay's inside too. */
const INSIDE_MEASURES: readonly ((a: CavityAnatomy) => Reading[])[] = [
  depthPulpal,
  floorForm,
  wallAngle,
  divergence,
  cavosurface,
  boxSize,
  boxClearance,
  boxAxialForm,
  axiopulpal,
  retention,
  enamelUndermined,
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
  const context = contextOf(kind, alignment, master);
  report('measure', 0);
  const { region } = context.crown?.anatomy ?? (context.cavity as CavityAnatomy);
  const readings = readingsOf(context, report);
  readings.push(
    ...pulpDistance(region, alignment, master),
    ...cariesLeft(region, alignment, master),
    ...gaugePass(readings),
    ...neighbourDamage(alignment, master, 'mesial'),
    ...neighbourDamage(alignment, master, 'distal'),
    ...gingivaContact(alignment, master),
  );
  const inFile = (r: Reading): Reading =>
    r.value !== null && r.at?.point ? { ...r, at: { ...r.at, point: applyPoint(master.fromTooth, r.at.point) } } : r;
  const shared = { master, region, alignment, scanToMaster: multiply(master.fromTooth, alignment.matrix), readings: readings.map(inFile) };
  return { ...shared, curves: curvesOf(context), context };
}

function contextOf(kind: (typeof MEASURABLE)[number], alignment: Alignment, master: Master): Context {
  switch (kind) {
    case 'crown':
      return { kind, crown: crownContext(takeCrownApart(alignment, master)), cavity: null };
    case 'cavity':
      return { kind, crown: null, cavity: takeCavityApart(alignment, master) };
    case 'partial': {
      const partial = partialContext(takeCrownApart(alignment, master, { inBox: () => false }));
      return { kind, crown: partial.crown, cavity: null, partial };
    }
    case 'onlay': {
      const { crown, cavity, edge } = takeOnlayApart(alignment, master);
      return { kind, crown: crownContext(crown, wallNormals(cavity)), cavity, edge };
    }
  }
}

function readingsOf(context: Context, report: Report): Reading[] {
  const half =
    (from: number): Report =>
    (stage, share) =>
      report(stage, from + share / 2);
  switch (context.kind) {
    case 'crown':
      return run(CROWN_MEASURES, context.crown, report);
    case 'cavity':
      return run([...OUTLINE_MEASURES, ...INSIDE_MEASURES], context.cavity, report);
    case 'partial':
      return [
        ...run([...COVERED_MEASURES, toc, undercut, reductionIncisal, sliceAngle], context.crown, half(0)),
        ...run(PARTIAL_MEASURES, context.partial, half(0.5)),
      ];
    case 'onlay':
      return [...run(COVERED_MEASURES, context.crown, half(0)), ...run(INSIDE_MEASURES, context.cavity, half(0.5))];
  }
}

function run<T>(measures: readonly ((of: T) => Reading[])[], of: T, report: Report): Reading[] {
  return measures.flatMap((m, i) => {
    const r = m(of);
    report('measure', (i + 1) / (measures.length + 1));
    return r;
  });
}
