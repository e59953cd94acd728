import { THRESHOLDS } from '../../thresholds.ts';
import type { Chain } from '../cut.ts';
import { intersect, type Line, LineSums, resample, straightPieces, unfolded } from '../polyline.ts';

/** One straight piece of a profile, seen from the finish line inward: 0° runs inward, 90° runs occlusally. */
export interface Piece {
  readonly from: number;
  readonly to: number;
  readonly angle: number;
  readonly length: number;
}

/** What one half plane shows of a crown preparation, from the finish line inward, in (r, z) of the tooth frame. */
export interface Profile {
  /** degrees */
  readonly azimuth: number;
  /** Points from the finish line inward, `STEP` mm apart. */
  readonly r: readonly number[];
  readonly z: readonly number[];
  readonly depth: readonly number[];
  /** Points outside of the finish line, outward from it. */
  readonly outside: { readonly r: readonly number[]; readonly z: readonly number[]; readonly depth: readonly number[] };
  readonly pieces: readonly Piece[];
  /** Refined edge. */
  readonly finish: { readonly r: number; readonly z: number; readonly u: number };
  /** Direction of the floor at the edge, pointing inward (unit, in r and z). */
  readonly floor: { readonly dr: number; readonly dz: number };
  /** Direction in which the floor leaves the edge, a curved one too: 0 is level, + rises inward. Radians. */
  readonly edgeRise: number;
  readonly wall: Wall | null;
}

export interface Wall {
  readonly line: Line;
  /** Index range in the profile's points that the line was fitted to. */
  readonly from: number;
  readonly to: number;
  /** Lean to the long axis, degrees, + converging occlusally. */
  readonly lean: number;
  /** Standard uncertainty of the lean from noise, degrees. */
  readonly u: number;
  /** Where floor and wall line meet. */
  readonly foot: { readonly r: number; readonly z: number };
  /** Where the wall line, carried down, reaches the floor's level: the foot of a curved floor that leaves its edge level. */
  readonly levelFoot: { readonly r: number; readonly z: number };
  /** How far the floor's main piece sags under its own chord, as a share of it: about 0.04 for the lower half of a quarter circle. */
  readonly floorBow: number | null;
  /** Direction of a straight floor, inward: 0 is level, + rises. Radians. */
  readonly floorRise: number | null;
  /** Occlusoaxial edge: end of all wall pieces. */
  readonly top: { readonly r: number; readonly z: number; readonly index: number };
  readonly floorIsStraight: boolean;
}

/** mm between the points of a profile. */
export const STEP = 0.06;
/** mm: distance over which scan noise is shared; a fit's points nearer than this do not count twice. */
const PATCH = 0.3;

/**
 * Reads the profile at one azimuth; null when no prepared stretch with an outer end crosses this half plane. `planes` says
 * whether steep pieces after the primary wall belong to the side (second planes, bevels) or not (the fossa of an anterior tooth).
 */
export function readProfile(azimuth: number, chains: readonly Chain[], tau: number, noise: number, planes = true): Profile | null {
  const found = preparedStretch(chains, tau);
  if (!found) return null;
  const { inward, outward } = found;
  const p = unfolded(resample(inward.r, inward.z, inward.value, STEP, 14), 0.8 * STEP, 4, 40);
  if (p.r.length < 8) return null;
  const o = unfolded(resample(outward.r, outward.z, outward.value, STEP, 1.2), 0.8 * STEP, 4, 40);
  const sums = new LineSums(p.r, p.z);
  const sigma = Math.max(noise, 0.01);
  const cuts = straightPieces(sums, 14 * sigma * sigma, 4);
  const pieces: Piece[] = [];
  for (let i = 0; i + 1 < cuts.length; i++) {
    const l = sums.line(cuts[i], cuts[i + 1]);
    // Inward is −r: measured so that the floor is near 0° and the wall near 90°.
    pieces.push({
      from: cuts[i],
      to: cuts[i + 1],
      angle: (Math.atan2(l.dy, -l.dx) * 180) / Math.PI,
      length: (cuts[i + 1] - cuts[i]) * STEP,
    });
  }
  const wallRange = findWall(pieces, sums);
  const floorEnd = wallRange ? wallRange.from : Math.min(p.r.length, 12);
  const edge = refineEdge(p, o, floorEnd);
  const wall = wallRange ? describeWall(p, sums, pieces, wallRange, edge.finish, sigma, planes) : null;
  return {
    azimuth,
    r: p.r,
    z: p.z,
    depth: p.w,
    outside: { r: o.r, z: o.z, depth: o.w },
    pieces,
    finish: edge.finish,
    floor: edge.floor,
    edgeRise: edge.rise,
    wall,
  };
}

