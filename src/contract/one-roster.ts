/** A line of a table by its columns. */
export type Line = Readonly<Record<string, string>>;

/** Tables of a OneRoster 1.2 archive that say who is in which class. */
export const ROSTER_TABLES = ['users', 'enrollments', 'roles', 'classes'] as const;
export type RosterTables = Readonly<Partial<Record<(typeof ROSTER_TABLES)[number], readonly Line[]>>>;

export interface RosterClass {
  readonly id: string;
  readonly title: string;
  readonly people: number;
}

const isThere = (l: Line): boolean => l.status?.toLowerCase() !== 'tobedeleted';

/** Classes of an archive that somebody is enrolled in, the largest first; none where it has no enrollments. */
export function classesOf(t: RosterTables): RosterClass[] {
  const people = new Map<string, Set<string>>();
  for (const e of t.enrollments?.filter(isThere) ?? [])
    people.set(e.classSourcedId, (people.get(e.classSourcedId) ?? new Set()).add(e.userSourcedId));
  return [...people]
    .map(([id, who]) => ({ id, title: t.classes?.find((c) => c.sourcedId === id)?.title || id, people: who.size }))
    .sort((a, b) => b.people - a.people);
}

/**
 * Lines of one class as a roster has them: the user's own columns with the role that they have in the class. Where the archive has no enrollments everybody is taken, with
 * the role that `roles` gives them.
 */
export function classLines(t: RosterTables, of: string | null): Line[] {
  const enrolled = new Map(
    (t.enrollments ?? []).filter((e) => isThere(e) && (of === null || e.classSourcedId === of)).map((e) => [e.userSourcedId, e.role]),
  );
  const roles = new Map((t.roles ?? []).filter(isThere).map((r) => [r.userSourcedId, r.role]));
  return (t.users ?? [])
    .filter((u) => isThere(u) && u.enabledUser?.toLowerCase() !== 'false' && (!t.enrollments || enrolled.has(u.sourcedId)))
    .map(({ sourcedId, username, givenName, familyName, email, role }) => ({
      sourcedId,
      username: username ?? '',
      givenName: givenName ?? '',
      familyName: familyName ?? '',
      email: email ?? '',
      role: enrolled.get(sourcedId) || roles.get(sourcedId) || role || '',
    }));
}
