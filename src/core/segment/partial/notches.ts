import { azimuthOf } from '../../linalg/sectors.ts';
import { type Vec3, wrapDegrees } from '../../linalg/vec.ts';
import { closestPoint, newClosest, pseudoNormal, type Surface } from '../../spatial/surface.ts';
import { mean } from '../../statistics/quantile.ts';
import { at, type Contour, LEAST_DEPTH, REACH, underChords } from './contour.ts';
import { cornerOfRound, cornerOfSide, heightOver, lineThrough, type Place, roundCutter, wallAcross, widthAt } from './notch-shape.ts';

/** Least tangent of a notch’s sides against the wall: a wave of the hand is flatter. */
const STEEP = 0.45;

/** mm RMS: a wall beside a notch that lies farther off a straight line has a step in it. */
const STRAIGHT = 0.03;

/** mm over which a side's steepness is taken. */
const LOOK = 0.2;

/** mm beyond a lip between which the wall's own direction is taken. */
const BESIDE = [0.15, 0.9] as const;

export interface Notch {
  readonly z: number;
  readonly azimuth: number;
  readonly depth: number;
  readonly width: number;
  readonly bottom: Vec3;
  /** Middle of the cutter that left a round notch; of a box the middle of its bottom. */
  readonly middle: Vec3;
  /** Out of the notch; level, unit. */
  readonly out: readonly [number, number];
}

/** Notches of one contour: places under the chord of their surroundings whose two sides are steep and end in lips. */
export function notchesOf(line: Contour, z: number, master: Surface<'tooth'>, noise: number): Notch[] {
  const under = underChords(line);
  const out: Notch[] = [];
  for (let k = 0; k < line.length; k++) {
    if (under[k] < LEAST_DEPTH) continue;
    let highest = true;
    for (let j = -4; j <= 4 && highest; j++) if ((under[k + j] ?? 0) > under[k]) highest = false;
    if (!highest) continue;
    const notch = notchAt(line, k, z, master, noise);
    if (!notch) continue;
    // A step beside a groove makes a wider notch of both: the narrower one is the groove.
    const same = out.findIndex((n) => Math.abs(wrapDegrees(n.azimuth - notch.azimuth)) < SAME);
    if (same < 0) out.push(notch);
    else if (notch.width < out[same].width) out[same] = notch;
  }
  return out;
}

function notchAt(line: Contour, k: number, z: number, master: Surface<'tooth'>, noise: number): Notch | null {
  const c = at(line, k) as readonly [number, number];
  // Steep is meant against the tooth's own side: a step across the wall has one side that runs along with it.
  const hit = newClosest();
  const normal: [number, number, number] = [0, 0, 0];
  closestPoint(master, c[0], c[1], z, hit);
  pseudoNormal(master, hit, normal);
  const l0 = Math.hypot(normal[0], normal[1]);
  if (l0 < 0.3) return null;
  const first = [normal[1] / l0, -normal[0] / l0] as const;
  const along = wallAbout(line, k, first);
  const out = [-along[1], along[0]] as const;
  const local = (q: readonly [number, number]): [number, number] => [
    (q[0] - c[0]) * along[0] + (q[1] - c[1]) * along[1],
    (q[0] - c[0]) * out[0] + (q[1] - c[1]) * out[1],
  ];
  const hands = ([1, -1] as const).flatMap((sign) => {
    const found = lip(line, k, sign, local);
    return found ? [{ sign, found, beyond: placesBeyond(line, k, sign, local, found) }] : [];
  });
  const [after, before] = hands;
  if (!after || !before) return null;
  const across = hands.every((h) => h.beyond.length >= LEAST_BEYOND)
    ? wallAcross(
        hands.flatMap((h) => h.beyond),
        STRAIGHT,
      )
    : null;
  const places: Place[] = [];
  for (let j = -before.found[2]; j <= after.found[2]; j++) {
    const q = at(line, k + j);
    if (q) places.push(local(q));
  }
  const rough = chordOf(after.found, before.found);
  const round =
    rough.length > WIDEST
      ? null
      : roundCutter(
          places.filter((q) => rough.under(q) > BLUNTED),
          noise,
        );
  const [e, b] = hands.map(({ sign, found, beyond }): Place => {
    const wall = across ?? wallBeyond(beyond, found);
    const seen: Place = [found[0], found[1]];
    const corner = round ? cornerOfRound(round, sign, wall) : cornerOfSide(places, sign, wall, seen);
    return Math.hypot(corner[0] - seen[0], corner[1] - seen[1]) < NEAR ? corner : seen;
  });
  const chord = chordOf(e, b);
  if (chord.length > 2 * REACH) return null;
  const middle: Place = round ? round.middle : [(e[0] + b[0]) / 2, (e[1] + b[1]) / 2];
  const depth = round ? chord.under(round.middle) + round.radius : bottomUnder(places, chord, middle);
  if (depth < LEAST_DEPTH) return null;
  // Out of a round notch its cutter's own sides show the way; out of another the way square to its chord.
  const [u, v] = round ? [-Math.sin(round.turn), Math.cos(round.turn)] : [-chord.way[1], chord.way[0]];
  const down = depth - chord.under(middle);
  const bottom: Place = [middle[0] - down * u, middle[1] - down * v];
  const placed = ([a, o]: Place): Vec3 => [c[0] + a * along[0] + o * out[0], c[1] + a * along[1] + o * out[1], z];
  const [outX, outY] = [u * along[0] + v * out[0], u * along[1] + v * out[1]];
  const at0 = placed(bottom);
  return {
    z,
    azimuth: azimuthOf(at0[0], at0[1]),
    depth,
    // A step beside the wall puts one lip farther out: a round notch is as wide as its cutter between them.
    width: round ? widthAt(round, mean([e, b].map((q) => heightOver(round, q)))) : chord.length,
    bottom: at0,
    // Of a box the sides tell where it runs, and the mean level of its bottom how deep.
    middle: round ? placed(middle) : at0,
    out: [outX, outY],
  };
}

