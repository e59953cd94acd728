import type { CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { AZIMUTHS } from '../../segment/crown/crown.ts';
import type { SurfaceKind } from '../../segment/crown/surfaces.ts';
import { cutRadially, longestChain } from '../../segment/cut.ts';
import { castRay } from '../../spatial/ray.ts';
import type { Section, Surfaces } from '../kind.ts';

/** mm²: a scrap that looks like a wall has no name worth a colour. */
const PART_LEAST_MM2 = 0.15;
/** mm between the points of a drawn section. */
const DRAWN_STEP = 0.08;

/** Depth colours on the pulpal floor say its depth along the axis; the other parts only show what they are. */
export function cavitySurfaces(a: CavityAnatomy): Surfaces {
  const areaOf = (vertices: readonly number[]): number => vertices.reduce((s, v) => s + a.region.areas[v], 0);
  const named = [...a.parts.entries()].filter(([, vertices]) => areaOf(vertices) >= PART_LEAST_MM2);
  const kinds: SurfaceKind[] = Array.from(a.region.prepared, (p) => (p ? 'floor' : 'none'));
  const parts = new Uint8Array(kinds.length);
  const depths = Float64Array.from(a.region.depth);
  const p = a.region.mesh.positions;
  named.forEach(([name, vertices], i) => {
    const isPulpal = name === 'pulpal floor';
    for (const v of vertices) {
      kinds[v] = isPulpal ? 'occlusal' : 'floor';
      parts[v] = i + 1;
      if (isPulpal) depths[v] = castRay(a.master.target, [p[3 * v], p[3 * v + 1], p[3 * v + 2]], [0, 0, 1], 12) ?? depths[v];
    }
  });
  return { kinds, depths, parts, partNames: ['', ...named.map(([name]) => name)] };
}

export const cavitySections = (a: CavityAnatomy): Section[] =>
  cutRadially(a.region.mesh, a.region.depth, AZIMUTHS).map((chains) => ({
    scan: longestChain(chains, DRAWN_STEP),
    finish: null,
    foot: null,
    wall: null,
    width: null,
    taper: null,
    height: null,
  }));
