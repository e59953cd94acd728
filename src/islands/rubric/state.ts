import type { RubricFile } from '#contract/rubric.ts';
import type { IfNotRead } from '#core/score/rubric.ts';
import { RUBRIC_WORDS } from '#words/rubric.ts';
import type { Effect } from './EffectChoice.tsx';

type Target = RubricFile['criteria'][number]['targets'][number];
export type Place = Pick<Target, 'reading' | 'zone' | 'stat'>;
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
  | { readonly type: 'add-line'; readonly title: string; readonly place: Place }
  | { readonly type: 'add-question'; readonly title: string; readonly question: string }
  | { readonly type: 'remove-line'; readonly criterion: string }
  | { readonly type: 'add-target'; readonly criterion: string; readonly place: Place }
  | { readonly type: 'remove-target'; readonly criterion: string; readonly target: number }
  | { readonly type: 'share'; readonly level: number; readonly share: number }
  | { readonly type: 'evidence'; readonly criterion: string; readonly target: number; readonly evidence: 'hand' | undefined }
  | { readonly type: 'if-not-read'; readonly criterion: string; readonly target: number; readonly ifNotRead: IfNotRead }
  | { readonly type: 'add-error'; readonly title: string; readonly place: Place }
  | { readonly type: 'limit'; readonly error: string; readonly end: End; readonly value: number | null }
  | { readonly type: 'effect'; readonly error: string; readonly effect: Effect | null }
  | { readonly type: 'load'; readonly body: RubricFile }
  | { readonly type: 'undo' }
  | { readonly type: 'kept' };

export const begin = (body: RubricFile): State => ({ body, saved: body, past: [] });

