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

/** Direction of the lower jaw as (mesial, facial) of the tooth: towards its own side, towards the other, or forward. */
function wayOf(which: Excursion, { bennett_deg }: Conditions): readonly [number, number] {
  if (which === 'working') return [0, 1];
  return which === 'protrusive' ? [1, 0] : [Math.sin(toRadians(bennett_deg)), -Math.cos(toRadians(bennett_deg))];
}

/**
 * Where the opposing arch stands against the tooth after a share of an excursion.
 * @formula path · share, dropping by the condylar inclination; the jaws part along the tooth's own axis, and which of the two moves decides the sign across it
 * @units mm
 * @frame tooth
 * @source own definition, docs/definitions.md
 */
export function excursionShift(isUpper: boolean, which: Excursion, share: number, c: Conditions): Vec3 {
  const way = wayOf(which, c);
  const s = isUpper ? 1 : -1;
  const d = c.path_mm * share;
  const across = Math.cos(toRadians(c.condylar_deg));
  return [s * way[0] * across * d, s * way[1] * across * d, Math.sin(toRadians(c.condylar_deg)) * d];
}
