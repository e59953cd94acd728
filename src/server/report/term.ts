import type { ProgressView } from '#contract/progress-view.ts';
import type { TrailView } from '#contract/trail-view.ts';
import type { SelfView } from '#contract/work.ts';
import { habitWords, PROGRESS, stateWords } from '#words/progress.ts';
import { REPORT } from '#words/report.ts';
import { CAUTION } from '#words/states.ts';
import { minutesWords, TRAIL } from '#words/trail.ts';
import { selfWords } from '#words/work.ts';
import { dayWords } from '#words/writing.ts';
import type { Person } from '../access/table.ts';
import { schoolName } from '../account/first-start.ts';
import type { App } from '../app.ts';
import { coursesNamed } from '../course/view.ts';
import { Refused } from '../errors.ts';
import { progressView } from '../progress/progress.ts';
import { trailFor } from '../progress/trail.ts';
import { selfView } from '../student/work.ts';
import { type Paper, Sheet, SOFT } from './sheet.ts';

export interface Term {
  readonly format: 'veritor-term/1';
  readonly school: string;
  readonly courses: readonly { readonly name: string; readonly term: string }[];
  readonly view: TrailView;
  readonly progress: ProgressView;
  readonly self: SelfView;
}

/** What a student's signed attempts came to, for whoever may see their trail. */
export async function termOf(a: Pick<App, 'db'>, who: Person | null, student: string): Promise<Term & { isOwn: boolean }> {
  if (!who) throw new Refused('signed-out', 'Sign in first.');
  const trail = await trailFor(a.db, who, student);
  if (!trail || trail.view.attempts.length === 0) throw new Refused('conflict', REPORT.noTerm);
  const { view, courses, isOwn } = trail;
  const [progress, self, named, school] = await Promise.all([
    progressView(a.db, student, courses, isOwn),
    selfView(a.db, student, courses, isOwn),
    coursesNamed(a.db, courses),
    schoolName(a.db),
  ]);
  return { format: 'veritor-term/1', school, courses: named.map(({ name, term }) => ({ name, term })), view, progress, self, isOwn };
}

/** A student's term on paper: every attempt, critical errors, skills with where they stand, habits, what to practise. */
export async function termPdf({ school, courses, view, progress, self, isOwn }: Term & { isOwn: boolean }, paper: Paper): Promise<Buffer> {
  const { student, attempts } = view;
  const title = REPORT.termTitle(student.name);
  const sheet = new Sheet(title, paper);
  sheet.text('P', [school, ...courses.map((c) => `${c.name}, ${c.term}`)].join(', '), { size: 9, color: SOFT });
  sheet.text('H1', title, { font: 'bold', size: 17 });
  sheet.text('P', REPORT.termLead(student.id, attempts.length, attempts.filter((a) => a.passed).length), { gap: 8 });
  sheet.text('H2', TRAIL.attempts, { font: 'bold', size: 11 });
  sheet.table(
    [
      { title: REPORT.columns.day, share: 0.16, font: 'figure' },
      { title: REPORT.columns.exercise, share: 0.36 },
      { title: REPORT.columns.points, share: 0.1, font: 'figure', align: 'right' },
      { title: REPORT.columns.result, share: 0.22 },
      { title: REPORT.columns.grader, share: 0.16 },
    ],
    attempts.map((a) => [
      dayWords(a.held_on),
      a.exercise_title + (a.number > 1 ? `, attempt ${a.number}` : ''),
      a.total === null ? '–' : String(a.total),
      a.passed ? REPORT.passed : REPORT.notPassed(a.record.critical.filter((c) => c.made).map((c) => c.title)),
      a.grader_name,
    ]),
    8.5,
  );
  if (progress.errors.length) {
    sheet.text('H2', REPORT.critical, { font: 'bold', size: 11 });
    for (const e of progress.errors) sheet.text('P', REPORT.errorTimes(e.title, e.times, e.of));
    sheet.down(4);
  }
  sheet.text('H2', PROGRESS.skills, { font: 'bold', size: 11 });
  sheet.table(
    [
      { title: REPORT.columns.line, share: 0.5 },
      { title: REPORT.columns.attempts, share: 0.15, font: 'figure', align: 'right' },
      { title: REPORT.columns.stands, share: 0.35 },
    ],
    progress.skills.map((s) => [s.title, String(s.points.length), stateWords(s)]),
    8.5,
  );
  const told = progress.habits.filter((h) => h.isTold);
  if (told.length) {
    sheet.text('H2', PROGRESS.habits, { font: 'bold', size: 11 });
    for (const h of told) sheet.text('P', habitWords(h));
    sheet.down(4);
  }
  sheet.text('H2', PROGRESS.practice, { font: 'bold', size: 11 });
  if (progress.practice.length === 0) sheet.text('P', PROGRESS.nothingNext);
  for (const p of progress.practice)
    sheet.text(
      'P',
      `${p.title}: ${PROGRESS.why(p.times, p.of, p.lostOnAverage)}${p.drill ? ` ${PROGRESS.drill(p.drill.title, p.drill.times)}.` : ''}`,
    );
  sheet.down(4);
  sheet.text('H2', TRAIL.self, { font: 'bold', size: 11 });
  for (const line of [...selfWords(self, isOwn), minutesWords(attempts.map((a) => a.minutes))]) sheet.text('P', line);
  sheet.down(4);
  sheet.text('P', CAUTION, { size: 8, color: SOFT });
  return sheet.end(title);
}
