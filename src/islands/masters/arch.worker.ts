import { dot, sub, type Vec3 } from '#core/linalg/vec.ts';
import { type Mesh, makeMesh } from '#core/mesh/mesh.ts';
import { gaps } from '#core/occlusion/overlap.ts';
import { type CutLine, cutByPlane } from '#core/segment/cut-plane.ts';
import { makeSurface, type Surface } from '#core/spatial/surface.ts';

interface Lightened {
  readonly positions: Float32Array;
  readonly indices: Uint32Array;
}
/** Directions of the tooth in the arch's frame. */
export interface Frame {
  readonly mesial: Vec3;
  readonly facial: Vec3;
  readonly axis: Vec3;
}
export type Across = 'faciolingual' | 'mesiodistal';

export type ArchAsk =
  | { readonly kind: 'load'; readonly arch: Lightened; readonly opposing: Lightened | null }
  | { readonly kind: 'gaps'; readonly id: number; readonly shift: Vec3 }
  | { readonly kind: 'cut'; readonly id: number; readonly at: Vec3; readonly frame: Frame; readonly across: Across; readonly shift: Vec3 };

export interface SectionLines {
  readonly across: Across;
  readonly arch: readonly CutLine[];
  readonly opposing: readonly CutLine[];
}
export type ArchAnswer =
  | { readonly kind: 'gaps'; readonly id: number; readonly gaps: Float32Array }
  | { readonly kind: 'cut'; readonly id: number; readonly section: SectionLines };

let arch: Mesh | null = null;
let opposing: { mesh: Mesh; surface: Surface } | null = null;

const meshOf = (m: Lightened): Mesh => makeMesh('master', Float64Array.from(m.positions), m.indices);

self.onmessage = ({ data }: MessageEvent<ArchAsk>): void => {
  if (data.kind === 'load') {
    arch = meshOf(data.arch);
    const mesh = data.opposing && meshOf(data.opposing);
    opposing = mesh && { mesh, surface: makeSurface(mesh) };
    return;
  }
  if (!arch) return;
  if (data.kind === 'gaps') {
    if (!opposing) return;
    const answer: ArchAnswer = { kind: 'gaps', id: data.id, gaps: gaps(opposing.surface, arch.positions, data.shift) };
    self.postMessage(answer);
    return;
  }
  const { frame, at, across, shift } = data;
  const along = across === 'mesiodistal' ? ([1, 0] as const) : ([0, 1] as const);
  const inTooth = (p: Vec3): Vec3 => [dot(p, frame.mesial), dot(p, frame.facial), dot(p, frame.axis)];
  const cut = (m: Mesh, from: Vec3): CutLine[] => {
    const turned = new Float64Array(m.positions.length);
    for (let v = 0; v < turned.length; v += 3) turned.set(inTooth(sub([m.positions[v], m.positions[v + 1], m.positions[v + 2]], from)), v);
    return cutByPlane(makeMesh('tooth', turned, m.triangles), [0, 0, 0], along);
  };
  const section: SectionLines = {
    across,
    arch: cut(arch, at),
    opposing: opposing ? cut(opposing.mesh, sub(at, shift)) : [],
  };
  self.postMessage({ kind: 'cut', id: data.id, section } satisfies ArchAnswer);
};
