import { describe, expect, it } from 'vitest';
import { along, revolve } from '../../../test/helpers/shapes.ts';
import { Fault } from '../result/fault.ts';
import { writePly, writeStl } from '../simulate/write.ts';
import { readScan } from './scan.ts';

const mesh = revolve(
  along(
    [
      [0, 9],
      [6, 8],
      [7, 0],
    ],
    0.5,
  ),
  60,
);
const stl = writeStl(mesh);
const ascii = (text: string): Uint8Array => new TextEncoder().encode(text);
const fault = (bytes: Uint8Array): Fault => {
  try {
    readScan(bytes);
  } catch (e) {
    if (e instanceof Fault) return e;
    throw e;
  }
  throw new Error('it was read');
};

function asciiStl(): string {
  const p = (v: number) => [0, 1, 2].map((k) => mesh.positions[3 * v + k].toFixed(6)).join(' ');
  const facets: string[] = [];
  for (let f = 0; f < mesh.triangles.length; f += 3)
    facets.push(
      `facet normal 0 0 0\nouter loop\n${[0, 1, 2].map((k) => `vertex ${p(mesh.triangles[f + k])}`).join('\n')}\nendloop\nendfacet`,
    );
  return `solid scan\n${facets.join('\n')}\nendsolid scan\n`;
}
function obj(): string {
  const v: string[] = [];
  for (let i = 0; i < mesh.positions.length; i += 3) v.push(`v ${mesh.positions[i]} ${mesh.positions[i + 1]} ${mesh.positions[i + 2]}`);
  const f: string[] = [];
  for (let i = 0; i < mesh.triangles.length; i += 3)
    f.push(`f ${mesh.triangles[i] + 1}/1 ${mesh.triangles[i + 1] + 1}/1 ${mesh.triangles[i + 2] + 1}/1`);
  return `# a scan\n${v.join('\n')}\n${f.join('\n')}\n`;
}

describe('the same surface in every format', () => {
  it.each([
    ['binary STL', stl, 'stl'],
    ['ASCII STL', ascii(asciiStl()), 'stl-ascii'],
    ['binary PLY', writePly(mesh, null), 'ply'],
    ['OBJ', ascii(obj()), 'obj'],
  ])('%s', (_, bytes, kind) => {
    const s = readScan(bytes);
    expect(s.kind).toBe(kind);
    expect(s.mesh.triangles.length).toBe(mesh.triangles.length);
    expect(s.mesh.positions.length).toBe(mesh.positions.length);
  });

  it('part labels come with PLY', () => {
    const parts = new Uint8Array(mesh.positions.length / 3).fill(4);
    expect(new Set(readScan(writePly(mesh, parts)).parts)).toEqual(new Set([4]));
  });

  it('ASCII PLY with quads', () => {
    const n = 30;
    const v = Array.from({ length: n * n }, (_, i) => `${i % n} ${Math.floor(i / n)} 0`);
    const f = Array.from({ length: (n - 1) * (n - 1) }, (_, i) => {
      const a = (i % (n - 1)) + Math.floor(i / (n - 1)) * n;
      return `4 ${a} ${a + 1} ${a + n + 1} ${a + n}`;
    });
    const text = `ply\nformat ascii 1.0\nelement vertex ${v.length}\nproperty float x\nproperty float y\nproperty float z\nelement face ${f.length}\nproperty list uchar int vertex_indices\nend_header\n${v.join('\n')}\n${f.join('\n')}\n`;
    expect(readScan(ascii(text)).mesh.triangles.length / 3).toBe(2 * 29 * 29);
  });

  it('a stated unit is applied', () => {
    const inMetres = { ...mesh, positions: mesh.positions.map((x) => x / 1000) };
    const s = readScan(writeStl(inMetres), { unitFactor: 1000 });
    expect(Math.max(...s.mesh.positions)).toBeCloseTo(9, 3);
  });
});

describe('a file that cannot be used says what is wrong and what to do', () => {
  it('empty', () => expect(fault(new Uint8Array(0)).code).toBe('file.empty'));
  it('cut short', () => {
    const f = fault(stl.slice(0, stl.length / 2));
    expect(f.code).toBe('file.truncated');
    expect(f.message).toMatch(/promises \d+ triangles.*Export or copy/);
  });
  it('text', () => expect(fault(ascii('Dear Sir, find the scan attached.')).message).toContain('it starts with "Dear Sir'));
  it('not a number', () => {
    const bytes = stl.slice();
    new DataView(bytes.buffer).setFloat32(84 + 50 * 7 + 12, Number.NaN, true);
    const f = fault(bytes);
    expect(f.code).toBe('scan.nan');
    expect(f.message).toContain('triangle 8');
  });
  it('in metres', () => {
    const f = fault(writeStl({ ...mesh, positions: mesh.positions.map((x) => x / 1000) }));
    expect(f.code).toBe('scan.scale');
    expect(f.message).toContain('metres: multiply by 1000');
  });
  it('hardly any triangle', () => expect(fault(writeStl({ ...mesh, triangles: mesh.triangles.slice(0, 30) })).code).toBe('scan.too-few'));
  it('a PLY that ends early', () => expect(fault(writePly(mesh, null).slice(0, 5000)).code).toBe('file.truncated'));
  it('an OBJ that names a missing vertex', () => expect(fault(ascii('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9\n')).message).toContain('line 4'));
});
