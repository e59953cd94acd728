import { cross, type Vec3 } from '#core/linalg/vec.ts';
import { wavesOf } from './implicit-inner-truths.ts';
import { type Body, surfaceNets } from './implicit-mesh.ts';
import { type ImplicitTooth, landmarks, neighbours, normalOf, uncut } from './implicit-tooth.ts';
import type { Cut, Say } from './implicit-truths.ts';
import { emptySheet } from './scanner.ts';

type Box = Cut['boxes'][number];
const signOf = (b: Box): 1 | -1 => (b.side === 'mesial' ? 1 : -1);

/** Places of the neighbour's surface on the box's side. */
function neighbourPlaces(t: ImplicitTooth, b: Box): readonly number[] {
  const s = signOf(b);
  const sheet = emptySheet();
  const [near, far] = [t.md / 2 - 1.5, t.md / 2 + 3];
  surfaceNets(
    sheet,
    neighbours(t)[b.side],
    { from: [s === 1 ? near : -far, -t.fl / 2 - 1, 0.2], to: [s === 1 ? far : -near, t.fl / 2 + 1, t.h + 1.5] },
    0.09,
    () => 1,
  );
  return sheet.positions;
}

/** mm of an axial wall beside its neighbours that their rounding takes, and mm between the places that are looked at. */
const OFF = 0.1;
const PLACE = 0.1;

/** Spread of an axial wall's depth under the uncut tooth, over its plane between the box's side walls, its floor and the step over it. */
export function axialFormTruth(t: ImplicitTooth, c: Cut, b: Box, say: Say): void {
  const s = signOf(b);
  const sheet = emptySheet();
  surfaceNets(sheet, uncut(t), { from: [-t.md / 2 - 1, -t.fl / 2 - 1, -1], to: [t.md / 2 + 1, t.fl / 2 + 1, t.h + 2] }, 0.1, () => 1);
  const side = sheet.positions.filter((_, i) => s * sheet.positions[i - (i % 3)] > b.axial - 1);
  const tan = (degrees: number): number => Math.tan((degrees * Math.PI) / 180);
  const waves = wavesOf(c);
  const depths: number[] = [];
  for (let z = b.floor + c.fillet + OFF; z < c.floor - c.axiopulpal - OFF; z += PLACE) {
    const up = z - b.floor;
    const inset = c.line + OFF;
    for (let y = b.y - b.width / 2 + up * tan(b.lean.lingual) + inset; y < b.y + b.width / 2 - up * tan(b.lean.facial) - inset; y += PLACE)
      depths.push(gapTo(side, [s * (b.axial + up * tan(b.lean.axial) + waves(z)), y, z]));
  }
  depths.sort((p, q) => p - q);
  if (depths.length < 20) return;
  say('box.axialform', `box ${b.side}`, 'value', depths[Math.floor(0.95 * depths.length)] - depths[Math.floor(0.05 * depths.length)]);
}

const gapTo = (places: readonly number[], p: Vec3): number => {
  let best = Infinity;
  for (let i = 0; i < places.length; i += 3)
    best = Math.min(best, (places[i] - p[0]) ** 2 + (places[i + 1] - p[1]) ** 2 + (places[i + 2] - p[2]) ** 2);
  return Math.sqrt(best);
};

/** Gaps between each margin of a box and the neighbour; `edge` are the places of the cavosurface outline. */
export function gapTruths(t: ImplicitTooth, b: Box, taken: Body, edge: readonly Vec3[], say: Say): void {
  const s = signOf(b);
  const own = uncut(t);
  const around = neighbourPlaces(t, b);
  const margin = edge
    .filter((p) => s * p[0] - b.axial > 0.3)
    .map((p) => {
      const along = cross(normalOf(own, p), normalOf(taken, p));
      return { p, up: Math.abs(along[2]) / Math.hypot(...along) };
    });
  const gingival = margin.filter(({ p, up }) => up < 0.4 && p[2] - b.floor < 0.22);
  const rest = margin.filter((q) => !gingival.includes(q) && q.up > 0.5);
  for (const [which, places] of [
    ['gingival', gingival],
    ['facial', rest.filter(({ p }) => p[1] > b.y)],
    ['lingual', rest.filter(({ p }) => p[1] < b.y)],
  ] as const) {
    const gaps = places.map(({ p }) => gapTo(around, p)).sort((p, q) => p - q);
    if (gaps.length < 6) continue;
    say(`box.clearance.${which}`, `box ${b.side}`, 'min', gaps[0]);
    say(
      'box.gap.even',
      `box ${b.side} ${which}`,
      'value',
      gaps[Math.round(0.95 * (gaps.length - 1))] - gaps[Math.round(0.05 * (gaps.length - 1))],
    );
  }
}

