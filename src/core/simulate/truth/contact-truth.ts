import { PART } from '../../master/master.ts';
import { type Mesh, subMesh } from '../../mesh/mesh.ts';
import { closestPoint, makeSurface, newClosest, type Surface } from '../../spatial/surface.ts';
import type { CrownEnvelope } from '../crown/envelope.ts';
import type { Typodont } from '../typodont.ts';
import { fineMesh } from './fine.ts';
import type { Truth } from './truth.ts';

/** mm over the gingival margin, as the reading has it. */
const OVER = 0.3;

/** The part of a neighbour above the gingiva. */
function overGingiva(t: Typodont, mesh: Mesh<'tooth'>): Surface {
  const p = mesh.positions;
  const q = mesh.triangles;
  const stands = (v: number): boolean => p[3 * v + 2] >= t.gingiva(p[3 * v], p[3 * v + 1]);
  return makeSurface(subMesh(mesh, (f) => stands(q[3 * f]) && stands(q[3 * f + 1]) && stands(q[3 * f + 2])).mesh);
}

/** Least gap between what the cutter left standing, from its profiles and the uncut side under them, and each neighbour's formula. */
export function contactTruth(t: Typodont, envelope: CrownEnvelope): Truth[] {
  return (['mesial', 'distal'] as const).flatMap((side): Truth[] => {
    const n = t.teeth.find((q) => q.part === PART[side]);
    if (!n) return [];
    const surface = overGingiva(t, fineMesh(n));
    const hit = newClosest();
    let least = 4;
    const centre = side === 'mesial' ? 90 : 270;
    for (let a = centre - 70; a <= centre + 70; a += 0.5) {
      const phi = (a * Math.PI) / 180;
      const p = envelope.profile(phi);
      const under = Array.from({ length: 40 }, (_, i): [number, number] => {
        const z = p.finish[1] - 0.05 * i;
        return [t.target.side(phi, z), z];
      }).filter(([, z]) => z >= t.margin(phi) + OVER);
      const over = p.line.filter(([r, z]) => r <= p.finish[0] && z >= p.finish[1] - 0.5);
      for (const [r, z] of [...over, ...under])
        if (closestPoint(surface, r * Math.sin(phi), r * Math.cos(phi), z, hit, least)) least = Math.sqrt(hit.distanceSquared);
    }
    return [{ name: 'contact.broken', zone: side, stat: 'min', unit: 'mm', value: least }];
  });
}
