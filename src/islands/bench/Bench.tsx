import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import * as v from 'valibot';
import { call } from '#components/call.ts';
import { unpackDisplay } from '#contract/display.ts';
import { ProfilesFile, type ProfileView } from '#contract/profiles.ts';
import type { BenchView, ScoreView, TargetView } from '#contract/views.ts';
import type { HandMethod } from '#core/catalogue/terms.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import type { SceneProps } from '#viewer/Scene.tsx';
import { Ring } from '../../charts/Ring.tsx';
import { Criteria, placeKey } from './Criteria.tsx';
import { Foot } from './Foot.tsx';
import { Keys } from './Keys.tsx';
import type { Loaded } from './loaded.ts';
import { Side } from './Side.tsx';
import { Stages } from './Stages.tsx';
import { azimuthOnStrip, move, needsReason, nextOpen, profileIndex, ringOf, stripAtAzimuth } from './state.ts';
import { Tooth } from './Tooth.tsx';
import { azimuthAt } from './tools.ts';
import { useKeys } from './useKeys.ts';
import { useTools } from './useTools.ts';

interface Pointed {
  readonly azimuth: number | null;
  readonly point: readonly number[] | null;
}

export function Bench({ view, canGrade }: { view: BenchView; canGrade: boolean }) {
  const [score, setScore] = useState<ScoreView>(view.score);
  const [grades, setGrades] = useState(view.grades);
  const [released, setReleased] = useState(view.attempt.released);
  const [focus, setFocus] = useState(0);
  const [asking, setAsking] = useState<{ index: number; level: number | null; made: boolean | null } | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [commenting, setCommenting] = useState(false);
  const [byHand, setByHand] = useState<string | null>(null);
  const [help, setHelp] = useState(false);
  const [loaded, setLoaded] = useState<Loaded | null>(null);
  const [profiles, setProfiles] = useState<ProfileView[] | null>(null);
  const [camera, setCamera] = useState<SceneProps['view']>({ name: 'occlusal' });
  const [azimuth, setAzimuth] = useState(0);
  const [stripAt, setStripAt] = useState(0);
  const [shown, setShown] = useState({ depth: true, parts: false, master: false, opposing: false });
  const [side, setSide] = useState<'section' | 'plan'>(view.drawn.hollow ? 'plan' : 'section');
  const [ring, setRing] = useState(0);
  const note = useRef<HTMLInputElement>(null);
  /** What the pointer is over, in the list, on the plan or on the tooth: it goes before what is in focus. */
  const [hover, setHover] = useState<(Pointed & { from: 'list' | 'picture' }) | null>(null);
  const overList = useCallback((at: Pointed | null) => setHover(at && { ...at, from: 'list' }), []);
  const pointing = useRef(0);
  /** A pointer tells more places than a screen draws: the last one of each frame will do. */
  const overPicture = useCallback((at: Pointed | null) => {
    cancelAnimationFrame(pointing.current);
    pointing.current = requestAnimationFrame(() => setHover(at && { ...at, from: 'picture' }));
  }, []);
  const tools = useTools(loaded, view.measurement?.pointError ?? 0, view.drawn.hollow ? 'mesiodistal' : 'faciolingual', (opposing) =>
    setShown((q) => ({ ...q, opposing })),
  );

  useEffect(() => {
    if (!view.measurement) return;
    const failed = (e: unknown) =>
      setError(`The picture could not be loaded (${(e as Error).message}). The readings are unaffected; reload the page to try again.`);
    fetch(view.measurement.display)
      .then((r) => (r.ok ? r.arrayBuffer() : Promise.reject(new Error(`answer ${r.status}`))))
      .then((b) => setLoaded({ ...unpackDisplay(b), display: b }))
      .catch(failed);
    fetch(view.measurement.profiles)
      .then((r) => (r.ok ? r.json() : Promise.reject(new Error(`answer ${r.status}`))))
      .then((j) => setProfiles(v.parse(ProfilesFile, j).profiles))
      .catch(failed);
  }, [view.measurement]);

  const lines = score.criteria.length + score.critical.length;
  const criterion = score.criteria[focus];
  const critical = score.critical[focus - score.criteria.length];
  const deciding = criterion?.targets.find((t) => t.deciding) ?? criterion?.targets[0];

  /** What was asked for by key or taken in the hand goes before a pointer that merely rests somewhere. */
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

  const post = async (work: () => Promise<void>) => {
    setBusy(true);
    setError(null);
    try {
      await work();
    } catch (e) {
      setError((e as Error).message);
    } finally {
      setBusy(false);
    }
  };

  const judge = (line: string, word: { level?: number | null; made?: boolean | null }, reason: string | null) =>
    post(async () => {
      setScore(await call<ScoreView>(`/api/attempts/${view.attempt.id}/judge`, { line, ...word, reason }));
      setAsking(null);
    });
  /** All critical errors were looked at, none found. */
  const clearCritical = () =>
    post(async () => setScore(await call<ScoreView>(`/api/attempts/${view.attempt.id}/judge`, { none: 'critical' })));

  const choose = (level: number) => {
    if (!canGrade || !criterion) return;
    if (needsReason(criterion, level)) {
      setAsking({ index: focus, level, made: null });
      requestAnimationFrame(() => note.current?.focus());
    } else void judge(criterion.id, { level }, null);
  };

  /** A word on a critical error; against what was measured it wants its reason. */
  const decide = (made: boolean | null) => {
    if (!canGrade || !critical || critical.verdict === 'skipped') return;
    const measured = critical.verdict === 'outside' ? true : critical.verdict === 'inside' ? false : null;
    if (made === null || measured === null || made === measured) void judge(critical.id, { made }, null);
    else {
      setAsking({ index: focus, level: null, made });
      requestAnimationFrame(() => note.current?.focus());
    }
  };

  const readByHand = (t: Pick<TargetView, 'reading' | 'zone' | 'stat'>, method: HandMethod, lo: number | null, hi: number | null) =>
    post(async () => {
      const { reading, zone, stat } = t;
      setScore(await call<ScoreView>(`/api/attempts/${view.attempt.id}/hand`, { reading, zone, stat, method, lo, hi }));
      setByHand(null);
    });
  const setPin = (body: { remove: number } | { line: string; point: Vec3; note: string }) =>
    post(async () => setScore(await call<ScoreView>(`/api/attempts/${view.attempt.id}/pin`, body)));
  const say = (id: string, comment: string) =>
    post(async () => setScore(await call<ScoreView>(`/api/attempts/${view.attempt.id}/comment`, { line: id, comment })));

  const answer = (reason: string) => {
    if (asking === null) return;
    const c = score.criteria[asking.index];
    if (c) void judge(c.id, { level: asking.level }, reason);
    else if (critical) void judge(critical.id, { made: asking.made }, reason);
  };

  const last = grades.at(-1);
  /** What is shown differs from what was signed last. */
  const isChanged = last !== undefined && last.seen !== null && last.seen !== score.seen;
  const sign = () =>
    post(async () => {
      if (score.undecided.length > 0) {
        goTo(nextOpen(score, focus));
        const titles = [...score.criteria, ...score.critical].filter((l) => score.undecided.includes(l.id)).map((l) => l.title);
        throw new Error(`Decide first: ${titles.join(', ')}.`);
      }
      const done = await call<{ version: number; total: number; passed: boolean; digest: string }>(
        `/api/attempts/${view.attempt.id}/sign`,
        { seen: score.seen },
      );
      const signed = { ...done, round: view.round, grader: 'you', signedAt: new Date().toISOString(), seen: score.seen };
      setGrades((g) => [...g, signed]);
    });
  const release = () =>
    post(async () => {
      const { version } = await call<{ version: number }>(`/api/attempts/${view.attempt.id}/release`, {});
      setReleased(version);
    });
  const withdraw = () =>
    post(async () => {
      await call(`/api/attempts/${view.attempt.id}/withdraw`, {});
      setReleased(null);
    });
  const gradeOn = (measurement: number) =>
    post(async () => {
      await call(`/api/attempts/${view.attempt.id}/measurement`, { measurement });
      window.location.reload();
    });
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
    z: () => canGrade && void clearCritical(),
    k: () => canGrade && criterion && setCommenting(true),
    h: () => canGrade && deciding && setByHand(placeKey(deciding)),
    s: () => canGrade && void sign(),
    r: () => canGrade && grades.length > 0 && void release(),
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
  const quantity = view.rings[ring];
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
            onPin={(point, note) => criterion && setPin({ line: criterion.id, point, note })}
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

        <section className="panel p-1" aria-label="Ring">
          <div className="flex items-center gap-1 px-1">
            {view.rings.map((r, i) => (
              <button key={r.id} type="button" className="quiet !min-h-[40px] !px-2" aria-pressed={i === ring} onClick={() => setRing(i)}>
                {r.title}
              </button>
            ))}
            <span className="ml-auto text-[12px] text-soft">shaded: target band, ribbon: ± U; move over it to cut there</span>
          </div>
          {quantity ? (
            <Ring
              title={quantity.title}
              unit={quantity.unit}
              digits={quantity.digits}
              points={view.curves[quantity.id]}
              band={quantity.band}
              U={quantity.U}
              azimuth={!strip ? cut : hover?.from === 'picture' && hover.azimuth !== null ? stripAtAzimuth(strip, hover.azimuth) : stripAt}
              sides={view.curves['strip.sides']}
              onAzimuth={(at) => {
                setStripAt(at);
                setAzimuth(strip ? azimuthOnStrip(strip, at) : at);
              }}
            />
          ) : (
            <p className="p-4 text-soft">No readings round the tooth.</p>
          )}
        </section>
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
        onHand={readByHand}
        commenting={commenting}
        onCommenting={setCommenting}
        onComment={say}
        onHover={overList}
        onUnpin={(id) => setPin({ remove: id })}
        at={hover?.from === 'list' ? null : cut}
      >
        {canGrade && newest && !newest.isGraded && (
          <p className="border-b border-line px-3 py-2 text-[13px]">
            A newer measurement is here ({newest.fileName}); the readings below are those of the one that is graded.{' '}
            <button type="button" className="quiet" onClick={() => gradeOn(newest.id)}>
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
        {error && (
          <p role="alert" className="mb-2 border-l-4 border-bad bg-panel p-2">
            {error}
          </p>
        )}
        <Foot
          score={score}
          grades={grades}
          released={released}
          canGrade={canGrade}
          busy={busy}
          onSign={sign}
          onRelease={release}
          onWithdraw={withdraw}
          isChanged={isChanged}
          onHelp={() => setHelp(true)}
          next={view.next}
          previous={view.previous}
          lines={lines}
        />
      </div>
      {help && <Keys onClose={() => setHelp(false)} />}
    </div>
  );
}
