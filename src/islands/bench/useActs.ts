import { type RefObject, useCallback, useEffect, useRef, useState } from 'react';
import type { Say } from '#components/toast/Toasts.tsx';
import type { BenchView } from '#contract/views.ts';
import { BENCH } from '#words/bench.ts';
import { asMeasured, type BenchAction, type BenchState, confirmation, contradicts, type OwnWord } from './reducer.ts';
import { nextOpen } from './state.ts';
import type { useGrading } from './useGrading.ts';
import type { Tools } from './useTools.ts';

/** What the pointer is over. */
export interface Pointed {
  readonly azimuth: number | null;
  readonly point: readonly number[] | null;
}

/** The line or place under the pointer (list, plan or tooth): it takes precedence over the focus until a key or an instrument is used. */
export function usePointer() {
  const [hover, setHover] = useState<(Pointed & { from: 'list' | 'picture' }) | null>(null);
  const pointing = useRef(0);
  return {
    hover,
    overList: useCallback((at: Pointed | null) => setHover(at && { ...at, from: 'list' }), []),
    /** A pointer reports more places than the screen has frames; the last one per frame is used. */
    overPicture: useCallback((at: Pointed | null) => {
      cancelAnimationFrame(pointing.current);
      pointing.current = requestAnimationFrame(() => setHover(at && { ...at, from: 'picture' }));
    }, []),
    forget: useCallback(() => {
      cancelAnimationFrame(pointing.current);
      setHover(null);
    }, []),
  };
}

/** mm that the probe moves per arrow key. */
const PROBE_STEP = 0.25;
/** ms in which a release can be taken back from its notice. */
const TAKE_BACK = 10_000;

interface Parts {
  readonly view: BenchView;
  readonly canGrade: boolean;
  readonly grading: ReturnType<typeof useGrading>;
  readonly bench: BenchState;
  readonly act: (a: BenchAction) => void;
  readonly forgetPointer: () => void;
  readonly tools: Tools;
  readonly note: RefObject<HTMLInputElement | null>;
  readonly say: Say;
}

/** What a person does on the Bench, by key, button or pointer alike. */
export function useActs({ view, canGrade, grading, bench, act, forgetPointer, tools, note, say }: Parts) {
  const { score } = grading;
  const { focus, asking } = bench;
  const criterion = score.criteria[focus];
  const critical = score.critical[focus - score.criteria.length];
  const place = (criterion?.targets[bench.place] ?? criterion?.targets[0]) || critical;

  // biome-ignore lint/correctness/useExhaustiveDependencies: taking an instrument up or putting it down is the occasion
  useEffect(forgetPointer, [tools.tool]);
  const move = (a: BenchAction): void => {
    forgetPointer();
    act(a);
  };
  const goTo = (to: number): void => move({ do: 'go', to });
  const ask = (level: number | null, made: boolean | null): void => {
    act({ do: 'ask', level, made });
    requestAnimationFrame(() => note.current?.focus());
  };
  const open = (id: number | null): void => {
    if (id !== null) window.location.assign(`/bench/${id}${window.location.search}`);
  };
  const signed = async (andGo: boolean, words: readonly OwnWord[]): Promise<void> => {
    if (!(await grading.sign(words))) return;
    if (andGo && view.nextUnsigned !== null) open(view.nextUnsigned);
    else say(BENCH.signed(view.attempt.student_name, words.length ? null : score.total));
  };
  return {
    criterion,
    critical,
    place,
    move,
    goTo,
    open,
    choose: (level: number): void => {
      if (!canGrade || !criterion) return;
      if (contradicts(score, focus, { level })) ask(level, null);
      else
        void grading.judge(criterion.id, { level }, null).then((done) => {
          // A word said, the pass goes on: by hand to the next place or question, else to the next line to check.
          if (done && criterion.asks) move({ do: view.measurement ? 'next-open' : 'next-unread' });
        });
    },
    decide: (made: boolean | null): void => {
      if (!canGrade || !critical || critical.verdict === 'skipped') return;
      if (contradicts(score, focus, { made })) ask(null, made);
      else void grading.judge(critical.id, { made }, null);
    },
    answer: async (reason: string): Promise<void> => {
      const line = criterion ?? critical;
      if (!asking || !line) return;
      const word = criterion ? { level: asking.level } : { made: asking.made };
      if (await grading.judge(line.id, word, reason)) act({ do: 'close' });
    },
    /** Confirms what was measured on the line in focus, then goes on to the next one to check. */
    confirm: async (): Promise<void> => {
      const line = criterion ?? critical;
      const word = canGrade ? confirmation(score, focus) : null;
      if (!line || (word && !(await grading.judge(line.id, word, null)))) return;
      const undecided = word ? score.undecided.filter((id) => id !== line.id) : score.undecided;
      goTo(nextOpen({ ...score, undecided }, focus));
    },
    sign: async (andGo: boolean): Promise<void> => {
      if (score.undecided.length > 0 && asMeasured(score)) return act({ do: 'sign-open', andGo });
      if (score.undecided.length > 0) {
        const titles = [...score.criteria, ...score.critical].filter((l) => score.undecided.includes(l.id)).map((l) => l.title);
        goTo(nextOpen(score, focus));
        return grading.tell(BENCH.decideFirst(titles));
      }
      await signed(andGo, []);
    },
    /** Signs with the open lines as they were measured, which the signer has just been asked. */
    signAsMeasured: async (): Promise<void> => {
      const andGo = bench.signing?.andGo ?? false;
      act({ do: 'close' });
      await signed(andGo, asMeasured(score) ?? []);
    },
    release: async (): Promise<void> => {
      if (!(await grading.release())) return;
      const who = view.attempt.student_name;
      const run = (): void => void grading.withdraw().then((done) => done && say(BENCH.takenBack(who)));
      say(BENCH.released(who), { label: BENCH.takeBack, run }, TAKE_BACK);
    },
    take: (tool: 'probe' | 'gauge'): void => {
      tools.take(tool);
      if (tools.tool !== tool && place?.point) tools.ask([place.point[0], place.point[1], place.point[2]]);
    },
    shift: (dx: number, dy: number): void => {
      const p = tools.probed?.at;
      if (p) tools.ask([p[0] + dx * PROBE_STEP, p[1] + dy * PROBE_STEP, p[2]]);
    },
  };
}
