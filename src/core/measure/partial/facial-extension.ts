import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { PartialContext } from './context.ts';

/** Sine of the angle by which the surface must look to the facial side for its edge to be seen from there. */
const SEEN = 0.17;

/**
 * Facial extension: how much of the finish line shows from the facial side.
 * @formula length, and share of the whole, of the outline along which the uncut surface looks facially by more than 10°
 * @units mm; share
 * @frame tooth
 * @fails no-finish-line
 * @source own definition, docs/definitions.md
 * @example a finish line that stays behind the proximal contour reads 0
 */
export function facialExtension(c: PartialContext): Reading[] {
  const n = c.outline.length;
  if (n < 20)
    return [
      ...refusal('facial.extension', null, ['value'], 'no-finish-line'),
      ...refusal('facial.extension', null, ['share'], 'no-finish-line'),
    ];
  let all = 0;
  let shown = 0;
  c.outline.forEach((o, i) => {
    const q = c.outline[(i + 1) % n].p;
    const l = Math.hypot(q[0] - o.p[0], q[1] - o.p[1], q[2] - o.p[2]);
    all += l;
    if (o.normal[1] > SEEN) shown += l;
  });
  const at = { azimuth: 0 };
  return [
    reading({ name: 'facial.extension', value: shown, U: expanded(0.15), at, samples: n }),
    reading({ name: 'facial.extension', stat: 'share', value: shown / all, U: expanded(0.15 / all), at, samples: n }),
  ];
}
