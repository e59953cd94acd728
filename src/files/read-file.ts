import { gunzipSync, unzip, unzipSync } from 'fflate';
import { Fault } from '#core/result/fault.ts';
import { readScan, type Scan } from '#core/scan/scan.ts';

const isGzip = (b: Uint8Array): boolean => b[0] === 0x1f && b[1] === 0x8b;
const isZip = (b: Uint8Array): boolean => b[0] === 0x50 && b[1] === 0x4b && (b[2] === 3 || b[2] === 5);

const ofInterest = ([name, b]: [string, Uint8Array]): boolean => !name.endsWith('/') && b.length > 0 && !/(^|\/)(\.|__MACOSX)/.test(name);

const broken = (where: string): Fault =>
  new Fault('file.truncated', {
    where,
    expected: 'a zip archive ends with its list of files',
    received: 'it cannot be unpacked',
    remedy: 'Make the archive again or send the scan itself.',
  });

/** The files of a zip, without folders and hidden files. */
export function unzipped(bytes: Uint8Array, where: string): Record<string, Uint8Array> {
  try {
    return Object.fromEntries(Object.entries(unzipSync(bytes)).filter(ofInterest));
  } catch {
    throw broken(where);
  }
}

/** The same in threads of the library's own: for archives of a whole class, while the caller has others to answer. */
export const unzippedAside = (bytes: Uint8Array, where: string): Promise<Record<string, Uint8Array>> =>
  new Promise((resolve, reject) =>
    unzip(bytes, (e, files) => (e ? reject(broken(where)) : resolve(Object.fromEntries(Object.entries(files).filter(ofInterest))))),
  );

/** A scan from bytes that may be gzipped or the only scan in a zip. */
export function scanFromBytes(bytes: Uint8Array, where: string, options: Parameters<typeof readScan>[1] = {}): Scan {
  if (isGzip(bytes)) {
    let inner: Uint8Array;
    try {
      inner = gunzipSync(bytes);
    } catch {
      throw new Fault('file.truncated', {
        where,
        expected: 'a gzip file can be unpacked',
        received: 'it breaks off',
        remedy: 'Pack it again or send the scan itself.',
      });
    }
    return readScan(inner, options);
  }
  if (isZip(bytes)) {
    const scans = Object.entries(unzipped(bytes, where)).filter(([name]) => /\.(stl|ply|obj)$/i.test(name));
    if (scans.length !== 1)
      throw new Fault('file.unknown', {
        where,
        expected: 'an archive given as a scan holds exactly one STL, PLY or OBJ',
        received: `it holds ${scans.length}`,
        remedy: 'Name one scan.',
      });
    return readScan(scans[0][1], options);
  }
  return readScan(bytes, options);
}
