import { lazy, Suspense, useEffect, useState } from 'react';
import { type DisplayHeader, type DisplayMesh, unpackDisplay } from '#contract/display.ts';
import type { BenchView } from '#contract/views.ts';
import type { View } from '#viewer/Camera.tsx';
import { WORK } from '#words/work.ts';
import type { MarkAt } from './state.ts';

/** Loaded after the words: on a slow phone the result is read first. */
const Scene = lazy(() => import('#viewer/Scene.tsx').then((m) => ({ default: m.Scene })));
const SHOWN = { depth: true, parts: false, master: false, opposing: false } as const;

interface Props {
  readonly view: Pick<BenchView, 'measurement' | 'bands'>;
  readonly marks: readonly MarkAt[];
  readonly camera: View;
  readonly onCamera: (v: View) => void;
}

/** The student's own tooth with its numbered places. */
export function Own({ view, marks, camera, onCamera }: Props) {
  const [tooth, setTooth] = useState<{ header: DisplayHeader; meshes: DisplayMesh[] } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const address = view.measurement?.display ?? null;
  useEffect(() => {
    if (!address) return;
    fetch(address)
      .then((r) => (r.ok ? r.arrayBuffer() : Promise.reject(new Error(`answer ${r.status}`))))
      .then((b) => setTooth(unpackDisplay(b)))
      .catch((e) => setProblem((e as Error).message));
  }, [address]);
  if (!address) return <p className="panel p-3 text-soft">{WORK.noPicture}</p>;
  return (
    <section className="panel">
      <div className="relative h-[42vh] min-h-[260px]" data-scene>
        {tooth ? (
          <Suspense>
            <Scene {...tooth} bands={view.bands} shown={SHOWN} view={camera} azimuth={0} pin={null} marks={marks} />
          </Suspense>
        ) : (
          <p className="grid h-full place-items-center px-4 text-center text-soft">{problem ? WORK.notLoaded(problem) : WORK.loading}</p>
        )}
        <button type="button" className="quiet absolute bottom-2 right-2" onClick={() => onCamera({ name: 'occlusal' })}>
          {WORK.whole}
        </button>
      </div>
      <p className="p-2 text-[13px] text-soft">{WORK.numbers}</p>
    </section>
  );
}