interface Line3 {
  r: number[];
  z: number[];
  value: number[];
}

/** mm of hole that a profile is carried across, and across which its edge may still lie. */
const GAP = 1;
const EDGE_GAP = 0.15;

/** The chain carried on over holes of the scan at both of its ends; `bridges` holds each index whose point lies beyond a hole from the one before. */
function bridged(chain: Chain, all: readonly Chain[]): { r: number[]; z: number[]; value: number[]; bridges: ReadonlySet<number> } {
  const free = new Set(all.filter((c) => c !== chain));
  let joined = [{ chain, reverse: false }];
  const end = (c: Chain, last: boolean): [number, number] => (last ? [c.r[c.r.length - 1], c.z[c.z.length - 1]] : [c.r[0], c.z[0]]);
  for (const atEnd of [true, false])
    for (;;) {
      const tip = joined[atEnd ? joined.length - 1 : 0];
      const from = end(tip.chain, atEnd !== tip.reverse);
      let next: { chain: Chain; reverse: boolean } | null = null;
      let least = GAP;
      for (const c of free)
        for (const last of [false, true]) {
          const to = end(c, last);
          const d = Math.hypot(to[0] - from[0], to[1] - from[1]);
          if (d >= least) continue;
          least = d;
          next = { chain: c, reverse: atEnd === last };
        }
      if (!next) break;
      free.delete(next.chain);
      joined = atEnd ? [...joined, next] : [next, ...joined];
    }
  const out = { r: [] as number[], z: [] as number[], value: [] as number[], bridges: new Set<number>() };
  for (const { chain: c, reverse } of joined) {
    if (out.r.length) out.bridges.add(out.r.length);
    for (let i = 0; i < c.r.length; i++) {
      const k = reverse ? c.r.length - 1 - i : i;
      out.r.push(c.r[k]);
      out.z.push(c.z[k]);
      out.value.push(c.value[k]);
    }
  }
  return out;
}

/** The chain that holds most of the preparation, split at its outermost crossing of τ. */
function preparedStretch(chains: readonly Chain[], tau: number): { inward: Line3; outward: Line3 } | null {
  let best: { chain: Chain; length: number } | null = null;
  for (const chain of chains) {
    let length = 0;
    for (let i = 1; i < chain.r.length; i++)
      if (chain.value[i] > tau && chain.value[i - 1] > tau) length += Math.hypot(chain.r[i] - chain.r[i - 1], chain.z[i] - chain.z[i - 1]);
    if (length > (best?.length ?? 0.4)) best = { chain, length };
  }
  if (!best) return null;
  const { r, z, value, bridges } = bridged(best.chain, chains);
  const n = r.length;
  const reverse = meanOf(r, 0, Math.ceil(n / 8)) > meanOf(r, n - Math.ceil(n / 8), n);
  const at = (i: number): number => (reverse ? n - 1 - i : i);
  // Outermost prepared point that has a fair stretch of preparation behind it.
  let last = -1;
  let run = 0;
  for (let i = 1; i < n; i++) {
    run = value[at(i)] > tau ? run + Math.hypot(r[at(i)] - r[at(i - 1)], z[at(i)] - z[at(i - 1)]) : 0;
    if (run > 0.25) last = i;
  }
  if (last < 2 || last > n - 2) return null;
  const a = at(last);
  const b = at(last + 1);
  // Where the hole took the edge itself nobody saw a finish line.
  if (bridges.has(Math.max(a, b)) && Math.hypot(r[a] - r[b], z[a] - z[b]) > EDGE_GAP) return null;
  const f = Math.min(1, Math.max(0, (value[a] - tau) / (value[a] - value[b] || 1)));
  const start = [r[a] + f * (r[b] - r[a]), z[a] + f * (z[b] - z[a])];
  const inward: Line3 = { r: [start[0]], z: [start[1]], value: [tau] };
  for (let i = last; i >= 0; i--) {
    inward.r.push(r[at(i)]);
    inward.z.push(z[at(i)]);
    inward.value.push(value[at(i)]);
  }
  const outward: Line3 = { r: [start[0]], z: [start[1]], value: [tau] };
  for (let i = last + 1; i < n; i++) {
    outward.r.push(r[at(i)]);
    outward.z.push(z[at(i)]);
    outward.value.push(value[at(i)]);
  }
  return { inward, outward };
}

