import { MARGIN_FORMS, type MarginForm } from '../../catalogue/terms.ts';
import { type Reading, reading, refusal } from '../../result/reading.ts';
import { fitFillet, type Way } from '../../segment/crown/margin-fillet.ts';
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

/** mm by which a scan rounds a corner, and by how much that may be more or less. */
const NOISE_ROUNDS = { by: 0.025, within: 0.02 };
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

/** Radius between floor and wall as a share of the width, by azimuth: a cutter's trace changes slowly, so that about 2 mm of it are fitted together. */
function roundings(c: CrownContext): (Rounding | null)[] {
  const widths = marginWidths(c);
  const { profiles } = c.anatomy;
  const n = profiles.length;
  const around = (k: number): number[] => Array.from({ length: 2 * c.half + 1 }, (_, j) => (k + j - c.half + n) % n);
  const fitted = new Map<number, Fit>();
  const filletAt = (k: number): Fit => {
    const known = fitted.get(k);
    if (known !== undefined) return known;
    const rises = around(k).flatMap((i) => profiles[i]?.edgeRise ?? []);
    const ways = around(k).flatMap((i) => wayOf(c, i) ?? []);
    const width = median(around(k).flatMap((i) => widths[i] ?? []));
    const fillet = ways.length < LEAST_WAYS ? null : fitFillet(ways, median(rises), 0.4 * width);
    fitted.set(k, fillet);
    return fillet;
  };
  return profiles.map((p, k) => {
    const w = widths[k];
    if (!p?.wall || w === null || w < FEATHER_MM) return null;
    const fillet = filletAt((EACH * Math.round(k / EACH)) % n);
    if (!fillet) return null;
    if (fillet === 'runs-on') return ROUND;
    // Stretches that share no half plane err each their own way, so that half of it counts for all of them.
    return { share: Math.max(0, fillet.radius - NOISE_ROUNDS.by) / w, u: Math.hypot(fillet.u / 2, NOISE_ROUNDS.within) / w };
  });
}

type Fit = ReturnType<typeof fitFillet>;

/** Half planes of which one is fitted with its surroundings, and the least number that make a fit. */
const EACH = 3;
const LEAST_WAYS = 5;
/** mm of the floor's edge that the scan blunts, and of the wall over its foot that are taken. */
const EDGE = 0.1;
const UP = 0.4;

/** A profile's way from the finish line, as it runs through its neighbours, up the wall. */
function wayOf(c: CrownContext, k: number): Way | null {
  const [p, finishR, finishZ] = [c.anatomy.profiles[k], c.finishR[k], c.finishZ[k]];
  if (!p?.wall || finishR === null || finishZ === null) return null;
  const from = Math.ceil(EDGE / STEP);
  const to = Math.min(p.r.length, p.wall.from + Math.ceil(UP / STEP));
  return to - from < 6 ? null : { finish: { r: finishR, z: finishZ }, wall: p.wall.line, r: p.r, z: p.z, from, to };
}

/** Where floor and wall run on into each other there is no corner to stand off. */
const ROUND: Rounding = { share: 1, u: 0 };

/**
 * Form of the margin, as shares of the circumference.
 * @formula by azimuth: feather under 0.2 mm; lipped over 0.05 mm of lip; bevelled when the edge climbs ≥ 18° more steeply than the floor; else by radius of the fillet (fitted with the floor to about 2 mm of the margin) ÷ width: shoulder < 0.18, rounded shoulder < 0.6, chamfer (heavy from 0.7 mm)
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
