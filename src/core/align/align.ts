import { applyPoint, determinant3, IDENTITY, invertRigid, type Matrix, multiply } from '../linalg/rigid.ts';
import { toDegrees, type Vec3 } from '../linalg/vec.ts';
import { type Master, PART } from '../master/master.ts';
import { intoFrame, type Mesh } from '../mesh/mesh.ts';
import { Fault } from '../result/fault.ts';
import { closestPoint, newClosest, onBorder } from '../spatial/surface.ts';
import { THRESHOLDS } from '../thresholds.ts';
import { type CoarseFit, coarseAlign, refineFrom, type SearchOptions } from './coarse.ts';
import { type FineFit, fineAlign } from './fine.ts';
import { type Sample, sampleSurface } from './sample.ts';
import { type ScanSize, sizeError, sizeOf } from './size.ts';

export interface Alignment extends FineFit {
  /** Scanner frame → tooth frame. A reflection when the tooth frame is left-handed (left-handed quadrants). */
  readonly matrix: Matrix;
  /** The scan in the tooth frame. */
  readonly scan: Mesh<'tooth'>;
  /** Size of the scan against its master before any correction; null with too little uncut surface. */
  readonly size: ScanSize | null;
}

const MIRROR: Matrix = [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/**
 * Rigid alignment of a scan in any pose with the master: coarse search over poses, then robust point-to-plane ICP on
 * what was not cut. Refuses with the reason when the pose cannot be trusted.
 * @fails align.no-overlap, align.mirrored, align.too-little, align.one-sided, align.residual
 */
export function align(
  scan: Mesh<'scanner'>,
  master: Master,
  report: (share: number) => void = () => {},
  byHand: Matrix | null = null,
): Alignment {
  // A left-handed tooth frame mirrors the master; the scan is mirrored with it so that the search stays among rotations.
  const handed = determinant3(master.toTooth) < 0 ? MIRROR : null;
  const start = handed ? intoFrame(scan, handed, 'scanner') : scan;
  const samples = sampleSurface(start, 6000);
  const fit = byHand
    ? fromHand(samples, master, handed ? multiply(multiply(master.toTooth, byHand), handed) : multiply(master.toTooth, byHand))
    : search(start, samples, master, report);
  report(1);
  const matrix = handed ? multiply(fit.pose, handed) : fit.pose;
  const size = sizeOf(samples, master, fit.pose, fit.noise);
  const pointError = Math.hypot(fit.pointError, sizeError(size));
  return { ...fit, pointError, matrix, scan: intoFrame(scan, matrix, 'tooth'), size };
}

/** mm: what is left of a shape whose place is known, where its body was drawn with fewer triangles than its master. */
const DRAWN_MM = 0.0005;

/** A shape that was cut into its own master and so lies where it lies: nothing is searched. */
export const lyingIn = (master: Master, shape: Mesh<'tooth'>): Alignment => ({
  pose: determinant3(master.toTooth) < 0 ? multiply(master.toTooth, MIRROR) : master.toTooth,
  matrix: master.toTooth,
  scan: shape,
  size: null,
  rms: DRAWN_MM,
  stableArea: 0,
  spread: 1,
  pointError: DRAWN_MM,
  turnError: DRAWN_MM / 10,
  noise: DRAWN_MM,
});

function search(start: Mesh<'scanner'>, samples: Sample, master: Master, report: (share: number) => void): FineFit {
  const searches = [
    [{ quick: true }, QUICKLY_CONVINCING],
    [{}, COARSE_CONVINCING],
    [{ everyDirection: true }, 0],
  ] as const;
  const best = firstConvincing(searches, samples, master);
  report(0.5);
  const fit = fineAlign(samples, master, best.matrix);
  judge(fit, best.share, start, samples, master);
  return fit;
}

/** mm: how well a hand sets a point on a picture. */
const HAND_MM = 0.25;

/**
 * A pose set by three points: refined where uncut surface allows, kept as it is where there is none. What holds it, and so
 * how sure it is, goes into every reading's U; a person has looked, so nothing is refused for being little or one-sided.
 */
function fromHand(samples: Sample, master: Master, pose: Matrix): FineFit {
  const fit = fineAlign(samples, master, refineFrom(samples, master.whole, pose).matrix);
  if (fit.rms <= THRESHOLDS.alignRmsMax_mm && fit.stableArea > 0 && movedLittle(fit.pose, pose)) return fit;
  // The residual is taken as a third of the hand's error, so that cut surface can still be separated from uncut.
  return { pose, rms: HAND_MM / 3, stableArea: 0, spread: 0, pointError: HAND_MM, turnError: HAND_MM / 5, noise: 0.03 };
}

/** A fit that moves farther than the hand's error has matched another surface. */
function movedLittle(a: Matrix, b: Matrix): boolean {
  const back = invertRigid(b);
  const places: readonly Vec3[] = [
    [0, 0, 0],
    [6, 0, 3],
    [0, 6, 3],
  ];
  return places.every((p) => {
    const q = applyPoint(a, applyPoint(back, p));
    return Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2]) < 3 * HAND_MM;
  });
}

