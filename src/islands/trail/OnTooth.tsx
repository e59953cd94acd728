import { lazy, Suspense, useEffect, useMemo, useState } from 'react';
import { type DisplayHeader, type DisplayMesh, unpackDisplay } from '#contract/display.ts';
import type { HabitView } from '#contract/progress-view.ts';
import type { TrailAttempt } from '#contract/trail-view.ts';
import { azimuthOf } from '#core/linalg/sectors.ts';
import { BINS } from '#core/progress/habit.ts';
import { TRAIL } from '#words/trail.ts';
import { dayWords } from '#words/writing.ts';

/** Drawn only when somebody asks to see it. */
const Scene = lazy(() => import('#viewer/Scene.tsx').then((m) => ({ default: m.Scene })));

interface Props {
  readonly habit: HabitView;
  /** Null where it was read on nothing that was scanned. */
  readonly attempt: TrailAttempt | null;
}

/** Where an error returns, on the preparation that the student made last. */
export function OnTooth({ habit, attempt }: Props) {
  const [open, setOpen] = useState(false);
  if (!attempt) return null;
  return (
    <div className="basis-full">
      <button type="button" className="quiet !min-h-8" aria-expanded={open} onClick={() => setOpen(!open)}>
        {TRAIL.onTooth}
      </button>
      {open && <Drawn habit={habit} attempt={attempt} />}
    </div>
  );
}

const SHOWN = { depth: false, parts: false, master: false, opposing: false } as const;

function Drawn({ habit, attempt }: Props & { readonly attempt: TrailAttempt }) {
  const [tooth, setTooth] = useState<{ header: DisplayHeader; meshes: DisplayMesh[] } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    fetch(`/api/attempts/${attempt.attempt_id}/display`)
      .then((r) => (r.ok ? r.arrayBuffer() : Promise.reject(new Error(`answer ${r.status}`))))
      .then((b) => setTooth(unpackDisplay(b)))
      .catch((e) => setProblem((e as Error).message));
  }, [attempt.attempt_id]);
  const { from, to, at } = habit.own;
  const marks = useMemo(() => {
    if (!tooth) return [];
    const { finishLine, mesialSign } = tooth.header;
    return finishLine.flatMap((point, id) => {
      const bin = Math.floor(((azimuthOf(mesialSign * point[0], point[1]) % 360) + 360) / (360 / BINS)) % BINS;
      const isThere = from <= to ? bin >= from && bin <= to : bin >= from || bin <= to;
      return isThere ? [{ id, point, strong: true, number: null, about: habit.title }] : [];
    });
  }, [tooth, from, to, habit.title]);
  const view = useMemo(() => ({ azimuth: (at + 0.5) * (360 / BINS) }), [at]);
  if (problem) return <p className="text-bad">{TRAIL.noTooth(problem)}</p>;
  return (
    <>
      <div className="my-1 h-56" data-scene>
        {tooth && (
          <Suspense>
            <Scene {...tooth} bands={attempt.bands} shown={SHOWN} view={view} azimuth={view.azimuth} pin={null} marks={marks} />
          </Suspense>
        )}
      </div>
      <p className="text-[13px] text-soft">{TRAIL.onToothOf(dayWords(attempt.held_on))}</p>
    </>
  );
}
