import { borderVertices, type Frame, type Mesh, makeMesh, vertexAdjacency } from './mesh.ts';

/** Share of the way to the mean of its neighbours that a point goes, and that it comes back afterwards, so that the whole does not shrink. */
const ON = 0.5;
const BACK = -0.52;

/**
 * A mesh whose points have lost the noise that each has of its own; form that several points share stays. Open borders stay where they are.
 * @units mm
 * @source Taubin, "A signal processing approach to fair surface design", 1995
 */
export function smoothed<F extends Frame>(mesh: Mesh<F>, passes: number): Mesh<F> {
  const { start, list } = vertexAdjacency(mesh);
  const onBorder = borderVertices(mesh);
  let from = Float64Array.from(mesh.positions);
  let to = new Float64Array(from.length);
  for (let pass = 0; pass < 2 * passes; pass++) {
    const weight = pass % 2 === 0 ? ON : BACK;
    for (let v = 0; v < onBorder.length; v++) {
      const n = start[v + 1] - start[v];
      for (let k = 0; k < 3; k++) {
        const at = from[3 * v + k];
        let sum = 0;
        for (let i = start[v]; i < start[v + 1]; i++) sum += from[3 * list[i] + k];
        to[3 * v + k] = n === 0 || onBorder[v] ? at : at + weight * (sum / n - at);
      }
    }
    [from, to] = [to, from];
  }
  return makeMesh(mesh.frame, from, mesh.triangles);
}
