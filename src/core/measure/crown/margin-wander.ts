import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { type Around, present, smoothAround } from '../../segment/around.ts';
import { radialPoint } from '../../segment/crown/crown.ts';
import { rms } from '../../statistics/quantile.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import { type CrownContext, coverageOf } from './context.ts';

/** mm of finish line over which the smooth course is taken, and within which a jump counts as a step. */
const COURSE_MM = 2;
const STEP_MM = 0.5;

/**
 * Wander: how restless the finish line's height is about its own smooth course; step: its largest jump within half a millimetre.
 * @formula RMS of z − z smoothed over 2 mm, less the scan's own noise; largest |Δz − Δz of the course| within 0.5 mm
 * @units mm
 * @frame tooth
 * @fails no-finish-line
 * @source own definition, docs/definitions.md
 * @example a finish line in one plane wanders 0 and has no step
 */
export function marginWander(c: CrownContext): Reading[] {
  const raw: Around = c.anatomy.profiles.map((p) => p?.finish.z ?? null);
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
  // Averaged over a few half planes, because handwork is never narrower than that.
  const own = smoothAround(raw, 2);
  const residual = own.map((z, k) => (z === null || course[k] === null ? null : z - (course[k] as number)));
  const noise = pairNoise(own) / Math.sqrt(2);
  const wander = Math.sqrt(Math.max(0, rms(present(residual)) ** 2 - noise ** 2));
  const reach = Math.max(1, Math.round(STEP_MM / spacing));
  let step = 0;
  let at = 0;
  for (let k = 0; k < raw.length; k++) {
    const a = residual[k];
    const b = residual[(k + reach) % raw.length];
    if (a !== null && b !== null && Math.abs(a - b) > step) {
      step = Math.abs(a - b);
      at = k;
    }
  }
  const r = c.finishR[at];
  const z = c.finishZ[at];
  const place = { azimuth: c.azimuths[at], ...(r !== null && z !== null ? { point: radialPoint(c.azimuths[at], r, z) } : {}) };
  const common = { coverage, samples: there.length };
  return [
    reading({ name: 'margin.wander', value: wander, U: expanded(noise, methodUncertainty('margin.wander', 'value')), ...common }),
    reading({
      name: 'margin.step',
      stat: 'max',
      value: step,
      U: expanded(2 * noise, methodUncertainty('margin.step', 'max')),
      at: place,
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

/** Point-to-point noise from third differences, in which any smooth course drops out. */
function pairNoise(values: Around): number {
  const n = values.length;
  const d = values.flatMap((a, k) => {
    const [b, e, f] = [1, 2, 3].map((j) => values[(k + j) % n]);
    return a === null || b === null || e === null || f === null ? [] : [(a - 3 * b + 3 * e - f) ** 2 / 20];
  });
  return Math.sqrt(d.reduce((s, v) => s + v, 0) / (d.length || 1));
}
