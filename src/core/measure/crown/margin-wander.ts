import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { type Around, present, smoothAround } from '../../segment/around.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import { leftOffMean, noiseOf, SHARED } from '../../statistics/noise-share.ts';
import { median, rms } from '../../statistics/quantile.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import { type CrownContext, coverageOf } from './context.ts';

/** mm of finish line over which the smooth course is taken, and on each side of a step over which its height is. */
const COURSE_MM = 2;
const BESIDE_MM = 0.6;
/** Places on each side over which the line itself is smoothed: handwork is never narrower. */
const FINE_HALF = 3;
/** What a scan's noise makes of a step's height where all points of either side share it: an edge's height has twice a point's noise. */
const IN_HEIGHT = 2.6;
/** Standard deviations of its noise that the largest of so many differences round a tooth stays under. */
const LARGEST = 5;

/**
 * Wander: how restless the finish line's height is about its own smooth course; step: its largest jump.
 * @formula RMS of z − z smoothed over 2 mm, less the scan's own noise; largest |mean z over the next 0.6 mm − mean z over the last 0.6 mm, less what the line rises in as much beyond both|, 0 where the scan's noise alone gives as much
 * @units mm
 * @frame tooth
 * @fails no-finish-line
 * @source own definition, docs/definitions.md
 * @example a finish line in one plane wanders 0 and has no step
 */
export function marginWander(c: CrownContext): Reading[] {
  const raw = despiked(c.anatomy.profiles.map((p) => p?.finish.z ?? null));
  const there = present(raw);
  const coverage = coverageOf(c, (k) => raw[k] !== null);
  if (coverage < THRESHOLDS.coverageLeast)
    return [
      ...refusal('margin.wander', null, ['value'], 'no-finish-line', coverage),
      ...refusal('margin.step', null, ['max'], 'no-finish-line', coverage),
    ];
  const radius = present(c.finishR).reduce((s, r) => s + r, 0) / there.length;
  const spacing = (2 * Math.PI * radius) / raw.length;
  const half = Math.max(3, Math.round(COURSE_MM / 2 / spacing));
  const course = moving(raw, half);
  const fine = smoothAround(raw, FINE_HALF);
  const residual = fine.map((z, k) => (z === null || course[k] === null ? null : z - (course[k] as number)));
  const own = SHARED * noiseOf(raw, fine, FINE_HALF);
  const noise = own * leftOffMean(FINE_HALF, half);
  const wander = Math.sqrt(Math.max(0, rms(present(residual)) ** 2 - noise ** 2));
  const beside = Math.max(2, Math.round(BESIDE_MM / spacing));
  // Off its course, so that a line that bends steadily has none.
  const off = raw.map((z, k) => (z === null || course[k] === null ? null : z - (course[k] as number)));
  const steps = off.map((_, k) => stepAt(off, k, beside));
  const at = steps.reduce((best: number, v, k) => (Math.abs(v ?? 0) > Math.abs(steps[best] ?? 0) ? k : best), 0);
  const scatter = Math.max(own * Math.sqrt(3 / beside), IN_HEIGHT * c.anatomy.alignment.noise);
  const largest = Math.abs(steps[at] ?? 0);
  const step = largest > LARGEST * scatter ? largest : 0;
  const r = c.finishR[at];
  const z = c.finishZ[at];
  const place = { azimuth: c.azimuths[at], ...(r !== null && z !== null ? { point: radialPoint(c.azimuths[at], r, z) } : {}) };
  const common = { coverage, samples: there.length };
  return [
    reading({ name: 'margin.wander', value: wander, U: expanded(noise / 2, methodUncertainty('margin.wander', 'value')), ...common }),
    reading({
      name: 'margin.step',
      stat: 'max',
      value: step,
      // Where none stands out of the noise, one as large as the noise's largest may be there.
      U: Math.max(expanded(scatter, methodUncertainty('margin.step', 'max')), step ? 0 : LARGEST * scatter),
      ...(step ? { at: place } : {}),
      ...common,
    }),
  ];
}

/** Circular moving mean over ± half, gaps left out. */
function moving(values: Around, half: number): (number | null)[] {
  const n = values.length;
  return values.map((own, k) => {
    if (own === null) return null;
    let s = 0;
    let m = 0;
    for (let j = 0; j <= half; j++) {
      const a = values[(k + j) % n];
      const b = values[(k - j + n) % n];
      if (a === null || b === null) continue;
      s += a + b;
      m += 2;
    }
    return m ? s / m : own;
  });
}

/** Each place the middle one of itself and those beside it: a half plane that was misread stands alone. */
function despiked(values: Around): (number | null)[] {
  const n = values.length;
  return values.map((own, k) => (own === null ? null : median(present([values[(k + n - 1) % n], own, values[(k + 1) % n]]))));
}

/** The jump between two places of the line: what lies on both sides of it, less the line's own rise, told by what lies as far again beyond. */
function stepAt(z: Around, k: number, beside: number): number | null {
  const n = z.length;
  const meanOf = (from: number): number | null => {
    const own = present(Array.from({ length: beside }, (_, j) => z[(k + from + j + n) % n]));
    return own.length ? own.reduce((s, v) => s + v, 0) / own.length : null;
  };
  const [far, before, after, on] = [meanOf(-2 * beside), meanOf(-beside), meanOf(0), meanOf(beside)];
  return far === null || before === null || after === null || on === null ? null : after - before - (on - after + before - far) / 2;
}
