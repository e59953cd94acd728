import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import * as v from 'valibot';
import { type Person, ROLES, type Role } from '../access/table.ts';
import { type Database, type Queries, sql } from '../database/port.ts';

const DAYS = 7;
export const COOKIE = 'veritor';

/** Argon2id with the library's defaults (19 MiB, two passes). */
export const hashPassword = (password: string): Promise<string> => hash(password, { algorithm: 2 });

const PersonRow = v.object({ id: v.string(), name: v.string() });
const WithPassword = v.object({ ...PersonRow.entries, password_hash: v.string() });
const Part = v.object({ course_id: v.string(), role: v.picklist(ROLES) });

/** Checks name and password and returns a session token, of which only the digest is stored. Null if they are wrong. */
export async function signIn(db: Database, name: string, password: string): Promise<{ token: string; person: Person } | null> {
  const row = await db.maybeOne(
    WithPassword,
    sql`select id, name, password_hash from person where sign_in_name = ${name.trim().toLowerCase()}`,
  );
  // An unknown name takes as long as a known one, so that the time does not reveal which names exist.
  const ok = await verify(row?.password_hash ?? (await decoy()), password).catch(() => false);
  if (!row || !ok) return null;
  const token = randomBytes(32).toString('base64url');
  const expires = new Date(Date.now() + DAYS * 86_400_000);
  await db.run(sql`insert into sign_in (token_digest, person_id, expires_at) values (${digest(token)}, ${row.id}, ${expires})`);
  return { token, person: await withRoles(db, row) };
}

let decoyHash: Promise<string> | null = null;
const decoy = (): Promise<string> => {
  decoyHash ??= hashPassword(randomBytes(12).toString('hex'));
  return decoyHash;
};

export const signOut = (db: Database, token: string): Promise<void> =>
  db.run(sql`delete from sign_in where token_digest = ${digest(token)}`);

export async function whoIs(db: Queries, token: string): Promise<Person | null> {
  const row = await db.maybeOne(
    PersonRow,
    sql`select p.id, p.name from sign_in s join person p on p.id = s.person_id where s.token_digest = ${digest(token)} and s.expires_at > now()`,
  );
  return row && withRoles(db, row);
}

/** A person with the roles they have in each course. */
export async function personById(db: Queries, id: string): Promise<Person | null> {
  const row = await db.maybeOne(PersonRow, sql`select id, name from person where id = ${id}`);
  return row && withRoles(db, row);
}

async function withRoles(db: Queries, row: v.InferOutput<typeof PersonRow>): Promise<Person> {
  const roles: Record<string, Role[]> = {};
  for (const p of await db.any(Part, sql`select course_id, role from enrolment where person_id = ${row.id} order by course_id, role`)) {
    roles[p.course_id] ??= [];
    roles[p.course_id].push(p.role);
  }
  return { id: row.id, name: row.name, roles };
}

const digest = (token: string): string => createHash('sha256').update(token).digest('hex');
