import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { toRadians } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { present } from '../../segment/around.ts';
import { noiseLeft, withoutNoise } from '../../statistics/noise-share.ts';
import { weightedQuantiles } from '../../statistics/quantile.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import { finishScatter } from '../uncertainty/finish-scatter.ts';
import { alongFinishLine, type CrownContext, coverageOf } from './context.ts';
import { drawLean } from './draw-direction.ts';
import { marginWidths } from './margin-width.ts';

/** Half planes of 2° that make the stretch of 10° in which the thinnest margin is looked for. */
const STRETCH = 5;
/** mm by which something may stand over the finish line and still leave it in sight; and within which that is too close to call. */
const SIGHT = 0.03;
/** Share of the single places' scatter that reaches each end of the widths, as for margin.width. */
const ENDS = { low: 0.5, high: 1.08 };

/**
 * Evenness of the margin: spread of its width round the tooth, its thinnest 10°, and how much of the finish line is seen along the path of
 * insertion.
 * @formula even = p95 − p5 of the widths, their noise taken off; thinnest = least mean width over 10°; visible = share of the azimuths at which no prepared surface above the finish line stands further out than it, seen along the draw direction
 * @units mm; mm; share
 * @frame tooth
 * @fails no-finish-line, no-wall
 * @source own definition, docs/definitions.md
 * @example widths that run evenly from 0.5 to 0.9: 0.36 between 5 % and 95 %; a cone that narrows upward is seen all round
 */
export function marginEven(c: CrownContext): Reading[] {
  const widths = marginWidths(c);
  const there = widths.flatMap((w, k) => (w !== null && c.anatomy.covered[k] ? [k] : []));
  const coverage = coverageOf(c, (k) => widths[k] !== null);
  if (coverage < THRESHOLDS.coverageLeast || there.length < STRETCH)
    return ['margin.even', 'margin.thinnest', 'margin.visible'].flatMap((name) =>
      refusal(name, null, [name === 'margin.visible' ? 'share' : 'value'], 'no-finish-line', coverage),
    );
  const raw = c.anatomy.profiles.map((p) => (p?.wall ? p.finish.r - p.wall.foot.r : null));
  const own = withoutNoise(
    there.map((k) => widths[k] as number),
    noiseLeft(raw, widths, c.half),
  );
  const [low, high] = weightedQuantiles(
    own,
    own.map(() => 1),
    [0.05, 0.95],
  );
  const off = present(finishScatter(c));
  const scatter = off.length ? Math.sqrt(off.reduce((s, d) => s + d * d, 0) / off.length) : 0;
  const thin = thinnest(there, own, c.azimuths.length);
  const place = (k: number) => ({ azimuth: c.azimuths[k], point: alongFinishLine(c).point(k) });
  const common = { coverage, samples: there.length };
  return [
    reading({
      name: 'margin.even',
      value: high - low,
      U: expanded(scatter * ENDS.low, scatter * ENDS.high, methodUncertainty('margin.even', 'value')),
      at: place(thin.k),
      ...common,
    }),
    reading({
      name: 'margin.thinnest',
      value: thin.width,
      U: expanded(scatter * ENDS.low, 0.7 * c.anatomy.alignment.pointError, methodUncertainty('margin.thinnest', 'value')),
      at: place(thin.k),
      ...common,
    }),
    visible(c, coverage),
  ];
}

/** The least mean over neighbouring half planes; only runs without a gap count. */
function thinnest(there: readonly number[], widths: readonly number[], all: number): { readonly k: number; readonly width: number } {
  const at = new Map(there.map((k, i) => [k, widths[i]]));
  let best = { k: there[widths.indexOf(Math.min(...widths))], width: Infinity };
  for (const k of there) {
    const run = Array.from({ length: STRETCH }, (_, i) => at.get((k + i) % all));
    if (run.some((w) => w === undefined)) continue;
    const width = run.reduce<number>((s, w) => s + (w as number), 0) / STRETCH;
    if (width < best.width) best = { k: (k + (STRETCH >> 1)) % all, width };
  }
  return Number.isFinite(best.width) ? best : { k: best.k, width: Math.min(...widths) };
}

/** How far (mm) the surface above the finish line stands beyond it at each half plane, once the tooth is looked at along the draw direction. */
function overhangs(c: CrownContext): { readonly k: number; readonly most: number }[] {
  const { draw } = c;
  if (!draw) return [];
  return c.anatomy.profiles.flatMap((p, k) => {
    if (!p?.wall || !c.anatomy.covered[k]) return [];
    const shift = Math.tan(toRadians(drawLean(draw, c.azimuths[k])));
    let most = -Infinity;
    for (let i = 0; i < p.r.length; i++)
      if (p.z[i] > p.finish.z + SIGHT && p.r[i] > 0) most = Math.max(most, p.r[i] - (p.z[i] - p.finish.z) * shift - p.finish.r);
    return [{ k, most }];
  });
}

/** Half planes at which the finish line is hidden along the path of insertion. */
export const hiddenMargin = (c: CrownContext): number[] => overhangs(c).flatMap((o) => (o.most > SIGHT ? [o.k] : []));

function visible(c: CrownContext, coverage: number): Reading {
  const over = overhangs(c);
  if (over.length === 0) return refusal('margin.visible', null, ['share'], 'no-wall', coverage)[0];
  const hidden = over.filter((o) => o.most > SIGHT);
  const close = over.filter((o) => Math.abs(o.most - SIGHT) < SIGHT).length;
  const worst = over.reduce((a, b) => (b.most > a.most ? b : a));
  return reading({
    name: 'margin.visible',
    stat: 'share',
    value: 1 - hidden.length / over.length,
    U: (close + 1) / over.length,
    at: hidden.length ? { azimuth: c.azimuths[worst.k], point: alongFinishLine(c).point(worst.k) } : null,
    coverage,
    samples: over.length,
  });
}
