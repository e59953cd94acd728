import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { PART } from '../../master/master.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import type { OutlinePoint } from '../../segment/cavity/outline.ts';
import { edgeError } from '../uncertainty/outline-error.ts';

/**
 * Tooth left between the outline and the outer face of a marginal ridge that was not cut through.
 * @formula least, over the outline’s places, of x(outermost place of the master with the same y) − x(place)
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
  const faces = facesBeside(a, s);
  const contact = a.master.landmarks.contacts[side];
  let best: RidgeLeft | null = null;
  for (const [index, o] of a.outline.entries()) {
    const face = faces[index];
    if (!Number.isFinite(face.all)) continue;
    // Where the master is fused with the neighbour the face lies between its sure part and the contact.
    const sure = Number.isFinite(face.sure) ? face.sure : face.all;
    const most = face.all > face.sure && contact ? Math.max(face.all, s * contact[0]) : face.all;
    const width = (most + sure) / 2 - s * o.p[0];
    if (!best || width < best.width) best = { at: o, index, width, bridge: (most - sure) / 2 };
  }
  return best;
}

/** For each place of the outline, how far out (s · x) the tooth reaches at the place's own y: the whole of it, and what is not fused with a neighbour. */
function facesBeside(a: CavityAnatomy, s: 1 | -1): { all: number; sure: number }[] {
  const { positions: p, triangles: t } = a.master.whole.mesh;
  const faces = a.outline.map(() => ({ all: Number.NEGATIVE_INFINITY, sure: Number.NEGATIVE_INFINITY }));
  const byY = a.outline.map((o, index) => ({ y: o.p[1], face: faces[index] })).sort((u, v) => u.y - v.y);
  const firstFrom = (y: number): number => {
    let [lo, hi] = [0, byY.length];
    while (lo < hi) {
      const m = (lo + hi) >> 1;
      if (byY[m].y < y) lo = m + 1;
      else hi = m;
    }
    return lo;
  };
  for (let f = 0; f < t.length; f += 3) {
    const corners = [t[f], t[f + 1], t[f + 2]];
    if (corners.some((v) => a.master.wholeParts[v] !== PART.target)) continue;
    const fused = corners.some((v) => a.master.onBridge[v]);
    const ys = corners.map((v) => p[3 * v + 1]);
    const most = Math.max(...ys);
    for (let i = firstFrom(Math.min(...ys)); i < byY.length && byY[i].y <= most; i++)
      for (let k = 0; k < 3; k++) {
        const [u, v] = [3 * corners[k], 3 * corners[(k + 1) % 3]];
        const along = p[v + 1] - p[u + 1];
        const share = along === 0 ? 0 : (byY[i].y - p[u + 1]) / along;
        if (share < 0 || share > 1) continue;
        const x = s * (p[u] + share * (p[v] - p[u]));
        const face = byY[i].face;
        face.all = Math.max(face.all, x);
        if (!fused) face.sure = Math.max(face.sure, x);
      }
  }
  return faces;
}
