import { type Mesh, makeMesh } from '#core/mesh/mesh.ts';

/** Closed-form surfaces for tests: expected values come from their formulas, not from our own output. */

/** A surface of revolution about z from a profile in (r, z), outside on the left of the profile's direction when it runs from the axis outward and down. */
export function revolve(profile: readonly (readonly [number, number])[], around = 240): Mesh<'tooth'> {
  const positions: number[] = [];
  const triangles: number[] = [];
  const n = profile.length;
  // A point on the axis is one vertex, whatever the azimuth.
  const index: number[][] = [];
  for (let j = 0; j < around; j++) {
    const a = (2 * Math.PI * j) / around;
    index.push(
      profile.map(([r, z], i) => {
        if (r < 1e-9 && j > 0) return index[0][i];
        positions.push(r * Math.sin(a), r * Math.cos(a), z);
        return positions.length / 3 - 1;
      }),
    );
  }
  for (let j = 0; j < around; j++)
    for (let i = 0; i + 1 < n; i++) {
      const [a, b] = [index[j][i], index[j][i + 1]];
      const [c, d] = [index[(j + 1) % around][i], index[(j + 1) % around][i + 1]];
      if (profile[i][0] > 1e-9) triangles.push(a, c, b);
      if (profile[i + 1][0] > 1e-9) triangles.push(c, d, b);
    }
  return makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles));
}

/** Points along straight legs, at most `step` apart: so that a revolved mesh is as fine as a scan. */
export function along(corners: readonly (readonly [number, number])[], step = 0.1): [number, number][] {
  const out: [number, number][] = [[corners[0][0], corners[0][1]]];
  for (let i = 0; i + 1 < corners.length; i++) {
    const [r0, z0] = corners[i];
    const [r1, z1] = corners[i + 1];
    const k = Math.max(1, Math.ceil(Math.hypot(r1 - r0, z1 - z0) / step));
    for (let j = 1; j <= k; j++) out.push([r0 + ((r1 - r0) * j) / k, z0 + ((z1 - z0) * j) / k]);
  }
  return out;
}

/** A flat square of side 2h at height z, facing up. */
export function plate(h: number, z: number, cells = 40): Mesh<'tooth'> {
  const positions: number[] = [];
  const triangles: number[] = [];
  for (let j = 0; j <= cells; j++) for (let i = 0; i <= cells; i++) positions.push(-h + (2 * h * i) / cells, -h + (2 * h * j) / cells, z);
  for (let j = 0; j < cells; j++)
    for (let i = 0; i < cells; i++) {
      const a = j * (cells + 1) + i;
      triangles.push(a, a + 1, a + cells + 2, a, a + cells + 2, a + cells + 1);
    }
  return makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles));
}
