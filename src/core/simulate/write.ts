import type { Mesh } from '../mesh/mesh.ts';
import type { ScanFileKind } from './recipe.ts';

/** A scan in one of the file kinds that scanners write; all of them carry bare triangles. */
export function writeScan(m: Mesh, kind: ScanFileKind): { name: string; bytes: Uint8Array } {
  switch (kind) {
    case 'stl':
      return { name: 'scan.stl', bytes: writeStl(m) };
    case 'stl-ascii':
      return { name: 'scan.stl', bytes: writeStlText(m) };
    case 'ply':
      return { name: 'scan.ply', bytes: writePly(m, null) };
    case 'obj':
      return { name: 'scan.obj', bytes: writeObj(m) };
  }
}

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

const point = (m: Mesh, v: number): string => Array.from(m.positions.subarray(3 * v, 3 * v + 3), (x) => x.toFixed(5)).join(' ');

/** ASCII STL; normals are left to the reader, as the format allows. */
export function writeStlText(m: Mesh): Uint8Array {
  const lines = ['solid scan'];
  for (let f = 0; f < m.triangles.length; f += 3) {
    lines.push('facet normal 0 0 0', 'outer loop');
    for (let k = 0; k < 3; k++) lines.push(`vertex ${point(m, m.triangles[f + k])}`);
    lines.push('endloop', 'endfacet');
  }
  return ascii(`${[...lines, 'endsolid scan'].join('\n')}\n`);
}

/** Wavefront OBJ: points, then triangles that count them from 1. */
export function writeObj(m: Mesh): Uint8Array {
  const lines: string[] = [];
  for (let v = 0; v < m.positions.length / 3; v++) lines.push(`v ${point(m, v)}`);
  for (let f = 0; f < m.triangles.length; f += 3) lines.push(`f ${m.triangles[f] + 1} ${m.triangles[f + 1] + 1} ${m.triangles[f + 2] + 1}`);
  return ascii(`${lines.join('\n')}\n`);
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
