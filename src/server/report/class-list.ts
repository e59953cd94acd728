import type { ClassLine, ClassList } from '#contract/class-list.ts';
import { REPORT } from '#words/report.ts';
import { CAUTION } from '#words/states.ts';
import { type Cell, csvOf } from '../../files/csv.ts';
import { schoolName } from '../account/first-start.ts';
import { studentsOf } from '../course/out.ts';
import { bookOf, coursesNamed } from '../course/view.ts';
import type { Queries } from '../database/port.ts';
import { type Paper, Sheet, SOFT } from './sheet.ts';

/** Where everybody of a course stands, from the newest grade that counts in every sitting. */
export async function classList(q: Queries, course: string): Promise<ClassList> {
  const [{ people, sittings, marks, absences }, [{ name, term }], school] = await Promise.all([
    bookOf(q, course),
    coursesNamed(q, [course]),
    schoolName(q),
  ]);
  const exerciseOf = new Map(sittings.map((s) => [s.id, s.exercise_title]));
  const exercises = [...new Set(sittings.filter((s) => s.attempts > 0).map((s) => s.exercise_title))].sort();
  const students = studentsOf(people).map((p): ClassLine => {
    const own = marks.filter((m) => m.student_id === p.id);
    const points = own.flatMap((m) => (m.total === null ? [] : [m.total]));
    const named = (of: typeof own): Set<string> => new Set(of.flatMap((m) => exerciseOf.get(m.sitting_id) ?? []));
    const [passed, graded] = [named(own.filter((m) => m.passed)), named(own)];
    return {
      id: p.id,
      name: p.name,
      bench: p.bench,
      group: p.group_name,
      signed: own.length,
      mean: points.length ? points.reduce((s, v) => s + v, 0) / points.length : null,
      passed: exercises.filter((e) => passed.has(e)),
      open: exercises.filter((e) => graded.has(e) && !passed.has(e)),
      missing: exercises.filter((e) => !graded.has(e)),
      absent: absences.filter((a) => a.student_id === p.id).length,
    };
  });
  return { format: 'veritor-class-list/1', school, course: { name, term }, exercises, students };
}

export const classListCsv = ({ students }: ClassList): string =>
  csvOf(
    ['number', 'name', 'bench', 'group', 'signed', 'mean', 'passed', 'open', 'missing', 'absent'],
    students.map((s): Cell[] => [
      s.id,
      s.name,
      s.bench,
      s.group,
      s.signed,
      s.mean === null ? null : Math.round(s.mean * 10) / 10,
      s.passed.join('; '),
      s.open.join('; '),
      s.missing.join('; '),
      s.absent,
    ]),
  );

/** The list on paper: what was passed in figures, what is left by name. */
export async function classListPdf({ school, course, exercises, students }: ClassList, paper: Paper): Promise<Buffer> {
  const title = REPORT.classTitle(course.name);
  const sheet = new Sheet(title, paper);
  sheet.text('P', `${school}, ${course.term}`, { size: 9, color: SOFT });
  sheet.text('H1', title, { font: 'bold', size: 17 });
  const done = students.filter((s) => s.passed.length === exercises.length).length;
  sheet.text('P', REPORT.classLead(students.length, exercises.length, done), { gap: 8 });
  sheet.table(
    [
      { title: REPORT.columns.number, share: 0.08, font: 'figure' },
      { title: REPORT.columns.student, share: 0.2 },
      { title: REPORT.columns.bench, share: 0.08, font: 'figure' },
      { title: REPORT.columns.passedOf, share: 0.09, font: 'figure', align: 'right' },
      { title: REPORT.columns.mean, share: 0.08, font: 'figure', align: 'right' },
      { title: REPORT.columns.absent, share: 0.08, font: 'figure', align: 'right' },
      { title: REPORT.columns.left, share: 0.39 },
    ],
    students.map((s) => [
      s.id,
      s.name,
      s.bench ?? '',
      `${s.passed.length} of ${exercises.length}`,
      s.mean === null ? '–' : s.mean.toFixed(0),
      s.absent ? String(s.absent) : '',
      REPORT.leftOver(s.open, s.missing),
    ]),
    8,
  );
  sheet.text('P', CAUTION, { size: 8, color: SOFT });
  return sheet.end(title);
}
