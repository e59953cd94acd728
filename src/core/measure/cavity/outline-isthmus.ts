import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { crossings } from '../../linalg/plan.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { axialX, type CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { withoutNoise } from '../../statistics/noise-share.ts';
import { mean, quantile } from '../../statistics/quantile.ts';
import { edgeError, outlineScatter } from '../uncertainty/outline-error.ts';

export interface Width {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  /** Ends of the width, seen along the axis. */
  readonly from: readonly [number, number];
  readonly to: readonly [number, number];
}

/** Width of the outline across the groove line, every 0.1 mm over the occlusal part; boxes are left out. */
export function outlineWidths(a: CavityAnatomy): Width[] {
  const groove = a.master.landmarks.grooves.find((g) => g.rank === 'primary' && g.name === 'central');
  if (!groove || groove.line.length < 2 || !a.pulpal || a.plan.length === 0) return [];
  const line = [...groove.line].sort((p, q) => p[0] - q[0]);
  const out: Width[] = [];
  const [first, last] = [line[0], line[line.length - 1]];
  // The groove is carried on straight at both ends, so that a cavity longer than its landmark is crossed as well.
  const points = [[first[0] - 2, first[1]], ...line, [last[0] + 2, last[1]]];
  for (let i = 0; i + 1 < points.length; i++) {
    const [ax, ay] = points[i];
    const [bx, by] = points[i + 1];
    const l = Math.hypot(bx - ax, by - ay);
    for (let s = 0; s < l; s += 0.1) {
      const x = ax + ((bx - ax) * s) / l;
      const y = ay + ((by - ay) * s) / l;
      const [nx, ny] = [-(by - ay) / l, (bx - ax) / l];
      const cut = crossings(a.plan, x, y, nx, ny);
      const above = cut.find((t) => t > 0);
      const below = [...cut].reverse().find((t) => t < 0);
      if (above === undefined || below === undefined) continue;
      out.push({ x, y, width: above - below, from: [x + nx * below, y + ny * below], to: [x + nx * above, y + ny * above] });
    }
  }
  return out.filter((w) =>
    a.boxes.every((b) => {
      const wall = axialX(b, w.y);
      return wall === null || b.sign * (w.x - wall) < -0.2;
    }),
  );
}

/** The same without the rounded ends. */
export const isthmusWidths = (a: CavityAnatomy, all: readonly Width[] = outlineWidths(a)): Width[] =>
  withoutEnds(
    all,
    a.boxes.map((b) => b.side),
  );

/** Drops the closed ends of the outline: places closer to an end than 0.7 of the mean width. */
function withoutEnds(widths: readonly Width[], open: readonly string[]): Width[] {
  if (widths.length === 0) return [];
  const typical = mean(widths.map((w) => w.width));
  const lo = Math.min(...widths.map((w) => w.x));
  const hi = Math.max(...widths.map((w) => w.x));
  const from = open.includes('distal') ? lo : lo + 0.7 * typical;
  const to = open.includes('mesial') ? hi : hi - 0.7 * typical;
  return widths.filter((w) => w.x >= from && w.x <= to);
}

/**
 * Isthmus: the narrowest place of the outline across the central groove, over the occlusal part; also against the distance
 * between facial and lingual cusp tips.
 * @formula least distance between the outline's crossings with the perpendicular to the groove line; ends within 0.7 widths and boxes left out
 * @units mm; ratio
 * @frame tooth, seen along the axis
 * @fails no-groove; no-pulpal-floor (a slot); no-outline (it does not cross the groove's line)
 * @source own definition, docs/definitions.md
 * @example a straight channel 1.2 wide along the groove reads 1.2
 */
export function outlineIsthmus(a: CavityAnatomy): Reading[] {
  const widths = isthmusWidths(a);
  const groove = a.master.landmarks.grooves.some((g) => g.rank === 'primary' && g.name === 'central');
  if (widths.length < 3) {
    const why = !groove ? 'no-groove' : a.pulpal ? 'no-outline' : 'no-pulpal-floor';
    return [...refusal('outline.isthmus', null, ['min'], why), ...refusal('outline.isthmus.ratio', null, ['value'], why)];
  }
  const least = widths.reduce((p, q) => (q.width < p.width ? q : p));
  // Of parallel margins the least of many noisy widths is too small.
  const own = withoutNoise(
    widths.map((w) => w.width),
    Math.SQRT2 * outlineScatter(a),
  );
  const value = Math.min(...own);
  // The least hangs on one place: most of its distance to the tenth of the places that are narrowest.
  const one = (quantile(own, 0.1) - value) / Math.SQRT2;
  const z = a.pulpal ? a.pulpal.centre[2] : 0;
  const at = { point: [least.x, least.y, z] as const };
  const U = expanded(Math.SQRT2 * edgeError(a, null), one, methodUncertainty('outline.isthmus', 'min'));
  const out: Reading[] = [reading({ name: 'outline.isthmus', stat: 'min', value, U, at, samples: widths.length })];
  const cusps = a.master.landmarks.cusps;
  const facial = cusps.filter((c) => c.at[1] > least.y).map((c) => c.at[1]);
  const lingual = cusps.filter((c) => c.at[1] < least.y).map((c) => c.at[1]);
  if (facial.length && lingual.length) {
    const between = mean(facial) - mean(lingual);
    out.push(reading({ name: 'outline.isthmus.ratio', value: value / between, U: U / between, at, samples: widths.length }));
  } else out.push(...refusal('outline.isthmus.ratio', null, ['value'], 'no-landmark'));
  return out;
}
