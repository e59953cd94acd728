import type { RubricFile } from '#contract/rubric.ts';

type Target = RubricFile['criteria'][number]['targets'][number];
export type BandName = 'band' | 'fair' | 'poor';
export type End = 'lo' | 'hi';

export interface State {
  readonly body: RubricFile;
  readonly saved: RubricFile;
  readonly past: readonly RubricFile[];
}

export type Act =
  | { readonly type: 'weight'; readonly criterion: string; readonly weight: number }
  | {
      readonly type: 'end';
      readonly criterion: string;
      readonly target: number;
      readonly band: BandName;
      readonly end: End;
      readonly value: number | null;
    }
  | { readonly type: 'pass'; readonly mark: number }
  | { readonly type: 'word'; readonly level: number; readonly word: string }
  | { readonly type: 'load'; readonly body: RubricFile }
  | { readonly type: 'undo' }
  | { readonly type: 'kept' };

export const begin = (body: RubricFile): State => ({ body, saved: body, past: [] });

export function reduce(s: State, a: Act): State {
  const change = (body: RubricFile): State => ({ ...s, body, past: [...s.past, s.body].slice(-100) });
  const criteria = (of: string, work: (c: RubricFile['criteria'][number]) => RubricFile['criteria'][number]): State =>
    change({ ...s.body, criteria: s.body.criteria.map((c) => (c.id === of ? work(c) : c)) });
  switch (a.type) {
    case 'weight':
      return criteria(a.criterion, (c) => ({ ...c, weight: a.weight }));
    case 'end':
      return criteria(a.criterion, (c) => ({
        ...c,
        targets: c.targets.map((t, i) => (i === a.target ? withEnd(t, a.band, a.end, a.value) : t)),
      }));
    case 'pass':
      return change({ ...s.body, passMark: a.mark });
    case 'word':
      return change({ ...s.body, levels: s.body.levels.map((l) => (l.level === a.level ? { ...l, word: a.word } : l)) });
    case 'load':
      return change(a.body);
    case 'undo': {
      const before = s.past[s.past.length - 1];
      return before ? { ...s, body: before, past: s.past.slice(0, -1) } : s;
    }
    case 'kept':
      return { ...s, saved: s.body };
  }
}

/** A band of one's own says so: it is the course's, no longer the standard's. */
function withEnd(t: Target, band: BandName, end: End, value: number | null): Target {
  const next = { ...t, [band]: { ...t[band], [end]: value } };
  return band === 'band' && next.own === undefined ? { ...next, own: 'the course’s own band' } : next;
}

export interface Difference {
  readonly criterion: string;
  readonly title: string;
  readonly what: string;
  readonly before: string;
  readonly after: string;
}

const band = (b: { lo: number | null; hi: number | null }): string => `${b.lo ?? '…'} to ${b.hi ?? '…'}`;

/** What a version changes against the one before, line by line. */
export function differences(before: RubricFile, after: RubricFile): Difference[] {
  const out: Difference[] = [];
  const add = (criterion: string, title: string, what: string, a: string, b: string) =>
    a !== b && out.push({ criterion, title, what, before: a, after: b });
  add('', '', 'pass mark', String(before.passMark), String(after.passMark));
  for (const l of after.levels) add('', '', `word of level ${l.level}`, before.levels.find((q) => q.level === l.level)?.word ?? '', l.word);
  for (const c of after.criteria) {
    const old = before.criteria.find((q) => q.id === c.id);
    if (!old) {
      add(c.id, c.title, 'line', '', 'new');
      continue;
    }
    add(c.id, c.title, 'weight', String(old.weight), String(c.weight));
    c.targets.forEach((t, i) => {
      const was = old.targets[i];
      for (const b of ['band', 'fair', 'poor'] as const) if (was) add(c.id, c.title, b, band(was[b]), band(t[b]));
    });
  }
  for (const c of before.criteria) if (!after.criteria.some((q) => q.id === c.id)) add(c.id, c.title, 'line', 'there', 'gone');
  return out;
}
