/** Sentences of the form for a reading by hand. */
export const HAND = {
  keep: 'Keep',
  keepAnyway: 'Keep it all the same',
  doubt: (interval: string, why: string): string => `${interval} is ${why}. Look at the figure again, or keep it all the same.`,
  photo: 'Photograph',
  photoAdd: 'Add a photograph',
  photoAway: 'Take away',
  photoAbout: 'Photograph of this attempt, chosen by an instructor; opens in full size',
  photoFor: 'for whoever grades; students do not see it',
  photoFailed: 'The photograph could not be sent. Look at the connection and choose it again.',
} as const;
