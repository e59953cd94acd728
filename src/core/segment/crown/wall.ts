import { THRESHOLDS } from '../../thresholds.ts';
import { intersect, type Line, type LineSums } from '../polyline.ts';
import { lineAngleInward, meanOf, PATCH, type Piece, STEP } from './pieces.ts';

export interface Wall {
  readonly line: Line;
  /** Index range in the profile's points that the line was fitted to. */
  readonly from: number;
  readonly to: number;
  /** Lean to the long axis, degrees, + converging occlusally. */
  readonly lean: number;
  /** Standard uncertainty of the lean from noise, degrees. */
  readonly u: number;
  /** Height at which the profile leaves the wall's line for the margin floor. */
  readonly leavesZ: number;
  /** Where floor and wall line meet. */
  readonly foot: { readonly r: number; readonly z: number };
  /** Where the wall line, carried down, reaches the floor's level: the foot of a curved floor that leaves its edge level. */
  readonly levelFoot: { readonly r: number; readonly z: number };
  /**
   * Sag of the floor's main piece under its chord, as a share of the chord: about 0.04 for the lower half of a quarter
   * circle.
   */
  readonly floorBow: number | null;
  /** Direction of a straight floor, inward: 0 is level, + rises. Radians. */
  readonly floorRise: number | null;
  /** Occlusoaxial edge: end of all wall pieces. */
  readonly top: {
    readonly r: number;
    readonly z: number;
    readonly index: number;
    /** mm: standard uncertainty of the edge's place along the profile, from its rounding and from how slowly it turns there. */
    readonly u: number;
  };
  readonly floorIsStraight: boolean;
}

/** Points of a profile. */
interface Points {
  readonly r: readonly number[];
  readonly z: readonly number[];
}

/** Points of a wall, and its first and last straight piece. */
interface WallRange {
  readonly from: number;
  readonly to: number;
  readonly firstPiece: number;
  readonly lastPiece: number;
}

/** mm of wall that noise may bend by up to that many degrees. */
const STRETCH = 1;
const STRETCH_BEND = 12;

/**
 * The primary axial wall: the first steep piece from the finish line that is long enough not to be part of the curve
 * between floor and wall, with the pieces after it for as long as the direction bends by less than 8°.
 */
export function findWall(pieces: readonly Piece[], sums: LineSums): WallRange | null {
  const steep = (p: Piece): boolean => Math.abs(p.angle - 90) <= THRESHOLDS.wallWithin_deg;
  const longest = Math.max(0, ...pieces.filter(steep).map((p) => p.length));
  if (longest < 0.4) return null;
  let first = pieces.findIndex((p) => steep(p) && p.length >= Math.max(0.4, 0.2 * longest));
  // The curve between floor and wall steepens on its way up, a second plane flattens: what is followed by a longer and
  // steeper piece is still curve.
  while (
    first + 1 < pieces.length &&
    steep(pieces[first + 1]) &&
    pieces[first + 1].angle > pieces[first].angle + 3 &&
    pieces[first + 1].length > pieces[first].length
  )
    first++;
  // Scan noise bends a stretch of less than a millimetre by more than a wall may bend: a short first piece before a much longer one
  // of nearly its direction is such a stretch …
  const after = pieces[first + 1];
  if (
    after &&
    steep(after) &&
    pieces[first].length < STRETCH &&
    after.length > 2 * pieces[first].length &&
    Math.abs(after.angle - pieces[first].angle) < STRETCH_BEND
  )
    first++;
  let end = pieces[first].to;
  let last = first;
  while (last + 1 < pieces.length) {
    const bend = (q: Piece): number => Math.abs(q.angle - lineAngleInward(sums, pieces[first].from, end));
    const next = pieces[last + 1];
    // … and so is one in its middle, behind which the wall goes on as before.
    const beyond: Piece | undefined = pieces[last + 2];
    if (bend(next) < THRESHOLDS.wallBend_deg) last++;
    else if (next.length < STRETCH && beyond && beyond.length >= 0.5 && bend(beyond) < THRESHOLDS.wallBend_deg / 2) last += 2;
    else break;
    end = pieces[last].to;
  }
  // A start piece that hardly bends belongs to the wall as well (a straight wall split by noise).
  let begin = pieces[first].from;
  let firstPiece = first;
  while (
    firstPiece > 0 &&
    pieces[firstPiece - 1].length >= 0.4 &&
    Math.abs(pieces[firstPiece - 1].angle - lineAngleInward(sums, begin, end)) < 4
  )
    begin = pieces[--firstPiece].from;
  return { from: begin, to: end, lastPiece: last, firstPiece };
}

