import type { BenchView, CriticalView, ScoreView } from '#contract/views.ts';
import { findEntry } from '#core/catalogue/catalogue.ts';
import type { SceneProps } from '#viewer/Scene.tsx';
import { type Place, placeKey } from './lines.ts';
import { firstToLookAt, move, needsReason, nextOpen } from './state.ts';

export type Camera = SceneProps['view'];
export type Shown = 'depth' | 'parts' | 'master' | 'opposing';

/** What a person looks at and is about to do on the Bench. The score itself is the server's (useGrading). */
export interface BenchState {
  /** Line of the list: criteria first, then critical errors. */
  readonly focus: number;
  /** Place of the open line (index of its targets) that picture, ring and section show. */
  readonly place: number;
  /** A judgement that waits for its reason. */
  readonly asking: { readonly level: number | null; readonly made: boolean | null } | null;
  readonly commenting: boolean;
  /** Asks once whether open lines are as measured, before it signs. */
  readonly signing: { readonly andGo: boolean } | null;
  /** Place (reading|zone|stat) at which a reading by hand is entered. */
  readonly byHand: string | null;
  /** Place of the open line that was read by hand last; null when none was yet. */
  readonly handAt: number | null;
  readonly help: boolean;
  readonly camera: Camera;
  /** Azimuth of the section, degrees. */
  readonly azimuth: number;
  /** Position on the unrolled strip of an outline. */
  readonly stripAt: number;
  readonly shown: Readonly<Record<Shown, boolean>>;
  readonly side: 'section' | 'plan';
  readonly ring: number;
}

export type BenchAction =
  | { readonly do: 'go'; readonly to: number }
  | { readonly do: 'step'; readonly by: 1 | -1 }
  | { readonly do: 'next-open' }
  | { readonly do: 'next-place' }
  | { readonly do: 'next-unread' }
  | { readonly do: 'ask'; readonly level: number | null; readonly made: boolean | null }
  | { readonly do: 'comment'; readonly open: boolean }
  | { readonly do: 'by-hand'; readonly place: string | null }
  | { readonly do: 'help'; readonly open: boolean }
  | { readonly do: 'look'; readonly from: Camera }
  | { readonly do: 'turn'; readonly by: number }
  | { readonly do: 'cut-at'; readonly azimuth: number; readonly stripAt?: number }
  | { readonly do: 'show'; readonly what: Shown; readonly on?: boolean }
  | { readonly do: 'side'; readonly to?: 'section' | 'plan' }
  | { readonly do: 'ring'; readonly to?: number }
  | { readonly do: 'sign-open'; readonly andGo: boolean }
  | { readonly do: 'close' };

/** What the reducer reads besides its state. */
export type BenchContext = Pick<BenchView, 'rings' | 'drawn'> & { readonly score: ScoreView };

export const targetsOf = (score: ScoreView, focus: number): readonly (Place & { azimuth: number | null; deciding?: boolean })[] => {
  const c = score.criteria[focus];
  if (c) return c.targets;
  const e: CriticalView | undefined = score.critical[focus - score.criteria.length];
  return e ? [e] : [];
};

const CLOSED = { asking: null, byHand: null, commenting: false, signing: null } as const;

/** Opens the form for a reading by hand at a place of the line in focus. */
const readingAt = (s: BenchState, place: number, context: BenchContext): BenchState => ({
  ...showing(s, place, context),
  byHand: placeKey(targetsOf(context.score, s.focus)[place]),
  handAt: place,
});

/** The state with a place in view: section, camera and ring turn to it. */
function showing(s: BenchState, place: number, { score, rings, drawn }: BenchContext): BenchState {
  const t = targetsOf(score, s.focus)[place];
  const ring = rings.findIndex((r) => r.id === (t && (findEntry(t.reading)?.curve ?? t.reading)));
  const own: BenchState = { ...s, place, ring: ring >= 0 ? ring : s.ring };
  const beside = /^neighbour\.(mesial|distal)/.exec(t?.reading ?? '')?.[1] as 'mesial' | 'distal' | undefined;
  // A contact is seen from above, where the gap is.
  if (t?.reading === 'contact.broken' && t.azimuth != null) return { ...own, azimuth: Math.round(t.azimuth), camera: { name: 'occlusal' } };
  if (beside && t?.azimuth != null) return { ...own, azimuth: Math.round(t.azimuth), camera: { across: beside } };
  if (!t || t.azimuth === null || t.azimuth === undefined) return own;
  const fromAbove = !drawn.colours.includes('axial') || t.reading === 'reduction.occlusal';
  return { ...own, azimuth: Math.round(t.azimuth), camera: fromAbove ? { name: 'occlusal' } : { azimuth: t.azimuth } };
}

function at(s: BenchState, focus: number, context: BenchContext): BenchState {
  const own = targetsOf(context.score, focus);
  return showing(
    { ...s, ...CLOSED, handAt: null, focus },
    Math.max(
      0,
      own.findIndex((t) => t.deciding),
    ),
    context,
  );
}

