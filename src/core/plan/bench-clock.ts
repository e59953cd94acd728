/** What happened at a bench, as the device noted it. */
export interface Happening {
  readonly kind: 'begin' | 'pause' | 'done' | 'entry' | 'ask' | 'tooth';
  readonly step: string;
  /** ISO 8601, by the device's clock. */
  readonly at: string;
}
/** An instructor's word on a step. */
export interface Word {
  readonly step: string;
  readonly word: 'go-on' | 'correct' | 'new-tooth';
  readonly initials: string;
  readonly note: string;
  readonly at: string;
}
/** A step as its student stands before it. */
export interface StepState {
  readonly id: string;
  readonly number: number;
  /** Minutes that it took so far, over all its turns. */
  readonly minutes: number;
  readonly turns: number;
  readonly isDone: boolean;
  /** Since when it runs, where it does. */
  readonly since: string | null;
  readonly needsWord: boolean;
  readonly words: readonly Word[];
  readonly isAsked: boolean;
}

/** The longest that one turn at a step counts, ms: a clock that was left running overnight is no work. */
const LONGEST = 3 * 3600_000;
const MINUTE = 60_000;

/**
 * Where each step stands, from what happened, in order of the device's clock. A step runs from its beginning to the next beginning, pause or end;
 * a new tooth begins every step again and keeps the minutes; a question is open until a later word on its step.
 * @units minutes
 * @source docs/plan.md
 * @example begun at 9:00, paused at 9:05, begun again at 9:10, done at 9:12: 7 minutes in two turns
 */
export function stepStates(
  steps: readonly { readonly id: string; readonly number: number; readonly needsWord: boolean }[],
  events: readonly Happening[],
  words: readonly Word[],
): StepState[] {
  const ms = new Map<string, number>();
  const turns = new Map<string, number>();
  const done = new Set<string>();
  let running: { step: string; at: number; since: string } | null = null;
  const stop = (at: number): void => {
    if (running) ms.set(running.step, (ms.get(running.step) ?? 0) + Math.min(LONGEST, Math.max(0, at - running.at)));
    running = null;
  };
  for (const e of events) {
    const at = Date.parse(e.at);
    switch (e.kind) {
      case 'begin':
        stop(at);
        turns.set(e.step, (turns.get(e.step) ?? 0) + 1);
        done.delete(e.step);
        running = { step: e.step, at, since: e.at };
        break;
      case 'pause':
        stop(at);
        break;
      case 'done':
        stop(at);
        done.add(e.step);
        break;
      case 'tooth':
        // A new tooth begins from nothing; the minutes stay.
        stop(at);
        done.clear();
        break;
      case 'entry':
      case 'ask':
        break;
    }
  }
  const now = running as { step: string; since: string } | null;
  return steps.map((s): StepState => {
    const own = words.filter((w) => w.step === s.id);
    const asked = events.filter((e) => e.kind === 'ask' && e.step === s.id).map((e) => e.at);
    const last = own[own.length - 1]?.at ?? '';
    return {
      id: s.id,
      number: s.number,
      minutes: Math.round(((ms.get(s.id) ?? 0) / MINUTE) * 10) / 10,
      turns: turns.get(s.id) ?? 0,
      isDone: done.has(s.id),
      since: now?.step === s.id ? now.since : null,
      needsWord: s.needsWord,
      words: own,
      isAsked: asked.some((at) => Date.parse(at) > (last ? Date.parse(last) : 0)),
    };
  });
}
