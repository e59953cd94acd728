import { useCallback, useEffect, useMemo, useReducer, useRef, useState } from 'react';
import { useToasts } from '#components/toast/Toasts.tsx';
import type { BenchView } from '#contract/views.ts';
import { BENCH } from '#words/bench.ts';
import { Criteria } from './Criteria.tsx';
import { Foot } from './Foot.tsx';
import { Keys } from './Keys.tsx';
import { type KeyChoice, storedKeys, storeKeys } from './keys.ts';
import { RingPanel } from './RingPanel.tsx';
import { type BenchAction, type BenchContext, type BenchState, confirmation, contradicts, opened, reduce, sitesOf } from './reducer.ts';
import { Side } from './Side.tsx';
import { SizeNotice } from './SizeNotice.tsx';
import { Stages } from './Stages.tsx';
import { azimuthOnStrip, nextOpen, profileIndex, stripAtAzimuth } from './state.ts';
import { Tooth } from './Tooth.tsx';
import { azimuthAt } from './tools.ts';
import { useGrading } from './useGrading.ts';
import { useKeys } from './useKeys.ts';
import { useLoaded } from './useLoaded.ts';
import { useTools } from './useTools.ts';

interface Pointed {
  readonly azimuth: number | null;
  readonly point: readonly number[] | null;
}

/** mm that the probe moves per arrow key. */
const PROBE_STEP = 0.25;
/** ms in which a release can be taken back from its notice. */
const TAKE_BACK = 10_000;

