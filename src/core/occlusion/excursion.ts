import { isUpper } from '../anatomy/anatomy.ts';
import { toRadians, type Vec3 } from '../linalg/vec.ts';

/** How the lower jaw moves: length of its path (mm), how steeply it drops (condylar inclination), how far it runs forward to the balancing side (Bennett angle). */
export interface Conditions {
  readonly path_mm: number;
  readonly condylar_deg: number;
  readonly bennett_deg: number;
}

/** Averages that articulators are set to where nothing was recorded. */
export const USUAL_CONDITIONS: Conditions = { path_mm: 2, condylar_deg: 30, bennett_deg: 10 };

export const EXCURSIONS = ['working', 'balancing', 'protrusive'] as const;
export type Excursion = (typeof EXCURSIONS)[number];

/** Which way the lower jaw has glided, and what share of that way. */
export interface Glided {
  readonly which: Excursion;
  readonly share: number;
}

/** How a tooth stands: in which jaw, and by how many degrees its facial side is turned off straight forward. */
export interface Standing {
  readonly isUpper: boolean;
  readonly turned_deg: number;
}

/** Degrees by which central incisors, lateral incisors and canines are turned in a usual arch; behind them mesial is forward. */
const TURNED_DEG = [10, 25, 55];
const BEHIND_DEG = 90;

export const standingOf = (tooth: string): Standing => ({
  isUpper: isUpper(tooth),
  turned_deg: TURNED_DEG[Number(tooth[1]) - 1] ?? BEHIND_DEG,
});

/** Direction of the lower jaw as (mesial, facial) of the tooth: towards its own side, towards the other, or forward. */
function wayOf(which: Excursion, turned_deg: number, { bennett_deg }: Conditions): readonly [number, number] {
  const [s, c] = [Math.sin(toRadians(turned_deg)), Math.cos(toRadians(turned_deg))];
  // Parts of the way that run forward and to the tooth's own side.
  const [forward, own] = {
    working: [0, 1],
    balancing: [Math.sin(toRadians(bennett_deg)), -Math.cos(toRadians(bennett_deg))],
    protrusive: [1, 0],
  }[which];
  return [forward * s - own * c, forward * c + own * s];
}

/**
 * Where the opposing arch stands against the tooth after a share of an excursion.
 * @formula path · share, dropping by the condylar inclination; forward is sin(turn) mesial and cos(turn) facial of the tooth, its own side square to that; the jaws part along the tooth's own axis, and which of the two moves decides the sign across it
 * @units mm
 * @frame tooth
 * @source own definition, docs/definitions.md
 */
export function excursionShift(standing: Standing, which: Excursion, share: number, c: Conditions): Vec3 {
  const way = wayOf(which, standing.turned_deg, c);
  const s = standing.isUpper ? 1 : -1;
  const d = c.path_mm * share;
  const across = Math.cos(toRadians(c.condylar_deg));
  return [s * way[0] * across * d, s * way[1] * across * d, Math.sin(toRadians(c.condylar_deg)) * d];
}
