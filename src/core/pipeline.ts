import { type Alignment, align } from './align/align.ts';
import type { Preparation } from './kinds/kind.ts';
import { KINDS, type KindName, MEASURED_KINDS } from './kinds/kinds.ts';
import { applyPoint, type Matrix, multiply } from './linalg/rigid.ts';
import type { Master } from './master/master.ts';
import { cariesLeft } from './measure/surroundings/caries-left.ts';
import { gingivaContact, neighbourDamage } from './measure/surroundings/neighbour.ts';
import { pulpDistance } from './measure/surroundings/pulp-distance.ts';
import type { Mesh } from './mesh/mesh.ts';
import { Fault } from './result/fault.ts';
import type { Reading } from './result/reading.ts';
import { refuseWrongTooth } from './segment/wrong-tooth.ts';

/** The stages in order; contracts, records, pages and worker messages use these words. */
export const STAGES = ['scan', 'align', 'segment', 'measure', 'score', 'sign', 'progress'] as const;
export type Stage = (typeof STAGES)[number];

/** What a scan shows of a preparation. */
export interface Measured extends Preparation {
  readonly master: Master;
  readonly alignment: Alignment;
  /** Scanner frame → master file frame; the readings' places are points of the latter. */
  readonly scanToMaster: Matrix;
}

export type Report = (stage: Stage, share: number) => void;

/** Scan and master to readings: align, take apart, measure. Throws a Fault when the scan cannot be used. */
export function measure(
  kind: KindName,
  scan: Mesh<'scanner'>,
  master: Master,
  report: Report = () => {},
  byHand: Matrix | null = null,
): Measured {
  const own = KINDS[kind];
  if (!own.measure)
    throw new Fault('kind.unsupported', {
      expected: `${MEASURED_KINDS.join(', ')} can be measured so far`,
      received: `“${kind}” cannot`,
      remedy: 'Grade this attempt by hand readings, or choose another kind.',
    });
  report('align', 0);
  const alignment = align(scan, master, (s) => report('align', s), byHand);
  refuseWrongTooth(alignment.scan, master);
  report('segment', 0);
  const preparation = own.measure(alignment, master, (s) => report('measure', s));
  const { region } = preparation;
  const surroundings = [
    ...pulpDistance(region, alignment, master),
    ...cariesLeft(region, alignment, master),
    ...neighbourDamage(alignment, master, 'mesial'),
    ...neighbourDamage(alignment, master, 'distal'),
    ...gingivaContact(alignment, master),
  ];
  const inFile = (r: Reading): Reading =>
    r.value !== null && r.at?.point ? { ...r, at: { ...r.at, point: applyPoint(master.fromTooth, r.at.point) } } : r;
  return {
    ...preparation,
    readings: [...preparation.readings, ...surroundings].map(inFile),
    master,
    alignment,
    scanToMaster: multiply(master.fromTooth, alignment.matrix),
  };
}
