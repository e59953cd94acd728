import type { Mesh } from '../mesh/mesh.ts';

/** Binary STL of a mesh. */
export function writeStl(m: Mesh): Uint8Array {
  const n = m.triangles.length / 3;
  const bytes = new Uint8Array(84 + 50 * n);
  const view = new DataView(bytes.buffer);
  view.setUint32(80, n, true);
  let o = 84;
  for (let f = 0; f < n; f++, o += 50)
    for (let c = 0; c < 3; c++)
      for (let k = 0; k < 3; k++) view.setFloat32(o + 12 + 12 * c + 4 * k, m.positions[3 * m.triangles[3 * f + c] + k], true);
  return bytes;
}

/** Binary little-endian PLY, with `part` on the vertices when given. */
export function writePly(m: Mesh, parts: Uint8Array | null): Uint8Array {
  const nv = m.positions.length / 3;
  const nf = m.triangles.length / 3;
  const header = ascii(
    `ply\nformat binary_little_endian 1.0\nelement vertex ${nv}\nproperty float x\nproperty float y\nproperty float z\n${parts ? 'property uchar part\n' : ''}element face ${nf}\nproperty list uchar int vertex_indices\nend_header\n`,
  );
  const stride = parts ? 13 : 12;
  const bytes = new Uint8Array(header.length + nv * stride + nf * 13);
  bytes.set(header);
  const view = new DataView(bytes.buffer);
  let o = header.length;
  for (let v = 0; v < nv; v++, o += stride) {
    for (let k = 0; k < 3; k++) view.setFloat32(o + 4 * k, m.positions[3 * v + k], true);
    if (parts) bytes[o + 12] = parts[v];
  }
  for (let f = 0; f < nf; f++, o += 13) {
    bytes[o] = 3;
    for (let k = 0; k < 3; k++) view.setInt32(o + 1 + 4 * k, m.triangles[3 * f + k], true);
  }
  return bytes;
}

const ascii = (s: string): Uint8Array => Uint8Array.from(s, (c) => c.charCodeAt(0));
