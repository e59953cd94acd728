import { intersect, LineSums } from '../polyline.ts';
import { refineEdge } from './edge-fit.ts';
import { lineAngleInward, type Piece, sigmaOf } from './pieces.ts';
import type { Profile } from './profile.ts';
import { describeWall, findWall } from './wall.ts';

/** mm and degrees: what runs in from the edge is a bevel when it is this long, stands so far off the long axis and turns this much into what follows. */
const LENGTH = [0.15, 1.2] as const;
const TO_AXIS = [20, 75] as const;
const TURN = 15;
/** Half planes on each side that say together whether a margin is bevelled there: noise alone bends the first of a floor now and then. */
const VOTERS = 10;
/** mm from the bevel's last point within which its corner lies. */
const CORNER_MOST = 0.3;
/** Steps past a bevel's corner over which the floor's direction there is taken. */
const LEAVING = 5;

/** A bevel between the finish line and the floor: the first straight piece, before the surface flattens (a chamfer steepens). */
export function rimOf(p: Profile): Piece | null {
  const [first, second] = p.pieces;
  if (!first || !second || first.length < LENGTH[0] || first.length > LENGTH[1]) return null;
  const lean = leanOf(first);
  return lean >= TO_AXIS[0] && lean <= TO_AXIS[1] && first.angle - second.angle >= TURN ? first : null;
}

/** Degrees of a bevel to the long axis. */
export const leanOf = (rim: Piece): number => Math.abs(90 - Math.abs(rim.angle));

/** Where a bevel, which ends before point `end` of its profile, meets what follows; its last point where they have no corner near. */
export function cornerOver({ r, z, pieces }: Profile, end: number, sums: LineSums): { readonly r: number; readonly z: number } {
  const last = { r: r[end - 1], z: z[end - 1] };
  const corner = intersect(sums.line(0, end), sums.line(pieces[1].from, pieces[1].to));
  return corner && Math.hypot(corner[0] - last.r, corner[1] - last.z) <= CORNER_MOST ? { r: corner[0], z: corner[1] } : last;
}

/** Where most half planes round about show a bevel, the edge is where the bevel runs out, and floor and foot are what lies over it. */
export function settleRims(profiles: readonly (Profile | null)[], noise: number, planes: (k: number) => boolean): (Profile | null)[] {
  const n = profiles.length;
  const ends = profiles.map((p) => (p && rimOf(p)?.to) ?? null);
  if (ends.every((e) => e === null)) return [...profiles];
  return profiles.map((p, k) => {
    const end = ends[k];
    if (!p || end === null) return p;
    let [own, all] = [0, 0];
    for (let j = -VOTERS; j <= VOTERS; j++) {
      const i = (k + j + n) % n;
      if (!profiles[i]) continue;
      all++;
      if (ends[i] !== null) own++;
    }
    return own > all / 2 ? overRim(p, end, noise, planes(k)) : p;
  });
}

/** A profile read again with what lies outside of point `end` as its bevel. */
function overRim(p: Profile, end: number, noise: number, planes: boolean): Profile {
  const sums = new LineSums(p.r, p.z);
  const edge = refineEdge({ r: p.r, z: p.z, w: p.depth }, { w: p.outside.depth }, end, true);
  const range = findWall(p.pieces, sums);
  const there = range !== null && range.from >= end;
  const from = cornerOver(p, end, sums);
  return {
    ...p,
    finish: edge.finish,
    floor: edge.floor,
    floorFrom: there ? from : edge.finish,
    edgeRise: there ? Math.PI * (lineAngleInward(sums, end, Math.min(range.from + 1, end + LEAVING)) / 180) : edge.rise,
    wall:
      range &&
      describeWall(p, sums, p.pieces, range, there ? { ...from, index: end } : { ...edge.finish, index: 0 }, sigmaOf(noise), planes),
  };
}