/** mm by which a corner may stand off where the notch's side was seen to level out. */
const NEAR = 0.25;
/** mm: a wider notch is no single round cutter's; places less far under the lips are blunted by the scan. */
const WIDEST = 2;
const BLUNTED = 0.12;

/** The chord from the lip before to the lip after: its length, its way, and how far a place lies under it. */
function chordOf(after: readonly number[], before: readonly number[]) {
  const length = Math.hypot(after[0] - before[0], after[1] - before[1]);
  const way = [(after[0] - before[0]) / length, (after[1] - before[1]) / length] as const;
  return { length, way, under: ([u, v]: Place): number => (u - before[0]) * way[1] - (v - before[1]) * way[0] };
}

/** mm: a notch as wide as a box has a level bottom, whose middle half is its depth. */
const BOX = 1.6;

/** How far a notch's bottom lies under the chord: a box's middle half, a fifth of the places of a narrow one's. */
function bottomUnder(places: readonly Place[], chord: ReturnType<typeof chordOf>, middle: Place): number {
  const half = places.filter(([u, v]) => Math.abs((u - middle[0]) * chord.way[0] + (v - middle[1]) * chord.way[1]) < chord.length / 4);
  if (chord.length > BOX && half.length > 3) return mean(half.map(chord.under));
  // Fewer would be noise, more the sides.
  const deepest = places.map(chord.under).sort((p, q) => q - p);
  return mean(deepest.slice(0, Math.max(3, Math.round(places.length / 5))));
}

/** mm beyond a lip between which the wall is taken, and its places on one hand at the least. */
const WALL_FROM = [0.2, 0.75] as const;
const LEAST_BEYOND = 5;
/** Least tangent against the notch's own frame from which a surface beyond a lip is a step's and not the wall's. */
const LEVEL = 0.6;

/** The wall's places beyond the lip on one hand. */
function placesBeyond(
  line: Contour,
  k: number,
  sign: 1 | -1,
  local: (q: readonly [number, number]) => [number, number],
  found: readonly [number, number, number],
): Place[] {
  return Array.from({ length: 30 }, (_, i) => at(line, k + sign * (found[2] + 1 + i)))
    .flatMap((q) => (q ? [local(q)] : []))
    .filter(([u]) => sign * (u - found[0]) > WALL_FROM[0] && sign * (u - found[0]) < WALL_FROM[1]);
}

