/** Sentences of the page on which a scan is aligned by three points. */
export const ALIGN = {
  title: 'Align by three points',
  scan: 'Scan',
  master: 'Master',
  all: 'Six points are set. Fit the scan with them, or undo one.',
  next: (which: string): string =>
    `Click the ${which} point: first on the scan, then the same place on the master. Cusp tips of the neighbours do well; keep the three far apart.`,
  set: (what: string, n: number): string => `${what}: ${n} of 3 points set`,
  loading: 'Loading…',
  undo: 'Undo',
  fit: 'Fit with these points',
} as const;
