import { zipSync } from 'fflate';
import { createEvents, type EventAttributes } from 'ics';
import type { Absence, Mark, MemberView, SittingView } from '#contract/course.ts';
import { type Cell, csvOf } from '../../files/csv.ts';

interface Book {
  readonly people: readonly MemberView[];
  readonly sittings: readonly SittingView[];
  readonly marks: readonly Mark[];
  readonly absences: readonly Absence[];
}

export const studentsOf = (people: readonly MemberView[]): MemberView[] => people.filter((p) => p.role === 'student');

/** The gradebook as one table: a line a student, a column a sitting; points of the newest signed version. */
export function gradebookCsv({ people, sittings, marks, absences }: Book): string {
  const by = new Map(marks.map((m) => [`${m.student_id}|${m.sitting_id}`, m]));
  const away = new Set(absences.map((b) => `${b.student_id}|${b.sitting_id}`));
  const rows = studentsOf(people).map((p): Cell[] => {
    const own = sittings.map((s) => ({ m: by.get(`${p.id}|${s.id}`), absent: away.has(`${p.id}|${s.id}`) }));
    return [
      p.id,
      p.name,
      p.bench,
      p.group_name,
      ...own.flatMap(({ m, absent }): Cell[] => [m?.total ?? null, m ? (m.passed ? 'passed' : 'not passed') : absent ? 'absent' : null]),
    ];
  });
  return csvOf(
    ['number', 'name', 'bench', 'group', ...sittings.flatMap((s) => [`${s.held_on} ${s.exercise_title}: ${s.title}`, 'result'])],
    rows,
  );
}

export const rosterCsv = (people: readonly MemberView[]): string =>
  csvOf(
    ['sourcedId', 'username', 'givenName', 'familyName', 'email', 'role', 'bench', 'group'],
    people.map((p) => {
      const words = p.name.split(' ');
      return [p.id, p.sign_in_name, words.slice(0, -1).join(' '), words[words.length - 1] ?? '', p.email, p.role, p.bench, p.group_name];
    }),
  );

const ROLE: Readonly<Record<string, string>> = { director: 'administrator', instructor: 'teacher', assistant: 'aide', student: 'student' };

