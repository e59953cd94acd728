import type { APIContext } from 'astro';
import * as v from 'valibot';
import type { Person } from './access/sign-in.ts';
import { type Action, may, type Subject } from './access/table.ts';

/** An answer that ends the request: thrown by the helpers, turned into a response by `endpoint`. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

/** Asks the access table; what one may not see does not exist for one. */
export function allow(person: Person | null, action: Action, subject: Subject = {}): Person {
  if (!person) throw new Refused(401, 'You are signed out. Sign in again; nothing was lost.');
  if (!may(person, action, subject))
    throw new Refused(
      subject.studentId !== undefined && person.role === 'student' ? 404 : 403,
      'This is not open to you. If it should be, ask the course director.',
    );
  return person;
}

export async function body<S extends v.GenericSchema>(context: APIContext, schema: S): Promise<v.InferOutput<S>> {
  const r = v.safeParse(schema, await context.request.json().catch(() => null));
  if (r.success) return r.output;
  const issue = r.issues[0];
  throw new Refused(400, `${v.getDotPath(issue) ?? 'The request'}: ${issue.message}.`);
}

/** Runs an endpoint; refusals become JSON with one sentence, everything unexpected a 500 that is logged. */
export const endpoint =
  (work: (context: APIContext) => Promise<Response>) =>
  async (context: APIContext): Promise<Response> => {
    try {
      // Pages of other sites cannot use the cookie to change anything.
      const origin = context.request.headers.get('origin');
      if (context.request.method !== 'GET' && origin && new URL(origin).host !== context.request.headers.get('host'))
        throw new Refused(403, 'This request came from another site.');
      return await work(context);
    } catch (e) {
      if (e instanceof Refused) return Response.json({ message: e.message }, { status: e.status });
      console.error(e);
      return Response.json({ message: 'Something went wrong on the server. Nothing of yours was changed; try again.' }, { status: 500 });
    }
  };

export const number = (text: string | undefined): number => {
  const n = Number(text);
  if (!Number.isInteger(n) || n < 0) throw new Refused(404, 'There is no such page.');
  return n;
};
