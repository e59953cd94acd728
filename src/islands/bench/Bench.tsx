import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { BenchView } from '#contract/views.ts';
import type { SceneProps } from '#viewer/Scene.tsx';
import { Criteria } from './Criteria.tsx';
import { Foot } from './Foot.tsx';
import { Keys } from './Keys.tsx';
import { placeKey } from './lines.ts';
import { RingPanel } from './RingPanel.tsx';
import { Side } from './Side.tsx';
import { SizeNotice } from './SizeNotice.tsx';
import { Stages } from './Stages.tsx';
import { azimuthOnStrip, firstToLookAt, move, needsReason, nextOpen, profileIndex, ringOf, stripAtAzimuth } from './state.ts';
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

export function Bench({ view, canGrade }: { view: BenchView; canGrade: boolean }) {
  const grading = useGrading(view);
  const { score } = grading;
  const { loaded, profiles } = useLoaded(view.measurement, grading.tell);
  const [focus, setFocus] = useState(() => firstToLookAt(view.score));
  const [asking, setAsking] = useState<{ index: number; level: number | null; made: boolean | null } | null>(null);
  const [commenting, setCommenting] = useState(false);
  const [byHand, setByHand] = useState<string | null>(null);
  const [help, setHelp] = useState(false);
  const [camera, setCamera] = useState<SceneProps['view']>({ name: 'occlusal' });
  const [azimuth, setAzimuth] = useState(0);
  const [stripAt, setStripAt] = useState(0);
  const [shown, setShown] = useState({ depth: true, parts: false, master: false, opposing: false });
  const [side, setSide] = useState<'section' | 'plan'>(view.drawn.hollow ? 'plan' : 'section');
  const [ring, setRing] = useState(0);
  const note = useRef<HTMLInputElement>(null);
  /** Line or place under the pointer (list, plan or tooth); it takes precedence over the focus. */
  const [hover, setHover] = useState<(Pointed & { from: 'list' | 'picture' }) | null>(null);
  const overList = useCallback((at: Pointed | null) => setHover(at && { ...at, from: 'list' }), []);
  const pointing = useRef(0);
  /** A pointer reports more places than the screen has frames; the last one per frame is used. */
  const overPicture = useCallback((at: Pointed | null) => {
    cancelAnimationFrame(pointing.current);
    pointing.current = requestAnimationFrame(() => setHover(at && { ...at, from: 'picture' }));
  }, []);
  const tools = useTools(loaded, view.measurement?.pointError ?? 0, view.drawn.hollow ? 'mesiodistal' : 'faciolingual', (opposing) =>
    setShown((q) => ({ ...q, opposing })),
  );

  const criterion = score.criteria[focus];
  const critical = score.critical[focus - score.criteria.length];
  const deciding = criterion?.targets.find((t) => t.deciding) ?? criterion?.targets[0];

  /** A choice by key or an instrument in use goes before a resting pointer. */
  const forgetPointer = useCallback(() => {
    cancelAnimationFrame(pointing.current);
    setHover(null);
  }, []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: taking an instrument up or putting it down is the occasion
  useEffect(forgetPointer, [tools.tool]);

  const goTo = useCallback(
    (index: number) => {
      forgetPointer();
      setFocus(index);
      setAsking(null);
      setByHand(null);
      setCommenting(false);
      const c = score.criteria[index];
      const t = c?.targets.find((q) => q.deciding) ?? c?.targets[0];
      const a = t?.azimuth ?? score.critical[index - score.criteria.length]?.azimuth ?? null;
      if (a !== null && a !== undefined) {
        setAzimuth(Math.round(a));
        setCamera(!view.drawn.colours.includes('axial') || t?.reading === 'reduction.occlusal' ? { name: 'occlusal' } : { azimuth: a });
      }
      const r = view.rings.findIndex((q) => q.id === ringOf(t?.reading ?? ''));
      if (r >= 0) setRing(r);
    },
    [score, view.rings, view.drawn, forgetPointer],
  );

  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the attempt is opened
  useEffect(() => {
    if (focus > 0) goTo(focus);
  }, []);

  const choose = (level: number) => {
    if (!canGrade || !criterion) return;
    if (needsReason(criterion, level)) {
      setAsking({ index: focus, level, made: null });
      requestAnimationFrame(() => note.current?.focus());
    } else void grading.judge(criterion.id, { level }, null);
  };

  /** Decides a critical error; a decision against the measurement needs a reason. */
  const decide = (made: boolean | null) => {
    if (!canGrade || !critical || critical.verdict === 'skipped') return;
    const measured = critical.verdict === 'outside' ? true : critical.verdict === 'inside' ? false : null;
    if (made === null || measured === null || made === measured) void grading.judge(critical.id, { made }, null);
    else {
      setAsking({ index: focus, level: null, made });
      requestAnimationFrame(() => note.current?.focus());
    }
  };

  const answer = async (reason: string) => {
    if (asking === null) return;
    const c = score.criteria[asking.index];
    const done = c
      ? await grading.judge(c.id, { level: asking.level }, reason)
      : critical && (await grading.judge(critical.id, { made: asking.made }, reason));
    if (done) setAsking(null);
  };
  const sign = () => {
    if (score.undecided.length === 0) return grading.sign();
    goTo(nextOpen(score, focus));
    const titles = [...score.criteria, ...score.critical].filter((l) => score.undecided.includes(l.id)).map((l) => l.title);
    grading.tell(`Decide first: ${titles.join(', ')}.`);
  };
  const newest = view.measurements.at(-1);

  useKeys(asking !== null || byHand !== null || commenting, {
    ArrowDown: () => goTo(move(score, focus, 1)),
    ArrowUp: () => goTo(move(score, focus, -1)),
    e: () => goTo(nextOpen(score, focus)),
    Enter: () => criterion && criterion.computed !== null && choose(criterion.computed),
    '0': () => choose(0),
    '1': () => choose(1),
    '2': () => choose(2),
    '3': () => choose(3),
    x: () => decide(false),
    y: () => decide(true),
    z: () => canGrade && void grading.clearCritical(),
    k: () => canGrade && criterion && setCommenting(true),
    h: () => canGrade && deciding && setByHand(placeKey(deciding)),
    s: () => canGrade && void sign(),
    r: () => canGrade && grading.grades.length > 0 && void grading.release(),
    n: () => view.next !== null && window.location.assign(`/bench/${view.next}`),
    b: () => view.previous !== null && window.location.assign(`/bench/${view.previous}`),
    o: () => setCamera({ name: 'occlusal' }),
    f: () => setCamera({ name: 'facial' }),
    l: () => setCamera({ name: 'lingual' }),
    m: () => setCamera({ name: 'mesial' }),
    d: () => setCamera({ name: 'distal' }),
    g: () => setShown((q) => ({ ...q, master: !q.master })),
    a: () => setShown((q) => ({ ...q, opposing: !q.opposing })),
    c: () => setShown((q) => ({ ...q, depth: !q.depth })),
    t: () => setRing((i) => (i + 1) % Math.max(1, view.rings.length)),
    v: () => setSide((q) => (q === 'plan' ? 'section' : 'plan')),
    p: () => setShown((q) => ({ ...q, parts: !q.parts })),
    i: () => tools.take('probe'),
    u: () => tools.take('gauge'),
    '?': () => setHelp((h) => !h),
    Escape: () => {
      setHelp(false);
      setAsking(null);
      tools.put();
    },
  });

  /** Where the tooth is cut: under the pointer while it is over something, else where it was left. */
  const cut = hover?.azimuth ?? azimuth;
  const pair = useMemo(() => {
    if (!profiles) return null;
    return [profiles[profileIndex(cut, profiles.length)], profiles[profileIndex(cut + 180, profiles.length)]] as const;
  }, [profiles, cut]);

  const pin = hover?.point ?? deciding?.point ?? critical?.point ?? null;
  const marks = useMemo(
    () =>
      score.criteria.flatMap((c, i) => c.pins.map((p) => ({ id: p.id, point: p.point, strong: i === focus, about: p.note || c.title }))),
    [score, focus],
  );
  const strip = view.curves['strip.azimuth'];

  return (
    <div className="grid h-[calc(100vh-45px)] min-h-[640px] grid-cols-[minmax(0,1fr)_minmax(400px,470px)] grid-rows-[minmax(0,1fr)_auto] gap-2 p-2">
      <div className="grid min-h-0 grid-rows-[auto_minmax(0,1fr)_auto] gap-2">
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
          <a className="text-accent underline" href={`/tray/${view.attempt.sitting_id}`}>
            Tray
          </a>
          <h1 className="text-lg font-bold">{view.attempt.student_name}</h1>
          <span className="figure text-soft">{view.attempt.student_id}</span>
          <span className="text-soft">{view.attempt.exercise_title}</span>
          {view.measurement && (
            <span className="figure ml-auto text-soft" title="How closely the uncut surface lies on the master">
              fit {(view.measurement.rms * 1000).toFixed(0)} µm
            </span>
          )}
        </div>
        <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_260px] gap-2">
          <Tooth
            loaded={loaded}
            view={view}
            camera={camera}
            onCamera={setCamera}
            shown={shown}
            onShown={(k) => setShown((q) => ({ ...q, [k]: !q[k] }))}
            cut={cut}
            pin={pin}
            marks={marks}
            onMark={(id) => goTo(score.criteria.findIndex((c) => c.pins.some((p) => p.id === id)))}
            onOver={(p) => overPicture(p && { azimuth: loaded ? azimuthAt(p, loaded.header.mesialSign) : null, point: p })}
            tools={tools}
            pinTo={canGrade && criterion ? criterion.title : null}
            onPin={(point, note) => criterion && grading.pin({ line: criterion.id, point, note })}
          />
          <Side
            view={view}
            mesialSign={loaded?.header.mesialSign ?? null}
            side={side}
            onSide={setSide}
            cut={cut}
            pin={pin}
            pair={pair}
            tools={tools}
            opposing={shown.opposing}
            onTurn={(by) => setAzimuth((a) => (a + by + 360) % 360)}
            onPlan={(a) => overPicture(a === null ? null : { azimuth: a, point: null })}
          />
        </div>

        <RingPanel
          view={view}
          ring={ring}
          azimuth={!strip ? cut : hover?.from === 'picture' && hover.azimuth !== null ? stripAtAzimuth(strip, hover.azimuth) : stripAt}
          onRing={setRing}
          onAzimuth={(at) => {
            setStripAt(at);
            setAzimuth(strip ? azimuthOnStrip(strip, at) : at);
          }}
        />
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
        onGiveUp={() => setAsking(null)}
        note={note}
        phrases={view.phrases}
        byHand={byHand}
        onByHand={setByHand}
        onHand={(t, method, lo, hi) => void grading.readByHand(t, method, lo, hi).then((done) => done && setByHand(null))}
        commenting={commenting}
        onCommenting={setCommenting}
        onComment={grading.comment}
        onHover={overList}
        onUnpin={(id) => grading.pin({ remove: id })}
        at={hover?.from === 'list' ? null : cut}
      >
        <SizeNotice of={view.measurement} canCorrect={canGrade} onCorrect={(correct) => void grading.correctSize(correct)} />
        {canGrade && newest && !newest.isGraded && (
          <p className="border-b border-line px-3 py-2 text-[13px]">
            A newer measurement is here ({newest.fileName}); the readings below are those of the one that is graded.{' '}
            <button type="button" className="quiet" onClick={() => grading.gradeOn(newest.id)}>
              Grade on the newer one
            </button>
          </p>
        )}
        {view.stages.length > 0 && (
          <Stages
            stages={view.stages}
            finished={view.finished}
            onPlace={(a) => {
              setAzimuth(Math.round(a));
              setCamera({ azimuth: a });
            }}
          />
        )}
      </Criteria>

      <div className="col-span-2">
        {grading.error && (
          <p role="alert" className="mb-2 border-l-4 border-bad bg-panel p-2">
            {grading.error}
          </p>
        )}
        <Foot grading={grading} canGrade={canGrade} onSign={sign} onHelp={() => setHelp(true)} next={view.next} previous={view.previous} />
      </div>
      {help && <Keys onClose={() => setHelp(false)} />}
    </div>
  );
}
