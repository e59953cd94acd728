/** What single keys do on the Bench, with the key that does it until somebody chooses another. */
export const BENCH_KEYS = [
  ['next-open', 'e', 'next line to check'],
  ['by-hand', 'h', 'read by hand; again: the line’s next place'],
  ['comment', 'k', 'comment; then 1 to 5 for a phrase of the course'],
  ['not-made', 'x', 'critical error: not made, or does not count'],
  ['made', 'y', 'critical error: made'],
  ['none-made', 'z', 'all critical errors checked, none found'],
  ['sign', 's', 'sign'],
  ['sign-next', 'w', 'sign and go on to the next unsigned attempt'],
  ['release', 'r', 'release to the student'],
  ['next', 'n', 'next attempt of the list'],
  ['previous', 'b', 'attempt before'],
  ['occlusal', 'o', 'look from occlusal'],
  ['facial', 'f', 'look from facial'],
  ['lingual', 'l', 'look from lingual'],
  ['mesial', 'm', 'look from mesial'],
  ['distal', 'd', 'look from distal'],
  ['master', 'g', 'ghost of the master'],
  ['opposing', 'a', 'opposing arch'],
  ['depth', 'c', 'depth colours'],
  ['parts', 'p', 'names of the parts'],
  ['probe', 'i', 'probe, set down at the place in view; Shift and arrows move it'],
  ['gauge', 'u', 'gauge, set down at the place in view'],
  ['ring', 't', 'next reading of the ring'],
  ['side', 'v', 'section or plan'],
] as const;
export type BenchKey = (typeof BENCH_KEYS)[number][0];

/** Keys that stay what they are. */
export const FIXED_KEYS: readonly (readonly [string, string])[] = [
  ['↑ ↓', 'line before, line after'],
  ['← →', 'turn the section'],
  ['Enter', 'confirm what was measured, go on to the next line to check'],
  ['3 2 1 0', 'give a level of your own'],
  ['Esc', 'close what is open'],
  ['?', 'this list'],
];

export const KEY_WORDS = {
  title: 'Keys of the Bench',
  on: 'Single letters act as keys',
  off: 'Single letters are switched off; arrows, Enter, Escape and the figures still work.',
  taken: (key: string, by: string): string => `“${key}” already stands for: ${by}. Choose another letter.`,
  back: 'Letters as they were',
  close: 'Close',
} as const;
