import { makeMesh, vertexNormals } from '#core/mesh/mesh.ts';
import { type Body, gradient, surfaceNets } from './implicit-mesh.ts';
import type { landmarks } from './implicit-tooth.ts';
import { emptySheet } from './scanner.ts';

/** mm: cell of the fine surface, step of a look, depth from which a place has a plate in front of it, height over the margin; mm² that are thinnest. */
const CELL = 0.09;
const STEP = 0.1;
const DEEP = 0.5;
const NECK = 0.3;
const THINNEST = 0.3;

/** Distance (mm) of a place inside a body from its surface, by steps along the gradient and then the true way to where they end. */
function depthIn(f: Body, x: number, y: number, z: number): number {
  let p: readonly [number, number, number] = [x, y, z];
  for (let i = 0; i < 12; i++) {
    const d = f(...p);
    if (Math.abs(d) < 1e-4) break;
    const g = gradient(f, [p[0], p[1], p[2]]);
    const l = g[0] ** 2 + g[1] ** 2 + g[2] ** 2;
    if (l < 1e-6) return Infinity;
    p = [p[0] - (d * g[0]) / l, p[1] - (d * g[1]) / l, p[2] - (d * g[2]) / l];
  }
  return Math.hypot(p[0] - x, p[1] - y, p[2] - z);
}

/** Mean of the thinnest 0.3 mm² of tooth between what was cut and the uncut facial side, looked through straight out of the cut. */
export function plateTruth(own: Body, cut: Body, marks: ReturnType<typeof landmarks>): number {
  const neck = marks.gingivalMargin.reduce((s, p) => s + p[2], 0) / marks.gingivalMargin.length;
  const sheet = emptySheet();
  const block = { from: [-6.5, -6.5, neck + NECK] as const, to: [6.5, 6.5, 9] as const };
  surfaceNets(
    sheet,
    cut,
    { from: [...block.from], to: [...block.to] },
    CELL,
    () => 1,
    ([x, y, z]) => own(x, y, z) < -0.3,
  );
  const mesh = makeMesh('tooth', Float64Array.from(sheet.positions), Uint32Array.from(sheet.triangles));
  const { normals, areas } = vertexNormals(mesh);
  const found: { d: number; area: number }[] = [];
  const p = mesh.positions;
  for (let v = 0; v < areas.length; v++) {
    if (!(normals[3 * v + 1] < -0.5) || areas[v] === 0) continue;
    const at = [p[3 * v], p[3 * v + 1], p[3 * v + 2]] as const;
    if (depthIn(own, ...at) < DEEP) continue;
    const inside = (d: number): boolean =>
      own(at[0] - d * normals[3 * v], at[1] - d * normals[3 * v + 1], at[2] - d * normals[3 * v + 2]) < 0;
    let to = STEP;
    while (to < 4 && inside(to)) to += STEP;
    if (to >= 4) continue;
    let from = to - STEP;
    for (let i = 0; i < 12; i++) {
      const m = (from + to) / 2;
      if (inside(m)) from = m;
      else to = m;
    }
    const out = gradient(own, [at[0] - from * normals[3 * v], at[1] - from * normals[3 * v + 1], at[2] - from * normals[3 * v + 2]]);
    if (out[1] > 0.5 * Math.hypot(...out)) found.push({ d: from, area: areas[v] });
  }
  let [area, sum] = [0, 0];
  for (const q of found.sort((a, b) => a.d - b.d)) {
    if (area >= THINNEST) break;
    area += q.area;
    sum += q.area * q.d;
  }
  return sum / area;
}
