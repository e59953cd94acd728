import { cavityParts } from '../cavity/cavity.ts';
import { onlayParts } from '../onlay/onlay.ts';
import type { OnlayRecipe } from '../onlay/recipe.ts';
import type { Typodont } from '../typodont.ts';
import { cavityTruth } from './cavity-truth.ts';
import { crownTruth } from './crown-truth.ts';
import type { Truth } from './truth.ts';

/** Readings of the covered side that hold for a sector or a cusp by itself. */
const COVERED = /^(margin\.(width|gingiva|exit)|bevel\.(width|angle)|wall\.(lean|height)|reduction\.(occlusal|axial))$/;
const INSIDE = /^(depth\.pulpal|floor\.|wall\.angle|box\.)/;

/** True values of an onlay: of the covered side as of a crown, of the inside as of a cavity. */
export function onlayTruth(t: Typodont, r: OnlayRecipe): Truth[] {
  const { envelope } = onlayParts(t, r);
  const { boxes } = cavityParts(t, { ...r.inside, kind: 'cavity' });
  const whole = (c: { at: readonly number[] }): boolean =>
    boxes.every((b) => Math.abs(c.at[0] - b.axialX(c.at[1])) > 1.6) && Math.abs(c.at[1]) > 1.25 + 0.6 * (r.inside.occlusal?.isthmus ?? 0);
  // A cusp whose zone a box or the slot cuts into has more in it than the cover's own surface.
  const cusps = t.target.cusps.filter((c) => (r.covers === 'facial' ? c.at[1] > 0 : c.at[1] < 0) && whole(c));
  const own = new Set([r.covers, ...cusps.map((c) => c.name)]);
  const cover = crownTruth(t, envelope).filter((q) => COVERED.test(q.name) && q.zone !== null && own.has(q.zone.split(' ')[0]));
  const inside = cavityTruth(t, { ...r.inside, kind: 'cavity' }).filter((q) => INSIDE.test(q.name) && !isOccluded(q, r));
  const divergence = r.inside.boxes.map(
    (b): Truth => ({ name: 'divergence', zone: `box ${b.side}`, stat: 'value', unit: 'deg', value: -(b.facial + b.lingual) }),
  );
  return [...cover, ...inside, ...divergence];
}

/** What the covered side took away (its own box margin), or what an onlay's own path of insertion decides. */
const isOccluded = (q: Truth, r: OnlayRecipe): boolean =>
  q.name === `box.clearance.${r.covers}` ||
  (q.name === 'box.gap.even' && q.zone?.endsWith(r.covers) === true) ||
  q.zone?.endsWith(' path') === true;
