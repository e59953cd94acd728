// What is true of the cut surface of the family "implicit": how deep it lies under the uncut tooth, how it runs and how near it comes to its neighbours, found on the functions themselves.
import type { Vec3 } from '#core/linalg/vec.ts';
import { bisected } from './bisected.ts';
import type { Truth } from './case.ts';
import { axialDepths, CUSP_REACH, depthQuantiles, grooveZone, UNCUT_FROM, type WallPlace } from './depth-zones.ts';
import { finishHeight, type ImplicitCrown, ledgeAt, middleOf, prepared, stumpOf } from './implicit-crown.ts';
import { type Body, gradient } from './implicit-mesh.ts';
import { type ImplicitTooth, landmarks, neighbours, normalOf, shaft, uncut } from './implicit-tooth.ts';
import { formTruths, type OcclusalPlace, type Place, resistanceTruths, wanderTruths } from './shape-truths.ts';

const RAD = Math.PI / 180;
/** Degrees and mm between the places of a wall, mm between those of a zone's grid. */
const TURN = 3;
const RISE = 0.12;
const GRID = 0.12;
const TRIES = 25;
/** mm between places for the occlusal form and for gaps. */
const FORM_GRID = 0.25;
const GAP_STEP = 0.15;
/** mm under the ledge's rim at which the tooth's side is looked at. */
const UNDER = 0.002;
/** mm over the finish line from which on a wall may have turned. */
const BEFORE_TURN = 1.2;
/** mm from the axis beyond which no tooth reaches. */
const FARTHEST = 9;

/** The nearest place of a body's surface, looked for from each of these places. */
export function wayTo(body: Body, p: Vec3, starts: readonly Vec3[]): { distance: number; at: Vec3 } {
  let best = { distance: Infinity, at: starts[0] };
  for (const start of starts) {
    let q: Vec3 = start;
    for (let i = 0; i < TRIES; i++) {
      const n = normalOf(body, q);
      const d = [p[0] - q[0], p[1] - q[1], p[2] - q[2]];
      const along = d[0] * n[0] + d[1] * n[1] + d[2] * n[2];
      // Half of the way along the surface towards the place, and back onto the surface.
      q = onto(body, [q[0] + (d[0] - along * n[0]) / 2, q[1] + (d[1] - along * n[1]) / 2, q[2] + (d[2] - along * n[2]) / 2]);
    }
    const distance = Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
    if (distance < best.distance) best = { distance, at: q };
  }
  return best;
}

/** The surface along the gradient, by steps of the function over its slope. */
function onto(body: Body, from: Vec3): Vec3 {
  let q = from;
  for (let i = 0; i < 4; i++) {
    const g = gradient(body, q);
    const step = -body(...q) / (g[0] ** 2 + g[1] ** 2 + g[2] ** 2);
    q = [q[0] + step * g[0], q[1] + step * g[1], q[2] + step * g[2]];
  }
  return q;
}

/** The smallest gap between what is left of the tooth and its neighbour, over both gums, by side. */
function gapTruths(t: ImplicitTooth, c: ImplicitCrown, left: Body): Truth[] {
  const beside = neighbours(t);
  return (['mesial', 'distal'] as const).map((side): Truth => {
    const s = side === 'mesial' ? 1 : -1;
    const out = (y: number, z: number): number => bisected((q) => left(s * q, y, z), 0, FARTHEST);
    let least = Infinity;
    const look = (y: number, z: number): void => {
      const x = out(y, z);
      if (x < t.md / 4) return;
      const to = bisected((q) => -beside[side](s * (x + q), y, z), 0, 4);
      if (to < 3.9) least = Math.min(least, wayTo(beside[side], [s * x, y, z], [[s * (x + to), y, z]]).distance);
    };
    for (let y = -t.fl / 2; y < t.fl / 2; y += GAP_STEP) {
      // The ledge's rim stands out farthest of all that is cut.
      let rim = 0;
      for (let i = 0; i < 20; i++) rim = ledgeAt(c, s * out(y, rim - UNDER), y);
      const lowest = rim - c.over + Math.min(UNCUT_FROM, c.over - UNDER);
      for (let z = rim - UNDER; z >= lowest - UNDER; z -= GAP_STEP) look(y, z);
      for (let z = rim; z < t.h; z += GAP_STEP) look(y, z);
    }
    return { name: 'contact.broken', zone: side, stat: 'min', value: least };
  });
}

