// The figures of a PLY's body in the order in which its header declares them.
import type { Fault } from '../result/fault.ts';
import { Words } from './words.ts';

export type Scalar = 'int8' | 'uint8' | 'int16' | 'uint16' | 'int32' | 'uint32' | 'float32' | 'float64';
export const SCALARS: Readonly<Record<string, Scalar>> = {
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
export const SIZE: Readonly<Record<Scalar, number>> = {
  int8: 1,
  uint8: 1,
  int16: 2,
  uint16: 2,
  int32: 4,
  uint32: 4,
  float32: 4,
  float64: 8,
};

export interface Property {
  readonly name: string;
  readonly type: Scalar;
  /** Type of a list's length; null where the property is one figure. */
  readonly list: Scalar | null;
}
export interface Element {
  readonly name: string;
  readonly count: number;
  readonly properties: Property[];
}
export type Read = () => number;
/** What is read, in order. */
export interface Source {
  /** The function that reads the next figure of a type. It is asked for once for each property, since a scan has a million figures. */
  readonly read: (t: Scalar) => Read;
  /** All rows of an element without lists, a property at a time; null where rows have no size of their own. */
  readonly rows: ((e: Element, storeOf: (q: Property) => Store | null) => void) | null;
  /** Takes the next face where it is a triangle, and leaves it to be read where not; null of a list that is not written as most are. */
  readonly triangle: (q: Property) => ((out: Corners) => boolean) | null;
}
/** Where a property's figures go: that of row i to `step` · i + `at`. */
export interface Store {
  readonly to: Float64Array | Uint8Array;
  readonly step: number;
  readonly at: number;
}

/** Triangles' corners in a store that doubles when it is full: how many a file's polygons make shows only as they are read. */
export class Corners {
  private store = new Uint32Array(3 * 1024);
  private used = 0;
  get triangles(): number {
    return this.used / 3;
  }
  push(a: number, b: number, c: number): void {
    if (this.used === this.store.length) {
      const longer = new Uint32Array(2 * this.used);
      longer.set(this.store);
      this.store = longer;
    }
    this.store[this.used++] = a;
    this.store[this.used++] = b;
    this.store[this.used++] = c;
  }
  all(): Uint32Array {
    return this.store.slice(0, this.used);
  }
}

export function asciiSource(bytes: Uint8Array, short: () => Fault): Source {
  const words = new Words(bytes);
  const read = (): number => {
    const w = words.next();
    if (w === null) throw short();
    return Number(w);
  };
  return { read: () => read, rows: null, triangle: () => null };
}

/** Bytes of a face's length and its three corners. */
const TRIANGLE = 13;

export function binarySource(bytes: Uint8Array, at: number, little: boolean, short: () => Fault): Source {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let o = at;
  /** Where the next figure of so many bytes begins. */
  const step = (size: number): number => {
    const p = o;
    o += size;
    if (o > view.byteLength) throw short();
    return p;
  };
  const figures: Readonly<Record<Scalar, (p: number) => number>> = {
    int8: (p) => view.getInt8(p),
    uint8: (p) => view.getUint8(p),
    int16: (p) => view.getInt16(p, little),
    uint16: (p) => view.getUint16(p, little),
    int32: (p) => view.getInt32(p, little),
    uint32: (p) => view.getUint32(p, little),
    float32: (p) => view.getFloat32(p, little),
    float64: (p) => view.getFloat64(p, little),
  };
  return {
    read: (t) => {
      const [figure, size] = [figures[t], SIZE[t]];
      return () => figure(step(size));
    },
    rows: (e, storeOf) => {
      const row = e.properties.reduce((s, q) => s + SIZE[q.type], 0);
      let p = o;
      step(row * e.count);
      for (const q of e.properties) {
        const store = storeOf(q);
        if (store) column(store, figures[q.type], p, row, e.count);
        p += SIZE[q.type];
      }
    },
    triangle: (q) => {
      if (q.list !== 'uint8' || (q.type !== 'int32' && q.type !== 'uint32')) return null;
      return (out) => {
        if (o + TRIANGLE > view.byteLength || view.getUint8(o) !== 3) return false;
        const a = view.getInt32(o + 1, little);
        const b = view.getInt32(o + 5, little);
        const c = view.getInt32(o + 9, little);
        if (a < 0 || b < 0 || c < 0) return false;
        out.push(a, b, c);
        o += TRIANGLE;
        return true;
      };
    },
  };
}

function column({ to, step, at }: Store, figure: (p: number) => number, from: number, row: number, count: number): void {
  for (let i = 0, p = from; i < count; i++, p += row) to[step * i + at] = figure(p);
}
