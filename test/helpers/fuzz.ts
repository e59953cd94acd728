import { gzipSync, zipSync } from 'fflate';
import { makeMesh } from '#core/mesh/mesh.ts';
import { Fault } from '#core/result/fault.ts';
import { FILE_LIMITS, type FileLimits } from '#core/scan/limits.ts';
import { writeObj, writePly, writeStl, writeStlText } from '#core/simulate/write.ts';
import { seeded } from '#core/statistics/random.ts';
import { isZip, unzipped } from '../../src/files/archive.ts';
import { scanFromBytes } from '../../src/files/read-file.ts';

/** Limits of one hostile file: small, so that what runs over them is met often. */
export const FUZZ_LIMITS: FileLimits = { ...FILE_LIMITS, fileBytes: 2e6, unpackedBytes: 4e6, triangles: 5000 };

/** A wavy sheet of 800 triangles: every format's writer makes a sound file of it. */
function sheet() {
  const n = 20;
  const positions: number[] = [];
  const triangles: number[] = [];
  for (let j = 0; j <= n; j++) for (let i = 0; i <= n; i++) positions.push(i, j, Math.sin(i / 3) + Math.cos(j / 4));
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const a = j * (n + 1) + i;
      triangles.push(a, a + 1, a + n + 2, a, a + n + 2, a + n + 1);
    }
  return makeMesh('scanner', Float64Array.from(positions), Uint32Array.from(triangles));
}

const text = (s: string): Uint8Array => new TextEncoder().encode(s);

function plyText(): Uint8Array {
  const { positions: p, triangles: t } = sheet();
  const lines = ['ply', 'format ascii 1.0', `element vertex ${p.length / 3}`, 'property float x', 'property float y', 'property float z'];
  lines.push(`element face ${t.length / 3}`, 'property list uchar int vertex_indices', 'end_header');
  for (let i = 0; i < p.length; i += 3) lines.push(`${p[i]} ${p[i + 1]} ${p[i + 2]}`);
  for (let i = 0; i < t.length; i += 3) lines.push(`3 ${t[i]} ${t[i + 1]} ${t[i + 2]}`);
  return text(`${lines.join('\n')}\n`);
}

export const FORMATS = ['stl', 'stl text', 'ply', 'ply text', 'obj', 'stl.gz', 'ply.gz', 'zip'] as const;
type Format = (typeof FORMATS)[number];

const SOUND: Readonly<Record<Format, () => Uint8Array>> = {
  stl: () => writeStl(sheet()),
  'stl text': () => writeStlText(sheet()),
  ply: () => writePly(sheet(), null),
  'ply text': plyText,
  obj: () => writeObj(sheet()),
  'stl.gz': () => gzipSync(writeStl(sheet()), { level: 1 }),
  'ply.gz': () => gzipSync(plyText(), { level: 1 }),
  zip: () => zipSync({ 'a.stl': writeStl(sheet()), 'b/c.ply': plyText() }, { level: 1 }),
};
const sound = Object.fromEntries(FORMATS.map((f) => [f, SOUND[f]()])) as Record<Format, Uint8Array>;

/** What breaks readers: counts nobody has, words that are none, bytes of other formats, endless lines. */
const WORDS = [
  '4294967295',
  '-1',
  '1e999',
  'nan',
  '99999999999',
  '0',
  '\0',
  '\n\n\n\n',
  'element vertex 2000000000\n',
  'property list uint int x\n',
];
const NUMBERS = [0, 1, 0x7fffffff, 0xffffffff, 0x80000000, 255, 65_536];

/** What is packed in each packed format; half of the hostile files are broken inside and packed soundly. */
const PACKED: Partial<Record<Format, { inside: Format; pack: (b: Uint8Array) => Uint8Array }>> = {
  'stl.gz': { inside: 'stl', pack: (b) => gzipSync(b, { level: 1 }) },
  'ply.gz': { inside: 'ply text', pack: (b) => gzipSync(b, { level: 1 }) },
  zip: { inside: 'ply', pack: (b) => zipSync({ 'a.ply': b }, { level: 1 }) },
};

/** The hostile file of a seed: a sound file of one of the formats, broken in one to six ways. */
export function hostileFile(seed: number): { format: Format; bytes: Uint8Array } {
  const random = seeded(seed);
  const format = FORMATS[Math.floor(random.next() * FORMATS.length)];
  const packed = PACKED[format];
  if (packed && random.next() < 0.5) return { format, bytes: packed.pack(spoiled(sound[packed.inside], random)) };
  return { format, bytes: spoiled(sound[format], random) };
}

function spoiled(whole: Uint8Array, random: ReturnType<typeof seeded>): Uint8Array {
  const below = (n: number): number => Math.floor(random.next() * n);
  let bytes: Uint8Array = whole.slice();
  // The header decides how the rest is read: half of what is broken is broken there.
  const place = (): number => (random.next() < 0.5 ? below(Math.min(400, bytes.length)) : below(bytes.length));
  for (let n = 1 + below(6); n > 0 && bytes.length > 8; n--) {
    const at = place();
    const before = bytes.subarray(0, at);
    const after = bytes.subarray(at);
    const kind = below(7);
    if (kind === 0) bytes[at] ^= 1 << below(8);
    else if (kind === 1) bytes = before.slice();
    else if (kind === 2) bytes = joined(before, text(WORDS[below(WORDS.length)]), after);
    else if (kind === 3 && at + 4 <= bytes.length) new DataView(bytes.buffer).setUint32(at, NUMBERS[below(NUMBERS.length)], below(2) === 0);
    else if (kind === 4) bytes = joined(before, after.subarray(below(200)));
    else if (kind === 5) bytes = joined(before, bytes.subarray(below(bytes.length)).subarray(0, 300), after);
    else for (let i = at; i < Math.min(bytes.length, at + 16); i++) bytes[i] = below(256);
  }
  return bytes;
}

function joined(...parts: Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const p of parts) {
    out.set(p, at);
    at += p.length;
  }
  return out;
}

/** Reads it as the server does: what it comes to (`read`, or the fault's code). Anything but a fault is thrown on. */
export async function outcome({ bytes }: { bytes: Uint8Array }): Promise<string> {
  try {
    if (isZip(bytes)) {
      for await (const entry of unzipped(bytes, 'x.zip', FUZZ_LIMITS))
        await scanFromBytes(entry.bytes, entry.name, { limits: FUZZ_LIMITS });
    } else await scanFromBytes(bytes, 'x', { limits: FUZZ_LIMITS });
    return 'read';
  } catch (e) {
    if (e instanceof Fault) return e.code;
    throw e;
  }
}
