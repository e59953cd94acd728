/** Sentences of one's own settings. */
export const SETTINGS_WORDS = {
  title: 'My settings',
  lead: 'How things are written for you. Others keep theirs, and what is measured and signed stays the same.',
  numbering: 'Teeth',
  numberings: { fdi: 'two digits (ISO 3950)', universal: '1 to 32, A to T', palmer: 'corner of the quadrant and place' },
  digits: 'Readings in millimetres',
  digit: { 1: 'to 0.1 mm', 2: 'to 0.01 mm' },
  dates: 'Dates',
  keys: 'Keys',
  keysLead: 'The letters of the Bench are chosen there (the key “?”), and go with you to every computer.',
  example: 'So it looks',
  kept: 'Kept.',
} as const;
