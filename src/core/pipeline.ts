import { type Alignment, align, lyingIn } from './align/align.ts';
import type { Preparation } from './kinds/kind.ts';
import { KINDS, type KindName, MEASURED_KINDS } from './kinds/kinds.ts';
import { applyDirection, applyPoint, IDENTITY, invertRigid, type Matrix, multiply, transformPoints } from './linalg/rigid.ts';
import type { Master } from './master/master.ts';
import { abutmentsParallel, type InsertionPath } from './measure/arch/abutments-parallel.ts';
import { cariesLeft } from './measure/surroundings/caries-left.ts';
import { gingivaContact, neighbourDamage } from './measure/surroundings/neighbour.ts';
import { pulpDistance } from './measure/surroundings/pulp-distance.ts';
import { bounds, type Mesh, makeMesh } from './mesh/mesh.ts';
import { Fault } from './result/fault.ts';
import { type Reading, refusal } from './result/reading.ts';
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

/** Another preparation of the same scan that shares its path of insertion with the one that is read. */
export interface Abutment {
  readonly kind: KindName;
  readonly master: Master;
}

export interface MeasureOptions {
  readonly report?: Report;
  /** A pose set by three points, scanner frame → master file frame. */
  readonly byHand?: Matrix | null;
  /** The factor by which a person said that the scan is too large. */
  readonly tooLargeBy?: number;
  readonly abutment?: Abutment | null;
}

/** Scan and master to readings: align, take apart, measure. Throws a Fault when the scan cannot be used. */
export function measure(
  kind: KindName,
  scan: Mesh<'scanner'>,
  master: Master,
  { report = () => {}, byHand = null, tooLargeBy = 1, abutment = null }: MeasureOptions = {},
): Measured {
  const takeApart = partsOf(kind);
  report('align', 0);
  const { scan: sized, resize } = resized(scan, tooLargeBy);
  const alignment = align(sized, master, (s) => report('align', s), byHand);
  refuseWrongTooth(alignment.scan, master);
  const m = withAbutment(read(takeApart, alignment, master, report), sized, abutment);
  return { ...m, scanToMaster: multiply(m.scanToMaster, resize), corrected: tooLargeBy };
}

/** The path along which a preparation is drawn, in the scanner's frame; null where none was found. */
function pathOf({ curves, readings, scanToMaster }: Measured): InsertionPath | null {
  const direction = curves['draw.direction']?.[0];
  const tilt = readings.find((r) => r.name === 'draw.tilt');
  if (!direction || tilt?.value == null) return null;
  const [x, y, z] = direction;
  return { direction: applyDirection(invertRigid(scanToMaster), [x, y, z]), U: tilt.U };
}

/** mm beyond a neighbour's bounds within which the other abutment's middle counts as that neighbour's. */
const IS_NEIGHBOUR = 0.5;

/** Reads two abutments against each other. A neighbour that is the other abutment was prepared on purpose: it has no damage. */
function withAbutment(m: Measured, scan: Mesh<'scanner'>, abutment: Abutment | null): Measured {
  const hasPath = m.readings.some((r) => r.name === 'draw.tilt');
  if (!abutment) return hasPath ? { ...m, readings: [...m.readings, ...abutmentsParallel(null, 'none')] } : m;
  const other = otherAbutment(scan, abutment);
  const inTooth = (p: InsertionPath | null): InsertionPath | null =>
    p && { ...p, direction: applyDirection(m.alignment.matrix, p.direction) };
  const middle = other && applyPoint(multiply(m.alignment.matrix, invertRigid(other.alignment.matrix)), [0, 0, 0]);
  const isOther = (side: 'mesial' | 'distal'): boolean => {
    const b = m.master[side] && bounds(m.master[side].mesh.positions);
    return !!b && !!middle && [0, 1].every((k) => middle[k] > b.min[k] - IS_NEIGHBOUR && middle[k] < b.max[k] + IS_NEIGHBOUR);
  };
  const prepared = (['mesial', 'distal'] as const).filter(isOther).map((side) => `neighbour.${side}`);
  const readings = m.readings.flatMap((r) =>
    prepared.some((p) => r.name === p || r.name.startsWith(`${p}.`)) ? refusal(r.name, r.zone, [r.stat], 'is-abutment') : [r],
  );
  return { ...m, readings: [...readings, ...abutmentsParallel(inTooth(pathOf(m)), inTooth(other && pathOf(other)))] };
}

/** The other abutment read from the same scan; null where the scan does not show it well enough. */
function otherAbutment(scan: Mesh<'scanner'>, { kind, master }: Abutment): Measured | null {
  try {
    const alignment = align(scan, master);
    refuseWrongTooth(alignment.scan, master);
    return read(partsOf(kind), alignment, master, () => {});
  } catch (e) {
    if (e instanceof Fault) return null;
    throw e;
  }
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
