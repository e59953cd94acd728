const percent = (v: number): string => `${Math.abs(v).toFixed(1)} %`;

/** Sentences about a scan whose size differs from its master's. */
export const SIZE = {
  off: (p: number, u: number): string =>
    `This scan is ${percent(p)} (± ${u.toFixed(1)}) too ${p > 0 ? 'large' : 'small'} against its master: a scanner out of calibration, or a model that shrank. The readings are those of the scan as it is, and the less sure for it.`,
  corrected: (p: number): string =>
    `This scan was ${percent(p)} too ${p > 0 ? 'large' : 'small'}; its size was corrected before it was measured.`,
  correct: 'Correct its size and measure again',
  takeBack: 'Take the correction back and measure again',
} as const;