/** Wall of a profile whose floor begins at a point of it: `begin.z` is its height, `begin.index` the first of the profile's points on it. */
export function describeWall(
  p: Points,
  sums: LineSums,
  pieces: readonly Piece[],
  range: WallRange,
  begin: { readonly z: number; readonly index: number },
  sigma: number,
  planes: boolean,
): Wall | null {
  const trim = range.to - range.from > 10 ? 2 : range.to - range.from > 6 ? 1 : 0;
  const from = range.from + trim;
  const to = range.to - trim;
  const line = sums.line(from, to);
  const lean = (Math.atan2(-line.dx, line.dy) * 180) / Math.PI;
  const length = (to - from) * STEP;
  const independent = Math.max(3, length / PATCH);
  const u = ((Math.max(line.rms, 0.5 * sigma) * Math.sqrt(12 / independent)) / length) * (180 / Math.PI);
  // Floor: straight when one piece makes up most of the way to the wall; then floor and wall lines meet at the foot.
  const way = Math.max(STEP, (range.from - begin.index) * STEP);
  const first = pieces.findIndex((q) => q.from >= begin.index - 1);
  const main = first >= 0 && range.firstPiece > first && Math.abs(pieces[first].angle) < 60 ? pieces[first] : null;
  const straight = main !== null && main.length >= 0.5 * way && main.to - main.from >= 4;
  // Curved floor (chamfer) or none: the wall line carried down to the floor's lowest level.
  let low = begin.z;
  for (let i = begin.index; i < range.from; i++) low = Math.min(low, p.z[i]);
  const level = Math.max(low, begin.z - 0.05);
  const levelFoot = { r: line.x + ((level - line.y) / (line.dy || 1e-9)) * line.dx, z: level };
  const floor = straight && main ? sums.line(main.from + 1, main.to) : null;
  const corner = floor && intersect(line, floor);
  const top = planes ? endOfSide(p, line, range.to, sums, sigma) : endOfWall(p, line, sums, pieces, range.lastPiece);
  return {
    line,
    from,
    to,
    lean,
    u,
    leavesZ: leavingPlace(p, line, from, begin.index, sigma),
    foot: corner ? { r: corner[0], z: corner[1] } : levelFoot,
    levelFoot,
    floorBow: straight && main ? bowOf(p, main.from + 1, main.to) : null,
    floorRise: floor && Math.atan2(floor.dy, -floor.dx),
    top,
    floorIsStraight: straight,
  };
}

/** Height of the last point, down from the fitted ones, that keeps to the line: the mean of two lies within one standard deviation of it. */
function leavingPlace(p: Points, line: Line, from: number, least: number, sigma: number): number {
  const off = (i: number): number => (p.r[i] - line.x) * line.dy - (p.z[i] - line.y) * line.dx;
  let i = from;
  while (i > least + 1 && Math.abs(off(i - 1) + off(i - 2)) < 2 * sigma) i--;
  return p.z[i];
}

/** Depth of the middle third's mean under the line through the outer thirds' means, as a share of the chord. */
function bowOf(p: Points, from: number, to: number): number {
  const third = Math.max(1, Math.floor((to - from) / 3));
  const mean = (a: number, b: number): [number, number] => [meanOf(p.r, a, b), meanOf(p.z, a, b)];
  const [r0, z0] = mean(from, from + third);
  const [r1, z1] = mean(from + third, to - third);
  const [r2, z2] = mean(to - third, to);
  const chord = Math.hypot(r2 - r0, z2 - z0);
  // Inward is −r: a floor that curves up has its middle on the left of the way back out.
  const under = chord > 0 ? ((r0 - r2) * (z0 - z1) - (z0 - z2) * (r0 - r1)) / chord : 0;
  return under / (Math.hypot(p.r[to - 1] - p.r[from], p.z[to - 1] - p.z[from]) || 1);
}

