/** Limits of a file from outside, checked against its real size before any allocation. */
export interface FileLimits {
  /** Bytes of the file as it came, and unpacked. */
  readonly fileBytes: number;
  readonly unpackedBytes: number;
  /** Unpacked bytes per packed byte. */
  readonly ratio: number;
  /** Files in an archive. */
  readonly entries: number;
  readonly triangles: number;
  /** Seconds and bytes of memory that reading and measuring one file may take. */
  readonly seconds: number;
  readonly memoryBytes: number;
}

export const FILE_LIMITS: FileLimits = {
  fileBytes: 300e6,
  unpackedBytes: 1e9,
  ratio: 200,
  entries: 2000,
  triangles: 5e6,
  seconds: 60,
  memoryBytes: 3e9,
};

const WORDS: Readonly<Record<keyof FileLimits, string>> = {
  fileBytes: 'bytes in a file',
  unpackedBytes: 'bytes unpacked',
  ratio: 'unpacked bytes per packed byte',
  entries: 'files in an archive',
  triangles: 'triangles in a scan',
  seconds: 'seconds for one file',
  memoryBytes: 'bytes of memory for one file',
};

/** "at most 5,000,000 triangles in a scan": a limit as errors name it. */
export const limitWords = (limits: FileLimits, which: keyof FileLimits): string =>
  `at most ${limits[which].toLocaleString('en')} ${WORDS[which]} are taken`;
