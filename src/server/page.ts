import type { AstroGlobal } from 'astro';
import type { Person } from './access/sign-in.ts';
import { type Action, may, type Subject } from './access/table.ts';

/** A page's question to the access table: the person when allowed, otherwise null (the page then answers 404). */
export const allowed = (astro: Pick<AstroGlobal, 'locals'>, action: Action, subject: Subject = {}): Person | null => {
  const { person } = astro.locals;
  return person && may(person, action, subject) ? person : null;
};

export const notFound = (): Response =>
  new Response('There is no such page, or it is not open to you.', {
    status: 404,
    headers: { 'Content-Type': 'text/plain; charset=utf-8' },
  });
