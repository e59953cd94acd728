/** Words of the list from which a student is chosen. */
export const PICKER = {
  choose: 'Choose the student…',
  type: 'Name or number',
  none: 'No student of this course is called so.',
} as const;
