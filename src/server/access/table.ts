export const ROLES = ['director', 'instructor', 'student', 'assistant'] as const;
export type Role = (typeof ROLES)[number];

/** `any`: on everyone's data. `own`: on one's own. `own-released`: on one's own, once it is released. */
type Scope = 'any' | 'own' | 'own-released';

/** Who may do what on whose data. Every endpoint and every page asks this table and nothing else. */
export const ACCESS = {
  'tray.see': { director: 'any', instructor: 'any', assistant: 'any' },
  'scan.bring': { director: 'any', instructor: 'any', assistant: 'any' },
  'scan.steer': { director: 'any', instructor: 'any', assistant: 'any' },
  // Whoever sees the tray sees its small pictures.
  'picture.see': { director: 'any', instructor: 'any', assistant: 'any', student: 'own-released' },
  'attempt.see': { director: 'any', instructor: 'any', student: 'own-released' },
  'attempt.assign': { director: 'any', instructor: 'any' },
  'attempt.judge': { director: 'any', instructor: 'any' },
  'attempt.sign': { director: 'any', instructor: 'any' },
  'attempt.release': { director: 'any', instructor: 'any' },
  'trail.see': { director: 'any', instructor: 'any', student: 'own' },
} as const satisfies Record<string, Partial<Record<Role, Scope>>>;
export type Action = keyof typeof ACCESS;

export interface Who {
  readonly id: string;
  readonly role: Role;
}

/** Whose data it is, and whether the student may know of it yet. */
export interface Subject {
  readonly studentId?: string;
  readonly released?: boolean;
}

export function may(who: Who | null, action: Action, subject: Subject = {}): boolean {
  if (!who) return false;
  const scope = (ACCESS[action] as Partial<Record<Role, Scope>>)[who.role];
  if (!scope) return false;
  if (scope === 'any') return true;
  if (subject.studentId !== who.id) return false;
  return scope === 'own' || subject.released === true;
}
