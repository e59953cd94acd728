import { MARGIN_FORMS, type MarginForm } from '../../catalogue/terms.ts';
import { type Reading, reading, refusal } from '../../result/reading.ts';
import { STEP } from '../../segment/crown/pieces.ts';
import type { Profile } from '../../segment/crown/profile.ts';
import { THRESHOLDS } from '../../thresholds.ts';
import { type CrownContext, coverageOf } from './context.ts';
import { marginLips } from './margin-lip.ts';
import { marginWidths } from './margin-width.ts';

/** mm: narrower than this is a feather edge. */
const FEATHER_MM = 0.2;
const LIP_MM = 0.05;
/** mm: a chamfer at least this wide is heavy. */
const HEAVY_MM = 0.7;

/** Form of the margin at each azimuth. */
export function marginForms(c: CrownContext): (MarginForm | null)[] {
  const widths = marginWidths(c);
  const lips = marginLips(c);
  return c.anatomy.profiles.map((p, k) => {
    const w = widths[k];
    if (!p || w === null) return null;
    if (w < FEATHER_MM) return 'feather';
    if ((lips[k] ?? 0) > LIP_MM) return 'lipped';
    return formOf(p, w);
  });
}

function formOf(p: Profile, width: number): MarginForm | null {
  const { wall } = p;
  if (!wall) return null;
  // A first piece that climbs inward more steeply than what follows it is a bevel on the floor's edge.
  const [first, second] = p.pieces;
  if (
    second &&
    first.to <= wall.from &&
    first.angle > second.angle + 18 &&
    first.angle > 20 &&
    first.length > 0.12 &&
    first.length < 0.8 * width
  )
    return 'bevelled';
  const rounding = roundingOf(p, width);
  if (rounding === null) return null;
  if (rounding < 0.18) return 'shoulder';
  if (rounding < 0.6) return 'rounded shoulder';
  return width < HEAVY_MM ? 'chamfer' : 'heavy chamfer';
}

/**
 * Radius between floor and wall as a share of the width, from how far the corner (where floor and wall lines would meet)
 * stands off the surface: a fillet of radius R between lines that meet at the angle 2β keeps R (1 / sin β − 1) away.
 */
function roundingOf(p: Profile, width: number): number | null {
  const w = p.wall;
  if (!w) return null;
  // Floor direction at the edge and the wall's line, independent of how the pieces were split.
  const { finish, floor } = p;
  const det = floor.dr * w.line.dy - floor.dz * w.line.dx;
  if (Math.abs(det) < 0.2) return 1;
  const t = ((w.line.x - finish.r) * w.line.dy - (w.line.y - finish.z) * w.line.dx) / det;
  const corner = [finish.r + t * floor.dr, finish.z + t * floor.dz];
  let off = Infinity;
  for (let i = 0; i < Math.min(p.r.length, w.from + Math.ceil(1 / STEP)); i++)
    off = Math.min(off, Math.hypot(p.r[i] - corner[0], p.z[i] - corner[1]));
  const between = Math.acos(Math.max(-1, Math.min(1, -(floor.dr * w.line.dx + floor.dz * w.line.dy))));
  const open = 1 / Math.sin(between / 2) - 1;
  // Scan noise alone rounds a corner by about a point's distance.
  return open > 0.02 ? Math.max(0, off - 0.02) / open / width : 1;
}

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
  const forms = marginForms(c);
  const known = forms.filter((f) => f !== null);
  const coverage = coverageOf(c, (k) => forms[k] !== null);
  if (coverage < THRESHOLDS.coverageLeast) return MARGIN_FORMS.flatMap((f) => refusal(name, f, ['share'], 'no-finish-line', coverage));
  return MARGIN_FORMS.map((f) => {
    const value = known.filter((q) => q === f).length / known.length;
    return reading({ name, zone: f, stat: 'share', value, U: 0.1, coverage, samples: known.length });
  });
}
