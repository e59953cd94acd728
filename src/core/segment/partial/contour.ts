/** Places along a contour, azimuth growing; null where it is not this side's steep wall. */
export type Contour = readonly (readonly [number, number] | null)[];

/** mm between the places along a contour: a tenth of a groove’s radius. */
export const PLACE = 0.05;

/** mm each side of a place in which the lips of a notch are looked for. */
export const REACH = 2.2;

/** mm under its surroundings that a notch lies at the least. */
export const LEAST_DEPTH = 0.15;

export const at = (line: Contour, k: number): readonly [number, number] | null => line[k] ?? null;

/** Places looked at on each side of one. */
const LOOKED = 60;
/** Of the places on each side every so many are taken: at a first look, and where that shows anything. */
const FIRST = 5;
const THEN = 2;
/** Share of the least depth that the first look must show. */
const SHOWS = 0.6;

/** Largest distance of each place of a contour under the chords between places each side of it; less than SHOWS · LEAST_DEPTH is given as 0. */
export function underChords(line: Contour): Float64Array {
  const x = Float64Array.from(line, (q) => q?.[0] ?? Number.NaN);
  const y = Float64Array.from(line, (q) => q?.[1] ?? Number.NaN);
  return x.map((here, k) => {
    if (Number.isNaN(here)) return 0;
    const least = SHOWS * LEAST_DEPTH;
    takePlaces(x, y, k, FIRST);
    if (!mayLieUnder(least) || deepest() < least) return 0;
    takePlaces(x, y, k, THEN);
    return deepest();
  });
}

/** Places on one hand of the place that is looked at, from it: across and up in turn, and how many numbers. */
class Hand {
  readonly at = new Float64Array(2 * LOOKED);
  n = 0;

  /** Takes every so many places on one hand that are within reach. */
  take(x: Float64Array, y: Float64Array, k: number, step: number): void {
    this.n = 0;
    for (let j = 1; j < LOOKED; j += Math.abs(step)) {
      const q = k + Math.sign(step) * j;
      if (!(q >= 0 && q < x.length) || Number.isNaN(x[q])) continue;
      const dx = x[q] - x[k];
      const dy = y[q] - y[k];
      if (dx * dx + dy * dy > REACH * REACH) break;
      this.at[this.n++] = dx;
      this.at[this.n++] = dy;
    }
  }
}

/** Filled anew for each place of a contour. */
const AFTER = new Hand();
const BEFORE = new Hand();

function takePlaces(x: Float64Array, y: Float64Array, k: number, every: number): void {
  AFTER.take(x, y, k, every);
  BEFORE.take(x, y, k, -every);
}

/**
 * False where no chord can lie `least` over the place: over any line through it a chord is nowhere higher than the higher of its
 * two ends, as long as these lie one on each hand along that line.
 */
function mayLieUnder(least: number): boolean {
  if (AFTER.n === 0 || BEFORE.n === 0) return false;
  const [i, j] = [middleOf(AFTER.n), middleOf(BEFORE.n)];
  const wayX = AFTER.at[i] - BEFORE.at[j];
  const wayY = AFTER.at[i + 1] - BEFORE.at[j + 1];
  const limit = least * Math.hypot(wayX, wayY);
  for (const [hand, sign] of HANDS)
    for (let q = 0; q < hand.n; q += 2) {
      if (sign * (hand.at[q] * wayX + hand.at[q + 1] * wayY) < 0) return true;
      if (wayX * hand.at[q + 1] - wayY * hand.at[q] >= limit) return true;
    }
  return false;
}

const HANDS = [
  [AFTER, 1],
  [BEFORE, -1],
] as const;
const middleOf = (n: number): number => 2 * Math.floor(n / 4);

/** How far the place lies under the highest chord between the places taken. */
function deepest(): number {
  let most = 0;
  for (let i = 0; i < BEFORE.n; i += 2) {
    const x = -BEFORE.at[i];
    const y = -BEFORE.at[i + 1];
    for (let j = 0; j < AFTER.n; j += 2) {
      const dx = AFTER.at[j] + x;
      const dy = AFTER.at[j + 1] + y;
      // Walking on in azimuth, the axis lies to the right of the chord: a place nearer to the axis is under it.
      const under = dy * x - dx * y;
      if (under <= 0 || under * under <= most * most * (dx * dx + dy * dy)) continue;
      most = under / Math.sqrt(dx * dx + dy * dy);
    }
  }
  return most;
}
