import { describe, expect, it } from 'vitest';
import type { Fault } from '../result/fault.ts';
import { FILE_LIMITS } from './limits.ts';
import { readPly } from './ply.ts';

const ascii = (text: string): Uint8Array => new TextEncoder().encode(text);
const read = (bytes: Uint8Array, triangles = 1000) => readPly(bytes, { ...FILE_LIMITS, triangles });
const fault = (bytes: Uint8Array, triangles?: number): Fault => {
  try {
    read(bytes, triangles);
  } catch (e) {
    return e as Fault;
  }
  throw new Error('a fault was expected');
};

const XYZ = 'property float x\nproperty float y\nproperty float z\n';
const FACES = 'property list uchar int vertex_indices\n';
/** A triangle's three corners and its face, with whatever stands between. */
const triangle = (
  more: { header?: string; vertex?: string; face?: string; corners?: readonly string[]; faces?: readonly string[] } = {},
): string =>
  [
    'ply',
    'format ascii 1.0',
    'comment a triangle',
    `element vertex ${(more.corners ?? ['', '', '']).length}`,
    more.vertex ?? XYZ.trimEnd(),
    `element face ${(more.faces ?? ['']).length}`,
    more.face ?? FACES.trimEnd(),
    ...(more.header ? [more.header] : []),
    'end_header',
    ...(more.corners ?? ['0 0 0', '2 0 0', '0 3 0']),
    ...(more.faces ?? ['3 0 1 2']),
    '',
  ].join('\n');

describe('a PLY in text', () => {
  it('gives its corners and faces', () => {
    const soup = read(ascii(triangle()));
    expect([...soup.positions]).toEqual([0, 0, 0, 2, 0, 0, 0, 3, 0]);
    expect([...(soup.triangles ?? [])]).toEqual([0, 1, 2]);
    expect(soup.parts).toBeNull();
  });
  it('a polygon is a fan from its first corner', () => {
    const corners = ['0 0 0', '1 0 0', '1 1 0', '0 1 0', '-1 1 0'];
    expect([...(read(ascii(triangle({ corners, faces: ['5 0 1 2 3 4'] }))).triangles ?? [])]).toEqual([0, 1, 2, 0, 2, 3, 0, 3, 4]);
  });
  it('however many triangles its polygons make, they are all there', () => {
    const corners = ['0 0 0', '1 0 0', '1 1 0', '0 1 0'];
    const found = read(ascii(triangle({ corners, faces: Array(3000).fill('4 0 1 2 3') })), 6000).triangles ?? new Uint32Array();
    expect(found).toHaveLength(3 * 6000);
    for (let f = 0; f < found.length; f += 6) expect([...found.subarray(f, f + 6)]).toEqual([0, 1, 2, 0, 2, 3]);
  });
  it('faces may come in two lists', () => {
    const text = `${triangle({ header: `element face 1\n${FACES.trimEnd()}` })}3 0 2 1\n`;
    expect([...(read(ascii(text)).triangles ?? [])]).toEqual([0, 1, 2, 0, 2, 1]);
  });
  it('a face of one or two corners is no surface', () =>
    expect(read(ascii(triangle({ faces: ['2 0 1', '1 2', '0', '3 0 1 2'] }))).triangles).toHaveLength(3));
  it('coordinates may come in any order, among figures that say something else', () => {
    const vertex = 'property uchar red\nproperty float z\nproperty float x\nproperty float nx\nproperty float y';
    const soup = read(ascii(triangle({ vertex, corners: ['255 3 1 9 2', '0 6 4 9 5', '0 0 0 9 0'] })));
    expect([...soup.positions]).toEqual([1, 2, 3, 4, 5, 6, 0, 0, 0]);
  });
  it('a part’s label is taken with its corner', () => {
    const soup = read(ascii(triangle({ vertex: `${XYZ}property uchar part`, corners: ['0 0 0 1', '2 0 0 1', '0 3 0 4'] })));
    expect([...(soup.parts ?? [])]).toEqual([1, 1, 4]);
  });
  it('lists and elements that it does not know are passed over', () => {
    const face = `property uchar flags\n${FACES}property list uchar float texcoord`;
    const soup = read(
      ascii(
        `${triangle({
          vertex: `${XYZ}property list uchar int near`,
          corners: ['0 0 0 2 7 8', '2 0 0 0', '0 3 0 1 9'],
          face,
          faces: ['1 3 0 1 2 2 0.5 0.5'],
          header: 'element edge 1\nproperty int a\nproperty list uchar int b',
        })}4 2 5 6\n`,
      ),
    );
    expect([...(soup.triangles ?? [])]).toEqual([0, 1, 2]);
    expect([...soup.positions.subarray(6)]).toEqual([0, 3, 0]);
  });
  it('lines may end as other systems write them', () => expect(read(ascii(triangle().replaceAll('\n', '\r\n'))).triangles).toHaveLength(3));
});

