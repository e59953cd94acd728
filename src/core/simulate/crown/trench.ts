import type { Solid } from '../../anatomy/tessellate.ts';
import type { Vec3 } from '../../linalg/vec.ts';
import { outward, ringSolid } from '../rings.ts';
import type { Typodont } from '../typodont.ts';
import type { CrownEnvelope } from './envelope.ts';

/** mm that a cutter takes of the gingiva beside a finish line that lies deeper, and under the line. */
const BESIDE = 0.4;
const UNDER = 0.03;
/** mm under the gingival margin at which it takes all of that. */
const FULLY = 0.25;
const AZIMUTHS = 360;

/**
 * What the cutter takes of the gingiva where the finish line lies under it: the scanner would not see the line otherwise. Null
 * where the line lies above the gingiva all round.
 */
export function trenchSolid(t: Typodont, e: CrownEnvelope): Solid | null {
  const turns = Array.from({ length: AZIMUTHS }, (_, j) => {
    const phi = (2 * Math.PI * j) / AZIMUTHS;
    const { finish, width } = e.profile(phi);
    const under = t.margin(phi) - finish[1];
    const share = Math.min(1, Math.max(0, under / FULLY));
    const at = (r: number, z: number): Vec3 => [r * Math.sin(phi), r * Math.cos(phi), z];
    const bottom = finish[1] - (share > 0 ? UNDER : 0);
    return {
      under,
      inner: at(Math.max(0.3, finish[0] - width - 0.1), bottom),
      outer: at(finish[0] + BESIDE * share, bottom),
      top: at(finish[0] + BESIDE * share, 14),
    };
  });
  if (turns.every((q) => q.under < 0.02)) return null;
  const middle = turns.reduce((s, q) => s + q.inner[2], 0) / AZIMUTHS;
  return outward(ringSolid([0, 0, middle], [turns.map((q) => q.inner), turns.map((q) => q.outer), turns.map((q) => q.top)], [0, 0, 14]));
}
