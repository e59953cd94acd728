import { type Alignment, align, lyingIn } from './align/align.ts';
import type { Preparation } from './kinds/kind.ts';
import { KINDS, type KindName, MEASURED_KINDS } from './kinds/kinds.ts';
import { applyPoint, IDENTITY, type Matrix, multiply, transformPoints } from './linalg/rigid.ts';
import type { Master } from './master/master.ts';
import { cariesLeft } from './measure/surroundings/caries-left.ts';
import { gingivaContact, neighbourDamage } from './measure/surroundings/neighbour.ts';
import { pulpDistance } from './measure/surroundings/pulp-distance.ts';
import { bounds, type Mesh, makeMesh } from './mesh/mesh.ts';
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
  /** By how much too large the scan was taken to be before it was aligned; 1 where nothing was corrected. */
  readonly corrected: number;
}

export type Report = (stage: Stage, share: number) => void;

/** Scales a scan that is too large by a factor back to true size, about its own middle so that a pose set by hand stays valid. */
function resized(scan: Mesh<'scanner'>, factor: number): { scan: Mesh<'scanner'>; resize: Matrix } {
  if (factor === 1) return { scan, resize: IDENTITY };
  const b = bounds(scan.positions);
  const k = 1 / factor;
  const shift = [0, 1, 2].map((c) => ((1 - k) * (b.min[c] + b.max[c])) / 2);
  const resize: Matrix = [k, 0, 0, shift[0], 0, k, 0, shift[1], 0, 0, k, shift[2], 0, 0, 0, 1];
  return { scan: makeMesh('scanner', transformPoints(resize, scan.positions), scan.triangles), resize };
}

/**
 * Scan and master to readings: align, take apart, measure. Throws a Fault when the scan cannot be used. `tooLargeBy` is the factor by
 * which a person said that the scan is too large.
 */
export function measure(
  kind: KindName,
  scan: Mesh<'scanner'>,
  master: Master,
  report: Report = () => {},
  byHand: Matrix | null = null,
  tooLargeBy = 1,
): Measured {
  const takeApart = partsOf(kind);
  report('align', 0);
  const { scan: sized, resize } = resized(scan, tooLargeBy);
  const alignment = align(sized, master, (s) => report('align', s), byHand);
  refuseWrongTooth(alignment.scan, master);
  const m = read(takeApart, alignment, master, report);
  return { ...m, scanToMaster: multiply(m.scanToMaster, resize), corrected: tooLargeBy };
}

/** Readings of a shape that was cut into its own master, where it lies. */
export const measureInPlace = (kind: KindName, shape: Mesh<'tooth'>, master: Master): Measured =>
  read(partsOf(kind), lyingIn(master, shape), master, () => {});

type TakeApart = NonNullable<(typeof KINDS)[KindName]['measure']>;

function partsOf(kind: KindName): TakeApart {
  const { measure: takeApart } = KINDS[kind];
  if (takeApart) return takeApart;
  throw new Fault('kind.unsupported', {
    expected: `${MEASURED_KINDS.join(', ')} can be measured so far`,
    received: `“${kind}” cannot`,
    remedy: 'Grade this attempt by hand readings, or choose another kind.',
  });
}

/** Takes an aligned scan apart and reads it. */
function read(takeApart: TakeApart, alignment: Alignment, master: Master, report: Report): Measured {
  report('segment', 0);
  const preparation = takeApart(alignment, master, (s) => report('measure', s));
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
    corrected: 1,
  };
}