export function surfaceTruths(t: ImplicitTooth, c: ImplicitCrown): Truth[] {
  // Where a hollowed lingual wall ends, and a ledge that runs out on a bevel begins, are a matter of words.
  if (c.incisal || c.bevel || c.rim) return [];
  const [tooth, left, stump] = [uncut(t), prepared(t, c), stumpOf(t, c)];
  const marks = landmarks(t);
  const o = middleOf(marks.gingivalMargin);
  const high = t.h + 1;
  const over = (body: Body, x: number, y: number): number => bisected((z) => body(x, y, z), t.h / 3, high);
  const starts = (p: Vec3, phi: number): Vec3[] => {
    const [sx, sy] = [Math.sin(phi * RAD), Math.cos(phi * RAD)];
    const out = bisected((r) => tooth(p[0] + r * sx, p[1] + r * sy, p[2]), 0, FARTHEST);
    return [
      [p[0] + out * sx, p[1] + out * sy, p[2]],
      [p[0], p[1], over(tooth, p[0], p[1])],
    ];
  };
  const uncutAt = (p: Vec3): { depth: number; uncut: Vec3 } => {
    const { distance, at } = wayTo(tooth, p, starts(p, Math.atan2(p[0] - o[0], p[1] - o[1]) / RAD));
    return { depth: distance, uncut: normalOf(tooth, at) };
  };
  const out: Truth[] = [];
  const walls: WallPlace[] = [];
  const upright: Place[] = [];
  const tops: number[] = [];
  const line: Vec3[] = [];
  for (let phi = 0; phi < 360; phi += TURN) {
    const [sx, sy] = [Math.sin(phi * RAD), Math.cos(phi * RAD)];
    // From outside: over its middle a tooth is hollow.
    const inward = (z: number): number => {
      let inside = FARTHEST;
      while (inside > 0 && left(o[0] + inside * sx, o[1] + inside * sy, z) >= 0) inside -= RISE;
      return inside;
    };
    const at = (z: number): Vec3 => {
      const body = (q: number): number => left(o[0] + q * sx, o[1] + q * sy, z);
      const inside = inward(z);
      const r = bisected(body, inside, inside + RISE);
      return [o[0] + r * sx, o[1] + r * sy, z];
    };
    const finish = finishHeight(t, c, o, phi);
    // Up the wall until it has turned by 45° in its half plane.
    const turned = (h: number): number => {
      const n = normalOf(stump, at(h));
      return n[2] - n[0] * sx - n[1] * sy;
    };
    let low = finish + BEFORE_TURN;
    while (turned(low + RISE) < 0) low += RISE;
    const top = bisected(turned, low, low + RISE);
    tops.push(top);
    const side = bisected((q) => shaft(t, o[0] + q * sx, o[1] + q * sy, finish), 0, FARTHEST);
    line.push([side * sx, side * sy, finish - o[2]]);
    for (let h = finish + RISE / 2; inward(h) > 0; h += RISE) {
      const p = at(h);
      const n = normalOf(stump, p);
      const r = Math.hypot(p[0] - o[0], p[1] - o[1]);
      const area = (r * TURN * RAD * RISE) / (n[0] * sx + n[1] * sy);
      if (n[2] <= 0.5) upright.push({ at: [p[0] - o[0], p[1] - o[1], p[2] - o[2]], normal: n, area });
      if (n[2] > 0.5 || h >= top || p[2] < ledgeAt(c, p[0], p[1]) + c.fillet) continue;
      walls.push({ phi, share: (p[2] - finish) / (top - finish), depth: wayTo(tooth, p, starts(p, phi)).distance, area });
    }
  }
  out.push(...axialDepths(walls), ...gapTruths(t, c, left));
  const finishAt = (phi: number): Vec3 => {
    const k = (((phi % 360) + 360) % 360) / TURN;
    const [a, b] = [line[Math.floor(k)], line[(Math.floor(k) + 1) % line.length]];
    const f = k - Math.floor(k);
    return [0, 1, 2].map((i) => a[i] + f * (b[i] - a[i])) as unknown as Vec3;
  };
  out.push(...resistanceTruths(upright, finishAt), ...wanderTruths(finishAt));
  const occlusal: OcclusalPlace[] = [];
  for (let x = -t.md / 2; x <= t.md / 2; x += FORM_GRID)
    for (let y = -t.fl / 2; y <= t.fl / 2; y += FORM_GRID) {
      if (left(x, y, t.h / 2) > 0) continue;
      const at: Vec3 = [x, y, over(left, x, y)];
      const normal = normalOf(stump, at);
      const k = Math.round((Math.atan2(x - o[0], y - o[1]) / RAD + 360) / TURN) % tops.length;
      if (normal[2] > 0.5 && at[2] > (line[k][2] + o[2] + tops[k]) / 2)
        occlusal.push({ at, normal, uncut: uncutAt(at).uncut, area: FORM_GRID ** 2 / normal[2] });
    }
  out.push(...formTruths(occlusal, marks.cusps));
  const zone = (
    name: string,
    [x0, x1]: readonly number[],
    [y0, y1]: readonly number[],
    inside: (x: number, y: number) => boolean,
  ): void => {
    const own: { depth: number; area: number }[] = [];
    for (let x = x0; x <= x1; x += GRID)
      for (let y = y0; y <= y1; y += GRID) {
        if (!inside(x, y) || left(x, y, t.h / 2) > 0) continue;
        const p: Vec3 = [x, y, over(left, x, y)];
        const n = normalOf(stump, p);
        if (n[2] <= 0.5) continue;
        own.push({ ...uncutAt(p), area: (GRID * GRID) / n[2] });
      }
    out.push(...depthQuantiles('reduction.occlusal', name, own));
  };
  for (const { name, at } of marks.cusps)
    zone(
      name,
      [at[0] - CUSP_REACH, at[0] + CUSP_REACH],
      [at[1] - CUSP_REACH, at[1] + CUSP_REACH],
      (x, y) => Math.hypot(x - at[0], y - at[1]) <= CUSP_REACH,
    );
  const groove = grooveZone(marks.groove);
  zone('central groove', groove.x, groove.y, groove.inside);
  return out;
}
