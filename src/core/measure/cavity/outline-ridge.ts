import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import type { OutlinePoint } from '../../segment/cavity/outline.ts';

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
    const U = expanded(a.alignment.pointError, 0.4 * a.alignment.noise, methodUncertainty(name, 'min'));
    return [reading({ name, stat: 'min', value: ridge.width, U, at: { point: ridge.at.p }, samples: a.outline.length })];
  });
}

/** Where the outline comes nearest to a proximal face, and how far along the arch that face lies from it. */
export function ridgeLeft(a: CavityAnatomy, side: 'mesial' | 'distal'): { at: OutlinePoint; width: number } | null {
  const s = side === 'mesial' ? 1 : -1;
  const faces = new Map<number, number>();
  const p = a.master.target.mesh.positions;
  for (let i = 0; i < p.length; i += 3) {
    const k = Math.round(p[i + 1] / COLUMN_MM);
    faces.set(k, Math.max(faces.get(k) ?? Number.NEGATIVE_INFINITY, s * p[i]));
  }
  let best: { at: OutlinePoint; width: number } | null = null;
  for (const o of a.outline) {
    const face = faces.get(Math.round(o.p[1] / COLUMN_MM));
    if (face !== undefined && (!best || face - s * o.p[0] < best.width)) best = { at: o, width: face - s * o.p[0] };
  }
  return best;
}
