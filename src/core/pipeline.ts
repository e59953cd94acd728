import { type Alignment, align } from './align/align.ts';
import { applyPoint, type Matrix, multiply } from './linalg/rigid.ts';
import type { Vec3 } from './linalg/vec.ts';
import type { Master } from './master/master.ts';
import { type CrownContext, crownContext } from './measure/crown/context.ts';
import { drawTilt } from './measure/crown/draw.ts';
import { marginGingiva, marginHeights } from './measure/crown/margin-gingiva.ts';
import { marginWidth, marginWidths } from './measure/crown/margin-width.ts';
import { reductionAxial } from './measure/crown/reduction-axial.ts';
import { reductionOcclusal } from './measure/crown/reduction-occlusal.ts';
import { taperWall } from './measure/crown/taper-wall.ts';
import { toc } from './measure/crown/toc.ts';
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

/** Scan and master to readings: align, take apart, measure. Throws a Fault when the scan cannot be used. */
export function measureCrown(scan: Mesh<'scanner'>, master: Master, report: Report = () => {}): Measured {
  report('align', 0);
  const alignment = align(scan, master, (s) => report('align', s));
  report('segment', 0);
  const anatomy = takeCrownApart(alignment, master);
  report('measure', 0);
  const c = crownContext(anatomy);
  const measures = [reductionOcclusal, reductionAxial, taperWall, toc, marginWidth, marginGingiva, drawTilt];
  const readings = measures.flatMap((m, i) => {
    const r = m(c);
    report('measure', (i + 1) / (measures.length + 1));
    return r;
  });
  readings.push(
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
    'taper.wall': by(c.taper),
    'wall.lean': by(c.lean),
  };
}