/** Fitted share of the scan at which a search is accepted and no wider one is tried. */
const COARSE_CONVINCING = 0.45;
/** The same of a quick search: a scan of one preparation between its neighbours fits by 0.74 and more, one of two preparations by 0.45, and as well one tooth on. */
const QUICKLY_CONVINCING = 0.6;
/** Least advantage in fitted share before the mirror image is accepted. */
const MIRROR_GAIN = 0.05;
/** mm: as near as an uncut surface lies on its own master (3 σ of a usual scanner); neighbours that are merely alike lie farther off. */
const CLOSE = 0.06;
/** Share of the surface beside the target that lies so near on a scan that is not mirrored; measured 0.99 and more. */
const CLOSE_CONVINCING = 0.97;
/** Share of what was scanned beside the target that must lie on the master: nothing was cut there. */
const AROUND_CONVINCING = 0.9;
/** mm from the target's axis beyond which a scan point is beside it. */
const BESIDE = 7;

/**
 * Share of scan points on the master, beside the target and by its neighbours alone: the smaller of the two. A pose in which hardly
 * anything lies near the neighbours has `unseen` of them: no objection to a pose that is held otherwise, but no evidence for a mirrored one.
 */
function shareAround(samples: Sample, master: Master, pose: Matrix, within: number = THRESHOLDS.alignInlier_mm, unseen = 1): number {
  const hit = newClosest();
  const beside = { all: 0, on: 0 };
  const neighbours = { all: 0, on: 0 };
  for (let i = 0; i < Math.min(samples.count, 2500); i++) {
    const p = applyPoint(pose, [samples.points[3 * i], samples.points[3 * i + 1], samples.points[3 * i + 2]]);
    if (Math.hypot(p[0], p[1]) < BESIDE) continue;
    // Within 3 mm of the master, or it was not part of it: a scan may reach farther than its master.
    if (!closestPoint(master.whole, p[0], p[1], p[2], hit, 3) || onBorder(master.whole, hit)) continue;
    const part = master.wholeParts[master.whole.mesh.triangles[3 * hit.triangle]];
    for (const group of part === PART.mesial || part === PART.distal ? [beside, neighbours] : [beside]) {
      group.all++;
      if (hit.distanceSquared < within ** 2) group.on++;
    }
  }
  const share = (g: { all: number; on: number }): number => (g.all > 50 ? g.on / g.all : unseen);
  return master.mesial || master.distal ? Math.min(share(beside), share(neighbours)) : share(beside);
}

/**
 * How much of the mirror image's surface beside the target lies close to the master. A mirrored scan of neighbours that are alike was
 * laid on with mesial and distal exchanged (or facial and lingual): from there its own pose is one reflection away.
 */
function closeWhenMirrored(scan: Mesh<'scanner'>, count: number, master: Master, pose: Matrix): number {
  const samples = sampleSurface(intoFrame(scan, MIRROR, 'scanner'), count);
  const starts = [
    [-1, 1],
    [1, -1],
  ].map(([x, y]): Matrix => multiply(multiply([x, 0, 0, 0, 0, y, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1], pose), MIRROR));
  const best = starts.map((s) => refineFrom(samples, master.whole, s)).reduce((a, b) => (b.share > a.share ? b : a));
  const fit = fineAlign(samples, master, best.matrix);
  return shareAround(samples, master, fit.pose, CLOSE, 0);
}

