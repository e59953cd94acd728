import { ROSTER_ROLES, type RosterRow } from './roster.ts';

export const FIELDS = ['id', 'given', 'family', 'name', 'signIn', 'email', 'role', 'bench', 'group'] as const;
export type Field = (typeof FIELDS)[number];
/** Column of the file behind each field; absent where the file has none. */
export type Mapping = Partial<Record<Field, string>>;

/** What columns are called in files of schools; OneRoster's own names first. Compared without case, spaces and marks. */
const NAMES: Readonly<Record<Field, readonly string[]>> = {
  id: [
    'sourcedId',
    'userSourcedId',
    'identifier',
    'student number',
    'student id',
    'studentno',
    'matriculation',
    'matrikelnummer',
    'id',
    'number',
    'nr',
  ],
  given: ['givenName', 'first name', 'forename', 'vorname', 'prénom', 'given'],
  family: ['familyName', 'last name', 'surname', 'nachname', 'nom', 'family'],
  name: ['name', 'full name', 'student', 'student name', 'display name'],
  signIn: ['username', 'sign-in', 'login', 'user', 'account'],
  email: ['email', 'e-mail', 'mail', 'email address'],
  role: ['role', 'roles', 'primaryRole', 'rolle'],
  bench: ['bench', 'seat', 'place', 'platz', 'bench number'],
  group: ['group', 'cohort', 'section', 'gruppe', 'grades'],
};

const plain = (s: string): string =>
  s
    .normalize('NFD')
    .replace(/[^\p{Letter}\p{Number}]/gu, '')
    .toLowerCase();

/** The columns that the file's own names point to, each column for one field at most. */
export function matchColumns(headers: readonly string[]): Mapping {
  const out: Mapping = {};
  const taken = new Set<string>();
  for (const field of FIELDS)
    for (const name of NAMES[field]) {
      const header = headers.find((h) => !taken.has(h) && plain(h) === plain(name));
      if (!header) continue;
      out[field] = header;
      taken.add(header);
      break;
    }
  return out;
}

/** Roles as files write them; anything else is a student. */
const ROLE_NAMES: Readonly<Record<string, RosterRow['role']>> = {
  teacher: 'instructor',
  instructor: 'instructor',
  faculty: 'instructor',
  administrator: 'director',
  director: 'director',
  aide: 'assistant',
  assistant: 'assistant',
  technician: 'assistant',
};

/** “Müller, Jürgen” or “Jürgen Müller” as given and family name. */
export function splitName(name: string): { given: string; family: string } {
  const [family, given] = name.split(',').map((s) => s.trim());
  if (given) return { given, family };
  const words = name.trim().split(/\s+/);
  return words.length < 2
    ? { given: '', family: words[0] ?? '' }
    : { given: words.slice(0, -1).join(' '), family: words[words.length - 1] };
}

/** Rows of a file as a roster: empty lines are left out, names are split where the file has one column for them. */
export function rowsOf(lines: readonly Readonly<Record<string, string>>[], m: Mapping): RosterRow[] {
  const of = (line: Readonly<Record<string, string>>, field: Field): string => (m[field] ? (line[m[field]] ?? '').trim() : '');
  return lines.flatMap((line, i): RosterRow[] => {
    if (Object.values(line).every((c) => !c?.trim())) return [];
    const names =
      m.name && !(of(line, 'given') || of(line, 'family'))
        ? splitName(of(line, 'name'))
        : { given: of(line, 'given'), family: of(line, 'family') };
    const role = of(line, 'role').toLowerCase();
    const known = ROSTER_ROLES.find((r) => r === role);
    return [
      {
        line: i + 2,
        id: of(line, 'id'),
        ...names,
        signIn: of(line, 'signIn'),
        email: of(line, 'email'),
        role: known ?? ROLE_NAMES[role] ?? 'student',
        bench: of(line, 'bench'),
        group: of(line, 'group'),
      },
    ];
  });
}

/** The text of a file, whatever it was written in: UTF-8, UTF-16 with its mark, or the Western code page of spreadsheets. */
export function textOf(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}
