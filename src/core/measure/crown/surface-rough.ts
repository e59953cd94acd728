import type { Reading } from '../../result/reading.ts';
import type { SurfaceKind } from '../../segment/crown/surfaces.ts';
import { patchRoughness } from '../patch-roughness.ts';
import type { CrownContext } from './context.ts';

/**
 * Roughness: how far the scan's points stand off a smooth patch 1 mm across, on walls and floor. Scan noise is part of it:
 * compare with the fit's own noise.
 * @formula RMS residual about the best quadric z = a + bx + cy + dx² + exy + fy² in the patch's own plane; median and 95 % over 240 patches
 * @units mm
 * @frame tooth
 * @fails nothing-prepared
 * @source own definition, docs/definitions.md
 * @example a smooth cylinder without noise reads 0
 */
export function surfaceRough(c: CrownContext): Reading[] {
  return [...roughOf(c, 'wall'), ...roughOf(c, 'floor')];
}

function roughOf(c: CrownContext, kind: SurfaceKind): Reading[] {
  const of: number[] = [];
  for (let v = 0; v < c.kinds.length; v++) if (c.kinds[v] === kind) of.push(v);
  // A margin's floor is narrower than the patch: its own points alone are looked at; a wall's patch stays clear of edges.
  return patchRoughness(c.anatomy.region, [of], {
    name: 'surface.rough',
    zone: kind,
    atEdge: kind === 'floor' ? 'own points' : 'left out',
  });
}
