import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import * as v from 'valibot';
import type { App } from '../app.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { checkPassword } from './invite.ts';
import { hashPassword } from './sign-in.ts';

const Count = v.object({ n: v.number() });
/** No person yet: the installation waits for its first director. */
export const isEmpty = async (q: Queries): Promise<boolean> => (await q.one(Count, sql`select count(*) as n from person`)).n === 0;

const holder = globalThis as typeof globalThis & { veritorFirst?: string };

/** The one-time link of an empty installation, made anew at each start; null once there is somebody. */
export async function firstLink(q: Queries): Promise<string | null> {
  if (!(await isEmpty(q))) return null;
  holder.veritorFirst ??= randomBytes(24).toString('base64url');
  return `/first-start/${holder.veritorFirst}`;
}

const sha = (s: string): Buffer => createHash('sha256').update(s).digest();
export const isFirstToken = (token: string): boolean =>
  holder.veritorFirst !== undefined && timingSafeEqual(sha(token), sha(holder.veritorFirst));

export interface First {
  readonly school: string;
  readonly course: string;
  readonly term: string;
  readonly name: string;
  readonly signIn: string;
  readonly password: string;
}

/** The first director makes school, course and own account by the link from the console; then the link has ended. */
export async function startSchool(a: App, token: string, f: First): Promise<string> {
  if (!isFirstToken(token) || !(await isEmpty(a.db)))
    throw new Refused('not-there', 'This link has ended. An empty installation prints a new one each time it starts.');
  const signIn = f.signIn.trim().toLowerCase();
  checkPassword(f.password, signIn);
  const hash = await hashPassword(f.password);
  const course = `c-${randomBytes(6).toString('base64url')}`;
  await a.records.act(
    async (q, note) => {
      if (!(await isEmpty(q))) throw new Refused('conflict', 'Somebody was faster: there is a director already.');
      const id = `P-${randomBytes(5).toString('base64url')}`;
      await q.run(sql`insert into school (name) values (${f.school}) on conflict (only_one) do update set name = excluded.name`);
      await q.run(sql`insert into person (id, name, sign_in_name, password_hash) values (${id}, ${f.name}, ${signIn}, ${hash})`);
      await q.run(sql`insert into course (id, name, term) values (${course}, ${f.course}, ${f.term})`);
      await q.run(sql`insert into enrolment (course_id, person_id, role) values (${course}, ${id}, 'director')`);
      await note({ person: id, action: 'school.start', subject: `course ${course}` });
    },
    { isDurable: true },
  );
  holder.veritorFirst = undefined;
  return signIn;
}

const School = v.object({ name: v.string() });
/** Name of the school, as sign-in and reports show it. */
export const schoolName = async (q: Queries): Promise<string> =>
  (await q.maybeOne(School, sql`select name from school`))?.name ?? 'Veritor';
