import { call } from '#components/call.ts';
import { ownSettings } from '#components/writing.ts';
import { BENCH_KEYS, type BenchKey } from '#words/keys.ts';

/** A person's own keys: of the page's settings, and of this browser where those say nothing. */
export interface KeyChoice {
  readonly on: boolean;
  /** Letters that differ from the usual ones. */
  readonly own: Readonly<Partial<Record<BenchKey, string>>>;
}

export const USUAL: KeyChoice = { on: true, own: {} };

export const keyOf = (c: KeyChoice, id: BenchKey): string => c.own[id] ?? (BENCH_KEYS.find(([k]) => k === id) as readonly string[])[1];

/** The act that a letter stands for; null when it stands for none or letters are switched off. */
export const actOf = (c: KeyChoice, letter: string): BenchKey | null =>
  c.on ? (BENCH_KEYS.find(([id]) => keyOf(c, id) === letter)?.[0] ?? null) : null;

/** The act that stands in the way of giving a letter to another one; null when it is free. */
export const takenBy = (c: KeyChoice, id: BenchKey, letter: string): BenchKey | null =>
  BENCH_KEYS.find(([k]) => k !== id && keyOf(c, k) === letter)?.[0] ?? null;

/** Gives a letter to an act; unchanged when it is no single letter or is taken. */
export function withKey(c: KeyChoice, id: BenchKey, letter: string): KeyChoice {
  const own = letter.toLowerCase();
  return /^[a-z]$/.test(own) && takenBy(c, id, own) === null ? { ...c, own: { ...c.own, [id]: own } } : c;
}

const STORE = 'veritor.keys';

/** Reads what the browser kept; anything that is not a choice of keys counts as none. */
export function storedKeys(): KeyChoice {
  try {
    const kept = ownSettings().keys ?? (JSON.parse(localStorage.getItem(STORE) ?? 'null') as Partial<KeyChoice> | null);
    if (!kept || typeof kept.on !== 'boolean' || typeof kept.own !== 'object' || kept.own === null) return USUAL;
    const own = Object.entries(kept.own).filter(([id, k]) => BENCH_KEYS.some(([b]) => b === id) && /^[a-z]$/.test(String(k)));
    return { on: kept.on, own: Object.fromEntries(own) };
  } catch {
    return USUAL;
  }
}

export function storeKeys(c: KeyChoice): void {
  try {
    localStorage.setItem(STORE, JSON.stringify(c));
  } catch {
    // A browser that keeps nothing asks again the next time.
  }
  // A letter that could not be kept for elsewhere still holds here.
  call('/api/settings', { keys: c }).catch(() => undefined);
}
