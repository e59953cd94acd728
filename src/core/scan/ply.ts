import { Fault } from '../result/fault.ts';
import { tooManyTriangles } from './counts.ts';
import { type FileLimits, limitWords } from './limits.ts';
import {
  asciiSource,
  binarySource,
  Corners,
  type Element,
  type Property,
  type Read,
  SCALARS,
  type Scalar,
  SIZE,
  type Source,
  type Store,
} from './ply-source.ts';
import type { Soup } from './soup.ts';
import { latin1 } from './text.ts';

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
  const source = isAscii ? asciiSource(bytes.subarray(body), short) : binarySource(bytes, body, format === 'binary_little_endian', short);
  const out: Out = { positions: new Float64Array(0), parts: null, triangles: new Corners() };
  for (const e of elements) {
    const storeOf = e.name === 'vertex' ? vertexStore(e, out) : () => null;
    if (source.rows && e.properties.every((q) => !q.list)) source.rows(e, storeOf);
    else readRows(e, source, e.name === 'face' ? faceReader(out, limits) : storing(storeOf));
  }
  return { kind: 'ply', positions: out.positions, triangles: out.triangles.all(), parts: out.parts };
}

interface Out {
  positions: Float64Array;
  parts: Uint8Array | null;
  readonly triangles: Corners;
}

/** Reads a property of row `i`. */
type ReadProperty = (i: number) => void;

/** Reads an element's rows; a property for which `readerOf` has nothing is passed over. */
function readRows(e: Element, source: Source, readerOf: (q: Property, source: Source) => ReadProperty | null): void {
  const columns = e.properties.map((q): ReadProperty => readerOf(q, source) ?? (q.list ? listSkipper(q, source) : source.read(q.type)));
  for (let i = 0; i < e.count; i++) for (const read of columns) read(i);
}

function vertexStore(e: Element, out: Out): (q: Property) => Store | null {
  if (!['x', 'y', 'z'].every((n) => e.properties.some((q) => q.name === n)))
    throw syntax('vertices without x, y and z', 'each vertex has the three');
  const positions = new Float64Array(e.count * 3);
  const parts = e.properties.some((q) => q.name === 'part') ? new Uint8Array(e.count) : null;
  out.positions = positions;
  out.parts = parts;
  return (q) => {
    const axis = ['x', 'y', 'z'].indexOf(q.name);
    if (q.list || (axis < 0 && q.name !== 'part')) return null;
    return axis < 0 ? { to: parts as Uint8Array, step: 1, at: 0 } : { to: positions, step: 3, at: axis };
  };
}

const storing =
  (storeOf: (q: Property) => Store | null) =>
  (q: Property, source: Source): ReadProperty | null => {
    const store = storeOf(q);
    if (!store) return null;
    const { to, step, at } = store;
    const read = source.read(q.type);
    return (i) => {
      to[step * i + at] = read();
    };
  };

function faceReader({ triangles }: Out, limits: FileLimits) {
  return (q: Property, source: Source): ReadProperty | null => {
    if (!q.list || (q.name !== 'vertex_indices' && q.name !== 'vertex_index')) return null;
    const length = listLength(q, source);
    const corner = cornerReader(source.read(q.type));
    const triangle = source.triangle(q);
    const polygon = (face: number): void => {
      const n = length();
      const first = n > 0 ? corner(face) : 0;
      let last = n > 1 ? corner(face) : 0;
      for (let k = 2; k < n; k++) {
        const v = corner(face);
        triangles.push(first, last, v);
        last = v;
      }
    };
    return (face) => {
      if (!triangle?.(triangles)) polygon(face);
      if (triangles.triangles > limits.triangles) throw tooManyTriangles(triangles.triangles, limits);
    };
  };
}

/** Reads a face's next corner; a word or a fraction names no vertex, and must not be taken for the first one. */
const cornerReader =
  (read: Read): ((face: number) => number) =>
  (face) => {
    const v = read();
    if (Number.isInteger(v) && v >= 0) return v;
    throw syntax(
      `face ${face + 1} names vertex "${Number.isNaN(v) ? 'not a number' : v}"`,
      'a face names vertices by whole numbers from 0 on',
    );
  };

function listSkipper(q: Property, source: Source): () => void {
  const length = listLength(q, source);
  const read = source.read(q.type);
  return () => {
    for (let k = length(); k > 0; k--) read();
  };
}

function listLength(q: Property, source: Source): Read {
  const read = source.read(q.list as Scalar);
  return () => {
    const n = read();
    if (Number.isInteger(n) && n >= 0 && n <= CORNERS) return n;
    throw syntax(`a list "${q.name.slice(0, 30)}" of ${n} figures`, `a list has 0 to ${CORNERS}, as faces of scans have`);
  };
}
