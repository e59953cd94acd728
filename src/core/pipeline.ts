import { type Alignment, align } from './align/align.ts';
import { applyDirection, applyPoint, type Matrix, multiply } from './linalg/rigid.ts';
import { unit, type Vec3 } from './linalg/vec.ts';
import type { Master } from './master/master.ts';
import { bevels } from './measure/crown/bevel.ts';
import { clearance, gaugePass } from './measure/crown/clearance.ts';
import { type CrownContext, crownContext } from './measure/crown/context.ts';
import { drawTilt } from './measure/crown/draw.ts';
import { edgeSharp } from './measure/crown/edge-sharp.ts';
import { formLingual } from './measure/crown/form-lingual.ts';
import { formOcclusal } from './measure/crown/form-occlusal.ts';
import { marginExit, marginExits } from './measure/crown/margin-exit.ts';
import { marginForm } from './measure/crown/margin-form.ts';
import { marginGingiva, marginHeights } from './measure/crown/margin-gingiva.ts';
import { marginLip, marginLips } from './measure/crown/margin-lip.ts';
import { marginWander } from './measure/crown/margin-wander.ts';
import { marginWidth, marginWidths } from './measure/crown/margin-width.ts';
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
import { wallHeight, wallHeights } from './measure/crown/wall-height.ts';
import { gingivaContact, neighbourDamage } from './measure/surroundings/neighbour.ts';
import type { Mesh } from './mesh/mesh.ts';
import type { Reading } from './result/reading.ts';
import { radialPoint, takeCrownApart } from './segment/crown.ts';

/** The stages in order; contracts, records, pages and worker messages use these words. */
export const STAGES = ['scan', 'align', 'segment', 'measure', 'score', 'sign', 'progress'] as const;
export type Stage = (typeof STAGES)[number];

export const KINDS = ['crown', 'cavity', 'onlay', 'partial', 'preformed', 'restoration'] as const;
export type Kind = (typeof KINDS)[number];

export interface Measured {
  readonly alignment: Alignment;
  /** Scanner frame → master file frame. */
  readonly scanToMaster: Matrix;
  /** Places are points of the master file's frame. */
  readonly readings: readonly Reading[];
  readonly curves: Readonly<Record<string, readonly (readonly number[])[]>>;
  readonly context: CrownContext;
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
];

/** Scan and master to readings: align, take apart, measure. Throws a Fault when the scan cannot be used. */
export function measureCrown(scan: Mesh<'scanner'>, master: Master, report: Report = () => {}): Measured {
  report('align', 0);
  const alignment = align(scan, master, (s) => report('align', s));
  report('segment', 0);
  const anatomy = takeCrownApart(alignment, master);
  report('measure', 0);
  const c = crownContext(anatomy);
  const readings = CROWN_MEASURES.flatMap((m, i) => {
    const r = m(c);
    report('measure', (i + 1) / (CROWN_MEASURES.length + 1));
    return r;
  });
  readings.push(
    ...gaugePass(readings),
    ...neighbourDamage(alignment, master, 'mesial'),
    ...neighbourDamage(alignment, master, 'distal'),
    ...gingivaContact(alignment, master),
  );
  const inFile = (r: Reading): Reading =>
    r.value !== null && r.at?.point ? { ...r, at: { ...r.at, point: applyPoint(master.fromTooth, r.at.point) } } : r;
  return {
    alignment,
    scanToMaster: multiply(master.fromTooth, alignment.matrix),
    readings: readings.map(inFile),
    curves: curvesOf(c),
    context: c,
  };
}

function curvesOf(c: CrownContext): Record<string, number[][]> {
  const by = (values: readonly (number | null)[]): number[][] => values.flatMap((v, k) => (v === null ? [] : [[c.azimuths[k], v]]));
  const finish = c.azimuths.flatMap((a, k) => {
    const r = c.finishR[k];
    const z = c.finishZ[k];
    if (r === null || z === null) return [];
    const p: Vec3 = applyPoint(c.anatomy.master.fromTooth, radialPoint(a, r, z));
    return [[...p]];
  });
  return {
    finishLine: finish,
    'margin.width': by(marginWidths(c)),
    'margin.gingiva': by(marginHeights(c)),
    'margin.exit': by(marginExits(c)),
    'margin.lip': by(marginLips(c)),
    'wall.height': by(wallHeights(c)),
    'taper.wall': by(c.taper),
    'wall.lean': by(c.lean),
    ...(c.draw ? { 'draw.direction': [[...unit(applyDirection(c.anatomy.master.fromTooth, c.draw.direction))]] } : {}),
  };
}
