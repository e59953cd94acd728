import { findEntry } from '#core/catalogue/catalogue.ts';

export function group<T>(list: readonly T[], keyOf: (t: T) => string): Map<string, T[]> {
  const out = new Map<string, T[]>();
  for (const t of list) {
    const key = keyOf(t);
    const own = out.get(key);
    if (own) own.push(t);
    else out.set(key, [t]);
  }
  return out;
}

/** A skill in words: its reading's title, or the question's own. */
export function skillTitle(key: string, own: string = key): string {
  const title = findEntry(key)?.title ?? own;
  return `${title[0]?.toUpperCase() ?? ''}${title.slice(1)}`;
}
