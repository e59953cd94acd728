export const ROLES = ['director', 'instructor', 'assistant', 'student'] as const;
export type Role = (typeof ROLES)[number];

/** `course`: everyone's data in the course where one has the role. `own`: one's own. `own-released`: one's own, once it is released. */
export type Scope = 'course' | 'own' | 'own-released';

/** Who may do what on whose data, by the role in the course that the data belong to. */
export const ACCESS = {
  'course.see': { director: 'course', instructor: 'course', assistant: 'course', student: 'course' },
  'routes.see': { director: 'course' },
  'audit.see': { director: 'course' },
  'tray.see': { director: 'course', instructor: 'course', assistant: 'course' },
  // Assistants bring scans and see no scores.
  'score.see': { director: 'course', instructor: 'course' },
  'scan.bring': { director: 'course', instructor: 'course', assistant: 'course' },
  'scan.steer': { director: 'course', instructor: 'course', assistant: 'course' },
  // Whoever sees the tray sees its small pictures.
  'picture.see': { director: 'course', instructor: 'course', assistant: 'course', student: 'own-released' },
  'attempt.see': { director: 'course', instructor: 'course', student: 'own-released' },
  // A student's own attempt as they see it: what is asked of them, and the result once it is released.
  'work.see': { director: 'course', instructor: 'course', student: 'own' },
  'work.assess': { student: 'own' },
  'attempt.open': { director: 'course', instructor: 'course' },
  'attempt.assign': { director: 'course', instructor: 'course' },
  'attempt.judge': { director: 'course', instructor: 'course' },
  'attempt.sign': { director: 'course', instructor: 'course' },
  'attempt.release': { director: 'course', instructor: 'course' },
  'attempt.adjudicate': { director: 'course' },
  // Technicians keep masters; which one an exercise uses is the director's to say.
  'master.keep': { director: 'course', instructor: 'course', assistant: 'course' },
  'master.use': { director: 'course' },
  // Setting up a course: its people, exercises, sittings and rubrics.
  'course.keep': { director: 'course' },
  'people.see': { director: 'course', instructor: 'course' },
  'people.keep': { director: 'course' },
  'gradebook.see': { director: 'course', instructor: 'course' },
  'kit.see': { director: 'course', instructor: 'course', assistant: 'course', student: 'course' },
  'calendar.see': { director: 'course', instructor: 'course', assistant: 'course', student: 'course' },
  'trail.list': { director: 'course', instructor: 'course' },
  'trail.see': { director: 'course', instructor: 'course', student: 'own' },
} as const satisfies Record<string, Partial<Record<Role, Scope>>>;
export type Action = keyof typeof ACCESS;

/** Somebody who is signed in, with their roles by course. */
export interface Person {
  readonly id: string;
  readonly name: string;
  readonly roles: Readonly<Record<string, readonly Role[]>>;
}

/** Owner and course of the data, and whether it is released to the student. */
export interface Subject {
  readonly course: string;
  readonly student?: string;
  readonly isReleased?: boolean;
}

export function may(who: Person | null, action: Action, subject: Subject): boolean {
  if (!who) return false;
  return (who.roles[subject.course] ?? []).some((role) => {
    const scope = (ACCESS[action] as Partial<Record<Role, Scope>>)[role];
    if (!scope) return false;
    if (scope === 'course') return true;
    if (subject.student !== who.id) return false;
    return scope === 'own' || subject.isReleased === true;
  });
}

/** Courses in which somebody may do something to everyone's data. */
export const coursesFor = (who: Person, action: Action): string[] =>
  Object.keys(who.roles).filter((course) => may(who, action, { course }));

/** Whether a person has any role in a course. For everyone else the course does not exist. */
export const isIn = (who: Person | null, course: string): boolean => (who?.roles[course]?.length ?? 0) > 0;