describe('a PLY in bytes', () => {
  /** Every scalar in turn as x, and the indices in the widest and the narrowest type. */
  const binary = (little: boolean, type: string, size: number, write: (v: DataView, at: number, value: number) => void): Uint8Array => {
    const head = ascii(
      `ply\nformat binary_${little ? 'little' : 'big'}_endian 1.0\nelement vertex 3\nproperty ${type} x\nproperty float y\nproperty float z\nelement face 1\nproperty list ushort short vertex_index\nend_header\n`,
    );
    const bytes = new Uint8Array(head.length + 3 * (size + 8) + 8);
    bytes.set(head);
    const view = new DataView(bytes.buffer);
    let at = head.length;
    [
      [0, 0, 0],
      [100, 0, 0],
      [0, 0.5, 0],
    ].forEach(([x, y, z]) => {
      write(view, at, x);
      view.setFloat32(at + size, y, little);
      view.setFloat32(at + size + 4, z, little);
      at += size + 8;
    });
    [3, 0, 1, 2].forEach((v) => {
      view.setInt16(at, v, little);
      at += 2;
    });
    return bytes;
  };
  const SCALARS: readonly [string, number, (v: DataView, at: number, x: number, little: boolean) => void][] = [
    ['char', 1, (v, at, x) => v.setInt8(at, x)],
    ['uint8', 1, (v, at, x) => v.setUint8(at, x)],
    ['short', 2, (v, at, x, l) => v.setInt16(at, x, l)],
    ['uint16', 2, (v, at, x, l) => v.setUint16(at, x, l)],
    ['int', 4, (v, at, x, l) => v.setInt32(at, x, l)],
    ['uint32', 4, (v, at, x, l) => v.setUint32(at, x, l)],
    ['float', 4, (v, at, x, l) => v.setFloat32(at, x, l)],
    ['double', 8, (v, at, x, l) => v.setFloat64(at, x, l)],
  ];
  it.each(SCALARS.flatMap(([type, size, write]) => [true, false].map((little) => ({ type, size, write, little }))))(
    'reads $type, little end first: $little',
    ({ type, size, write, little }) => {
      const soup = read(binary(little, type, size, (v, at, x) => write(v, at, x, little)));
      expect([...soup.positions]).toEqual([0, 0, 0, 100, 0, 0, 0, 0.5, 0]);
      expect([...(soup.triangles ?? [])]).toEqual([0, 1, 2]);
    },
  );
  it('that ends within a face says so', () => {
    const whole = binary(true, 'float', 4, (v, at, x) => v.setFloat32(at, x, true));
    expect(fault(whole.slice(0, -2)).code).toBe('file.truncated');
  });
});