/** Below this share nothing that was scanned looks like this master. */
const COARSE_LEAST = 0.2;

/** The result of the first of these searches that convinces, each from a share of its own on; where none does, the one that fits the largest share. */
function firstConvincing(searches: readonly (readonly [SearchOptions, number])[], samples: Sample, master: Master): CoarseFit {
  let best: CoarseFit = { matrix: IDENTITY, share: -1 };
  for (const [options, convincing] of searches) {
    const fit = coarseAlign(samples, master.whole, options);
    if (fit.share > best.share) best = fit;
    if (best.share >= convincing) break;
  }
  return best;
}

function judge(fit: FineFit, share: number, scan: Mesh<'scanner'>, samples: Sample, master: Master): void {
  const trusted =
    fit.stableArea >= THRESHOLDS.alignStableAreaMin_mm2 &&
    fit.pointError <= THRESHOLDS.alignPointErrorMax_mm &&
    fit.turnError <= THRESHOLDS.alignTurnErrorMax_rad &&
    fit.rms <= THRESHOLDS.alignRmsMax_mm;
  const mirrored = (theirs: number, own: number): Fault =>
    new Fault('align.mirrored', {
      expected: 'a scan shows the tooth as it is',
      received: `only its mirror image fits the master (${Math.round(theirs * 100)} % of the surface against ${Math.round(own * 100)} %)`,
      remedy: 'Switch off mirroring in the scanner’s export, or choose the master of the other side.',
    });
  if (share < COARSE_CONVINCING || !trusted || shareAround(samples, master, fit.pose) < AROUND_CONVINCING) {
    const other = coarseAlign(sampleSurface(intoFrame(scan, MIRROR, 'scanner'), samples.count), master.whole, { everyDirection: true });
    if (other.share > Math.max(COARSE_CONVINCING, share + MIRROR_GAIN)) throw mirrored(other.share, share);
  }
  const close = shareAround(samples, master, fit.pose, CLOSE);
  if (close < CLOSE_CONVINCING) {
    const turnedOver = closeWhenMirrored(scan, samples.count, master, fit.pose);
    if (turnedOver > close + MIRROR_GAIN) throw mirrored(turnedOver, close);
  }
  const fitted = `${Math.round(share * 100)} % of its surface lies on “${master.description.name}”`;
  if (share < COARSE_LEAST)
    throw new Fault('align.no-overlap', {
      expected: 'most of what surrounds the preparation is the same on both',
      received: fitted,
      remedy: 'Check that the scan belongs to this exercise’s master, or align it by three points by hand.',
    });
  if (fit.stableArea < THRESHOLDS.alignStableAreaMin_mm2)
    throw new Fault('align.too-little', {
      expected: `at least ${THRESHOLDS.alignStableAreaMin_mm2} mm² of uncut surface are needed`,
      received: `${fit.stableArea.toFixed(0)} mm² agree with the master`,
      remedy: 'Scan again with both neighbours and the gingiva, or align it by three points by hand.',
    });
  if (
    fit.pointError > THRESHOLDS.alignPointErrorMax_mm ||
    fit.turnError > THRESHOLDS.alignTurnErrorMax_rad ||
    fit.spread < THRESHOLDS.alignSpreadMin
  )
    throw new Fault('align.one-sided', {
      expected: 'uncut surface on several sides of the tooth holds the pose',
      received: `it covers ${Math.round(fit.spread * 100)} % of the way round the tooth, leaving the pose open by ${fit.pointError.toFixed(3)} mm and ${toDegrees(fit.turnError).toFixed(2)}°`,
      remedy: 'Scan again with both neighbours, or align it by three points by hand.',
    });
  if (fit.rms > THRESHOLDS.alignRmsMax_mm)
    throw new Fault('align.residual', {
      expected: `the uncut surface agrees within ${THRESHOLDS.alignRmsMax_mm} mm`,
      received: `it differs by ${fit.rms.toFixed(3)} mm (RMS)`,
      remedy: 'Check the master’s series and the scanner’s calibration, then scan again.',
    });
}

/** Transforms the scan's point `p` from the scanner frame to the tooth frame. */
export const place = (a: Alignment, p: Vec3): Vec3 => applyPoint(a.matrix, p);
