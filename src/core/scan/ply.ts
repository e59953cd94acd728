import { Fault } from '../result/fault.ts';
import { tooManyTriangles } from './counts.ts';
import { type FileLimits, limitWords } from './limits.ts';
import type { Soup } from './soup.ts';
import { latin1 } from './text.ts';
import { Words } from './words.ts';

type Scalar = 'int8' | 'uint8' | 'int16' | 'uint16' | 'int32' | 'uint32' | 'float32' | 'float64';
const SCALARS: Readonly<Record<string, Scalar>> = {
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
const SIZE: Readonly<Record<Scalar, number>> = { int8: 1, uint8: 1, int16: 2, uint16: 2, int32: 4, uint32: 4, float32: 4, float64: 8 };

interface Property {
  readonly name: string;
  readonly type: Scalar;
  /** Type of a list's length; null where the property is one figure. */
  readonly list: Scalar | null;
}
interface Element {
  readonly name: string;
  readonly count: number;
  readonly properties: Property[];
}
type Read = (t: Scalar) => number;

/** Bytes within which a header must end, elements and properties that it may declare, and corners of one face. */
const HEADER_BYTES = 65_536;
const ELEMENTS = 32;
const PROPERTIES = 128;
const CORNERS = 64;

const syntax = (received: string, expected: string): Fault =>
  new Fault('file.syntax', { expected, received, remedy: 'Export the scan again as PLY, STL or OBJ.' });

function readHeader(bytes: Uint8Array): { format: string; elements: Element[]; body: number } {
  const head = latin1(bytes.subarray(0, Math.min(bytes.length, HEADER_BYTES)));
  const end = head.indexOf('end_header');
  const lineEnd = end < 0 ? -1 : head.indexOf('\n', end);
  if (lineEnd < 0) throw syntax('the PLY header has no end', 'a line "end_header" closes it');
  let format = '';
  const elements: Element[] = [];
  for (const line of head.slice(0, end).split('\n')) {
    const w = line.trim().split(/\s+/);
    if (w[0] === 'format') format = w[1] ?? '';
    else if (w[0] === 'element') elements.push({ name: w[1] ?? '', count: Number(w[2]), properties: [] });
    else if (w[0] === 'property') {
      const list = w[1] === 'list' ? SCALARS[w[2]] : null;
      const type = SCALARS[w[1] === 'list' ? w[3] : w[1]];
      if (!type || list === undefined || !elements.length)
        throw syntax(`the line "${line.trim().slice(0, 60)}"`, 'a property has a known type and belongs to an element');
      elements[elements.length - 1].properties.push({ name: w[w.length - 1], type, list });
    }
  }
  if (elements.length > ELEMENTS || elements.some((e) => e.properties.length > PROPERTIES))
    throw syntax('a header that declares far more than a scan has', `at most ${ELEMENTS} elements of ${PROPERTIES} properties`);
  return { format, elements, body: lineEnd + 1 };
}

/** Least bytes per element, so that a declared count is checked against the file's size before any allocation. */
const leastBytes = (e: Element, isAscii: boolean): number => e.properties.reduce((s, q) => s + (isAscii ? 2 : SIZE[q.list ?? q.type]), 0);

function checkCounts(elements: readonly Element[], isAscii: boolean, there: number, limits: FileLimits): void {
  let need = 0;
  for (const e of elements) {
    if (!Number.isSafeInteger(e.count) || e.count < 0)
      throw syntax(`${String(e.count)} as the count of "${e.name}"`, 'a count is a whole number from 0 on');
    if (e.count > 0 && e.properties.length === 0)
      throw syntax(`${e.count} of "${e.name}" without any property`, 'an element that is there has at least one property');
    if (e.name === 'face' && e.count > limits.triangles) throw tooManyTriangles(e.count, limits);
    if (e.name === 'vertex' && e.count > 3 * limits.triangles)
      throw new Fault('file.too-large', {
        expected: limitWords(limits, 'triangles'),
        received: `its header declares ${e.count.toLocaleString('en')} vertices`,
        remedy: 'Export the scan with fewer triangles.',
      });
    need += e.count * leastBytes(e, isAscii);
  }
  // The last figure of a text needs no blank behind it.
  if (need > there + (isAscii ? 1 : 0))
    throw new Fault('file.truncated', {
      expected: `its header promises ${elements.map((e) => `${e.count} ${e.name}`).join(', ')}, which takes ${need.toLocaleString('en')} bytes or more`,
      received: `${there.toLocaleString('en')} follow`,
      remedy: 'Export or copy the scan again.',
    });
}

/** PLY 1.0, ASCII and binary in either byte order; polygons are split into fans; unknown elements and properties are passed over. */
export function readPly(bytes: Uint8Array, limits: FileLimits): Soup {
  const { format, elements, body } = readHeader(bytes);
  if (!['ascii', 'binary_little_endian', 'binary_big_endian'].includes(format))
    throw syntax(`the format "${format.slice(0, 30)}"`, 'it is ascii or binary');
  const isAscii = format === 'ascii';
  checkCounts(elements, isAscii, bytes.length - body, limits);
  const short = (): Fault =>
    new Fault('file.truncated', {
      expected: `its header promises ${elements.map((e) => `${e.count} ${e.name}`).join(', ')}`,
      received: 'the data end before that',
      remedy: 'Export or copy the scan again.',
    });
  const read = isAscii ? asciiReader(bytes.subarray(body), short) : binaryReader(bytes, body, format === 'binary_little_endian', short);
  const out: Out = { positions: new Float64Array(0), parts: null, triangles: [] };
  for (const e of elements) {
    if (e.name === 'vertex') readVertices(e, read, out);
    else if (e.name === 'face') readFaces(e, read, out, limits);
    else skip(e, read);
  }
  return { kind: 'ply', positions: out.positions, triangles: Uint32Array.from(out.triangles), parts: out.parts };
}

interface Out {
  positions: Float64Array;
  parts: Uint8Array | null;
  readonly triangles: number[];
}

function readVertices(e: Element, read: Read, out: Out): void {
  if (!['x', 'y', 'z'].every((n) => e.properties.some((q) => q.name === n)))
    throw syntax('vertices without x, y and z', 'each vertex has the three');
  out.positions = new Float64Array(e.count * 3);
  out.parts = e.properties.some((q) => q.name === 'part') ? new Uint8Array(e.count) : null;
  const axes = e.properties.map((q) => (q.list ? -1 : ['x', 'y', 'z'].indexOf(q.name)));
  for (let i = 0; i < e.count; i++)
    for (let k = 0; k < e.properties.length; k++) {
      const q = e.properties[k];
      if (q.list) {
        skipList(q, read);
        continue;
      }
      const v = read(q.type);
      if (axes[k] >= 0) out.positions[3 * i + axes[k]] = v;
      else if (q.name === 'part' && out.parts) out.parts[i] = v;
    }
}

function readFaces(e: Element, read: Read, out: Out, limits: FileLimits): void {
  for (let i = 0; i < e.count; i++)
    for (const q of e.properties) {
      if (!q.list) read(q.type);
      else if (q.name !== 'vertex_indices' && q.name !== 'vertex_index') skipList(q, read);
      else {
        const n = listLength(q, read);
        const first = n > 0 ? corner(q, read, i) : 0;
        let last = n > 1 ? corner(q, read, i) : 0;
        for (let k = 2; k < n; k++) {
          const v = corner(q, read, i);
          out.triangles.push(first, last, v);
          last = v;
        }
        if (out.triangles.length > 3 * limits.triangles) throw tooManyTriangles(out.triangles.length / 3, limits);
      }
    }
}

/** A face's next corner; a word or a fraction names no vertex, and must not be taken for the first one. */
function corner(q: Property, read: Read, face: number): number {
  const v = read(q.type);
  if (!Number.isInteger(v) || v < 0)
    throw syntax(
      `face ${face + 1} names vertex "${Number.isNaN(v) ? 'not a number' : v}"`,
      'a face names vertices by whole numbers from 0 on',
    );
  return v;
}

function skip(e: Element, read: Read): void {
  for (let i = 0; i < e.count; i++)
    for (const q of e.properties) {
      if (q.list) skipList(q, read);
      else read(q.type);
    }
}

function skipList(q: Property, read: Read): void {
  for (let k = listLength(q, read); k > 0; k--) read(q.type);
}

function listLength(q: Property, read: Read): number {
  const n = read(q.list as Scalar);
  if (!Number.isInteger(n) || n < 0 || n > CORNERS)
    throw syntax(`a list "${q.name.slice(0, 30)}" of ${n} figures`, `a list has 0 to ${CORNERS}, as faces of scans have`);
  return n;
}

function asciiReader(bytes: Uint8Array, short: () => Fault): Read {
  const words = new Words(bytes);
  return () => {
    const w = words.next();
    if (w === null) throw short();
    return Number(w);
  };
}

function binaryReader(bytes: Uint8Array, at: number, little: boolean, short: () => Fault): Read {
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
