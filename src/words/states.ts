/** What the states of an attempt are called. */
export const STATE_WORDS: Readonly<Record<string, string>> = {
  unmatched: 'whose is it?',
  arrived: 'waiting',
  measuring: 'measuring',
  failed: 'could not be measured',
  cancelled: 'cancelled',
  eye: 'to check',
  ready: 'ready to sign',
  measured: 'measured, to be graded',
  signed: 'signed',
  released: 'released',
  'no-scan': 'no scan, by hand',
  stage: 'unfinished',
};

export const VERDICT_WORDS = {
  inside: 'inside',
  close: 'too close to call',
  outside: 'outside',
  none: 'no reading',
  skipped: 'does not apply',
} as const;

export const STAGE_WORDS: Readonly<Record<string, string>> = {
  scan: 'reading the file',
  align: 'fitting to the master',
  segment: 'finding the preparation',
  measure: 'measuring',
};

export const CAUTION =
  'For learning and assessment only; not a medical device. The licensed instructor’s judgement and the school’s rules prevail. At the bench: eye protection, mask and extraction for typodont dust, a finger rest, mind the sharps.';
