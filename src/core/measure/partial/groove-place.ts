import { methodUncertainty } from '../../catalogue/catalogue.ts';
import type { Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { type Groove, LEVEL } from '../../segment/partial/grooves.ts';
import { lineThrough } from '../../segment/partial/notch-shape.ts';
import { median } from '../../statistics/quantile.ts';
import type { PartialContext } from './context.ts';

const NAMES = ['groove.place.finish', 'groove.place.edge'] as const;
/** mm to either side of a groove's middle over which the finish line under it is taken. */
const UNDER = 0.6;
/** z of the normal of a ledge, mm over the groove's lowest level up to which one is looked for, and its points at the least. */
const LEDGE = 0.7;
const ABOVE = 0.3;
const LEAST = 5;
/** z of the outline's run up to which it is the finish line and not a slice's edge. */
const LEVELLY = 0.7;
/** Share of a groove's height, from its middle, over which the slice's edge is looked for. */
const MIDDLE = 0.25;

/**
 * Place of each groove: how far its foot ends over the finish line, and how much of the slice is left between it and the slice's facial edge.
 * @formula finish = z(ledge at the groove's foot, or its lowest level where there is none) − z(finish line straight out of it, by a line through its places within 0.6 mm to either side); edge = least distance of the outline, over the middle half of the groove's height, from its facial lip, seen along the axis
 * @units mm
 * @frame tooth
 * @fails no-groove-cut, not-seen (only the upper part of the groove was found), no-finish-line, no-outline
 * @source own definition, docs/definitions.md
 * @example a groove that ends half a millimetre over the finish line and leaves 0.4 of the slice in front of it reads 0.5 and 0.4
 */
export function groovePlace(c: PartialContext): Reading[] {
  if (c.grooves.length === 0) return NAMES.flatMap((n) => refusal(n, null, ['value'], 'no-groove-cut'));
  return c.grooves.flatMap(({ zone, groove: g }) => {
    if (!isSeenWhole(c, g)) return NAMES.flatMap((n) => refusal(n, zone, ['value'], 'not-seen'));
    return [...toFinish(c, zone, g), ...toEdge(c, zone, g)];
  });
}

/** mm over the finish line from which a groove that ends without a ledge was not seen down to its foot: its far lip was lost. */
const LOST = 1;

/** Whether a groove was seen down to its foot: there its cutter left a ledge, or it runs on to the finish line. */
export function isSeenWhole(c: PartialContext, g: Groove): boolean {
  const under = finishUnder(c, g);
  return ledgeOf(c, g).length >= LEAST || under.length < 4 || g.from[2] - lineThrough(under).at(0) < LOST;
}

/** The finish line's places under a groove: across from its middle, and their height. */
const finishUnder = (c: PartialContext, g: Groove): (readonly [number, number])[] =>
  c.outline.flatMap(({ p, tangent }) => {
    const [x, y] = [p[0] - g.from[0], p[1] - g.from[1]];
    const across = x * g.out[1] - y * g.out[0];
    const isUnder = p[2] < g.from[2] && x * g.out[0] + y * g.out[1] > 0 && Math.abs(across) < UNDER;
    return isUnder && Math.abs(tangent[2]) < LEVELLY ? [[across, p[2]] as const] : [];
  });

function toFinish(c: PartialContext, zone: string, g: Groove): Reading[] {
  const under = finishUnder(c, g);
  if (under.length < 4) return refusal(NAMES[0], zone, ['value'], 'no-finish-line');
  // The finish line climbs towards the contacts: its height counts straight out of the groove.
  const line = lineThrough(under);
  const foot = footOf(c, g);
  const U = expanded(foot.u, line.off / Math.sqrt(under.length / 3), c.crown.anatomy.alignment.noise, methodUncertainty(NAMES[0], 'value'));
  const at = { azimuth: g.azimuth, point: g.from };
  return [reading({ name: NAMES[0], zone, value: foot.z - line.at(0), U, at, samples: under.length })];
}

/** Heights of the ledge at a groove's foot. */
function ledgeOf(c: PartialContext, g: Groove): number[] {
  const { mesh, prepared, normals } = c.crown.anatomy.region;
  const p = mesh.positions;
  const ledge: number[] = [];
  for (let v = 0; v < prepared.length; v++) {
    if (!prepared[v] || normals[3 * v + 2] < LEDGE || p[3 * v + 2] > g.from[2] + ABOVE) continue;
    const up = (p[3 * v + 2] - g.from[2]) / g.direction[2];
    const [x, y] = [0, 1].map((k) => p[3 * v + k] - g.from[k] - up * g.direction[k]);
    const out = x * g.out[0] + y * g.out[1];
    const across = Math.abs(x * g.out[1] - y * g.out[0]);
    if (out > 0.1 * g.depth && out < 0.9 * g.depth && across < 0.35 * g.width) ledge.push(p[3 * v + 2]);
  }
  return ledge;
}

/** Height at which a groove ends: of the ledge at its foot, or of the lowest level at which it was seen. */
function footOf(c: PartialContext, g: Groove): { z: number; u: number } {
  const ledge = ledgeOf(c, g);
  if (ledge.length < LEAST) return { z: g.from[2] - LEVEL / 2, u: LEVEL / Math.sqrt(12) };
  const z = median(ledge);
  return { z, u: (1.48 * median(ledge.map((q) => Math.abs(q - z)))) / Math.sqrt(ledge.length / 3) };
}

function toEdge(c: PartialContext, zone: string, g: Groove): Reading[] {
  const [z0, z1] = [g.from[2], g.to[2]];
  const [low, high] = [z0 + MIDDLE * (z1 - z0), z1 - MIDDLE * (z1 - z0)];
  // Along the wall, square to the way out of the groove, to its facial side.
  const facial = g.out[0] > 0 ? 1 : -1;
  const run = [-g.out[1] * facial, g.out[0] * facial];
  const lip = (z: number): Vec3 => {
    const f = z1 > z0 ? (z - z0) / (z1 - z0) : 0;
    const [x, y] = [0, 1].map((k) => g.from[k] + f * (g.to[k] - g.from[k]));
    return [x + g.depth * g.out[0] + (run[0] * g.width) / 2, y + g.depth * g.out[1] + (run[1] * g.width) / 2, z];
  };
  const distances = c.outline.flatMap(({ p }) => {
    if (p[2] < low || p[2] > high || p[0] * g.from[0] < 0) return [];
    const q = lip(p[2]);
    return p[1] > q[1] - 0.3 ? [{ d: Math.hypot(p[0] - q[0], p[1] - q[1]), p }] : [];
  });
  if (distances.length < 3) return refusal(NAMES[1], zone, ['value'], 'no-outline');
  const least = distances.reduce((a, b) => (b.d < a.d ? b : a));
  const own = distances.map((q) => q.d).sort((a, b) => a - b);
  const U = expanded(
    own[Math.min(2, own.length - 1)] - own[0],
    // Lips and outline are both corners that a scan rounds.
    2 * c.crown.anatomy.alignment.noise,
    methodUncertainty(NAMES[1], 'value'),
  );
  return [reading({ name: NAMES[1], zone, value: least.d, U, at: { azimuth: g.azimuth, point: least.p }, samples: distances.length })];
}
