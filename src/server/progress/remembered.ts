import * as v from 'valibot';
import { type Queries, sql } from '../database/port.ts';

const Stamp = v.object({ grade: v.number(), release: v.number() });

/** What changes with every signed or released grade; read from two indexes' ends. */
async function stampOf(q: Queries): Promise<string> {
  const { grade, release } = await q.one(
    Stamp,
    sql`select coalesce((select max(id) from grade), 0) as grade, coalesce((select max(id) from release), 0) as release`,
  );
  return `${grade} ${release}`;
}

interface Kept<T> {
  stamp: string;
  /** Null while it is made for the first time. */
  made: { readonly value: T } | null;
  busy: Promise<T> | null;
}

/** What is made of a whole course's grades, kept until a grade is signed or released; by database, so that two never mix. */
const shelves = new WeakMap<Queries, Map<string, Kept<unknown>>>();
/** Answers kept at once. */
const MOST = 200;

/**
 * Makes something of a course's grades once, and again when grades have changed. With `mayBeOld` what was made before is given at once and made anew for the next one: for what moves little with one
 * grade more.
 */
export async function remembered<T>(q: Queries, key: string, make: () => Promise<T>, mayBeOld = false): Promise<T> {
  const shelf = shelves.get(q) ?? new Map<string, Kept<unknown>>();
  shelves.set(q, shelf);
  const stamp = await stampOf(q);
  const known = shelf.get(key) as Kept<T> | undefined;
  const old = known?.made ?? null;
  if (known?.stamp === stamp) return known.busy ?? (old as { readonly value: T }).value;
  // While the first is made, another grade may come: what is not there yet cannot be given as it was.
  const mine: Kept<T> = { stamp, made: old, busy: null };
  const busy = make().then((value) => {
    Object.assign(mine, { made: { value }, busy: null });
    return value;
  });
  if (!(old && mayBeOld)) mine.busy = busy;
  // What could not be made is asked for again, and whoever asks is told.
  busy.catch(() => shelf.get(key) === mine && shelf.delete(key));
  if (shelf.size >= MOST) shelf.delete(shelf.keys().next().value as string);
  shelf.delete(key);
  shelf.set(key, mine as Kept<unknown>);
  return old && mayBeOld ? old.value : busy;
}