export function opened(context: BenchContext): BenchState {
  const start: BenchState = {
    focus: 0,
    place: 0,
    ...CLOSED,
    handAt: null,
    help: false,
    camera: { name: 'occlusal' },
    azimuth: 0,
    stripAt: 0,
    shown: { depth: true, parts: false, master: false, opposing: false },
    side: context.drawn.hollow ? 'plan' : 'section',
    ring: 0,
  };
  const focus = firstToLookAt(context.score);
  return focus > 0 ? at(start, focus, context) : start;
}

export function reduce(s: BenchState, a: BenchAction, context: BenchContext): BenchState {
  const { score, rings } = context;
  switch (a.do) {
    case 'go':
      return at(s, a.to, context);
    case 'step':
      return at(s, move(score, s.focus, a.by), context);
    case 'next-open':
      return at(s, nextOpen(score, s.focus), context);
    case 'next-place': {
      // The place in view first, then from one place of the line to the next.
      const own = targetsOf(score, s.focus);
      if (own.length === 0) return s;
      return readingAt(s, s.handAt === null ? s.place : (s.handAt + 1) % own.length, context);
    }
    case 'next-unread': {
      // Onward in the order of the list: what nobody has read yet and can be read by hand, and questions that nobody has answered.
      for (let focus = s.focus, from = s.place + 1; focus < score.criteria.length; focus++, from = 0) {
        const { id, asks } = score.criteria[focus];
        if (asks && focus > s.focus && score.undecided.includes(id)) return at(s, focus, context);
        const place = score.criteria[focus].targets.findIndex(
          (t, i) => i >= from && t.value === null && !t.hand && t.methods.length > 0 && t.verdict !== 'skipped',
        );
        if (place >= 0) return readingAt(focus === s.focus ? s : at(s, focus, context), place, context);
      }
      return { ...s, ...CLOSED };
    }
    case 'ask':
      return { ...s, asking: { level: a.level, made: a.made } };
    case 'comment':
      return { ...s, commenting: a.open };
    case 'by-hand':
      return { ...s, byHand: a.place };
    case 'help':
      return { ...s, help: a.open };
    case 'look':
      return { ...s, camera: a.from };
    case 'turn':
      return { ...s, azimuth: (s.azimuth + a.by + 360) % 360 };
    case 'cut-at':
      return { ...s, azimuth: a.azimuth, stripAt: a.stripAt ?? s.stripAt };
    case 'show':
      return { ...s, shown: { ...s.shown, [a.what]: a.on ?? !s.shown[a.what] } };
    case 'side':
      return { ...s, side: a.to ?? (s.side === 'plan' ? 'section' : 'plan') };
    case 'ring':
      return { ...s, ring: a.to ?? (s.ring + 1) % Math.max(1, rings.length) };
    case 'sign-open':
      return { ...s, signing: { andGo: a.andGo } };
    case 'close':
      return { ...s, ...CLOSED, help: false };
  }
}

/** What Enter does on the line in focus: confirm what was measured, or go on where there is nothing to confirm. */
export function confirmation(score: ScoreView, focus: number): { readonly level: number } | { readonly made: boolean } | null {
  const line = score.criteria[focus] ?? score.critical[focus - score.criteria.length];
  if (!line || !score.undecided.includes(line.id)) return null;
  const c = score.criteria[focus];
  if (c) return c.computed === null ? null : { level: c.computed };
  const e = score.critical[focus - score.criteria.length];
  return e.verdict === 'outside' ? { made: true } : e.verdict === 'inside' ? { made: false } : null;
}

/** A person's word on a line, as measured. */
export interface OwnWord {
  readonly line: string;
  readonly title: string;
  readonly word: { readonly level: number } | { readonly made: boolean };
}

/** What the open lines would be if all of them stood as measured; null while one of them has nothing measured to stand by. */
export function asMeasured(score: ScoreView): readonly OwnWord[] | null {
  const lines = [...score.criteria, ...score.critical];
  const words = lines.flatMap((l, i) =>
    score.undecided.includes(l.id) ? [{ line: l.id, title: l.title, word: confirmation(score, i) }] : [],
  );
  return words.every((w): w is OwnWord => w.word !== null) ? words : null;
}

/** Whether a judgement on the line in focus needs a reason: it contradicts what was measured. */
export function contradicts(score: ScoreView, focus: number, word: { level?: number; made?: boolean | null }): boolean {
  const c = score.criteria[focus];
  if (c) return word.level !== undefined && needsReason(c, word.level);
  const e = score.critical[focus - score.criteria.length];
  const measured = e?.verdict === 'outside' ? true : e?.verdict === 'inside' ? false : null;
  return word.made !== null && word.made !== undefined && measured !== null && word.made !== measured;
}

/** Places of an attempt without a scan, as marks on the master: those of the line in focus are numbered as in its list. Ids are below 0; the line is −id ÷ 100. */
export const sitesOf = (score: ScoreView, focus: number, place: number) =>
  score.criteria.flatMap((c, i) =>
    c.targets.flatMap((t, k) =>
      t.point === null
        ? []
        : [
            {
              id: -(100 * i + k),
              point: t.point,
              strong: i === focus && k === place,
              number: i === focus ? k + 1 : null,
              about: `${c.title}: ${t.zone ?? ''}`,
            },
          ],
    ),
  );
