import { Fault } from '../result/fault.ts';
import type { Soup } from './soup.ts';

/** Binary STL: 80 bytes of header, a count, 50 bytes a triangle. A file that is longer than its count says is taken as it counts. */
export function readBinaryStl(bytes: Uint8Array): Soup {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const n = view.getUint32(80, true);
  const need = 84 + 50 * n;
  if (bytes.byteLength < need)
    throw new Fault('file.truncated', {
      expected: `its header promises ${n} triangles (${need} bytes)`,
      received: `it ends after ${bytes.byteLength} bytes, ${Math.floor((bytes.byteLength - 84) / 50)} whole triangles`,
      remedy: 'Export or copy the scan again; the transfer was probably broken off.',
    });
  const positions = new Float64Array(n * 9);
  let o = 84;
  for (let i = 0; i < n; i++, o += 50) for (let k = 0; k < 9; k++) positions[9 * i + k] = view.getFloat32(o + 12 + 4 * k, true);
  return { kind: 'stl', positions, triangles: null, parts: null };
}

export const looksBinaryStl = (bytes: Uint8Array): boolean => {
  if (bytes.byteLength < 84) return false;
  const n = new DataView(bytes.buffer, bytes.byteOffset).getUint32(80, true);
  return bytes.byteLength === 84 + 50 * n;
};

const VERTEX = /vertex\s+(\S+)\s+(\S+)\s+(\S+)/g;

/** ASCII STL: only the `vertex` lines matter; a last facet without its three corners means a broken transfer. */
export function readAsciiStl(text: string): Soup {
  const values: number[] = [];
  for (const m of text.matchAll(VERTEX)) values.push(Number(m[1]), Number(m[2]), Number(m[3]));
  if (values.length === 0)
    throw new Fault('file.syntax', {
      expected: 'an ASCII STL holds lines "vertex x y z"',
      received: 'it starts with "solid" and has no such line',
      remedy: 'Export the scan again as STL, PLY or OBJ.',
    });
  if (values.length % 9 !== 0 || !/endsolid/.test(text.slice(-400)))
    throw new Fault('file.truncated', {
      expected: 'every facet has three corners and the file ends with "endsolid"',
      received: `it breaks off after ${values.length / 3} corners`,
      remedy: 'Export or copy the scan again.',
    });
  return { kind: 'stl-ascii', positions: Float64Array.from(values), triangles: null, parts: null };
}