export function Bench({ view, canGrade }: { view: BenchView; canGrade: boolean }) {
  const grading = useGrading(view);
  const { score } = grading;
  const { loaded, profiles } = useLoaded(view, canGrade, grading.tell);
  const context: BenchContext = { score, rings: view.rings, drawn: view.drawn };
  const latest = useRef(context);
  latest.current = context;
  const [bench, act] = useReducer((s: BenchState, a: BenchAction) => reduce(s, a, latest.current), context, opened);
  const { focus, asking, commenting, byHand, camera, azimuth, stripAt, shown, side, ring } = bench;
  const [keys, setKeys] = useState<KeyChoice>(storedKeys);
  const note = useRef<HTMLInputElement>(null);
  const { say, toasts } = useToasts();
  /** Line or place under the pointer (list, plan or tooth); it takes precedence over the focus. */
  const [hover, setHover] = useState<(Pointed & { from: 'list' | 'picture' }) | null>(null);
  const overList = useCallback((at: Pointed | null) => setHover(at && { ...at, from: 'list' }), []);
  const pointing = useRef(0);
  /** A pointer reports more places than the screen has frames; the last one per frame is used. */
  const overPicture = useCallback((at: Pointed | null) => {
    cancelAnimationFrame(pointing.current);
    pointing.current = requestAnimationFrame(() => setHover(at && { ...at, from: 'picture' }));
  }, []);
  const tools = useTools(loaded, view.measurement?.pointError ?? 0, view.drawn.hollow ? 'mesiodistal' : 'faciolingual', (on) =>
    act({ do: 'show', what: 'opposing', on }),
  );

  const criterion = score.criteria[focus];
  const critical = score.critical[focus - score.criteria.length];
  const place = (criterion?.targets[bench.place] ?? criterion?.targets[0]) || critical;

  /** A choice by key or an instrument in use goes before a resting pointer. */
  const forgetPointer = useCallback(() => {
    cancelAnimationFrame(pointing.current);
    setHover(null);
  }, []);
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
  const choose = (level: number): void => {
    if (!canGrade || !criterion) return;
    if (contradicts(score, focus, { level })) ask(level, null);
    else void grading.judge(criterion.id, { level }, null);
  };
  const decide = (made: boolean | null): void => {
    if (!canGrade || !critical || critical.verdict === 'skipped') return;
    if (contradicts(score, focus, { made })) ask(null, made);
    else void grading.judge(critical.id, { made }, null);
  };
  const answer = async (reason: string): Promise<void> => {
    const line = criterion ?? critical;
    if (!asking || !line) return;
    const word = criterion ? { level: asking.level } : { made: asking.made };
    if (await grading.judge(line.id, word, reason)) act({ do: 'close' });
  };
  /** Confirms what was measured on the line in focus, then goes on to the next one to check. */
  const confirm = async (): Promise<void> => {
    const line = criterion ?? critical;
    const word = canGrade ? confirmation(score, focus) : null;
    if (!line || (word && !(await grading.judge(line.id, word, null)))) return;
    const undecided = word ? score.undecided.filter((id) => id !== line.id) : score.undecided;
    goTo(nextOpen({ ...score, undecided }, focus));
  };

  const open = (id: number | null): void => {
    if (id !== null) window.location.assign(`/bench/${id}${window.location.search}`);
  };
  const sign = async (andGo: boolean): Promise<void> => {
    if (score.undecided.length > 0) {
      const titles = [...score.criteria, ...score.critical].filter((l) => score.undecided.includes(l.id)).map((l) => l.title);
      goTo(nextOpen(score, focus));
      return grading.tell(BENCH.decideFirst(titles));
    }
    if (!(await grading.sign())) return;
    if (andGo && view.nextUnsigned !== null) open(view.nextUnsigned);
    else say(BENCH.signed(view.attempt.student_name, score.total));
  };
  const release = async (): Promise<void> => {
    if (!(await grading.release())) return;
    const who = view.attempt.student_name;
    const run = (): void => void grading.withdraw().then((done) => done && say(BENCH.takenBack(who)));
    say(BENCH.released(who), { label: BENCH.takeBack, run }, TAKE_BACK);
  };
  const take = (tool: 'probe' | 'gauge'): void => {
    tools.take(tool);
    if (tools.tool !== tool && place?.point) tools.ask([place.point[0], place.point[1], place.point[2]]);
  };
  const shift = (dx: number, dy: number): void => {
    const p = tools.probed?.at;
    if (p) tools.ask([p[0] + dx * PROBE_STEP, p[1] + dy * PROBE_STEP, p[2]]);
  };
  const newest = view.measurements.at(-1);

  useKeys(asking !== null || byHand !== null || commenting, keys, {
    acts: {
      'next-open': () => move({ do: 'next-open' }),
      'by-hand': () => canGrade && move({ do: 'next-place' }),
      comment: () => canGrade && criterion && act({ do: 'comment', open: true }),
      'not-made': () => decide(false),
      made: () => decide(true),
      'none-made': () => canGrade && void grading.clearCritical(),
      sign: () => canGrade && void sign(false),
      'sign-next': () => canGrade && void sign(true),
      release: () => canGrade && grading.grades.length > 0 && void release(),
      next: () => open(view.next),
      previous: () => open(view.previous),
      occlusal: () => act({ do: 'look', from: { name: 'occlusal' } }),
      facial: () => act({ do: 'look', from: { name: 'facial' } }),
      lingual: () => act({ do: 'look', from: { name: 'lingual' } }),
      mesial: () => act({ do: 'look', from: { name: 'mesial' } }),
      distal: () => act({ do: 'look', from: { name: 'distal' } }),
      master: () => act({ do: 'show', what: 'master' }),
      opposing: () => act({ do: 'show', what: 'opposing' }),
      depth: () => act({ do: 'show', what: 'depth' }),
      parts: () => act({ do: 'show', what: 'parts' }),
      probe: () => take('probe'),
      gauge: () => take('gauge'),
      ring: () => act({ do: 'ring' }),
      side: () => act({ do: 'side' }),
    },
    fixed: {
      ArrowDown: () => move({ do: 'step', by: 1 }),
      ArrowUp: () => move({ do: 'step', by: -1 }),
      ArrowLeft: () => move({ do: 'turn', by: -5 }),
      ArrowRight: () => move({ do: 'turn', by: 5 }),
      'Shift+ArrowLeft': () => shift(-1, 0),
      'Shift+ArrowRight': () => shift(1, 0),
      'Shift+ArrowUp': () => shift(0, 1),
      'Shift+ArrowDown': () => shift(0, -1),
      Enter: () => void confirm(),
      '0': () => choose(0),
      '1': () => choose(1),
      '2': () => choose(2),
      '3': () => choose(3),
      '?': () => act({ do: 'help', open: true }),
      Escape: () => {
        act({ do: 'close' });
        tools.put();
      },
    },
  });

  /** Where the tooth is cut: under the pointer while it is over something, else where it was left. */
  const cut = hover?.azimuth ?? azimuth;
  const pair = useMemo(() => {
    if (!profiles) return null;
    return [profiles[profileIndex(cut, profiles.length)], profiles[profileIndex(cut + 180, profiles.length)]] as const;
  }, [profiles, cut]);

  const pin = hover?.point ?? place?.point ?? null;
  const marks = useMemo(
    () =>
      view.measurement
        ? score.criteria.flatMap((c, i) => c.pins.map((p) => ({ id: p.id, point: p.point, strong: i === focus, about: p.note || c.title })))
        : sitesOf(score, focus, bench.place),
    [score, focus, view.measurement, bench.place],
  );
  const strip = view.curves['strip.azimuth'];

  return (
    <div className="grid gap-2 p-2 min-[900px]:h-[calc(100vh-45px)] min-[900px]:min-h-[560px] min-[900px]:grid-cols-[minmax(0,1fr)_minmax(380px,470px)] min-[900px]:grid-rows-[minmax(0,1fr)_auto]">
      <div className="grid min-h-0 min-w-0 gap-2 min-[900px]:grid-rows-[auto_minmax(0,1fr)_auto]">
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
          <a className="text-accent underline" href={`/tray/${view.attempt.sitting_id}${window.location.search}`}>
            Tray
          </a>
          <h1 className="text-lg font-bold">{view.attempt.student_name}</h1>
          <span className="figure text-soft">{view.attempt.student_id}</span>
          <span className="text-soft">{view.attempt.exercise_title}</span>
          {view.measurement && (
            <span className="figure ml-auto text-soft" title={BENCH.fit}>
              fit {(view.measurement.rms * 1000).toFixed(0)} µm
            </span>
          )}
        </div>
        <div
          className={`grid min-h-0 gap-2 ${view.measurement ? 'min-[900px]:grid-cols-[minmax(0,1fr)_200px] min-[1180px]:grid-cols-[minmax(0,1fr)_260px]' : ''}`}
        >
          <Tooth
            loaded={loaded}
            view={view}
            camera={camera}
            onCamera={(from) => act({ do: 'look', from })}
            shown={shown}
            onShown={(what) => act({ do: 'show', what })}
            cut={cut}
            pin={pin}
            marks={marks}
            onMark={(id) =>
              goTo(view.measurement ? score.criteria.findIndex((c) => c.pins.some((p) => p.id === id)) : Math.floor(-id / 100))
            }
            onOver={(p) => overPicture(p && { azimuth: loaded ? azimuthAt(p, loaded.header.mesialSign) : null, point: p })}
            tools={tools}
            pinTo={canGrade && criterion ? criterion.title : null}
            onPin={(point, note) => criterion && grading.pin({ line: criterion.id, point, note })}
          />
          {view.measurement && (
            <Side
              view={view}
              mesialSign={loaded?.header.mesialSign ?? null}
              side={side}
              onSide={(to) => act({ do: 'side', to })}
              cut={cut}
              pin={pin}
              pair={pair}
              tools={tools}
              opposing={shown.opposing}
              onTurn={(by) => act({ do: 'turn', by })}
              onPlan={(a) => overPicture(a === null ? null : { azimuth: a, point: null })}
            />
          )}
        </div>

        {view.measurement && (
          <RingPanel
            view={view}
            ring={ring}
            azimuth={!strip ? cut : hover?.from === 'picture' && hover.azimuth !== null ? stripAtAzimuth(strip, hover.azimuth) : stripAt}
            onRing={(to) => act({ do: 'ring', to })}
            onAzimuth={(at) => act({ do: 'cut-at', azimuth: strip ? azimuthOnStrip(strip, at) : at, stripAt: at })}
          />
        )}
      </div>

      <Criteria
        score={score}
        focus={focus}
        asking={asking}
        canGrade={canGrade}
        onFocus={goTo}
        onLevel={choose}
        onMade={decide}
        onAnswer={answer}
        onGiveUp={() => act({ do: 'close' })}
        note={note}
        phrases={view.phrases}
        byHand={byHand}
        onByHand={(at) => act({ do: 'by-hand', place: at })}
        place={bench.place}
        onHand={(t, method, lo, hi) =>
          void grading
            .readByHand(t, method, lo, hi)
            .then((done) => done && act(view.measurement ? { do: 'by-hand', place: null } : { do: 'next-unread' }))
        }
        commenting={commenting}
        onCommenting={(on) => act({ do: 'comment', open: on })}
        onComment={grading.comment}
        onHover={overList}
        onUnpin={(id) => grading.pin({ remove: id })}
        at={hover?.from === 'list' ? null : cut}
      >
        <SizeNotice of={view.measurement} canCorrect={canGrade} onCorrect={(correct) => void grading.correctSize(correct)} />
        {canGrade && newest && !newest.isGraded && (
          <p className="border-b border-line px-3 py-2 text-[13px]">
            {BENCH.newer(newest.fileName)}{' '}
            <button type="button" className="quiet" onClick={() => grading.gradeOn(newest.id)}>
              {BENCH.gradeOnNewer}
            </button>
          </p>
        )}
        {view.stages.length > 0 && (
          <Stages
            stages={view.stages}
            finished={view.finished}
            onPlace={(a) => {
              act({ do: 'cut-at', azimuth: Math.round(a) });
              act({ do: 'look', from: { azimuth: a } });
            }}
          />
        )}
      </Criteria>

      <div className="sticky bottom-0 z-10 min-[900px]:static min-[900px]:col-span-2">
        {grading.error && (
          <p role="alert" className="mb-2 border-l-4 border-bad bg-panel p-2">
            {grading.error}
          </p>
        )}
        <Foot
          grading={grading}
          canGrade={canGrade}
          keys={keys}
          onSign={(andGo) => void sign(andGo)}
          onRelease={() => void release()}
          onOpen={open}
          onHelp={() => act({ do: 'help', open: true })}
          view={view}
        />
      </div>
      {bench.help && (
        <Keys
          choice={keys}
          onChoice={(c) => {
            setKeys(c);
            storeKeys(c);
          }}
          onClose={() => act({ do: 'help', open: false })}
        />
      )}
      {toasts}
    </div>
  );
}