/** mm: cell of the floor, height over it from which things stand in the way, thickness of a hatchet's blade. */
const CELL = 0.04;
const OVER = 0.2;
const BLADE = 0.5;

/** Widest round and longest flat instrument that reach the floor between walls and neighbour. */
export function instrumentTruths(t: ImplicitTooth, b: Box, taken: Body, say: Say): void {
  const s = signOf(b);
  const [own, beside] = [uncut(t), neighbours(t)[b.side]];
  const standsAt = (x: number, y: number): boolean => {
    for (let z = b.floor + OVER; z < t.h + 1.5; z += 0.1) if ((own(x, y, z) < 0 && taken(x, y, z) > 0) || beside(x, y, z) < 0) return true;
    return false;
  };
  const [nx, ny] = [Math.round(4.5 / CELL), Math.round((b.width + 2) / CELL)];
  const place = (i: number, j: number): readonly [number, number] => [s * (b.axial - 0.6 + i * CELL), b.y - b.width / 2 - 1 + j * CELL];
  const stands = Array.from({ length: nx }, (_, i) => Array.from({ length: ny }, (_, j) => standsAt(...place(i, j))));
  const edges: (readonly [number, number])[] = [];
  stands.forEach((row, i) => {
    row.forEach((is, j) => {
      if (is && [stands[i - 1]?.[j], stands[i + 1]?.[j], row[j - 1], row[j + 1]].some((q) => q === false)) edges.push(place(i, j));
    });
  });
  let [condenser, hatchet] = [0, 0];
  for (let i = 0; i < nx; i++) {
    let run = 0;
    for (let j = 0; j < ny; j++) {
      const [x, y] = place(i, j);
      const isFloor = s * x > b.axial && Math.abs(y - b.y) < b.width / 2 && own(x, y, b.floor) < 0;
      const free =
        isFloor && !stands[i][j] ? Math.sqrt(edges.reduce((d, q) => Math.min(d, (q[0] - x) ** 2 + (q[1] - y) ** 2), Infinity)) : 0;
      condenser = Math.max(condenser, 2 * free);
      run = free >= BLADE / 2 ? run + CELL : 0;
      if (run > 0) hatchet = Math.max(hatchet, run + BLADE);
    }
  }
  say('instrument.box.condenser', `box ${b.side}`, 'max', condenser);
  if (hatchet > 0) say('instrument.box.hatchet', `box ${b.side}`, 'max', hatchet);
}

/** Tilt of the floor to the plane through the cusp tips. */
export function cuspPlaneTruth(t: ImplicitTooth, c: Cut, say: Say): void {
  const tips = landmarks(t).cusps.map((q) => q.at);
  if (tips.length < 3 || c.dish > 0) return;
  const [mx, my, mz] = [0, 1, 2].map((k) => tips.reduce((sum, p) => sum + p[k], 0) / tips.length);
  let [xx, xy, yy, xz, yz] = [0, 0, 0, 0, 0];
  for (const [x, y, z] of tips) {
    xx += (x - mx) ** 2;
    xy += (x - mx) * (y - my);
    yy += (y - my) ** 2;
    xz += (x - mx) * (z - mz);
    yz += (y - my) * (z - mz);
  }
  const det = xx * yy - xy * xy;
  const [p, q] = [(yy * xz - xy * yz) / det, (xx * yz - xy * xz) / det];
  const tan = Math.tan((c.tilt * Math.PI) / 180);
  say('floor.cusps', null, 'value', (Math.acos((1 + q * tan) / Math.hypot(1, p, q) / Math.hypot(1, tan)) * 180) / Math.PI);
}
