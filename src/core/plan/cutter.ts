/** Forms that a cutter's side can have, and its tip. */
export const CUTTER_FORMS = ['ball', 'pear', 'cylinder', 'taper', 'flame', 'inverted cone'] as const;
export const CUTTER_TIPS = ['flat', 'round', 'pointed'] as const;

/** A cutter as the school measured it; lengths in mm. */
export interface Cutter {
  readonly form: (typeof CUTTER_FORMS)[number];
  readonly tip: (typeof CUTTER_TIPS)[number];
  /** Diameter at the shank end of the cutting length. */
  readonly shank_mm: number;
  /** Diameter at the tip; for a pointed tip near 0. */
  readonly tip_mm: number;
  /** Cutting length. */
  readonly length_mm: number;
}

/**
 * Diameter at a distance from the tip.
 * @formula d(x) = tip + (shank − tip) · x ÷ L
 * @units mm
 * @source docs/definitions.md
 * @example a 1.8 / 1.2 cutter is 1.5 at half its length
 */
export const diameterAt = (c: Pick<Cutter, 'shank_mm' | 'tip_mm' | 'length_mm'>, x_mm: number): number =>
  c.tip_mm + ((c.shank_mm - c.tip_mm) * Math.min(c.length_mm, Math.max(0, x_mm))) / c.length_mm;

/**
 * Half the angle that a cutter's sides make with one another.
 * @formula atan((shank − tip) ÷ 2L)
 * @units °
 * @source docs/definitions.md
 * @example 1.8 / 1.2 over 6 mm: 2.9°
 */
export const halfTaper_deg = (c: Pick<Cutter, 'shank_mm' | 'tip_mm' | 'length_mm'>): number =>
  (Math.atan((c.shank_mm - c.tip_mm) / (2 * c.length_mm)) * 180) / Math.PI;

/**
 * Share of its length that a cutter is sunk for a depth; null where it is too short.
 * @formula depth ÷ L
 * @units share
 * @source docs/definitions.md
 * @example a cutter 2.0 long is sunk three quarters for 1.5
 */
export const shareSunk = (c: Pick<Cutter, 'length_mm'>, depth_mm: number): number | null =>
  depth_mm > c.length_mm ? null : depth_mm / c.length_mm;

/**
 * The widest margin that one pass leaves without a lip: half a round tip, the whole of a flat one, none of a pointed one.
 * @units mm
 * @source docs/definitions.md
 * @example a round tip of 1.2 cuts a chamfer of 0.6, a flat one of 1.0 a shoulder of 1.0
 */
export const widestMargin = (c: Pick<Cutter, 'tip' | 'tip_mm'>): number =>
  c.tip === 'flat' ? c.tip_mm : c.tip === 'round' ? c.tip_mm / 2 : 0;

/**
 * Convergence of two opposite walls that are cut with the handpiece tilted by so much.
 * @formula 2 · (half taper + tilt)
 * @units °
 * @source docs/definitions.md
 * @example half taper 2.9° held upright: 5.7°
 */
export const expectedConvergence = (c: Pick<Cutter, 'shank_mm' | 'tip_mm' | 'length_mm'>, tilt_deg: number): number =>
  2 * (halfTaper_deg(c) + tilt_deg);

/** Steps of a quarter circle. */
const STEPS = 12;
/**
 * Half outline of a cutter from its tip to its shank end: distance from the tip, and radius.
 * @units mm
 * @source drawn from the cutter's own figures: straight sides, a round tip a quarter circle or as much of one as fits, a ball a circle
 */
export function halfOutline(c: Cutter): readonly (readonly [x: number, r: number])[] {
  const { length_mm: l, shank_mm: d, tip_mm: t } = c;
  const arc = (from: number, to: number, at: (a: number) => readonly [number, number]) =>
    Array.from({ length: STEPS + 1 }, (_, i) => at(from + ((to - from) * i) / STEPS));
  if (c.form === 'ball') {
    const R = d / 2;
    return arc(0, Math.PI * 0.86, (a) => [R - R * Math.cos(a), R * Math.sin(a)]);
  }
  if (c.form === 'pear') {
    const R = Math.min(t / 2, l / 2);
    // A rounded head as wide as the tip, that narrows to two thirds at the shank.
    return [...arc(0, Math.PI / 2, (a) => [R - R * Math.cos(a), R * Math.sin(a)] as const), [l, Math.min(d, t) / 3]];
  }
  // Widest at two thirds of its length.
  if (c.form === 'flame') return arc(0, 1, (s) => [l * s, (d / 2) * Math.sin(0.75 * Math.PI * s)]);
  if (c.tip === 'round') {
    const R = Math.min(t / 2, l);
    return [...arc(0, Math.PI / 2, (a) => [R - R * Math.cos(a), R * Math.sin(a)] as const), [l, d / 2]];
  }
  return c.tip === 'pointed'
    ? [
        [0, 0],
        [Math.min(l / 4, d), t / 2],
        [l, d / 2],
      ]
    : [
        [0, 0],
        [0, t / 2],
        [l, d / 2],
      ];
}
