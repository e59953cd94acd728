import type { RosterChange } from '#contract/roster.ts';
import type { Field } from '#contract/roster-columns.ts';

/** Sentences of the pages on which a course is set up. */
export const COURSE_WORDS = {
  title: 'Course',
  courses: 'Courses',
  people: 'People',
  everybody: 'Everybody of the course',
  students: 'Students',
  exercises: 'Exercises',
  sittings: 'Sittings',
  term: 'Term',
  gradebook: 'Gradebook',
  classList: 'Class list (PDF)',
  cohort: 'Cohort',
  done: 'Done.',
  save: 'Keep',
  cancel: 'Cancel',
  name: 'Course',
  termField: 'Term, for example “autumn 2026”',
  startsOn: 'Begins on',
  endsOn: 'Ends on',
  newCourse: 'Set up another course',
  copy: 'Copy for the next term',
  copyLead:
    'Exercises with their newest rubrics, masters, staff and sittings go along; sittings keep their weekday. Students, attempts and marks stay here.',
  copied: (e: number, s: number): string => `Copied: ${e} ${e === 1 ? 'exercise' : 'exercises'}, ${s} ${s === 1 ? 'sitting' : 'sittings'}.`,
  addExercise: 'Add an exercise',
  exerciseTitle: 'Title, for example “Metal crown on 46”',
  master: 'Master (the tooth it is cut on)',
  rubric: 'Rubric (its standard says the kind of preparation)',
  minutes: 'Minutes',
  noMaster: 'No master is there yet. Bring an arch first.',
  toMasters: 'To the masters',
  addSitting: 'Add a sitting',
  change: 'Change',
  exercise: 'Exercise',
  sittingTitle: 'Title, for example “Week 3”',
  heldOn: 'Day',
  startsAt: 'From',
  endsAt: 'To',
  room: 'Room',
  resit: 'Resit',
  who: 'Who and where',
  graders: 'Graders',
  gradersNone: 'With nobody chosen, every instructor of the course grades. Benches are as usual unless another one is given.',
  benchToday: 'Bench that day',
  absent: 'Absent',
  absentCount: (n: number): string => `${n} absent`,
  reason: 'Reason',
  stepsTitle: 'Steps at which the work is shown',
  stepCheck: 'What is looked at',
  needsWord: 'goes on only with an instructor’s word',
  cutters: 'Cutters',
  abutment: 'Shares its path of insertion with',
  noAbutment: 'no other preparation',
  abutmentNote:
    'Two abutments of a bridge, scanned together: the angle between their paths is read on both. It counts for scans measured from now on.',
  stepsOf: (n: number): string => (n === 1 ? 'one step' : `${n} steps`),
  kit: 'Cutters, phrases, drills',
  standards: 'Standards',
  toTray: 'Tray',
  calendar: 'Calendar file (.ics)',
  counts: (attempts: number, signed: number): string => (attempts === 0 ? 'nothing yet' : `${signed} of ${attempts} signed`),
  rosterIn: 'Take in a roster',
  rosterLead:
    'A OneRoster 1.2 archive, or any CSV: comma, semicolon or tab; UTF-8 or from a spreadsheet. You see every change before it is written, and can take it back.',
  rosterFile: 'Roster (CSV, or a OneRoster archive)',
  class: 'Class of the archive',
  classOf: (title: string, people: number): string => `${title}, ${people} ${people === 1 ? 'person' : 'people'}`,
  noUsers: (file: string): string => `“${file}” is an archive without users.csv. Export it as OneRoster 1.2 (CSV), or bring a plain CSV.`,
  rosterOut: 'Roster as CSV',
  columns: 'Columns of',
  columnsOf: {
    name: 'Name',
    id: 'Number',
    role: 'Role',
    bench: 'Bench',
    group: 'Group',
    signIn: 'Sign-in',
    attempts: 'Attempts',
    link: 'Link',
  },
  noColumn: 'not in the file',
  preview: 'See what would change',
  reading: 'Reading…',
  apply: (n: number): string => `Take in ${n} ${n === 1 ? 'line' : 'lines'}`,
  applied: (n: number): string => `${n} ${n === 1 ? 'line' : 'lines'} taken in.`,
  undo: 'Take back',
  undone: (kept: readonly string[]): string => (kept.length ? `Taken back, but for ${kept.join(', ')}, who worked since.` : 'Taken back.'),
  takenBack: 'taken back',
  rosters: 'Rosters taken in',
  unnamed: (n: number): string =>
    n === 0
      ? ''
      : `${n} ${n === 1 ? 'person' : 'people'} of the course ${n === 1 ? 'is' : 'are'} not in the file and ${n === 1 ? 'stays' : 'stay'}.`,
  invite: (n: number): string => `Make links for ${n} without a password`,
  inviteOne: 'New link',
  invited: 'Each link sets a password once, within 14 days. Hand them out; they are not shown again.',
  inviteFile: 'Links as CSV',
  left: (names: readonly string[]): string => `Belong to another director’s course too, who gives them a link: ${names.join(', ')}.`,
  noPassword: 'no password yet',
  find: 'Find a person',
  nobody: (mayKeep: boolean): string => `Nobody is enrolled yet.${mayKeep ? ' Take in a roster.' : ''}`,
  nothing: 'Nothing yet.',
  marks: 'Points of the newest signed version; in italics while they are not released; ▴ not passed.',
  csv: 'CSV',
  oneRoster: 'OneRoster 1.2 (zip)',
  passed: 'passed',
  notPassed: 'not passed',
} as const;

