import { useMemo, useReducer, useRef, useState } from 'react';
import { Ask } from '#components/dialog/Ask.tsx';
import { useToasts } from '#components/toast/Toasts.tsx';
import { writeAsOwn } from '#components/writing.ts';
import type { BenchView } from '#contract/views.ts';
import { BENCH } from '#words/bench.ts';
import { profileIndex } from '#words/sides.ts';
import { AgainstPlan } from './AgainstPlan.tsx';
import { benchKeys } from './benchKeys.ts';
import { Criteria } from './Criteria.tsx';
import { Foot } from './Foot.tsx';
import { Keys } from './Keys.tsx';
import { type KeyChoice, storedKeys, storeKeys } from './keys.ts';
import { Photo } from './Photo.tsx';
import { RingPanel } from './RingPanel.tsx';
import { asMeasured, type BenchAction, type BenchContext, type BenchState, opened, reduce, sitesOf } from './reducer.ts';
import { Side } from './Side.tsx';
import { SizeNotice } from './SizeNotice.tsx';
import { Stages } from './Stages.tsx';
import { azimuthOnStrip, stripAtAzimuth } from './state.ts';
import { Tooth } from './Tooth.tsx';
import { azimuthAt } from './tools.ts';
import { useActs, usePointer } from './useActs.ts';
import { useGrading } from './useGrading.ts';
import { useKeys } from './useKeys.ts';
import { useLoaded } from './useLoaded.ts';
import { useTools } from './useTools.ts';

writeAsOwn();

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
  const { hover, overList, overPicture, forget } = usePointer();
  const tools = useTools(loaded, view.measurement?.pointError ?? 0, view.drawn.hollow ? 'mesiodistal' : 'faciolingual', (on) =>
    act({ do: 'show', what: 'opposing', on }),
  );

  const acts = useActs({ view, canGrade, grading, bench, act, forgetPointer: forget, tools, note, say });
  const { criterion, place } = acts;
  const wordOf = (level: number): string => score.levels.find((l) => l.level === level)?.word ?? String(level);
  const newest = view.measurements.at(-1);
  useKeys(
    asking !== null || byHand !== null || commenting,
    keys,
    benchKeys({ acts, act, grading, canGrade, next: view.next, previous: view.previous, put: tools.put }),
  );

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
        ? score.criteria.flatMap((c, i) =>
            c.pins.map((p) => ({ id: p.id, point: p.point, strong: i === focus, number: null, about: p.note || c.title })),
          )
        : sitesOf(score, focus, bench.place),
    [score, focus, view.measurement, bench.place],
  );
  const readings = useMemo(() => criterion?.targets.map((t) => t.reading) ?? [], [criterion]);
  const strip = view.curves['strip.azimuth'];

  return (
    <div className="grid gap-2 p-2 min-[900px]:h-[calc(100vh-45px)] min-[900px]:min-h-[560px] min-[900px]:grid-cols-[minmax(0,1fr)_minmax(380px,470px)] min-[900px]:grid-rows-[minmax(0,1fr)_auto]">
      {/* Stacked on a narrow screen: name, tooth, criteria, then section and ring. */}
      <div className="contents min-h-0 min-w-0 gap-2 min-[900px]:grid min-[900px]:grid-rows-[auto_minmax(0,1fr)_auto]">
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
          <a className="text-accent underline" href={`/tray/${view.attempt.sitting_id}${window.location.search}`}>
            {BENCH.tray}
          </a>
          <h1 className="text-lg font-bold">{view.attempt.student_name}</h1>
          <span className="figure text-soft">{view.attempt.student_id}</span>
          <span className="text-soft">{view.attempt.exercise_title}</span>
          {view.measurement && (
            <span className="figure ml-auto text-soft" title={BENCH.fit}>
              {BENCH.fitOf(view.measurement.rms)}
            </span>
          )}
        </div>
        <div
          className={`contents min-h-0 gap-2 min-[900px]:grid ${view.measurement || canGrade ? 'min-[900px]:grid-cols-[minmax(0,1fr)_200px] min-[1180px]:grid-cols-[minmax(0,1fr)_260px]' : ''}`}
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
            readings={readings}
            marks={marks}
            onMark={(id) =>
              acts.goTo(view.measurement ? score.criteria.findIndex((c) => c.pins.some((p) => p.id === id)) : Math.floor(-id / 100))
            }
            onOver={(p) => overPicture(p && { azimuth: loaded ? azimuthAt(p, loaded.header.mesialSign) : null, point: p })}
            tools={tools}
            pinTo={canGrade && criterion ? criterion.title : null}
            onPin={(point, note) => criterion && grading.pin({ line: criterion.id, point, note })}
          />
          {!view.measurement && canGrade && <Photo attempt={view.attempt.id} photo={view.photo} onProblem={grading.tell} />}
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
        onFocus={acts.goTo}
        onLevel={acts.choose}
        onMade={acts.decide}
        onAnswer={acts.answer}
        onGiveUp={() => act({ do: 'close' })}
        note={note}
        phrases={view.phrases}
        byHand={byHand}
        onByHand={(at) => act({ do: 'by-hand', place: at })}
        place={bench.place}
        numbered={!view.measurement}
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
        {canGrade && <AgainstPlan attempt={view.attempt.id} />}
      </Criteria>

      <div className="sticky bottom-0 z-10 max-[899px]:order-5 min-[900px]:static min-[900px]:col-span-2">
        {grading.error && (
          <p role="alert" className="mb-2 border-l-4 border-bad bg-panel p-2">
            {grading.error}
          </p>
        )}
        <Foot
          grading={grading}
          canGrade={canGrade}
          keys={keys}
          onSign={(andGo) => void acts.sign(andGo)}
          onRelease={() => void acts.release()}
          onOpen={acts.open}
          onHelp={() => act({ do: 'help', open: true })}
          view={view}
        />
      </div>
      {bench.signing && (
        <Ask
          question={BENCH.signOpen(score.undecided.length)}
          yes={BENCH.signOpenYes}
          no={BENCH.signOpenNo}
          onYes={() => void acts.signAsMeasured()}
          onNo={() => act({ do: 'close' })}
        >
          <ul className="mb-2 list-disc pl-5">
            {asMeasured(score)?.map((w) => (
              <li key={w.line}>
                {w.title}: {'level' in w.word ? wordOf(w.word.level) : w.word.made ? BENCH.made : BENCH.notMade}
              </li>
            ))}
          </ul>
          {BENCH.signOpenWhy}
        </Ask>
      )}
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
