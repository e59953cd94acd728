import { createHash, randomBytes } from 'node:crypto';
import * as v from 'valibot';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import { coursesFor, type Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { COMMON_PASSWORDS } from './common-passwords.ts';
import { hashPassword } from './sign-in.ts';

/** Days for which an invitation can be used. */
const DAYS = 14;
const LEAST = 10;

const digest = (token: string): string => createHash('sha256').update(token).digest('hex');

export interface Invited {
  readonly id: string;
  readonly name: string;
  readonly sign_in_name: string;
  /** Path of the page on which the password is set. */
  readonly path: string;
}

const Member = v.object({ id: v.string(), name: v.string(), sign_in_name: v.string(), elsewhere: v.boolean() });

/** Links by which people of a course set their password; an earlier link of theirs ends. Whoever belongs to another director's course too is left out. */
export const invite = (
  a: App,
  who: Person | null,
  course: string,
  people: readonly string[],
): Promise<{ invited: Invited[]; left: string[] }> =>
  a.records.act(async (q, note) => {
    permit(who, 'people.keep', await SUBJECTS.course(q, course));
    const members = await q.any(
      Member,
      sql`select distinct p.id, p.name, p.sign_in_name, exists (select 1 from enrolment x where x.person_id = p.id
            and x.course_id not in (select jsonb_array_elements_text(${coursesFor(who, 'people.keep')}::jsonb))) as elsewhere
          from person p join enrolment e on e.person_id = p.id where e.course_id = ${course} and p.id in (select jsonb_array_elements_text(${people}::jsonb)) order by p.name`,
    );
    const invited: Invited[] = [];
    for (const m of members.filter((p) => !p.elsewhere))
      invited.push({ id: m.id, name: m.name, sign_in_name: m.sign_in_name, path: await linkFor(q, m.id, who.id) });
    await note({ person: who.id, action: 'people.invite', subject: `course ${course}`, details: { people: invited.map((i) => i.id) } });
    return { invited, left: members.filter((p) => p.elsewhere).map((p) => p.name) };
  });

async function linkFor(q: Queries, person: string, by: string | null): Promise<string> {
  const token = randomBytes(24).toString('base64url');
  await q.run(sql`delete from invitation where person_id = ${person} and used_at is null`);
  await q.run(
    sql`insert into invitation (token_digest, person_id, made_by, expires_at) values (${digest(token)}, ${person}, ${by}, ${new Date(Date.now() + DAYS * 86_400_000)})`,
  );
  return `/welcome/${token}`;
}

const Open = v.object({ id: v.string(), name: v.string(), sign_in_name: v.string() });

/** Whom a link is for; null when it was used, has ended, or never was. */
export const invitedBy = (q: Queries, token: string) =>
  q.maybeOne(
    Open,
    sql`select p.id, p.name, p.sign_in_name from invitation i join person p on p.id = i.person_id where i.token_digest = ${digest(token)} and i.used_at is null and i.expires_at > now()`,
  );

/** Refuses a password that is too short, common, or the name itself. */
export function checkPassword(password: string, signIn: string): void {
  if (password.length < LEAST)
    throw new Refused(
      'not-valid',
      `A password has at least ${LEAST} characters; this one has ${password.length}. Three words in a row are easy to keep.`,
    );
  if (password.length > 200) throw new Refused('not-valid', 'A password has at most 200 characters.');
  const plain = password.toLowerCase();
  if (COMMON_PASSWORDS.has(plain) || plain === signIn.toLowerCase() || new Set(plain).size < 4)
    throw new Refused('not-valid', 'This password is among the first that anybody would try. Choose another one.');
}

/** Sets the password by a link, ends the link, and signs the person out wherever they were signed in. */
export async function usePassword(a: App, token: string, password: string): Promise<string> {
  const p = await invitedBy(a.db, token);
  if (!p) throw new Refused('not-there', 'This link was used already or has ended. Ask the course director for a new one.');
  checkPassword(password, p.sign_in_name);
  const hash = await hashPassword(password);
  return a.records.act(async (q, note) => {
    if (!(await invitedBy(q, token))) throw new Refused('not-there', 'This link was used already.');
    await q.run(sql`update person set password_hash = ${hash} where id = ${p.id}`);
    await q.run(sql`update invitation set used_at = now() where token_digest = ${digest(token)}`);
    await q.run(sql`delete from sign_in where person_id = ${p.id}`);
    await note({ person: p.id, action: 'account.password', subject: `person ${p.id}` });
    return p.sign_in_name;
  });
}
