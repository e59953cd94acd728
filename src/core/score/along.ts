import { SECTORS } from '../linalg/sectors.ts';
import { wrapDegrees } from '../linalg/vec.ts';
import { type Curves, EDGE_LENGTH } from '../result/curves.ts';
import type { LevelNumber, Target } from './rubric.ts';
import { type Band, within } from './verdict.ts';

/** mm of edge whose mean is the worst stretch: anything shorter is a scratch or noise. */
const STRETCH_MM = 1;
/** Share of the edge that must have been read; a gap may hide what the student did. */
const SEEN_LEAST = 0.8;

export interface Along {
  /** Share of the edge's length inside the band. */
  readonly inside: number;
  /** Mean over the worst millimetre, and its middle's azimuth (or place on the unrolled outline). */
  readonly worst: number;
  readonly worstAt: number;
  readonly level: LevelNumber;
  /** Least and largest level that the uncertainty leaves open. */
  readonly range: readonly [LevelNumber, LevelNumber];
}

interface Place {
  readonly at: number;
  readonly value: number;
  readonly length: number;
}

/**
 * Judges a curve along an edge: the share of its length inside the band and its worst stretch of 1 mm, because a median forgives
 * a place where the restoration breaks. U is that of the curve's median: it shifts the curve as a whole.
 * Null when less than 80 % of the edge was read.
 * @formula share = Σ length of places inside the band ÷ Σ length; worst = the mean over 1 mm that lies farthest outside the band; level 3: share ≥ full and worst in `fair`; level 2: share ≥ fair and worst in `poor`; level 1: share ≥ poor; else 0
 * @units share; the reading's unit
 * @frame along the edge
 * @source own definition, docs/definitions.md
 * @example an edge 20 mm long with 1 mm outside `poor` and the rest inside has a share of 0.95 and is level 1
 */
export function judgeAlong(target: Target, curves: Curves, U: number): Along | null {
  const shares = target.along;
  const curve = curves[target.reading];
  const lengths = curves[EDGE_LENGTH];
  if (!shares || !curve?.length || !lengths?.length) return null;
  const sector = SECTORS.find((s) => s.name === target.zone);
  if (target.zone !== null && !sector) return null;
  const isHere = (at: number): boolean => !sector || Math.abs(wrapDegrees(at - sector.centre)) <= sector.half;
  const edge = lengths.filter(([at]) => isHere(at));
  const values = new Map(curve.map(([at, value]) => [at, value]));
  const places = edge.flatMap(([at, length]): Place[] => {
    const value = values.get(at);
    return value === undefined ? [] : [{ at, value, length }];
  });
  const whole = edge.reduce((s, [, l]) => s + l, 0);
  const read = places.reduce((s, p) => s + p.length, 0);
  if (!(whole > 0) || read < SEEN_LEAST * whole) return null;
  const judged = [0, -U, U].map((shift) => {
    const moved = places.map((p) => ({ ...p, value: p.value + shift }));
    const inside = moved.reduce((s, p) => s + (within(p.value, target.band) ? p.length : 0), 0) / read;
    const worst = worstStretch(moved, target.band, target.zone === null);
    const level: LevelNumber =
      inside >= shares.full && within(worst.value, target.fair)
        ? 3
        : inside >= shares.fair && within(worst.value, target.poor)
          ? 2
          : inside >= shares.poor
            ? 1
            : 0;
    return { inside, worst, level };
  });
  const levels = judged.map((j) => j.level);
  const [own] = judged;
  return {
    inside: own.inside,
    worst: own.worst.value,
    worstAt: own.worst.at,
    level: own.level,
    range: [Math.min(...levels) as LevelNumber, Math.max(...levels) as LevelNumber],
  };
}

/** Distance of a value outside a band; negative inside, by the distance to the nearer end. */
const beyond = (value: number, { lo, hi }: Band): number =>
  Math.max(lo === null ? -Infinity : lo - value, hi === null ? -Infinity : value - hi);

/** The stretch of 1 mm whose mean lies farthest outside the band; a whole edge is closed, a sector's is not. */
function worstStretch(places: readonly Place[], band: Band, closed: boolean): { value: number; at: number } {
  const n = places.length;
  let worst = { value: places[0].value, at: places[0].at, beyond: -Infinity };
  for (let from = 0; from < n; from++) {
    let length = 0;
    let sum = 0;
    let k = from;
    while (length < STRETCH_MM - 1e-9 && k < (closed ? from + n : n)) {
      const p = places[k % n];
      length += p.length;
      sum += p.length * p.value;
      k++;
    }
    // The rest at a sector's end is shorter than a stretch and joins the one before.
    if (length < STRETCH_MM - 1e-9 && from > 0) break;
    const value = sum / length;
    const off = beyond(value, band);
    if (off > worst.beyond) worst = { value, at: places[((from + k - 1) >> 1) % n].at, beyond: off };
  }
  return worst;
}
