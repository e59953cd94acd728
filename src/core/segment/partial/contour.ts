/** Places along a contour, azimuth growing; null where it is not this side's steep wall. */
export type Contour = readonly (readonly [number, number] | null)[];

/** mm between the places along a contour: a tenth of a groove’s radius. */
export const PLACE = 0.05;

/** mm each side of a place in which the lips of a notch are looked for. */
export const REACH = 2.2;

/** mm under its surroundings that a notch lies at the least. */
export const LEAST_DEPTH = 0.15;

export const at = (line: Contour, k: number): readonly [number, number] | null => line[k] ?? null;

/** Places looked at on each side of one. */
const LOOKED = 60;

/** The places each side (after, before) from which chords are drawn, x and y in turn: filled anew for each place of a contour. */
const SIDES = [new Float64Array(2 * LOOKED), new Float64Array(2 * LOOKED)] as const;

/** Largest distance of a place under the chords between places each side of it. */
export function underChord(line: Contour, k: number): number {
  const rough = underChords(line, k, 5);
  return rough < 0.6 * LEAST_DEPTH ? rough : underChords(line, k, 2);
}

/** Writes every `every`-th place on one hand within reach into `to`; returns how many numbers. */
function placesOn(line: Contour, k: number, sign: 1 | -1, every: number, to: Float64Array): number {
  const c = line[k] as readonly [number, number];
  let n = 0;
  for (let j = 1; j < LOOKED; j += every) {
    const q = at(line, k + sign * j);
    if (!q) continue;
    if ((q[0] - c[0]) ** 2 + (q[1] - c[1]) ** 2 > REACH * REACH) break;
    to[n++] = q[0];
    to[n++] = q[1];
  }
  return n;
}

function underChords(line: Contour, k: number, every: number): number {
  const c = line[k];
  if (!c) return 0;
  let most = 0;
  const [after, before] = SIDES;
  const last = placesOn(line, k, 1, every, after);
  const first = placesOn(line, k, -1, every, before);
  for (let i = 0; i < first; i += 2) {
    const x = c[0] - before[i];
    const y = c[1] - before[i + 1];
    for (let j = 0; j < last; j += 2) {
      const dx = after[j] - before[i];
      const dy = after[j + 1] - before[i + 1];
      // Walking on in azimuth, the axis lies to the right of the chord: a place nearer to the axis is under it.
      const under = dy * x - dx * y;
      if (under <= 0 || under * under <= most * most * (dx * dx + dy * dy)) continue;
      most = under / Math.sqrt(dx * dx + dy * dy);
    }
  }
  return most;
}
