import { MARGIN_FORMS, type MarginForm } from '../../catalogue/terms.ts';
import { type Reading, reading, refusal } from '../../result/reading.ts';
import { STEP } from '../../segment/crown/pieces.ts';
import type { Profile } from '../../segment/crown/profile.ts';
import { median } from '../../statistics/quantile.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import { type CrownContext, coverageOf } from './context.ts';
import { marginLips } from './margin-lip.ts';
import { marginWidths } from './margin-width.ts';

/** mm: narrower than this is a feather edge. */
const FEATHER_MM = 0.2;
const LIP_MM = 0.05;
/** Coverage factor: shares do not grow with a rounding's uncertainty in proportion, so that they are read again with all of it. */
const K = 2;
/** Share of the circumference by which a stretch of one form ends sooner or later. */
const ENDS = 0.03;
/** mm: a chamfer at least this wide is heavy. */
const HEAVY_MM = 0.7;

/** Scan noise alone rounds a corner by about so much (mm), and by how much that may be more or less. */
const NOISE_ROUNDS = { by: 0.02, within: 0.006 };
/** Neighbouring half planes that share most of their noise. */
const SHARED_BY = 2;
/** mm by which a width may be misread. */
const WIDTH_WITHIN = 0.02;

/** Form of the margin at each azimuth. */
export const marginForms = (c: CrownContext): (MarginForm | null)[] => formsWith(c, roundings(c), 0, 0);

/** The forms, were every rounding so many of its standard uncertainties larger, and every width so many mm. */
function formsWith(c: CrownContext, rounding: readonly (Rounding | null)[], byU: number, wider: number): (MarginForm | null)[] {
  const widths = marginWidths(c);
  const lips = marginLips(c);
  return c.anatomy.profiles.map((p, k) => {
    const w = widths[k];
    if (!p || w === null) return null;
    if (w < FEATHER_MM) return 'feather';
    if ((lips[k] ?? 0) > LIP_MM) return 'lipped';
    const r = rounding[k];
    if (!p.wall) return null;
    if (isBevelled(p, w)) return 'bevelled';
    if (!r) return null;
    const share = r.share + byU * r.u;
    if (share < 0.18) return 'shoulder';
    if (share < 0.6) return 'rounded shoulder';
    return w + wider < HEAVY_MM ? 'chamfer' : 'heavy chamfer';
  });
}

/** A first piece that climbs inward more steeply than what follows it is a bevel on the floor's edge. */
function isBevelled({ wall, pieces: [first, second] }: Profile, width: number): boolean {
  return (
    !!wall &&
    !!second &&
    first.to <= wall.from &&
    first.angle > second.angle + 18 &&
    first.angle > 20 &&
    first.length > 0.12 &&
    first.length < 0.8 * width
  );
}

interface Rounding {
  readonly share: number;
  /** Standard uncertainty. */
  readonly u: number;
}

/** Radius between floor and wall as a share of the width, by azimuth. One half plane's is half noise, and a cutter's trace changes slowly: the middle one of about 2 mm counts. */
function roundings(c: CrownContext): (Rounding | null)[] {
  const widths = marginWidths(c);
  const n = c.anatomy.profiles.length;
  const beside = <T>(of: readonly (T | null)[], k: number): T[] =>
    Array.from({ length: 2 * c.half + 1 }, (_, j) => of[(k + j - c.half + n) % n]).filter((q): q is T => q !== null);
  const rises = c.anatomy.profiles.map((p) => p?.edgeRise ?? null);
  const own = c.anatomy.profiles.map((p, k) => {
    const w = widths[k];
    return p && w !== null && w >= FEATHER_MM ? roundingOf(p, w, median(beside(rises, k))) : null;
  });
  return own.map((r, k) => {
    if (!r) return null;
    const near = beside(own, k);
    const share = median(near.map((q) => q.share));
    // A median's own standard error, by the median distance of what it is taken from; stretches that share no half plane err each their own way, so that half of it counts for all of them.
    const scatter = (1.25 * 1.48 * median(near.map((q) => Math.abs(q.share - share)))) / Math.sqrt(near.length / SHARED_BY) / 2;
    return { share, u: Math.hypot(scatter, r.u) };
  });
}
/**
 * Radius between floor and wall as a share of the width, from how far the corner (where floor and wall lines would meet)
 * stands off the surface: a fillet of radius R between lines that meet at the angle 2β keeps R (1 / sin β − 1) away.
 */
function roundingOf(p: Profile, width: number, rise: number): Rounding | null {
  const w = p.wall;
  if (!w) return null;
  // The direction in which the floor leaves its edge, a curved one too, and the wall's line, independent of how the pieces were split.
  const { finish } = p;
  const floor = { dr: -Math.cos(rise), dz: Math.sin(rise) };
  const det = floor.dr * w.line.dy - floor.dz * w.line.dx;
  if (Math.abs(det) < 0.2) return ROUND;
  const t = ((w.line.x - finish.r) * w.line.dy - (w.line.y - finish.z) * w.line.dx) / det;
  const corner = [finish.r + t * floor.dr, finish.z + t * floor.dz];
  let off = Infinity;
  for (let i = 0; i < Math.min(p.r.length, w.from + Math.ceil(1 / STEP)); i++)
    off = Math.min(off, Math.hypot(p.r[i] - corner[0], p.z[i] - corner[1]));
  const between = Math.acos(Math.max(-1, Math.min(1, -(floor.dr * w.line.dx + floor.dz * w.line.dy))));
  const open = 1 / Math.sin(between / 2) - 1;
  return open > 0.02 ? { share: Math.max(0, off - NOISE_ROUNDS.by) / open / width, u: NOISE_ROUNDS.within / open / width } : ROUND;
}

/** Where floor and wall run on into each other there is no corner to stand off. */
const ROUND: Rounding = { share: 1, u: 0 };

/**
 * Form of the margin, as shares of the circumference.
 * @formula by azimuth: feather under 0.2 mm; lipped over 0.05 mm of lip; bevelled when the edge climbs ≥ 18° more steeply than the floor; else by fillet radius ÷ width: shoulder < 0.18, rounded shoulder < 0.6, chamfer (heavy from 0.7 mm)
 * @units share, zone = form
 * @frame tooth
 * @fails no-finish-line
 * @source own definition, docs/definitions.md
 * @example a square step all round reads shoulder 1
 */
export function marginForm(c: CrownContext): Reading[] {
  const name = 'margin.form';
  const rounding = roundings(c);
  const forms = formsWith(c, rounding, 0, 0);
  const otherwise = [
    formsWith(c, rounding, -K, 0),
    formsWith(c, rounding, K, 0),
    formsWith(c, rounding, 0, -K * WIDTH_WITHIN),
    formsWith(c, rounding, 0, K * WIDTH_WITHIN),
  ];
  const known = forms.filter((f) => f !== null);
  const coverage = coverageOf(c, (k) => forms[k] !== null);
  if (coverage < THRESHOLDS.coverageLeast) return MARGIN_FORMS.flatMap((f) => refusal(name, f, ['share'], 'no-finish-line', coverage));
  return MARGIN_FORMS.map((f) => {
    const shareIn = (of: readonly (MarginForm | null)[]): number => of.filter((q) => q === f).length / known.length;
    const value = shareIn(forms);
    const off = otherwise.map((of) => Math.abs(shareIn(of) - value));
    const U = Math.hypot(Math.max(off[0], off[1]), Math.max(off[2], off[3]), K * ENDS);
    return reading({ name, zone: f, stat: 'share', value, U, coverage, samples: known.length });
  });
}
