import { type Solid, tessellateStar } from '../anatomy/tessellate.ts';
import type { Matrix } from '../linalg/rigid.ts';
import type { Vec3 } from '../linalg/vec.ts';
import { PART } from '../master/master.ts';
import { intoFrame, makeMesh } from '../mesh/mesh.ts';
import { type Body, type LabelledMesh, labelled, type SolidKernel } from './solids.ts';
import type { PlacedTooth, Typodont } from './typodont.ts';

export function toothSolid(t: PlacedTooth, frequency: number): Solid {
  const h = t.shape.plan.height;
  const root = -4.5;
  const centre: Vec3 =
    t.shape.plan.kind === 'molar' || t.shape.plan.kind === 'premolar' ? [0, 0, h * 0.35] : [0, 0.06 * t.shape.plan.fl, h * 0.3];
  const s = tessellateStar((x, y, z) => Math.min(t.shape.inside(x, y, z), z - root), centre, frequency);
  return moved(s, t.place);
}

/** The same solid elsewhere, its outside still outward where the move mirrors it. */
export function moved(s: Solid, place: Matrix): Solid {
  const { positions, triangles } = intoFrame(makeMesh('tooth', s.positions, s.triangles), place, 'tooth');
  return { positions, triangles };
}

/** The gingiva as a closed block under its height field. */
export function gingivaSolid(t: Typodont, step = 0.3): Solid {
  const xs: number[] = [];
  const ys: number[] = [];
  const span = (k: 3 | 7, beyond: number): [number, number] => {
    const at = t.teeth.map((q) => q.place[k]);
    return [Math.min(...at) - beyond, Math.max(...at) + beyond];
  };
  const [x0, x1] = span(3, 0.75 * Math.max(...t.teeth.map((q) => q.shape.plan.md)));
  const [y0, y1] = span(7, Math.max(...t.teeth.map((q) => q.shape.plan.fl)) / 2 + 4);
  for (let x = x0; x <= x1 + 1e-9; x += step) xs.push(x);
  for (let y = y0; y <= y1 + 1e-9; y += step) ys.push(y);
  const nx = xs.length;
  const ny = ys.length;
  const positions: number[] = [];
  for (const y of ys) for (const x of xs) positions.push(x, y, Math.max(t.gingiva(x, y), -5.5));
  for (const y of ys) for (const x of xs) positions.push(x, y, -6);
  const id = (i: number, j: number, bottom: boolean) => (bottom ? nx * ny : 0) + j * nx + i;
  const triangles: number[] = [];
  const quad = (a: number, b: number, c: number, d: number) => triangles.push(a, b, c, a, c, d);
  for (let j = 0; j + 1 < ny; j++)
    for (let i = 0; i + 1 < nx; i++) {
      quad(id(i, j, false), id(i + 1, j, false), id(i + 1, j + 1, false), id(i, j + 1, false));
      quad(id(i, j, true), id(i, j + 1, true), id(i + 1, j + 1, true), id(i + 1, j, true));
    }
  for (let i = 0; i + 1 < nx; i++) {
    quad(id(i, 0, true), id(i + 1, 0, true), id(i + 1, 0, false), id(i, 0, false));
    quad(id(i + 1, ny - 1, true), id(i, ny - 1, true), id(i, ny - 1, false), id(i + 1, ny - 1, false));
  }
  for (let j = 0; j + 1 < ny; j++) {
    quad(id(0, j + 1, true), id(0, j, true), id(0, j, false), id(0, j + 1, false));
    quad(id(nx - 1, j, true), id(nx - 1, j + 1, true), id(nx - 1, j + 1, false), id(nx - 1, j, false));
  }
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
}

export interface Bodies {
  readonly parts: { readonly part: number; readonly body: Body }[];
  readonly labelOf: Map<number, number>;
}

/** How finely a tooth is meshed: the target most, what stands beyond its neighbours or against it least. */
const FACETS: ReadonlyMap<number, number> = new Map([
  [PART.target, 52],
  [PART.other, 24],
]);

/** Facets round an opposing tooth: clearance needs its surface, not its detail. */
const OPPOSING_FACETS = 32;

/** `detail`: share of the usual facets. */
export function typodontBodies(t: Typodont, kernel: SolidKernel, { opposing = false, detail = 1 } = {}): Bodies {
  const labelOf = new Map<number, number>();
  const facets = (part: number): number => Math.round(detail * Math.min(FACETS.get(part) ?? 36, opposing ? OPPOSING_FACETS : Infinity));
  const parts = [
    ...t.teeth.map((q) => ({ part: q.part, body: kernel.make(toothSolid(q, facets(q.part))) })),
    { part: PART.gingiva, body: kernel.make(gingivaSolid(t)) },
  ];
  for (const p of parts) labelOf.set(p.body.originalID(), p.part);
  return { parts, labelOf };
}

/** Everything joined; removed: what lies under the border at `floor`. */
export function joined(bodies: Bodies, kernel: SolidKernel): LabelledMesh {
  const whole = kernel.union(bodies.parts.map((p) => p.body));
  const mesh = labelled(whole, bodies.labelOf);
  whole.delete();
  return mesh;
}
