import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { PART } from '../../master/master.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import type { OutlinePoint } from '../../segment/cavity/outline.ts';
import { edgeError } from '../uncertainty/outline-error.ts';

/** mm: width of a column across the ridge, about two points of a scan. */
const COLUMN_MM = 0.25;

/**
 * Tooth left between the outline and the outer face of a marginal ridge that was not cut through.
 * @formula least, over columns of 0.25 mm across the ridge, of x(outermost master point) − x(outermost outline point)
 * @units mm
 * @frame tooth, seen along the axis
 * @fails ridge-cut (a box opens there), no-outline
 * @source own definition, docs/definitions.md
 * @example an outline that ends 1.6 mm short of the proximal face reads 1.6
 */
export function outlineRidge(a: CavityAnatomy): Reading[] {
  return (['mesial', 'distal'] as const).flatMap((side): Reading[] => {
    const name = `outline.ridge.${side}`;
    if (a.plan.length === 0) return refusal(name, null, ['min'], 'no-outline');
    if (a.boxes.some((b) => b.side === side)) return refusal(name, null, ['min'], 'ridge-cut');
    const ridge = ridgeLeft(a, side);
    if (!ridge) return refusal(name, null, ['min'], 'no-outline');
    const U = expanded(a.alignment.pointError, edgeError(a, ridge.index), ridge.bridge, methodUncertainty(name, 'min'));
    return [reading({ name, stat: 'min', value: ridge.width, U, at: { point: ridge.at.p }, samples: a.outline.length })];
  });
}

interface RidgeLeft {
  readonly at: OutlinePoint;
  readonly index: number;
  readonly width: number;
  /** mm by which the face is unknown where the master is fused with the neighbour. */
  readonly bridge: number;
}

/** Where the outline comes nearest to a proximal face, and how far along the arch that face lies from it. */
export function ridgeLeft(a: CavityAnatomy, side: 'mesial' | 'distal'): RidgeLeft | null {
  const s = side === 'mesial' ? 1 : -1;
  const faces = new Map<number, { all: number; sure: number }>();
  const p = a.master.whole.mesh.positions;
  for (let v = 0; v < a.master.wholeParts.length; v++) {
    if (a.master.wholeParts[v] !== PART.target) continue;
    const k = Math.round(p[3 * v + 1] / COLUMN_MM);
    const f = faces.get(k) ?? { all: Number.NEGATIVE_INFINITY, sure: Number.NEGATIVE_INFINITY };
    f.all = Math.max(f.all, s * p[3 * v]);
    if (!a.master.onBridge[v]) f.sure = Math.max(f.sure, s * p[3 * v]);
    faces.set(k, f);
  }
  const contact = a.master.landmarks.contacts[side];
  let best: RidgeLeft | null = null;
  for (const [index, o] of a.outline.entries()) {
    const face = faces.get(Math.round(o.p[1] / COLUMN_MM));
    if (!face) continue;
    // Where the master is fused with the neighbour the face lies between its sure part and the contact.
    const sure = Number.isFinite(face.sure) ? face.sure : face.all;
    const most = face.all > face.sure && contact ? Math.max(face.all, s * contact[0]) : face.all;
    const width = (most + sure) / 2 - s * o.p[0];
    if (!best || width < best.width) best = { at: o, index, width, bridge: (most - sure) / 2 };
  }
  return best;
}
