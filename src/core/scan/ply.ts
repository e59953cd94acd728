import { Fault } from '../result/fault.ts';
import type { Soup } from './soup.ts';
import { latin1 } from './text.ts';

type Scalar = 'int8' | 'uint8' | 'int16' | 'uint16' | 'int32' | 'uint32' | 'float32' | 'float64';
const SCALARS: Record<string, Scalar> = {
  char: 'int8',
  int8: 'int8',
  uchar: 'uint8',
  uint8: 'uint8',
  short: 'int16',
  int16: 'int16',
  ushort: 'uint16',
  uint16: 'uint16',
  int: 'int32',
  int32: 'int32',
  uint: 'uint32',
  uint32: 'uint32',
  float: 'float32',
  float32: 'float32',
  double: 'float64',
  float64: 'float64',
};
const SIZE: Record<Scalar, number> = { int8: 1, uint8: 1, int16: 2, uint16: 2, int32: 4, uint32: 4, float32: 4, float64: 8 };

interface Property {
  name: string;
  type: Scalar;
  list: Scalar | null;
}
interface Element {
  name: string;
  count: number;
  properties: Property[];
}

const syntax = (received: string, expected: string): Fault =>
  new Fault('file.syntax', { expected, received, remedy: 'Export the scan again as PLY, STL or OBJ.' });

function readHeader(bytes: Uint8Array): { format: string; elements: Element[]; body: number } {
  const head = latin1(bytes.subarray(0, Math.min(bytes.length, 65536)));
  const end = /end_header\r?\n/.exec(head);
  if (!end) throw syntax('the PLY header has no end', 'a line "end_header" closes it');
  let format = '';
  const elements: Element[] = [];
  for (const line of head.slice(0, end.index).split(/\r?\n/)) {
    const w = line.trim().split(/\s+/);
    if (w[0] === 'format') format = w[1];
    else if (w[0] === 'element') elements.push({ name: w[1], count: Number(w[2]), properties: [] });
    else if (w[0] === 'property') {
      const list = w[1] === 'list' ? SCALARS[w[2]] : null;
      const type = SCALARS[w[1] === 'list' ? w[3] : w[1]];
      if (!type || list === undefined || !elements.length)
        throw syntax(`the line "${line.trim()}"`, 'a property has a known type and belongs to an element');
      elements[elements.length - 1].properties.push({ name: w[w.length - 1], type, list });
    }
  }
  return { format, elements, body: end.index + end[0].length };
}

/** PLY 1.0, ASCII and binary in either byte order; polygons are split into fans; unknown elements and properties are passed over. */
export function readPly(bytes: Uint8Array): Soup {
  const { format, elements, body } = readHeader(bytes);
  if (!['ascii', 'binary_little_endian', 'binary_big_endian'].includes(format))
    throw syntax(`the format "${format}"`, 'it is ascii or binary');
  const short = () =>
    new Fault('file.truncated', {
      expected: `its header promises ${elements.map((e) => `${e.count} ${e.name}`).join(', ')}`,
      received: 'the data end before that',
      remedy: 'Export or copy the scan again.',
    });
  const read =
    format === 'ascii' ? asciiReader(bytes.subarray(body), short) : binaryReader(bytes, body, format === 'binary_little_endian', short);
  let positions = new Float64Array(0);
  let parts: Uint8Array | null = null;
  const triangles: number[] = [];
  for (const e of elements) {
    if (e.name === 'vertex') {
      positions = new Float64Array(e.count * 3);
      if (e.properties.some((q) => q.name === 'part')) parts = new Uint8Array(e.count);
      if (!['x', 'y', 'z'].every((n) => e.properties.some((q) => q.name === n)))
        throw syntax('vertices without x, y and z', 'each vertex has the three');
    }
    for (let i = 0; i < e.count; i++)
      for (const q of e.properties) {
        if (q.list) {
          const n = read(q.list);
          const wanted = e.name === 'face' && (q.name === 'vertex_indices' || q.name === 'vertex_index');
          let first = 0;
          let last = 0;
          for (let k = 0; k < n; k++) {
            const v = read(q.type);
            if (!wanted) continue;
            if (k === 0) first = v;
            else if (k >= 2) triangles.push(first, last, v);
            last = v;
          }
          continue;
        }
        const v = read(q.type);
        if (e.name !== 'vertex') continue;
        if (q.name === 'x') positions[3 * i] = v;
        else if (q.name === 'y') positions[3 * i + 1] = v;
        else if (q.name === 'z') positions[3 * i + 2] = v;
        else if (q.name === 'part' && parts) parts[i] = v;
      }
  }
  return { kind: 'ply', positions, triangles: Uint32Array.from(triangles), parts };
}

function asciiReader(bytes: Uint8Array, short: () => Fault): (t: Scalar) => number {
  const words = latin1(bytes).split(/\s+/);
  let i = words[0] === '' ? 1 : 0;
  return () => {
    const w = words[i++];
    if (w === undefined || w === '') throw short();
    return Number(w);
  };
}

function binaryReader(bytes: Uint8Array, at: number, little: boolean, short: () => Fault): (t: Scalar) => number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let o = at;
  return (t) => {
    if (o + SIZE[t] > view.byteLength) throw short();
    const p = o;
    o += SIZE[t];
    switch (t) {
      case 'int8':
        return view.getInt8(p);
      case 'uint8':
        return view.getUint8(p);
      case 'int16':
        return view.getInt16(p, little);
      case 'uint16':
        return view.getUint16(p, little);
      case 'int32':
        return view.getInt32(p, little);
      case 'uint32':
        return view.getUint32(p, little);
      case 'float32':
        return view.getFloat32(p, little);
      case 'float64':
        return view.getFloat64(p, little);
    }
  };
}
