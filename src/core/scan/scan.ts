import { bounds, type Mesh, makeMesh } from '../mesh/mesh.ts';
import { Fault } from '../result/fault.ts';
import { THRESHOLDS } from '../thresholds.ts';
import { FILE_LIMITS, type FileLimits } from './limits.ts';
import { readObj } from './obj.ts';
import { facingOutward } from './outward.ts';
import { readPly } from './ply.ts';
import type { Soup } from './soup.ts';
import { looksBinaryStl, readAsciiStl, readBinaryStl } from './stl.ts';
import { latin1 } from './text.ts';
import { weld } from './weld.ts';

export interface Scan {
  readonly mesh: Mesh<'scanner'>;
  readonly kind: Soup['kind'];
  /** Part label per vertex, when the file carries them (masters do). */
  readonly parts: Uint8Array | null;
}

/** Bytes at the start of a file that identify its format. */
const START = 4096;

/** Bytes → corners, by what the file holds and not by its name. */
export function readSoup(bytes: Uint8Array, limits: FileLimits = FILE_LIMITS): Soup {
  if (bytes.byteLength === 0)
    throw new Fault('file.empty', {
      expected: 'a scan has at least some triangles',
      received: 'it has 0 bytes',
      remedy: 'Export or copy the scan again.',
    });
  const start = latin1(bytes.subarray(0, START));
  const isBinary = binaryLike(bytes);
  if (/^ply\s/.test(start)) return readPly(bytes, limits);
  if (looksBinaryStl(bytes)) return readBinaryStl(bytes, limits);
  const text = start.trimStart();
  if (text.startsWith('solid') && (text.includes('facet') || text.includes('endsolid') || !isBinary)) return readAsciiStl(bytes, limits);
  if (!isBinary && looksObj(text)) return readObj(bytes, limits);
  // A file that is neither text nor of the right length may be an STL with a wrong count, which has its own fault.
  if (isBinary && bytes.byteLength >= 84 && !isPacked(bytes)) return readBinaryStl(bytes, limits);
  const shown = start
    .replace(/[^\x20-\x7e]/g, ' ')
    .trim()
    .slice(0, 30);
  throw new Fault('file.unknown', {
    expected: 'scans are STL (binary or ASCII), PLY or OBJ',
    received: shown ? `it starts with "${shown}"` : 'its contents are not recognised',
    remedy: 'Export the scan from the scanner as STL, PLY or OBJ and drop it again.',
  });
}

/** An OBJ's first line that is no comment begins with one of its keywords. */
function looksObj(text: string): boolean {
  const first = text.split('\n').find((line) => line.trim() !== '' && !line.startsWith('#'));
  return first !== undefined && ['v', 'vn', 'vt', 'o', 'g', 's', 'mtllib', 'usemtl', 'f'].includes(first.trim().split(' ', 1)[0]);
}

/** Formats mistaken for a scan: zip, gzip, PDF, PNG, JPEG. */
const isPacked = (b: Uint8Array): boolean =>
  (b[0] === 0x50 && b[1] === 0x4b) ||
  (b[0] === 0x1f && b[1] === 0x8b) ||
  (b[0] === 0x25 && b[1] === 0x50) ||
  b[0] === 0x89 ||
  (b[0] === 0xff && b[1] === 0xd8);

function binaryLike(bytes: Uint8Array): boolean {
  const n = Math.min(bytes.byteLength, 4096);
  for (let i = 0; i < n; i++) if (bytes[i] === 0 || bytes[i] > 127) return true;
  return false;
}

/** mm per unit that would make a longest side believable, or null. */
function likelyUnit(longest: number): { factor: number; name: string } | null {
  for (const [factor, name] of [
    [1000, 'metres'],
    [10, 'centimetres'],
    [25.4, 'inches'],
    [0.001, 'micrometres'],
  ] as const)
    if (longest * factor >= 12 && longest * factor <= 120) return { factor, name };
  return null;
}

/** Whole reading of a scan: bytes → welded mesh in mm, or a fault that says what is wrong and what to do. */
export function readScan(bytes: Uint8Array, options: { unitFactor?: number; checkSize?: boolean; limits?: FileLimits } = {}): Scan {
  const soup = readSoup(bytes, options.limits);
  const factor = options.unitFactor ?? 1;
  const positions = new Float64Array(soup.positions.length);
  for (let i = 0; i < positions.length; i++) {
    // In single precision, as meshes are written: corners that are two points now are two when what was written is read again.
    const v = Math.fround(soup.positions[i] * factor);
    if (!Number.isFinite(v)) throw notFinite(soup, i, v);
    positions[i] = v;
  }
  if (soup.triangles)
    for (const v of soup.triangles)
      if (v >= positions.length / 3)
        throw new Fault('file.syntax', {
          expected: `the file has ${positions.length / 3} vertices`,
          received: `a face names vertex ${v + 1}`,
          remedy: 'Export the scan again.',
        });
  const welded = weld(positions, soup.triangles);
  const n = welded.triangles.length / 3;
  if (n < THRESHOLDS.scanTrianglesMin)
    throw new Fault('scan.too-few', {
      expected: `at least ${THRESHOLDS.scanTrianglesMin} are needed to measure a tooth`,
      received: `${n} ${n === 1 ? 'is' : 'are'} usable`,
      remedy: 'Scan the tooth with its neighbours and export the whole surface.',
    });
  const corners = welded.positions.length / 3;
  if (corners > THRESHOLDS.scanVerticesPerTriangleMost * n)
    throw new Fault('scan.soup', {
      expected: 'neighbouring triangles of a surface share their corners',
      received: `its ${n.toLocaleString('en')} triangles have ${corners.toLocaleString('en')} corners of their own`,
      remedy: 'Export the mesh itself, not its points or a preview, and drop it again.',
    });
  if (options.checkSize !== false) checkSize(welded.positions);
  let parts: Uint8Array | null = null;
  if (soup.parts) {
    parts = new Uint8Array(welded.positions.length / 3);
    for (let i = 0; i < welded.vertexOf.length; i++) parts[welded.vertexOf[i]] = soup.parts[i];
  }
  return { mesh: makeMesh('scanner', welded.positions, facingOutward(welded.positions, welded.triangles)), kind: soup.kind, parts };
}

const notFinite = (soup: Soup, i: number, value: number): Fault =>
  new Fault('scan.nan', {
    where: soup.triangles ? `vertex ${Math.floor(i / 3) + 1}` : `triangle ${Math.floor(i / 9) + 1}`,
    expected: 'every coordinate is a finite number',
    received: `it says ${value}`,
    remedy: 'Export the scan again; if it stays, scan the tooth again.',
  });

function checkSize(positions: Float64Array): void {
  const b = bounds(positions);
  const longest = Math.max(b.max[0] - b.min[0], b.max[1] - b.min[1], b.max[2] - b.min[2]);
  if (longest >= THRESHOLDS.scanLongestMin_mm && longest <= THRESHOLDS.scanLongestMax_mm) return;
  const guess = likelyUnit(longest);
  throw new Fault('scan.scale', {
    expected: `a dental scan measures between ${THRESHOLDS.scanLongestMin_mm} and ${THRESHOLDS.scanLongestMax_mm} mm`,
    received: `its longest side is ${longest.toPrecision(3)}`,
    remedy: guess
      ? `It looks like ${guess.name}: multiply by ${guess.factor}, or export it in millimetres and drop it again.`
      : 'Export it in millimetres and drop it again.',
  });
}
