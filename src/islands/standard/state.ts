import type { StandardFile } from '#contract/standard.ts';
import { titleOf, unitOf } from '#core/catalogue/catalogue.ts';
import type { Stat } from '#core/catalogue/terms.ts';
import { RUBRIC_WORDS } from '#words/rubric.ts';
import type { Effect } from '../rubric/EffectChoice.tsx';

export type Field = StandardFile['lines'][number]['fields'][number];
export type Line = StandardFile['lines'][number];
export interface Place {
  readonly reading: string;
  readonly zone: string | null;
  readonly stat: Stat;
}
type End = 'lo' | 'hi';
type Text = 'title' | 'why';

export interface State {
  readonly body: StandardFile;
  readonly saved: StandardFile;
  readonly past: readonly StandardFile[];
}

export type Act =
  | { readonly type: 'text'; readonly line: string; readonly what: Text; readonly text: string }
  | { readonly type: 'end'; readonly field: string; readonly end: End; readonly value: number | null }
  | { readonly type: 'from'; readonly field: string; readonly from: 'school' | 'course' }
  | { readonly type: 'add-line'; readonly title: string; readonly place: Place }
  | { readonly type: 'add-error'; readonly title: string; readonly place: Place }
  | { readonly type: 'effect'; readonly error: string; readonly effect: Effect | null }
  | { readonly type: 'add-field'; readonly line: string; readonly place: Place }
  | { readonly type: 'remove-line'; readonly line: string }
  | { readonly type: 'remove-field'; readonly line: string; readonly field: string }
  | { readonly type: 'load'; readonly body: StandardFile }
  | { readonly type: 'undo' }
  | { readonly type: 'kept' };

export const begin = (body: StandardFile): State => ({ body, saved: body, past: [] });

export function reduce(s: State, a: Act): State {
  const change = (body: StandardFile): State => ({ ...s, body, past: [...s.past, s.body].slice(-100) });
  const line = (id: string, work: (l: Line) => Line): State =>
    change({ ...s.body, lines: s.body.lines.map((l) => (l.id === id ? work(l) : l)) });
  const everywhere = (id: string, work: (f: Field) => Field): State =>
    change({
      ...s.body,
      lines: s.body.lines.map((l) => ({ ...l, fields: l.fields.map((f) => (f.id === id ? work(f) : f)) })),
      critical: s.body.critical.map((c) => {
        if (c.id !== id) return c;
        const { band, from } = work({ ...c, band: c.allowed });
        return { ...c, allowed: band, from };
      }),
    });
  switch (a.type) {
    case 'text':
      return line(a.line, (l) => ({ ...l, [a.what]: a.text }));
    case 'end':
      // A figure that the course gives is the course's, no longer the school's.
      return everywhere(a.field, (f) => ({ ...f, band: { ...f.band, [a.end]: a.value }, from: 'course' }));
    case 'from':
      return everywhere(a.field, (f) => ({ ...f, from: a.from }));
    case 'add-line': {
      const id = freshId(s.body, a.title);
      const body = { ...s.body, lines: [...s.body.lines, { id, title: a.title, why: '', fields: [] as Field[] }] };
      return change({ ...body, lines: body.lines.map((l) => (l.id === id ? { ...l, fields: [fieldOf(body, a.place)] } : l)) });
    }
    case 'add-error': {
      const { band: allowed, ...field } = fieldOf(s.body, a.place);
      const error = { ...field, id: freshId(s.body, a.title), title: a.title, why: '', allowed, effect: { kind: 'fail' } as const };
      return change({ ...s.body, critical: [...s.body.critical, error] });
    }
    case 'effect': {
      const { effect } = a;
      return change({
        ...s.body,
        critical: effect
          ? s.body.critical.map((c) => (c.id === a.error ? { ...c, effect } : c))
          : s.body.critical.filter((c) => c.id !== a.error),
      });
    }
    case 'add-field':
      return line(a.line, (l) => ({ ...l, fields: [...l.fields, fieldOf(s.body, a.place)] }));
    case 'remove-line':
      return change({ ...s.body, lines: s.body.lines.filter((l) => l.id !== a.line) });
    case 'remove-field':
      return line(a.line, (l) => ({ ...l, fields: l.fields.filter((f) => f.id !== a.field) }));
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

const plain = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || 'line';

/** A name for a line or a figure that nothing else in the standard has. */
function freshId(body: StandardFile, text: string): string {
  const taken = new Set([...body.lines.flatMap((l) => [l.id, ...l.fields.map((f) => f.id)]), ...body.critical.map((c) => c.id)]);
  let id = plain(text);
  for (let n = 2; taken.has(id); n++) id = `${plain(text)}-${n}`;
  return id;
}

const fieldOf = (body: StandardFile, { reading, zone, stat }: Place): Field => ({
  id: freshId(body, [titleOf(reading), zone, stat].filter(Boolean).join(' ')),
  reading,
  zone,
  stat,
  unit: unitOf(reading, stat),
  from: 'course',
  band: { lo: null, hi: null },
});

export interface Difference {
  readonly what: string;
  readonly before: string;
  readonly after: string;
}
const bandText = (b: { lo: number | null; hi: number | null }): string => `${b.lo ?? '…'} to ${b.hi ?? '…'}`;

/** What one text of a standard has otherwise than another. */
export function differences(before: StandardFile, after: StandardFile): Difference[] {
  const out: Difference[] = [];
  const add = (what: string, a: string, b: string): void => {
    if (a !== b) out.push({ what, before: a, after: b });
  };
  for (const l of after.lines) {
    const old = before.lines.find((q) => q.id === l.id);
    if (!old) {
      add(l.title, '', 'new line');
      continue;
    }
    add(`title of ${old.title}`, old.title, l.title);
    add(`why of ${l.title}`, old.why, l.why);
    for (const f of l.fields) {
      const was = old.fields.find((q) => q.id === f.id);
      const name = [l.title, f.zone].filter(Boolean).join(', ');
      add(name, was ? bandText(was.band) : '', bandText(f.band));
      if (was) add(`source of ${name}`, was.from, f.from);
    }
    for (const f of old.fields)
      if (!l.fields.some((q) => q.id === f.id)) add([l.title, f.zone].filter(Boolean).join(', '), bandText(f.band), 'gone');
  }
  for (const l of before.lines) if (!after.lines.some((q) => q.id === l.id)) add(l.title, 'there', 'gone');
  for (const c of after.critical) {
    const was = before.critical.find((q) => q.id === c.id);
    add(c.title, was ? bandText(was.allowed) : '', bandText(c.allowed));
    if (was) add(`effect of ${c.title}`, RUBRIC_WORDS.effect(was.effect), RUBRIC_WORDS.effect(c.effect));
  }
  for (const c of before.critical) if (!after.critical.some((q) => q.id === c.id)) add(c.title, bandText(c.allowed), 'gone');
  return out;
}