export function reduce(s: State, a: Act): State {
  const change = (body: RubricFile): State => ({ ...s, body, past: [...s.past, s.body].slice(-100) });
  const criteria = (of: string, work: (c: RubricFile['criteria'][number]) => RubricFile['criteria'][number]): State =>
    change({ ...s.body, criteria: s.body.criteria.map((c) => (c.id === of ? work(c) : c)) });
  const target = (of: string, at: number, work: (t: Target) => Target): State =>
    criteria(of, (c) => ({ ...c, targets: c.targets.map((t, i) => (i === at ? work(t) : t)) }));
  switch (a.type) {
    case 'weight':
      return criteria(a.criterion, (c) => ({ ...c, weight: a.weight }));
    case 'end':
      return target(a.criterion, a.target, (t) => withEnd(t, a.band, a.end, a.value));
    case 'evidence':
      return target(a.criterion, a.target, ({ evidence: _, ...t }) => (a.evidence ? { ...t, evidence: a.evidence } : t));
    case 'if-not-read':
      return target(a.criterion, a.target, (t) => ({ ...t, ifNotRead: a.ifNotRead }));
    case 'pass':
      return change({ ...s.body, passMark: a.mark });
    case 'word':
      return change({ ...s.body, levels: s.body.levels.map((l) => (l.level === a.level ? { ...l, word: a.word } : l)) });
    case 'share':
      return change({ ...s.body, levels: s.body.levels.map((l) => (l.level === a.level ? { ...l, share: a.share } : l)) });
    case 'add-line':
      return change({
        ...s.body,
        criteria: [...s.body.criteria, { id: freshId(s.body, a.title), title: a.title, weight: 1, why: '', targets: [open(a.place)] }],
      });
    case 'add-question': {
      const words = [3, 2, 1, 0].map((level) => ({
        level: level as 0 | 1 | 2 | 3,
        word: s.body.levels.find((l) => l.level === level)?.word ?? String(level),
      }));
      return change({
        ...s.body,
        criteria: [
          ...s.body.criteria,
          { id: freshId(s.body, a.title), title: a.title, weight: 1, why: '', targets: [], asks: { question: a.question, words } },
        ],
      });
    }
    case 'remove-line':
      return change({ ...s.body, criteria: s.body.criteria.filter((c) => c.id !== a.criterion) });
    case 'add-target':
      return criteria(a.criterion, (c) => ({ ...c, targets: [...c.targets, open(a.place)] }));
    case 'remove-target':
      return criteria(a.criterion, (c) => ({ ...c, targets: c.targets.filter((_, i) => i !== a.target) }));
    case 'add-error':
      return change({
        ...s.body,
        critical: [
          ...s.body.critical,
          { id: freshId(s.body, a.title), title: a.title, ...a.place, allowed: { lo: null, hi: null }, effect: { kind: 'fail' } },
        ],
      });
    case 'limit':
      return change({
        ...s.body,
        critical: s.body.critical.map((e) => (e.id === a.error ? { ...e, allowed: { ...e.allowed, [a.end]: a.value } } : e)),
      });
    case 'effect': {
      const { effect } = a;
      return change({
        ...s.body,
        critical: effect
          ? s.body.critical.map((e) => (e.id === a.error ? { ...e, effect } : e))
          : s.body.critical.filter((e) => e.id !== a.error),
      });
    }
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

/** A target that everything is inside of until its band is given. */
const open = (place: Place): Target => {
  const any = { lo: null, hi: null };
  return { ...place, band: any, fair: any, poor: any, own: 'the course’s own line' };
};

/** A name for a line or a critical error that no other has, from its title. */
function freshId(body: RubricFile, title: string): string {
  const plain =
    title
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'line';
  let id = plain;
  const taken = new Set([...body.criteria, ...body.critical].map((c) => c.id));
  for (let n = 2; taken.has(id); n++) id = `${plain}-${n}`;
  return id;
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

const percent = (share: number): string => `${Math.round(100 * share)} %`;
const band = (b: { lo: number | null; hi: number | null }): string => `${b.lo ?? '…'} to ${b.hi ?? '…'}`;

/** What a version changes against the one before, line by line. */
export function differences(before: RubricFile, after: RubricFile): Difference[] {
  const out: Difference[] = [];
  const add = (criterion: string, title: string, what: string, a: string, b: string) =>
    a !== b && out.push({ criterion, title, what, before: a, after: b });
  add('', '', 'pass mark', String(before.passMark), String(after.passMark));
  for (const l of after.levels) {
    const was = before.levels.find((q) => q.level === l.level);
    add('', '', `word of level ${l.level}`, was?.word ?? '', l.word);
    add('', '', `share of level ${l.level}`, percent(was?.share ?? 0), percent(l.share));
  }
  for (const c of after.criteria) {
    const old = before.criteria.find((q) => q.id === c.id);
    if (!old) {
      add(c.id, c.title, 'line', '', 'new');
      continue;
    }
    add(c.id, c.title, 'weight', String(old.weight), String(c.weight));
    if (c.targets.length < old.targets.length) add(c.id, c.title, 'readings', String(old.targets.length), String(c.targets.length));
    c.targets.forEach((t, i) => {
      const was = old.targets[i];
      if (!was) {
        add(c.id, c.title, 'reading', '', `${t.reading} ${t.zone ?? ''}`.trim());
        return;
      }
      for (const b of ['band', 'fair', 'poor'] as const) add(c.id, c.title, b, band(was[b]), band(t[b]));
      add(c.id, c.title, 'what counts', was.evidence ?? 'scan or hand', t.evidence ?? 'scan or hand');
      add(c.id, c.title, 'when not read', was.ifNotRead ?? 'ask', t.ifNotRead ?? 'ask');
    });
  }
  for (const e of before.critical) {
    const now = after.critical.find((q) => q.id === e.id);
    add(e.id, e.title, 'critical error', RUBRIC_WORDS.effect(e.effect), now ? RUBRIC_WORDS.effect(now.effect) : 'gone');
    if (now) add(e.id, e.title, 'limit', band(e.allowed), band(now.allowed));
  }
  for (const e of after.critical)
    if (!before.critical.some((q) => q.id === e.id))
      add(e.id, e.title, 'critical error', '', `new, ${RUBRIC_WORDS.effect(e.effect)}, ${band(e.allowed)}`);
  for (const c of before.criteria) if (!after.criteria.some((q) => q.id === c.id)) add(c.id, c.title, 'line', 'there', 'gone');
  return out;
}