describe('faces in bytes, written as most are', () => {
  const faces = (...all: readonly number[][]): Uint8Array => {
    const head = ascii(
      `ply\nformat binary_little_endian 1.0\nelement vertex 4\nproperty uchar red\n${XYZ}property uchar part\nelement face ${all.length}\n${FACES}end_header\n`,
    );
    const bytes = new Uint8Array(head.length + 4 * 14 + all.reduce((s, f) => s + 1 + 4 * f.length, 0));
    bytes.set(head);
    const view = new DataView(bytes.buffer);
    let at = head.length;
    for (let v = 0; v < 4; v++) {
      view.setUint8(at, 200);
      for (let k = 0; k < 3; k++) view.setFloat32(at + 1 + 4 * k, 10 * v + k, true);
      view.setUint8(at + 13, v + 1);
      at += 14;
    }
    for (const f of all) {
      view.setUint8(at++, f.length);
      for (const v of f) {
        view.setInt32(at, v, true);
        at += 4;
      }
    }
    return bytes;
  };
  it('triangles, polygons and what is no surface, one after the other', () => {
    const soup = read(faces([0, 1, 2], [0, 1, 2, 3], [1, 2], [3, 2, 1]));
    expect([...(soup.triangles ?? [])]).toEqual([0, 1, 2, 0, 1, 2, 0, 2, 3, 3, 2, 1]);
    expect([...soup.positions]).toEqual([0, 1, 2, 10, 11, 12, 20, 21, 22, 30, 31, 32]);
    expect([...(soup.parts ?? [])]).toEqual([1, 2, 3, 4]);
  });
  it('a vertex before the first, an end within a triangle or a row, and too many of them are told', () => {
    expect(fault(faces([0, 1, 2], [0, -1, 2])).message).toMatch(/face 2 names vertex "-1"/);
    expect(fault(faces([0, 1, 2], [2, 1, 0]).slice(0, -3)).code).toBe('file.truncated');
    expect(fault(faces().slice(0, -1)).code).toBe('file.truncated');
    expect(fault(faces([0, 1, 2], [2, 1, 0], [0, 1, 3]), 2).code).toBe('file.too-large');
  });
});

describe('what a PLY may not say', () => {
  it.each([
    ['no end of its header', triangle().replace('end_header', 'end header'), /header has no end/],
    ['another format', triangle().replace('ascii', 'morse'), /format "morse"/],
    ['a type that there is not', triangle({ vertex: 'property real x\nproperty float y\nproperty float z' }), /property real x/],
    ['a property of nothing', triangle().replace('element vertex 3\n', ''), /property float x/],
    [
      'vertices without z',
      triangle({ vertex: 'property float x\nproperty float y', corners: ['0 0', '1 0', '0 1'] }),
      /without x, y and z/,
    ],
    ['a count that is no number', triangle().replace('vertex 3', 'vertex many'), /count of "vertex"/],
    ['a count below nought', triangle().replace('face 1', 'face -1'), /-1 as the count of "face"/],
    ['elements of nothing', triangle({ header: 'element spare 5' }), /5 of "spare" without any property/],
    ['a face of ninety corners', triangle({ faces: [`90 ${'0 '.repeat(90)}`] }), /a list "vertex_indices" of 90 figures/],
    ['a word for a vertex', triangle({ faces: ['3 0 one 2'] }), /face 1 names vertex "not a number"/],
    ['half a vertex', triangle({ faces: ['3 0 1 2', '3 0 1.5 2'] }), /face 2 names vertex "1.5"/],
    ['a vertex before the first', triangle({ faces: ['3 0 -1 2'] }), /names vertex "-1"/],
    [
      'far more elements than a scan has',
      triangle({ header: Array.from({ length: 40 }, (_, i) => `element e${i} 0`).join('\n') }),
      /at most 32/,
    ],
  ])('%s', (_, text, words) => {
    const f = fault(ascii(text));
    expect(f.code).toBe('file.syntax');
    expect(f.message).toMatch(words);
    expect(f.message).toContain('Export the scan again');
  });
  it('more data than follow: told from the header, before anything is made ready for them', () => {
    const f = fault(ascii(triangle().replace('vertex 3', 'vertex 2500')));
    expect(f.code).toBe('file.truncated');
    expect(f.message).toContain('2500 vertex');
  });
  it('that ends before its last figure', () => expect(fault(ascii(triangle().trimEnd().slice(0, -4))).code).toBe('file.truncated'));
  it('more triangles or corners than are taken', () => {
    expect(fault(ascii(triangle().replace('face 1', 'face 9')), 5).code).toBe('file.too-large');
    expect(fault(ascii(triangle().replace('vertex 3', 'vertex 99')), 5).code).toBe('file.too-large');
    // A few polygons may hold more than their count says.
    const corners = Array.from({ length: 8 }, (_, i) => `${i} ${i * i} 0`);
    expect(fault(ascii(triangle({ corners, faces: ['8 0 1 2 3 4 5 6 7'] })), 5).code).toBe('file.too-large');
  });
});
