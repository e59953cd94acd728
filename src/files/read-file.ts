import { Fault } from '#core/result/fault.ts';
import { FILE_LIMITS, type FileLimits, limitWords } from '#core/scan/limits.ts';
import { readScan, type Scan } from '#core/scan/scan.ts';
import { gunzipped, isGzip, isZip, unzipped } from './archive.ts';

/** Files that may be scans, by their ending. */
export const SCAN_NAME = /\.(stl|ply|obj)(\.gz)?$/i;

export interface ReadOptions {
  readonly unitFactor?: number;
  /** Inner bodies of a master are smaller than any scan. */
  readonly checkSize?: boolean;
  readonly limits?: FileLimits;
}

/** A scan from bytes that may be gzipped or the only scan in a zip. */
export async function scanFromBytes(bytes: Uint8Array, where: string, options: ReadOptions = {}): Promise<Scan> {
  const limits = options.limits ?? FILE_LIMITS;
  if (bytes.length > limits.fileBytes)
    throw new Fault('file.too-large', {
      where,
      expected: limitWords(limits, 'fileBytes'),
      received: `it has ${bytes.length.toLocaleString('en')}`,
      remedy: 'Export the scan with fewer triangles.',
    });
  const read = (b: Uint8Array): Scan => readScan(b, { unitFactor: options.unitFactor, checkSize: options.checkSize, limits });
  if (isGzip(bytes)) return read(withoutArchive(gunzipped(bytes, where, limits), where));
  if (!isZip(bytes)) return read(bytes);
  const scans: Uint8Array[] = [];
  for await (const e of unzipped(bytes, where, limits)) if (SCAN_NAME.test(e.name)) scans.push(e.bytes);
  if (scans.length !== 1)
    throw new Fault('file.unknown', {
      where,
      expected: 'an archive given as a scan holds exactly one STL, PLY or OBJ',
      received: `it holds ${scans.length}`,
      remedy: 'Name one scan.',
    });
  const [only] = scans;
  return read(withoutArchive(isGzip(only) ? gunzipped(only, where, limits) : only, where));
}

/** An archive inside an archive is not opened. */
export function withoutArchive(bytes: Uint8Array, where: string): Uint8Array {
  if (isZip(bytes) || isGzip(bytes))
    throw new Fault('file.archive', {
      where,
      expected: 'an archive holds scans',
      received: 'another archive is in it',
      remedy: 'Unpack it and send the scans, or one archive of them.',
    });
  return bytes;
}
