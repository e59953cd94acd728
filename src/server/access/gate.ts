import type { Queries } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { ROUTES, type Rule } from './routes.ts';
import { coursesOfStudent, SUBJECTS } from './subjects.ts';
import { coursesFor, isIn, may, type Person, type Subject } from './table.ts';

const NOT_THERE = 'There is no such page, or it is not open to you.';

/**
 * The one place where access is decided, before any handler runs. A route or method without a rule is not there. Data of a course that the person has no role in, or to another student, does not exist for them; what exists and is not open to
 * their role says so. Gives the subject that the address names.
 */
export async function decideAccess(
  q: Queries,
  who: Person | null,
  route: string,
  method: string,
  params: Readonly<Record<string, string | undefined>>,
): Promise<Subject | null> {
  const rule: Rule | undefined = ROUTES[route]?.[method === 'HEAD' ? 'GET' : method];
  if (!rule) throw new Refused('not-there', NOT_THERE);
  if (rule.kind === 'open') return null;
  if (!who) throw new Refused('signed-out', 'You are signed out. Sign in again; nothing was lost.');
  switch (rule.kind) {
    case 'signed-in':
      return null;
    case 'any-course':
      if (coursesFor(who, rule.action).length === 0) throw forbidden();
      return null;
    case 'student': {
      const student = params[rule.param] ?? '';
      const courses = await coursesOfStudent(q, student);
      const course = courses.find((c) => may(who, rule.action, { course: c, student }));
      if (course === undefined) throw new Refused('not-there', NOT_THERE);
      return { course, student };
    }
    case 'on': {
      const subject = await subjectOf(q, rule, params[rule.param] ?? '');
      if (!subject || !isIn(who, subject.course)) throw new Refused('not-there', NOT_THERE);
      if (may(who, rule.action, subject)) return subject;
      // Another student's attempt does not exist for a student; neither does one's own before it is released.
      const isOnlyStudent = who.roles[subject.course].every((r) => r === 'student');
      throw isOnlyStudent && subject.student !== undefined ? new Refused('not-there', NOT_THERE) : forbidden();
    }
  }
}

const forbidden = (): Refused => new Refused('not-allowed', 'This is not open to you. If it should be, ask the course director.');

function subjectOf(q: Queries, rule: Extract<Rule, { kind: 'on' }>, value: string): Promise<Subject | null> {
  if (rule.subject !== 'attempt' && rule.subject !== 'scan') return SUBJECTS[rule.subject](q, value);
  const id = Number(value);
  if (!/^\d{1,9}$/.test(value) || !Number.isSafeInteger(id)) return Promise.resolve(null);
  return SUBJECTS[rule.subject](q, id);
}

/** Checks again inside an act's own transaction, because roles may have changed since the gate's check. */
export function permit(who: Person | null, action: Parameters<typeof may>[1], subject: Subject | null): asserts who is Person {
  if (!who) throw new Refused('signed-out', 'You are signed out. Sign in again; nothing was lost.');
  if (!subject || !isIn(who, subject.course)) throw new Refused('not-there', NOT_THERE);
  if (!may(who, action, subject)) throw forbidden();
}
