/** Every sentence that several screens share. */
export const STATE_WORDS: Readonly<Record<string, string>> = {
  unmatched: 'whose is it?',
  arrived: 'waiting',
  measuring: 'measuring',
  failed: 'could not be measured',
  cancelled: 'cancelled',
  eye: 'needs an eye',
  ready: 'ready to sign',
  signed: 'signed',
  released: 'released',
};

export const VERDICT_WORDS = { inside: 'inside', close: 'too close to call', outside: 'outside', none: 'no reading' } as const;

export const STAGE_WORDS: Readonly<Record<string, string>> = {
  scan: 'reading the file',
  align: 'fitting to the master',
  segment: 'finding the preparation',
  measure: 'measuring',
};

export const UNIT_WORDS: Readonly<Record<string, string>> = {
  mm: 'mm',
  deg: '°',
  mm2: 'mm²',
  mm3: 'mm³',
  ratio: '',
  share: '',
  count: '',
  none: '',
};

export const CAUTION =
  'For learning and assessment only; not a medical device. The licensed instructor’s judgement and the school’s rules prevail. At the bench: eye protection, mask and extraction for typodont dust, a finger rest, mind the sharps.';

const READING_WORDS: Readonly<Record<string, string>> = {
  'reduction.occlusal': 'occlusal reduction',
  'reduction.axial': 'axial reduction',
  'margin.width': 'margin width',
  'margin.gingiva': 'height over gingiva',
  'taper.wall': 'wall taper',
  'toc.faciolingual': 'convergence, facial to lingual',
  'toc.mesiodistal': 'convergence, mesial to distal',
  'neighbour.mesial': 'damage to the mesial neighbour',
  'neighbour.distal': 'damage to the distal neighbour',
};
const STAT_WORDS: Readonly<Record<string, string>> = {
  p05: 'thinnest',
  median: 'middle',
  mean: 'mean',
  p95: 'deepest',
  min: 'least',
  max: 'largest',
  value: '',
};

/** "occlusal reduction, ML, thinnest": a reading in words. */
export function readingWords(name: string, zone: string | null, stat: string): string {
  return [READING_WORDS[name] ?? name, zone, STAT_WORDS[stat] ?? stat].filter(Boolean).join(', ');
}

export const digitsOf = (unit: string): number => (unit === 'deg' ? 1 : 2);

/** A value with its U and unit, the same wherever it appears. */
export function valueWords(value: number | null, U: number | null, unit: string, reason?: string | null): string {
  if (value === null) return reason ?? 'not read';
  const d = digitsOf(unit);
  return `${value.toFixed(d)} ± ${Math.max(U ?? 0, 0.5 * 10 ** -d).toFixed(d)} ${UNIT_WORDS[unit] ?? unit}`.trim();
}
