import type { AttemptReport } from '#contract/report.ts';
import { dayWords } from './writing.ts';

const short = (hash: string | null): string => hash?.slice(0, 12) ?? 'not recorded';

/** Sentences of what is printed or sent on. */
export const REPORT = {
  columns: {
    line: 'Criterion',
    read: 'Read',
    target: 'Target',
    level: 'Level',
    points: 'Points',
    reading: 'Reading',
    number: 'Number',
    student: 'Student',
    result: 'Result',
    grader: 'Signed by',
    digest: 'Digest',
    day: 'Day',
    exercise: 'Exercise',
    attempts: 'Attempts',
    stands: 'Stands',
    bench: 'Bench',
    passedOf: 'Passed',
    mean: 'Mean',
    absent: 'Absent',
    left: 'Still to pass',
  },
  lead: (r: AttemptReport): string =>
    `${r.student.id}${r.student.bench ? `, bench ${r.student.bench}` : ''}. ${r.attempt.sitting}, ${dayWords(r.attempt.heldOn, 'long')}${r.attempt.number > 1 ? `, attempt ${r.attempt.number}` : ''}. Signed by ${r.grade.grader}, ${dayWords(r.grade.signedAt.slice(0, 10), 'long')}${r.grade.version > 1 ? `, version ${r.grade.version}` : ''}${r.grade.released ? '' : '; not released to the student'}.`,
  passed: 'Passed',
  notPassed: (why: readonly string[]): string => (why.length ? `Not passed: ${why.join('; ')}` : 'Not passed'),
  points: (total: number | null, pass: number): string =>
    total === null ? `No score. Passed from ${pass}.` : `${total} of 100 points; passed from ${pass}.`,
  critical: 'Critical errors',
  byHand: 'by hand',
  byPerson: '(by word)',
  lines: 'Criteria',
  comments: 'Comments',
  own: 'Own judgement',
  ownWords: (alike: number, of: number, minutes: number | null): string =>
    `Before seeing the result the student gave ${alike} of ${of} lines the level that was signed${minutes === null ? '' : `; ${minutes} minutes at work`}.`,
  section: 'Section and course round the tooth',
  sectionLegend: 'dashed: master; black: preparation; dots: finish line',
  sectionWords: (near: string, far: string): string =>
    `Section through the axis, ${near} to ${far}: master dashed, preparation drawn through.`,
  ringWords: (title: string, band: string): string => `${title} round the tooth, band ${band} shaded.`,
  pictureWords: (sides: readonly string[], n: number): string =>
    `The preparation seen from ${sides.join(' and from ')}, coloured by depth${n ? `, with the numbers of ${n} findings` : ''}; the table says the same in figures.`,
  colours: 'orange: too little removed, violet: too much',
  notDrawn: 'The picture of this scan has not been drawn yet: open the attempt once, and it is in the report.',
  byHandOnly: 'Graded by hand, without a scan.',
  noPlan: 'This kind of preparation has no outline from above; take the section.',
  all: 'All readings',
  basis: (r: AttemptReport): string =>
    `Rests on: rubric “${r.basis.rubric.name}” (${short(r.basis.rubric.sha256)})${r.basis.standard ? `, standard “${r.basis.standard.name}” (${short(r.basis.standard.sha256)})` : ''}${r.basis.coreVersion ? `, measuring core ${r.basis.coreVersion}` : ''}${r.basis.scanSha256 ? `, scan ${short(r.basis.scanSha256)}` : ''}${r.basis.alignmentRms === null ? '' : `, aligned to ${r.basis.alignmentRms.toFixed(3)} mm`}. U after ± is the expanded uncertainty at 95 %. The signed record has the digest ${r.grade.digest}.`,
  foot: (school: string, digest: string, day: string): string => `${school}, signed ${day}, record ${digest.slice(0, 16)}`,
  summary: (n: number, passed: number, waiting: number): string =>
    `${n} signed, ${passed} passed, ${n - passed} not passed${waiting ? `, ${waiting} not signed yet` : ''}.`,
  waiting: (who: readonly string[]): string => `Not signed yet: ${who.join(', ')}.`,
  listTitle: (exercise: string, sitting: string): string => `${exercise}: ${sitting}, results`,
  termTitle: (name: string): string => `${name}: the term`,
  termLead: (id: string, n: number, passed: number): string => `${id}. ${n} ${n === 1 ? 'attempt' : 'attempts'} signed, ${passed} passed.`,
  errorTimes: (title: string, times: number, of: number): string => `${title}: in ${times} of ${of} attempts that were looked at for it.`,
  classTitle: (course: string): string => `${course}: class list`,
  classLead: (n: number, exercises: number, done: number): string =>
    `${n} students, ${exercises} ${exercises === 1 ? 'exercise' : 'exercises'} with a sitting; ${done} passed all of them. Points are of the newest signed grade of every sitting.`,
  leftOver: (open: readonly string[], missing: readonly string[]): string =>
    [open.length ? `not passed: ${open.join(', ')}` : '', missing.length ? `not graded: ${missing.join(', ')}` : '']
      .filter(Boolean)
      .join('; '),
  noTerm: 'No result can be shown yet, so that there is no report of the term.',
  nothing: 'Nothing is signed here yet, so that there is no report. Sign the attempt first.',
  notYours: 'The report comes with the result: judge your own work first, then it opens.',
} as const;