/** Level of the wall on one hand alone, by its line; of the lip itself where the wall is not straight there. */
function wallBeyond(beyond: readonly Place[], found: readonly [number, number, number]): (u: number) => number {
  if (beyond.length < LEAST_BEYOND) return () => found[1];
  const wall = lineThrough(beyond);
  return wall.off < STRAIGHT && Math.abs(wall.slope) < LEVEL ? wall.at : () => found[1];
}

/**
 * Direction of the wall about a notch: the mean of both sides' where both run straight on, so that a curved wall does not turn
 * it; of the lingual side alone where the other meets a step; `along` where too little was seen.
 */
function wallAbout(line: Contour, k: number, along: readonly [number, number]): readonly [number, number] {
  const c = at(line, k) as readonly [number, number];
  const lingual = azimuthOf(c[0], c[1]) < 180 ? 1 : -1;
  const own = wallBeside(line, k, along, lingual);
  if (!own) return along;
  const other = wallBeside(line, k, along, lingual === 1 ? -1 : 1);
  if (!other || other.off > STRAIGHT || own.off > STRAIGHT) return own.way;
  const [x, y] = [own.way[0] + other.way[0], own.way[1] + other.way[1]];
  const l = Math.hypot(x, y);
  return [x / l, y / l];
}

/** Direction of the wall beyond the notch's lip on one hand, and how far its places lie off that line; null when too little was seen. */
function wallBeside(
  line: Contour,
  k: number,
  along: readonly [number, number],
  sign: 1 | -1,
): { way: readonly [number, number]; off: number } | null {
  const c = at(line, k) as readonly [number, number];
  const local = (q: readonly [number, number]): [number, number] => [
    (q[0] - c[0]) * along[0] + (q[1] - c[1]) * along[1],
    -(q[0] - c[0]) * along[1] + (q[1] - c[1]) * along[0],
  ];
  const from = lip(line, k, sign, local);
  if (!from) return null;
  const wall = Array.from({ length: 60 }, (_, j) => at(line, k + sign * (j + 1)))
    .flatMap((q) => (q ? [local(q)] : []))
    .filter(([u]) => Math.abs(u - from[0]) > BESIDE[0] && Math.abs(u - from[0]) < BESIDE[1] && u * sign > from[0] * sign);
  if (wall.length < 5) return null;
  const { slope, off } = lineThrough(wall);
  const l = Math.hypot(1, slope);
  return { way: [(along[0] - slope * along[1]) / l, (along[1] + slope * along[0]) / l], off };
}

/** Where the notch's side on one hand levels out: (along, outward) from the bottom and how many places on; null when it has no steep side there. */
function lip(
  line: Contour,
  k: number,
  sign: 1 | -1,
  local: (q: readonly [number, number]) => [number, number],
): readonly [number, number, number] | null {
  // The side's places in order; a gap of a few may be a scanner's, a longer one ends the wall.
  const way: [number, number, number][] = [[0, 0, 0]];
  for (let j = 1, gap = 0; j < 60 && gap <= 3; j++) {
    const q = at(line, k + sign * j);
    if (!q) {
      gap++;
      continue;
    }
    gap = 0;
    const [u, v] = local(q);
    way.push([u, v, j]);
    if (Math.abs(u) > REACH) break;
  }
  let climbing = false;
  for (let i = 0; i < way.length; i++) {
    const [u, v] = way[i];
    const ahead = way.slice(i + 1).find((q) => Math.hypot(q[0] - u, q[1] - v) >= LOOK);
    // Steepness over a fifth of a millimetre: from place to place it would be noise.
    const steep = ahead !== undefined && ahead[1] - v > STEEP * Math.abs(ahead[0] - u);
    if (steep) climbing = true;
    else if (climbing && v > LEAST_DEPTH) {
      // The corner: the place that stands out most among the following points.
      const near = way.slice(i).filter((q) => Math.hypot(q[0] - u, q[1] - v) <= LOOK);
      const corner = near.reduce((a, b) => (b[1] - STEEP * Math.abs(b[0]) > a[1] - STEEP * Math.abs(a[0]) ? b : a));
      return corner;
    }
  }
  return null;
}

/** degrees within which two tracks at the same heights are one groove read twice. */
export const SAME = 25;