export const FIELD_WORDS: Readonly<Record<Field, string>> = {
  id: 'Number',
  given: 'Given name',
  family: 'Family name',
  name: 'Whole name',
  signIn: 'Sign-in name',
  email: 'E-mail',
  role: 'Role',
  bench: 'Bench',
  group: 'Group',
};

export const CHANGE_WORDS: Readonly<Record<RosterChange['kind'], string>> = {
  new: 'new',
  changed: 'changed',
  same: 'as it is',
  refused: 'left out',
};

/** What a line of a roster changes, field by field. */
export function changeWords(c: RosterChange): string {
  const { before: b, after: a } = c;
  if (!a) return '';
  if (!b) return [a.name, a.signIn, a.bench].filter(Boolean).join(', ');
  const keys = ['name', 'signIn', 'email', 'bench', 'group'] as const;
  return keys.flatMap((k) => (a[k] === b[k] ? [] : [`${FIELD_WORDS[k]}: ${b[k] ?? '–'} → ${a[k] ?? '–'}`])).join('; ');
}

export const START_WORDS = {
  title: 'First start',
  lead: 'Nobody has used this installation yet. You become its first director; the rest can be left and continued at any time.',
  school: 'Name of the school',
  you: 'Your name',
  signIn: 'Your sign-in name',
  password: 'Password',
  passwordHint: 'At least 10 characters; three words in a row are easy to keep.',
  go: 'Begin',
  empty: 'Nobody has an account here yet. The window in which the server was started shows the link of its first start.',
  ended: 'This link has ended. An empty installation prints a new one each time it starts.',
  welcome: (name: string): string => `Welcome, ${name}`,
  welcomeLead: (signIn: string): string => `Set a password for your sign-in name ${signIn}.`,
  set: 'Set it',
  linkEnded: 'This link was used already or has ended. Ask the course director for a new one.',
} as const;

export const TODAY_WORDS = {
  title: 'Today',
  setUp: 'Setting up',
  steps: {
    people: 'Take in the roster of your students',
    master: 'Bring a master: a scan of the unprepared teeth',
    exercise: 'Add an exercise',
    sitting: 'Add a sitting',
    scan: 'Bring the first scan',
  },
  next: 'next',
  thereIs: 'there',
  waiting: 'What waits',
  others: 'others grade it',
  coming: 'Coming sittings',
  past: 'Lately',
  none: 'Nothing waits.',
  noSitting: 'No sitting is planned.',
  counts: (c: { ready: number; measuring: number; unreadable: number; signed: number; unreleased: number }): string =>
    [
      c.ready ? `${c.ready} to grade` : '',
      c.measuring ? `${c.measuring} being measured` : '',
      c.unreadable ? `${c.unreadable} cannot be read` : '',
      c.unreleased ? `${c.unreleased} signed, not released` : '',
    ]
      .filter(Boolean)
      .join(', '),
  own: 'What came back',
  ownNothing: 'Nothing has been released to you yet.',
} as const;

export const PALETTE_WORDS = {
  open: 'Find',
  placeholder: 'Student, sitting, attempt or page…',
  none: 'Nothing of that name.',
  short: 'Type at least two letters.',
  pages: 'Pages',
  student: 'Students',
  sitting: 'Sittings',
  attempt: 'Attempts',
} as const;