/** Half window, in steps, over which the direction of a profile is taken at one place. */
const TANGENT = 3;

/** Steps before the wall's end from which on its turning is watched. */
const BEFORE = 4;

/** Degrees from upright at which a side has become the occlusal surface (docs/decisions/0004). */
export const TURNED = 45;

/** Where the side, second planes and bevels included, has turned by 45° from upright. */
function endOfSide(p: Points, wall: Line, wallEnd: number, sums: LineSums, sigma: number): Wall['top'] {
  // Beyond the highest point the profile only falls towards the middle.
  const n = 1 + p.z.indexOf(Math.max(...p.z));
  const turned = (i: number): number =>
    Math.abs(lineAngleInward(sums, Math.max(0, i - TANGENT), Math.min(p.r.length, i + TANGENT + 1)) - 90) - TURNED;
  let before = Number.NEGATIVE_INFINITY;
  for (let i = Math.max(1, wallEnd - BEFORE); i < n; i++) {
    const now = turned(i);
    if (now >= 0) {
      const f = before < 0 && Number.isFinite(before) ? now / (now - before) : 0;
      const [r, z] = [p.r[i] + f * (p.r[i - 1] - p.r[i]), p.z[i] + f * (p.z[i - 1] - p.z[i])];
      return { r, z, index: i, u: Math.hypot(sagAt(r, z, i, wall, sums, p.r.length), slackAt(i, n, turned, sigma)) };
    }
    before = now;
  }
  return { r: p.r[n - 1], z: p.z[n - 1], index: n - 1, u: STEP };
}

/** Steps past the edge between which the surface behind it is taken as straight. */
const BEHIND_FROM = 5;
const BEHIND_TO = 14;
/** Steps over which the turning at the edge is taken, and degrees per mm of noise by which a direction there is open. */
const TURNING = 3;
const DEGREES_PER_NOISE = 150;
/** Degrees of turning per step below which a slow turn is no slower. */
const SLOWEST = 0.5;

/** A quarter of the rounding's sag, between the place that has turned by 45° and the corner of the extended lines: half of it in U. */
function sagAt(r: number, z: number, i: number, wall: Line, sums: LineSums, n: number): number {
  if (i + BEHIND_FROM + 4 > n) return 0;
  const corner = intersect(wall, sums.line(i + BEHIND_FROM, Math.min(n, i + BEHIND_TO)));
  return corner ? Math.min(CORNER_MOST, Math.hypot(corner[0] - r, corner[1] - z)) / 4 : 0;
}

/** Where a side turns slowly, noise shifts the place at which it has turned by 45° far: noise of a direction over turning per mm. */
function slackAt(i: number, n: number, turned: (i: number) => number, sigma: number): number {
  const [a, b] = [Math.max(1, i - TURNING), Math.min(n - 1, i + TURNING)];
  if (b <= a) return 0;
  const perStep = Math.max(SLOWEST, Math.abs(turned(b) - turned(a)) / (b - a));
  return (STEP * DEGREES_PER_NOISE * sigma) / perStep;
}

/** mm of rounding across which wall and fossa are carried on to their corner. */
const CORNER_MOST = 0.6;

/** End of the primary wall where a fossa and no plane follows: the corner of the two, or the wall's last point where they have none. */
function endOfWall(p: Points, line: Line, sums: LineSums, pieces: readonly Piece[], lastPiece: number): Wall['top'] {
  const index = Math.min(p.r.length, pieces[lastPiece].to) - 1;
  const last = { r: p.r[index], z: p.z[index], index, u: STEP };
  // What is shorter may be the rounding itself.
  const fossa = pieces.slice(lastPiece + 1).find((q) => q.length >= 0.5);
  const corner = fossa && intersect(line, sums.line(fossa.from, fossa.to));
  return corner && Math.hypot(corner[0] - last.r, corner[1] - last.z) <= CORNER_MOST
    ? { r: corner[0], z: corner[1], index, u: Math.hypot(corner[0] - last.r, corner[1] - last.z) / 4 }
    : last;
}
