import type { Vec3 } from '../../linalg/vec.ts';
import type { CavityParts } from '../cavity/cavity.ts';
import { type Loft, wallPoint } from '../cavity/loft.ts';
import type { Typodont } from '../typodont.ts';
import { edgeAt } from './edge-at.ts';
import type { Tell } from './truth.ts';

/** mm to either side of the axial wall within which channel and box run into each other; between places of the outline; over which it is seen to turn. */
const NEAR = 1.2;
const STEP = 0.02;
const WINDOW = 0.3;
/** Rise per mm of outline past which it runs down the tooth's side, and turn (radians) under which it has no corner. */
const STEEPEST = 0.75;
const LEAST_TURN = (12 * Math.PI) / 180;

/** Whether a place lies within a loft's walls, level with it. */
function isWithin(l: Loft, [x, y, z]: Vec3): boolean {
  const ring = l.plan.map((p, i) => wallPoint(l, i, Math.max(l.radius, z - l.floor(p.x, p.y))));
  let inside = false;
  ring.forEach((a, i) => {
    const b = ring[(i + 1) % ring.length];
    if (a[1] > y !== b[1] > y && x < a[0] + ((y - a[1]) / (b[1] - a[1])) * (b[0] - a[0])) inside = !inside;
  });
  return inside;
}

/** Tightest corner of the outline where the occlusal channel runs into each box: 0.3 mm over the largest turn in 0.3 mm, seen along the axis. */
export function stepTruth(t: Typodont, parts: CavityParts, tell: Tell): void {
  const { occlusal } = parts;
  if (!occlusal) return;
  for (const b of parts.boxes) {
    const s = b.recipe.side === 'mesial' ? 1 : -1;
    let most = 0;
    for (const side of [1, -1] as const) {
      const line = outlineOf(t, occlusal, b.loft, s, side);
      if (line)
        most = Math.max(
          most,
          largestTurn(line, (p) => Math.abs(p[0] - b.axialX(p[1])) < NEAR),
        );
    }
    if (most > LEAST_TURN) tell('outline.step', `box ${b.recipe.side}`, 'min', 'mm', WINDOW / most);
  }
}

const standsInTooth = (t: Typodont, l: Loft, i: number): boolean => {
  const [x, y, z] = wallPoint(l, i, l.radius);
  return t.target.inside(x, y, z) > 0;
};

/** The outline of channel and box together on one side (1 facial, −1 lingual): along the channel towards the box, then round the box. */
function outlineOf(t: Typodont, channel: Loft, box: Loft, s: 1 | -1, side: 1 | -1): Vec3[] | null {
  const first = channel.plan
    .flatMap((p, i) => (side * p.ny > 0.7 && standsInTooth(t, channel, i) ? [edgeAt(t, channel, i)] : []))
    .sort((p, q) => s * (p[0] - q[0]));
  // Round the box from the middle of its axial wall, the way that leads to this side.
  const n = box.plan.length;
  const middle = box.plan.reduce((sum, p) => sum + p.y, 0) / n;
  const axial = box.plan.reduce((best, p, i) => {
    const off = (q: typeof p): number => Math.abs(q.y - middle) + (s * q.nx < -0.7 ? 0 : 100);
    return off(p) < off(box.plan[best]) ? i : best;
  }, 0);
  const way = side * (box.plan[(axial + 1) % n].y - box.plan[axial].y) > 0 ? 1 : -1;
  const second: Vec3[] = [];
  for (let k = 0; k < n / 2; k++) {
    const i = (axial + way * k + n) % n;
    if (!standsInTooth(t, box, i)) break;
    second.push(edgeAt(t, box, i));
  }
  const until = first.findIndex((p) => isWithin(box, p));
  const from = second.findIndex((p) => !isWithin(channel, p));
  if (until < 2 || from < 1) return null;
  const [a, b, c, d] = [first[until - 1], first[until], second[from - 1], second[from]];
  // Where the two meet.
  const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], d[0] - c[0], d[1] - c[1]];
  const cross = ux * vy - uy * vx;
  if (Math.abs(cross) < 1e-12) return null;
  const f = ((c[0] - a[0]) * vy - (c[1] - a[1]) * vx) / cross;
  const meet: Vec3 = [a[0] + f * ux, a[1] + f * uy, a[2] + f * (b[2] - a[2])];
  return [...first.slice(0, until), meet, ...second.slice(from)];
}

/** Largest turn (radians) of a line's direction over 0.3 mm, seen along the axis, where it is looked at and runs level. */
function largestTurn(line: readonly Vec3[], isLookedAt: (p: Vec3) => boolean): number {
  const places: { p: Vec3; heading: number; level: boolean }[] = [];
  let left = 0;
  for (let i = 0; i + 1 < line.length; i++) {
    const [a, b] = [line[i], line[i + 1]];
    const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (!(long > 0)) continue;
    const heading = Math.atan2(b[1] - a[1], b[0] - a[0]);
    for (; left < long; left += STEP) {
      const f = left / long;
      const p: Vec3 = [a[0] + f * (b[0] - a[0]), a[1] + f * (b[1] - a[1]), a[2] + f * (b[2] - a[2])];
      places.push({ p, heading, level: Math.abs(b[2] - a[2]) < STEEPEST * long });
    }
    left -= long;
  }
  const apart = Math.round(WINDOW / STEP);
  let most = 0;
  for (let i = 0; i + apart < places.length; i++) {
    const { p, level } = places[i + (apart >> 1)];
    if (!level || !isLookedAt(p)) continue;
    const turn = places[i + apart].heading - places[i].heading;
    most = Math.max(most, Math.abs(Math.atan2(Math.sin(turn), Math.cos(turn))));
  }
  return most;
}