/** A course as a OneRoster 1.2 CSV archive: users, classes, enrollments, line items and results, with the manifest that says which are there. */
export function oneRosterZip(course: { id: string; name: string; term: string }, b: Book, now: string): Uint8Array {
  const org = 'school';
  const names = (n: string): [string, string] => {
    const words = n.split(' ');
    return [words.slice(0, -1).join(' ') || n, words[words.length - 1] ?? n];
  };
  const users = [...new Map(b.people.map((p) => [p.id, p])).values()];
  const files: Record<string, string> = {
    'users.csv': csvOf(
      [
        'sourcedId',
        'status',
        'dateLastModified',
        'enabledUser',
        'username',
        'userIds',
        'givenName',
        'familyName',
        'middleName',
        'identifier',
        'email',
        'preferredFirstName',
        'preferredMiddleName',
        'preferredLastName',
        'pronouns',
        'password',
        'userMasterIdentifier',
        'resourceSourcedIds',
        'primaryOrgSourcedId',
      ],
      users.map((p) => [p.id, '', '', 'true', p.sign_in_name, '', ...names(p.name), '', p.id, p.email, '', '', '', '', '', '', '', org]),
    ),
    'roles.csv': csvOf(
      [
        'sourcedId',
        'status',
        'dateLastModified',
        'userSourcedId',
        'roleType',
        'role',
        'beginDate',
        'endDate',
        'orgSourcedId',
        'userProfileSourcedId',
      ],
      b.people.map((p) => [`role-${p.id}-${p.role}`, '', '', p.id, 'primary', ROLE[p.role] ?? p.role, '', '', org, '']),
    ),
    'classes.csv': csvOf(
      [
        'sourcedId',
        'status',
        'dateLastModified',
        'title',
        'grades',
        'courseSourcedId',
        'classCode',
        'classType',
        'location',
        'schoolSourcedId',
        'termSourcedIds',
        'subjects',
        'subjectCodes',
        'periods',
        'resourceSourcedIds',
      ],
      [[course.id, '', '', course.name, '', course.id, '', 'scheduled', '', org, course.term, '', '', '', '']],
    ),
    'enrollments.csv': csvOf(
      [
        'sourcedId',
        'status',
        'dateLastModified',
        'classSourcedId',
        'schoolSourcedId',
        'userSourcedId',
        'role',
        'primary',
        'beginDate',
        'endDate',
      ],
      b.people.map((p) => [`${course.id}-${p.id}-${p.role}`, '', '', course.id, org, p.id, ROLE[p.role] ?? p.role, 'false', '', '']),
    ),
    'lineItems.csv': csvOf(
      [
        'sourcedId',
        'status',
        'dateLastModified',
        'title',
        'description',
        'assignDate',
        'dueDate',
        'classSourcedId',
        'categorySourcedId',
        'gradingPeriodSourcedId',
        'resultValueMin',
        'resultValueMax',
        'academicSessionSourcedId',
        'schoolSourcedId',
        'scoreScaleSourcedId',
      ],
      b.sittings.map((s) => [
        s.id,
        '',
        '',
        `${s.exercise_title}: ${s.title}`,
        '',
        s.held_on,
        s.held_on,
        course.id,
        'practical',
        '',
        0,
        100,
        course.term,
        org,
        '',
      ]),
    ),
    'results.csv': csvOf(
      [
        'sourcedId',
        'status',
        'dateLastModified',
        'lineItemSourcedId',
        'studentSourcedId',
        'scoreStatus',
        'score',
        'scoreDate',
        'comment',
        'textScore',
        'classSourcedId',
        'scoreScaleSourcedId',
        'inProgress',
        'incomplete',
        'late',
        'missing',
      ],
      b.marks
        .map((m) => [
          `${m.sitting_id}-${m.student_id}`,
          '',
          '',
          m.sitting_id,
          m.student_id,
          m.released ? 'fully graded' : 'partially graded',
          m.total,
          m.signed_at.slice(0, 10),
          '',
          m.passed ? 'passed' : 'not passed',
          course.id,
          '',
          'false',
          'false',
          'false',
          'false',
        ])
        .concat(
          b.absences
            .filter((x) => !b.marks.some((m) => m.student_id === x.student_id && m.sitting_id === x.sitting_id))
            .map((x) => [
              `${x.sitting_id}-${x.student_id}`,
              '',
              '',
              x.sitting_id,
              x.student_id,
              'not submitted',
              null,
              '',
              '',
              '',
              course.id,
              '',
              'false',
              'false',
              'false',
              'true',
            ]),
        ),
    ),
    'categories.csv': csvOf(
      ['sourcedId', 'status', 'dateLastModified', 'title', 'weight'],
      [['practical', '', '', 'Practical work', null]],
    ),
  };
  const all = [
    'academicSessions',
    'categories',
    'classes',
    'classResources',
    'courses',
    'courseResources',
    'demographics',
    'enrollments',
    'lineItemLearningObjectiveIds',
    'lineItems',
    'lineItemScoreScales',
    'orgs',
    'resources',
    'resultLearningObjectiveIds',
    'results',
    'resultScoreScales',
    'roles',
    'scoreScales',
    'userProfiles',
    'userResources',
    'users',
  ];
  files['manifest.csv'] = csvOf(
    ['propertyName', 'value'],
    [
      ['manifest.version', '1.0'],
      ['oneroster.version', '1.2'],
      ...all.map((f): [string, string] => [`file.${f}`, files[`${f}.csv`] ? 'bulk' : 'absent']),
      ['source.systemName', 'Veritor'],
      ['source.systemCode', 'veritor'],
    ],
  );
  const bytes = new TextEncoder();
  // OneRoster wants plain UTF-8, without the mark that spreadsheets need.
  return zipSync(Object.fromEntries(Object.entries(files).map(([n, t]) => [n, bytes.encode(t.replace(/^\ufeff/, ''))])), {
    mtime: new Date(now),
  });
}

/** The sittings of somebody's courses as a calendar (RFC 5545); a sitting without times takes its whole day. */
export function calendarOf(sittings: readonly SittingView[], school: string): string {
  const events = sittings.map((s): EventAttributes => {
    const [y, m, d] = s.held_on.split('-').map(Number);
    const at = (t: string): [number, number, number, number, number] => [y, m, d, Number(t.slice(0, 2)), Number(t.slice(3, 5))];
    const base = {
      uid: `${s.id}@veritor`,
      title: `${s.exercise_title}: ${s.title}`,
      productId: 'veritor',
      calName: school,
      ...(s.room ? { location: s.room } : {}),
    };
    if (!s.starts_at) return { ...base, start: [y, m, d], duration: { days: 1 } };
    return {
      ...base,
      start: at(s.starts_at),
      startOutputType: 'local',
      ...(s.ends_at ? { end: at(s.ends_at), endOutputType: 'local' } : { duration: { hours: 3 } }),
    };
  });
  const { value, error } = createEvents(events);
  if (error) throw error;
  return value ?? 'BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:veritor\r\nEND:VCALENDAR\r\n';
}
