/** Sentences of the form for a reading by hand. */
export const HAND = {
  keep: 'Keep',
  keepAnyway: 'Keep it all the same',
  doubt: (interval: string, why: string): string => `${interval} is ${why}. Look at the figure again, or keep it all the same.`,
} as const;
