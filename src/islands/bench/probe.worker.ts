import { unpackDisplay } from '#contract/display.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import { type ProbedSurface, probe } from '#core/measure/probe.ts';
import { faceNormals, type Mesh, makeMesh } from '#core/mesh/mesh.ts';
import { type CutLine, cutByPlane, wideAt } from '#core/segment/cut-plane.ts';
import { makeSurface, type Surface } from '#core/spatial/surface.ts';
import { type Across, OVER_FLOOR } from './tools.ts';

/** The display file once; then places, each with its request's number. */
export type ProbeAsk =
  | { readonly kind: 'load'; readonly display: ArrayBuffer }
  | { readonly kind: 'probe'; readonly id: number; readonly point: Vec3; readonly pointError: number; readonly across: Across };

/** What an upright cut through the place shows, counted along it from the place itself. */
export interface Cut {
  readonly across: Across;
  readonly lines: Readonly<Record<'scan' | 'master' | 'opposing', readonly CutLine[]>>;
  /** From wall to wall a little over the place. */
  readonly wide: readonly [number, number] | null;
}
export type ProbeAnswer = { readonly id: number; readonly probed: ReturnType<typeof probe>; readonly cut: Cut | null };

let scan: ProbedSurface | null = null;
let opposing: Surface | null = null;
const drawn = new Map<string, Mesh>();

self.onmessage = ({ data }: MessageEvent<ProbeAsk>): void => {
  if (data.kind === 'load') {
    const { meshes } = unpackDisplay(data.display);
    for (const m of meshes) drawn.set(m.name, makeMesh('tooth', Float64Array.from(m.positions), m.indices));
    const depth = meshes.find((m) => m.name === 'scan')?.depth;
    const mesh = drawn.get('scan');
    if (mesh && depth) scan = { surface: makeSurface(mesh), depth, areas: faceNormals(mesh).areas };
    const other = drawn.get('opposing');
    if (other) opposing = makeSurface(other);
    return;
  }
  const probed = scan && probe(scan, opposing, data.point, data.pointError);
  const answer: ProbeAnswer = { id: data.id, probed, cut: probed && cutAt(probed.at, data.across) };
  self.postMessage(answer);
};

function cutAt(at: Vec3, across: Across): Cut {
  const along = across === 'mesiodistal' ? ([1, 0] as const) : ([0, 1] as const);
  const of = (name: string): CutLine[] => {
    const mesh = drawn.get(name);
    return mesh ? cutByPlane(mesh, at, along) : [];
  };
  const lines = { scan: of('scan'), master: of('master'), opposing: of('opposing') };
  return { across, lines, wide: wideAt(lines.scan, at[2] + OVER_FLOOR) };
}