function meanOf(a: ArrayLike<number>, from: number, to: number): number {
  let s = 0;
  for (let i = from; i < to; i++) s += a[i];
  return s / (to - from);
}

/** mm of wall that noise may bend by up to that many degrees. */
const STRETCH = 1;
const STRETCH_BEND = 12;

/**
 * The primary axial wall: the first steep piece from the finish line that is long enough not to be part of the curve
 * between floor and wall, with the pieces after it for as long as the direction bends by less than 8°.
 */
function findWall(pieces: readonly Piece[], sums: LineSums): { from: number; to: number; lastPiece: number; firstPiece: number } | null {
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

const lineAngleInward = (sums: LineSums, from: number, to: number): number => {
  const l = sums.line(from, to);
  return (Math.atan2(l.dy, -l.dx) * 180) / Math.PI;
};

/**
 * Edge between floor and uncut surface: the floor's first 0.05–0.35 mm give position and depth as functions of arc length;
 * the edge is where the depth has run out to the level of the uncut surface outside.
 */
function refineEdge(p: { r: number[]; z: number[]; w: number[] }, o: { r: number[]; z: number[]; w: number[] }, floorEnd: number) {
  const uncut = o.w.slice(3, 11);
  const level = uncut.length >= 3 ? Math.max(-0.02, Math.min(0.02, uncut.reduce((s, v) => s + v, 0) / uncut.length)) : 0;
  const last = Math.max(4, Math.min(8, Math.floor(0.75 * floorEnd)));
  const s: number[] = [];
  const idx: number[] = [];
  for (let i = 1; i < Math.min(last, p.r.length); i++) {
    s.push(i * STEP);
    idx.push(i);
  }
  const quadratic = s.length >= 5;
  const fit = (v: readonly number[]): readonly [number, number, number] =>
    quadratic
      ? fitQuadratic(
          s,
          idx.map((i) => v[i]),
        )
      : fitLinear(
          s,
          idx.map((i) => v[i]),
        );
  // On a curved floor the depth grows more slowly inward: a straight line through it would put the edge too far out.
  const d = quadratic
    ? fit(p.w)
    : fitLinear(
        s.slice(0, 4),
        idx.slice(0, 4).map((i) => p.w[i]),
      );
  const slope = Math.max(d[1], 0.05);
  const s0 = Math.max(-0.4, Math.min(0.12, rootNear(d, level, slope)));
  const r = fit(p.r);
  const z = fit(p.z);
  const value = (c: readonly [number, number, number], t: number): number => c[0] + c[1] * t + c[2] * t * t;
  const middle = 0.1;
  const dr = r[1] + 2 * r[2] * middle;
  const dz = z[1] + 2 * z[2] * middle;
  const l = Math.hypot(dr, dz) || 1;
  const linear = [
    fitLinear(
      s,
      idx.map((i) => p.r[i]),
    ),
    fitLinear(
      s,
      idx.map((i) => p.z[i]),
    ),
  ];
  // Far outside its points the quadratic is not to be trusted: the straight continuation is used there.
  const [er, ez] = s0 < -0.15 ? [value(linear[0], s0), value(linear[1], s0)] : [value(r, s0), value(z, s0)];
  return {
    finish: { r: er, z: ez, u: Math.min(0.2, 0.008 / slope) },
    floor: { dr: dr / l, dz: dz / l },
    rise: Math.atan2(z[1] + 2 * z[2] * s0, -(r[1] + 2 * r[2] * s0)),
  };
}

/** Where a + bs + cs² comes down to `level`, starting from the straight continuation. */
function rootNear(d: readonly [number, number, number], level: number, slope: number): number {
  let s = -(d[0] - level) / slope;
  for (let i = 0; i < 4; i++) {
    const g = Math.max(0.5 * slope, d[1] + 2 * d[2] * s);
    s -= (d[0] + d[1] * s + d[2] * s * s - level) / g;
  }
  return s;
}

function fitLinear(s: readonly number[], v: readonly number[]): readonly [number, number, number] {
  const n = s.length;
  const ms = s.reduce((a, b) => a + b, 0) / n;
  const mv = v.reduce((a, b) => a + b, 0) / n;
  let ss = 0;
  let sv = 0;
  for (let i = 0; i < n; i++) {
    ss += (s[i] - ms) ** 2;
    sv += (s[i] - ms) * (v[i] - mv);
  }
  const b = ss > 0 ? sv / ss : 0;
  return [mv - b * ms, b, 0];
}

function fitQuadratic(s: readonly number[], v: readonly number[]): readonly [number, number, number] {
  // Orthogonal polynomials over the points: stable and without a general solver.
  const [a0, a1] = fitLinear(s, v);
  const q0 = fitLinear(
    s,
    s.map((t) => t * t),
  );
  let num = 0;
  let den = 0;
  for (let i = 0; i < s.length; i++) {
    const e = s[i] * s[i] - (q0[0] + q0[1] * s[i]);
    num += e * (v[i] - (a0 + a1 * s[i]));
    den += e * e;
  }
  const c = den > 0 ? num / den : 0;
  return [a0 - c * q0[0], a1 - c * q0[1], c];
}

function describeWall(
  p: { r: number[]; z: number[] },
  sums: LineSums,
  pieces: readonly Piece[],
  range: { from: number; to: number; firstPiece: number; lastPiece: number },
  finish: { r: number; z: number },
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
  const way = Math.max(STEP, range.from * STEP);
  const main = range.firstPiece > 0 && Math.abs(pieces[0].angle) < 60 ? pieces[0] : null;
  const straight = main !== null && main.length >= 0.5 * way && main.to - main.from >= 4;
  // Curved floor (chamfer) or none: the wall line carried down to the floor's lowest level.
  let low = finish.z;
  for (let i = 0; i < range.from; i++) low = Math.min(low, p.z[i]);
  const level = Math.max(low, finish.z - 0.05);
  const levelFoot = { r: line.x + ((level - line.y) / (line.dy || 1e-9)) * line.dx, z: level };
  const floor = straight && main ? sums.line(main.from + 1, main.to) : null;
  const corner = floor && intersect(line, floor);
  const top = planes ? endOfSide(p, range.to, sums) : endOfWall(p, line, sums, pieces, range.lastPiece);
  return {
    line,
    from,
    to,
    lean,
    u,
    foot: corner ? { r: corner[0], z: corner[1] } : levelFoot,
    levelFoot,
    floorBow: straight && main ? bowOf(p, main.from + 1, main.to) : null,
    floorRise: floor && Math.atan2(floor.dy, -floor.dx),
    top,
    floorIsStraight: straight,
  };
}

/** Depth of the middle third's mean under the line through the outer thirds' means, as a share of the chord. */
function bowOf(p: { r: number[]; z: number[] }, from: number, to: number): number {
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
const TURNED = 45;

/** Where the side, second planes and bevels included, has turned by 45° from upright. */
function endOfSide(p: { r: number[]; z: number[] }, wallEnd: number, sums: LineSums): Wall['top'] {
  // Beyond the highest point the profile only falls towards the middle.
  const n = 1 + p.z.indexOf(Math.max(...p.z));
  const turned = (i: number): number =>
    Math.abs(lineAngleInward(sums, Math.max(0, i - TANGENT), Math.min(p.r.length, i + TANGENT + 1)) - 90) - TURNED;
  let before = Number.NEGATIVE_INFINITY;
  for (let i = Math.max(1, wallEnd - BEFORE); i < n; i++) {
    const now = turned(i);
    if (now >= 0) {
      const f = before < 0 && Number.isFinite(before) ? now / (now - before) : 0;
      return { r: p.r[i] + f * (p.r[i - 1] - p.r[i]), z: p.z[i] + f * (p.z[i - 1] - p.z[i]), index: i };
    }
    before = now;
  }
  return { r: p.r[n - 1], z: p.z[n - 1], index: n - 1 };
}

/** mm of rounding across which wall and fossa are carried on to their corner. */
const CORNER_MOST = 0.6;

/** End of the primary wall where a fossa and no plane follows: the corner of the two, or the wall's last point where they have none. */
function endOfWall(p: { r: number[]; z: number[] }, line: Line, sums: LineSums, pieces: readonly Piece[], lastPiece: number): Wall['top'] {
  const index = Math.min(p.r.length, pieces[lastPiece].to) - 1;
  const last = { r: p.r[index], z: p.z[index], index };
  // What is shorter may be the rounding itself.
  const fossa = pieces.slice(lastPiece + 1).find((q) => q.length >= 0.5);
  const corner = fossa && intersect(line, sums.line(fossa.from, fossa.to));
  return corner && Math.hypot(corner[0] - last.r, corner[1] - last.z) <= CORNER_MOST ? { r: corner[0], z: corner[1], index } : last;
}
