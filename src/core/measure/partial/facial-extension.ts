import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { PartialContext } from './context.ts';

/** Sine of the angle by which the surface must look to the facial side for its edge to be seen from there. */
const SEEN = 0.17;

/** Sine by which a surface's direction is misread, and mm by which the ends of a stretch are. */
const TURNED = 0.04;
const ENDS = 0.15;

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
  const lengths = c.outline.map((o, i) => {
    const q = c.outline[(i + 1) % n].p;
    return Math.hypot(q[0] - o.p[0], q[1] - o.p[1], q[2] - o.p[2]);
  });
  const all = lengths.reduce((s, l) => s + l, 0);
  const facingBy = (least: number): number => lengths.reduce((s, l, i) => (c.outline[i].normal[1] > least ? s + l : s), 0);
  const shown = facingBy(SEEN);
  // Where the surface turns slowly out of sight, its last stretch is seen or not by a degree or two.
  const u = Math.hypot(ENDS, (facingBy(SEEN - TURNED) - facingBy(SEEN + TURNED)) / 2);
  const at = { azimuth: 0 };
  return [
    reading({ name: 'facial.extension', value: shown, U: expanded(u), at, samples: n }),
    reading({ name: 'facial.extension', stat: 'share', value: shown / all, U: expanded(u / all), at, samples: n }),
  ];
}
