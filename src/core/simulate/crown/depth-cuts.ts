import type { ToothShape } from '../../anatomy/shape.ts';
import { distanceToLine } from '../../linalg/curve.ts';
import type { Vec3 } from '../../linalg/vec.ts';
import type { CrownRecipe } from './recipe.ts';

/** mm over the tooth at which a top that nobody has cut yet is held, so that nothing of it goes. */
const STANDS = 1;
/** Rise over run of a depth cut's sides, which no hand leaves upright. */
const CUT_WALL = 2.5;
/** Share of the way from a cusp's tip to the nearest groove along which a cut runs down its ridge. */
const RIDGE = 0.75;

/** From each cusp's tip to the nearest place of a groove, short of it. */
function ridgeLines({ cusps, grooves }: ToothShape): Vec3[][] {
  const floor = grooves.flatMap((g) => g.line);
  if (floor.length === 0) return [];
  return cusps.map(({ at }) => {
    const foot = floor.reduce((a, b) => (Math.hypot(b[0] - at[0], b[1] - at[1]) < Math.hypot(a[0] - at[0], a[1] - at[1]) ? b : a));
    return [[...at], [at[0] + RIDGE * (foot[0] - at[0]), at[1] + RIDGE * (foot[1] - at[1]), foot[2]]];
  });
}

/** A top that is not yet reduced: it stands whole, or carries depth cuts with the tooth between them. */
export class DepthCuts {
  private lines: readonly (readonly Vec3[])[] | null = null;

  constructor(
    private readonly target: ToothShape,
    private readonly cut: NonNullable<CrownRecipe['top']>,
  ) {}

  /** Height over (x, y), where a cut's bottom lies at `lowered`; well above the tooth where nothing was cut. */
  topAt(x: number, y: number, lowered: () => number): number {
    const standing = this.target.top(x, y) + STANDS;
    if (this.cut === 'stands') return standing;
    const { along, radius } = this.cut;
    this.lines ??= along === 'grooves' ? this.target.grooves.map((g) => g.line) : ridgeLines(this.target);
    const away = Math.min(...this.lines.map((line) => distanceToLine(line, x, y)));
    const over = away < radius ? radius - Math.sqrt(radius ** 2 - away ** 2) : radius + (away - radius) * CUT_WALL;
    return Math.min(standing, lowered() + over);
  }
}
