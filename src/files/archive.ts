import { gunzipSync } from 'node:zlib';
import type yauzl from 'yauzl';
import { Fault } from '#core/result/fault.ts';
import { type FileLimits, limitWords } from '#core/scan/limits.ts';

export const isGzip = (b: Uint8Array): boolean => b[0] === 0x1f && b[1] === 0x8b;
export const isZip = (b: Uint8Array): boolean => b[0] === 0x50 && b[1] === 0x4b;

/** Small files may unpack to this many bytes whatever their ratio. */
const SMALL_BYTES = 4e6;

const tooLarge = (where: string, limits: FileLimits, which: 'unpackedBytes' | 'ratio' | 'entries', received: string): Fault =>
  new Fault('file.too-large', {
    where,
    expected: limitWords(limits, which),
    received,
    remedy: 'Send the scans by themselves, or fewer in one archive.',
  });

const broken = (where: string, expected: string, received: string): Fault =>
  new Fault('file.archive', { where, expected, received, remedy: 'Make the archive again or send the scan itself.' });

/** A gzip's content, held to the limits while it is unpacked. */
export function gunzipped(bytes: Uint8Array, where: string, limits: FileLimits): Uint8Array {
  const most = Math.min(limits.unpackedBytes, Math.max(SMALL_BYTES, limits.ratio * bytes.length));
  try {
    return gunzipSync(bytes, { maxOutputLength: most });
  } catch (e) {
    if ((e as NodeJS.ErrnoException).code === 'ERR_BUFFER_TOO_LARGE')
      throw tooLarge(
        where,
        limits,
        most < limits.unpackedBytes ? 'ratio' : 'unpackedBytes',
        `it unpacks to more than ${most.toLocaleString('en')} bytes`,
      );
    throw broken(where, 'a gzip file can be unpacked', 'it breaks off or is damaged');
  }
}

export interface ZipEntry {
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** Names as they are shown: the last part of the path, without control characters; a name says nothing about where to write. */
function plainName(raw: string | Buffer): string {
  const name = typeof raw === 'string' ? raw : raw.toString('utf8');
  const last = name.split(/[/\\]/).at(-1) ?? '';
  // biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are what is taken out
  return last.replace(/[\u0000-\u001f\u007f]/g, '').slice(0, 200);
}

const isOfInterest = (path: string, size: number): boolean => size > 0 && !path.endsWith('/') && !/(^|\/)(\.|__MACOSX)/.test(path);

/** The files of a zip one after the other, without folders and hidden files. Declared sizes are held against the limits first, real ones while unpacking. */
export async function* unzipped(bytes: Uint8Array, where: string, limits: FileLimits): AsyncGenerator<ZipEntry> {
  const zip = await open(bytes, where);
  if (zip.entryCount > limits.entries) throw tooLarge(where, limits, 'entries', `it declares ${zip.entryCount.toLocaleString('en')}`);
  let total = 0;
  for (let entry = await next(zip, where); entry; entry = await next(zip, where)) {
    const raw = entry.fileName as string | Buffer;
    const path = typeof raw === 'string' ? raw : raw.toString('utf8');
    const { uncompressedSize: size, compressedSize: packed } = entry;
    if (!isOfInterest(path, size)) continue;
    if (size > SMALL_BYTES && size > limits.ratio * Math.max(1, packed))
      throw tooLarge(
        where,
        limits,
        'ratio',
        `“${plainName(raw)}” unpacks from ${packed.toLocaleString('en')} to ${size.toLocaleString('en')} bytes`,
      );
    total += size;
    if (total > limits.unpackedBytes)
      throw tooLarge(where, limits, 'unpackedBytes', `its files unpack to ${total.toLocaleString('en')} and more`);
    yield { name: plainName(raw), bytes: await content(zip, entry, size, where) };
  }
}

async function open(bytes: Uint8Array, where: string): Promise<yauzl.ZipFile> {
  // Read by who unpacks something: the command line mostly does not.
  const { default: reader } = await import('yauzl');
  return new Promise((resolve, reject) =>
    reader.fromBuffer(
      Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength),
      { lazyEntries: true, decodeStrings: false },
      (e, zip) =>
        e || !zip ? reject(broken(where, 'a zip archive ends with its list of files', 'its list cannot be read')) : resolve(zip),
    ),
  );
}

const next = (zip: yauzl.ZipFile, where: string): Promise<yauzl.Entry | null> =>
  new Promise((resolve, reject) => {
    const settle = (): void => {
      for (const event of ['entry', 'end', 'error']) zip.removeAllListeners(event);
    };
    zip.once('entry', (e: yauzl.Entry) => {
      settle();
      resolve(e);
    });
    zip.once('end', () => {
      settle();
      resolve(null);
    });
    zip.once('error', () => {
      settle();
      reject(broken(where, 'a zip archive lists its files', 'its list is damaged'));
    });
    zip.readEntry();
  });

const content = (zip: yauzl.ZipFile, entry: yauzl.Entry, size: number, where: string): Promise<Uint8Array> =>
  new Promise((resolve, reject) => {
    const fail = (): void =>
      reject(broken(where, 'every file in it can be unpacked', `“${plainName(entry.fileName as string | Buffer)}” cannot`));
    if (entry.generalPurposeBitFlag & 1)
      return reject(broken(where, 'an archive without a password', `“${plainName(entry.fileName as string | Buffer)}” is encrypted`));
    zip.openReadStream(entry, (e, stream) => {
      if (e || !stream) return fail();
      const parts: Buffer[] = [];
      let got = 0;
      stream.on('data', (part: Buffer) => {
        got += part.length;
        // The library ends a stream that is longer than declared; this holds whatever it does.
        if (got > size) stream.destroy(new Error('longer than declared'));
        else parts.push(part);
      });
      stream.on('error', fail);
      stream.on('end', () => resolve(Buffer.concat(parts)));
    });
  });
