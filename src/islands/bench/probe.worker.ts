import { unpackDisplay } from '#contract/display.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import { type ProbedSurface, probe } from '#core/measure/probe.ts';
import { faceNormals, makeMesh } from '#core/mesh/mesh.ts';
import { makeSurface, type Surface } from '#core/spatial/surface.ts';

/** The display file once; then places, each with its request's number. */
export type ProbeAsk =
  | { readonly kind: 'load'; readonly display: ArrayBuffer }
  | { readonly kind: 'probe'; readonly id: number; readonly point: Vec3; readonly pointError: number };
export type ProbeTold = { readonly id: number; readonly probed: ReturnType<typeof probe> };

let scan: ProbedSurface | null = null;
let opposing: Surface | null = null;

self.onmessage = ({ data }: MessageEvent<ProbeAsk>): void => {
  if (data.kind === 'load') {
    const { meshes } = unpackDisplay(data.display);
    const of = (name: string) => meshes.find((m) => m.name === name);
    const drawn = of('scan');
    const other = of('opposing');
    if (drawn?.depth) {
      const mesh = makeMesh('tooth', Float64Array.from(drawn.positions), drawn.indices);
      scan = { surface: makeSurface(mesh), depth: drawn.depth, areas: faceNormals(mesh).areas };
    }
    if (other) opposing = makeSurface(makeMesh('tooth', Float64Array.from(other.positions), other.indices));
    return;
  }
  const told: ProbeTold = { id: data.id, probed: scan && probe(scan, opposing, data.point, data.pointError) };
  self.postMessage(told);
};
