import type { Reading } from '../../result/reading.ts';
import type { CavityAnatomy, PartName } from '../../segment/cavity/cavity.ts';
import { patchRoughness } from '../patch-roughness.ts';
import { wallProper } from './wall-angle.ts';

/**
 * Roughness of a cavity's walls: how far the scan's points stand off a smooth patch 1 mm across. Scan noise is part of it.
 * @formula RMS residual about the best quadric z = a + bx + cy + dx² + exy + fy² in the patch's own plane, its own wall's points alone; median and 95 % over 240 patches on the occlusal walls together and on each box's walls together
 * @units mm
 * @frame tooth
 * @fails nothing-prepared
 * @source own definition, docs/definitions.md
 * @example smooth walls without noise read 0; points 0.03 mm off a plane, each by itself, read 0.03
 */
export function wallRough(a: CavityAnatomy): Reading[] {
  const rough = (zone: string | null, parts: readonly PartName[]): Reading[] =>
    patchRoughness(
      a.region,
      parts.map((part) => wallProper(a, part)),
      { name: 'wall.rough', zone, atEdge: 'own points' },
    );
  return [
    ...rough(null, ['facial', 'mesial', 'lingual', 'distal']),
    ...a.boxes.flatMap((b) => rough(`box ${b.side}`, [`box ${b.side} facial`, `box ${b.side} lingual`, `axial ${b.side}`])),
  ];
}
