import { movingMean, type Plan, smoothed } from '../../linalg/plan.ts';
import { DEG, toDegrees, wrapDegrees } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { axialX, type CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { OUTLINE_STEP } from '../../segment/cavity/outline.ts';
import { rms } from '../../statistics/quantile.ts';

/** mm of outline over which a turn is looked at, and degrees that make it a corner: an arc of radius 0.3 turns by 76° in 0.4 mm, and averaging takes a quarter of it off. */
const WINDOW = 0.4;
const CORNER_DEG = 58;
/** What averaging the outline leaves of the scan's noise. */
const NOISE_LEFT = 0.4;

/**
 * Is the occlusal outline a smooth curve? Its tightest turn, how many corners are tighter than 0.3 mm, and how much it wanders.
 * @formula radius = 0.4 mm ÷ turn within 0.4 mm (outline averaged over 0.3 mm); corner = a turn of 58° or more there; wander = RMS distance across the curve to the same curve averaged over 1 mm, less what scan noise makes
 * @units mm; count; mm
 * @frame tooth, seen along the axis
 * @fails no-outline
 * @source own definition, docs/definitions.md
 * @example a circle of radius 2 has smallest radius 2 and no corner
 */
export function outlineSmooth(a: CavityAnatomy): Reading[] {
  const names = [
    ['outline.smooth.radius', 'min'],
    ['outline.smooth.corners', 'count'],
    ['outline.smooth.wander', 'value'],
  ] as const;
  const n = a.plan.length;
  // Where the margin runs down a proximal face, its plan view says nothing about smoothness.
  const occlusal = a.outline.map(
    (o) => Math.abs(o.tangent[2]) < 0.6 && a.boxes.every((b) => b.sign * (o.p[0] - (axialX(b, o.p[1]) ?? 0)) < 0.2),
  );
  if (n < 20 || occlusal.filter(Boolean).length < 20) return names.flatMap(([q, s]) => refusal(q, null, [s], 'no-outline'));
  const fine = smoothed(a.plan, 1);
  const reach = Math.round(WINDOW / 2 / OUTLINE_STEP);
  const turns = fine.map((_, i) =>
    occlusal[i] && occlusal[(i + reach) % n] && occlusal[(i + n - reach) % n] ? turnAt(fine, i, reach) : 0,
  );
  const corners = turns.filter((t, i) => t >= CORNER_DEG && t >= turns[(i + 1) % n] && t > turns[(i + n - 1) % n]).length;
  // What noise turns the curve by within the window decides how sure a corner near the limit is one.
  const unsure = 2 * toDegrees((NOISE_LEFT * a.alignment.noise) / (WINDOW / 2));
  const doubtful = turns.filter(
    (t, i) => Math.abs(t - CORNER_DEG) < unsure && t >= turns[(i + 1) % n] && t > turns[(i + n - 1) % n],
  ).length;
  const tightest = turns.indexOf(Math.max(...turns));
  const radius = WINDOW / (Math.max(turns[tightest], 1) * DEG);
  const course = smoothed(a.plan, Math.round(0.5 / OUTLINE_STEP));
  // Only across the curve counts: where it bends, averaging pulls it inward, which is form and not wander.
  const off = fine.map((p, i) => {
    const [q, r] = [course[(i + 1) % n], course[(i + n - 1) % n]];
    const l = Math.hypot(q[0] - r[0], q[1] - r[1]) || 1;
    return ((p[0] - course[i][0]) * (q[1] - r[1]) - (p[1] - course[i][1]) * (q[0] - r[0])) / l;
  });
  const bend = movingMean(off, Math.round(0.5 / OUTLINE_STEP));
  const wander = rms(off.flatMap((v, i) => (occlusal[i] ? [v - bend[i]] : [])));
  const noise = 0.3 * a.alignment.noise;
  const at = { point: a.outline[tightest].p };
  return [
    reading({ name: names[0][0], stat: 'min', value: radius, U: Math.max(0.05, 0.25 * radius), at, samples: n }),
    reading({ name: names[1][0], stat: 'count', value: corners, U: doubtful, at, samples: n }),
    reading({
      name: names[2][0],
      value: Math.sqrt(Math.max(0, wander ** 2 - noise ** 2)),
      U: expanded(noise, 0.005),
      samples: n,
    }),
  ];
}

/** Degrees by which the curve turns between the stretches `reach` corners before and after i, either way. */
function turnAt(plan: Plan, i: number, reach: number): number {
  const n = plan.length;
  const way = (k: number): number => {
    const [p, q] = [plan[(k + n - 1) % n], plan[(k + 1) % n]];
    return Math.atan2(q[1] - p[1], q[0] - p[0]);
  };
  return Math.abs(wrapDegrees((way((i + reach) % n) - way((i + n - reach) % n)) / DEG));
}
