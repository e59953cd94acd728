import { Fault } from '../result/fault.ts';
import { tooManyTriangles } from './counts.ts';
import type { FileLimits } from './limits.ts';
import type { Soup } from './soup.ts';
import { Words } from './words.ts';

/** Bytes: 80 of header and a count; and of one triangle, twelve figures and an attribute. */
const HEADER = 84;
const TRIANGLE = 50;

/** Binary STL: 80 bytes of header, a count, 50 bytes per triangle. A file that is longer than its count says is taken as it counts. */
export function readBinaryStl(bytes: Uint8Array, limits: FileLimits): Soup {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const n = view.getUint32(80, true);
  const there = Math.floor((bytes.byteLength - HEADER) / TRIANGLE);
  if (there < n)
    throw new Fault('file.truncated', {
      expected: `its header promises ${n} triangles (${HEADER + TRIANGLE * n} bytes)`,
      received: `it ends after ${bytes.byteLength} bytes, ${there} whole triangles`,
      remedy: 'Export or copy the scan again; the transfer was probably broken off, or the count in its header is wrong.',
    });
  if (n > limits.triangles) throw tooManyTriangles(n, limits);
  const positions = new Float64Array(n * 9);
  let o = HEADER;
  for (let i = 0; i < n; i++, o += TRIANGLE) for (let k = 0; k < 9; k++) positions[9 * i + k] = view.getFloat32(o + 12 + 4 * k, true);
  return { kind: 'stl', positions, triangles: null, parts: null };
}

export const looksBinaryStl = (bytes: Uint8Array): boolean => {
  if (bytes.byteLength < HEADER) return false;
  const n = new DataView(bytes.buffer, bytes.byteOffset).getUint32(80, true);
  return bytes.byteLength === HEADER + TRIANGLE * n;
};

/** ASCII STL: only the `vertex` lines matter; a last facet without its three corners means a broken transfer. */
export function readAsciiStl(bytes: Uint8Array, limits: FileLimits): Soup {
  const words = new Words(bytes);
  const values: number[] = [];
  let last = '';
  let endsWell = false;
  for (let w = words.next(); w !== null; w = words.next()) {
    if (w === 'vertex') {
      for (let k = 0; k < 3; k++) values.push(Number(words.next() ?? Number.NaN));
      if (values.length > 9 * limits.triangles) throw tooManyTriangles(values.length / 9, limits);
    }
    endsWell ||= w === 'endsolid';
    last = w;
  }
  if (values.length === 0)
    throw new Fault('file.syntax', {
      expected: 'an ASCII STL holds lines "vertex x y z"',
      received: 'it starts with "solid" and has no such line',
      remedy: 'Export the scan again as STL, PLY or OBJ.',
    });
  if (values.length % 9 !== 0 || !endsWell)
    throw new Fault('file.truncated', {
      expected: 'every facet has three corners and the file ends with "endsolid"',
      received: `it breaks off after ${Math.floor(values.length / 3)} corners, at "${last.slice(0, 20)}"`,
      remedy: 'Export or copy the scan again.',
    });
  return { kind: 'stl-ascii', positions: Float64Array.from(values), triangles: null, parts: null };
}
