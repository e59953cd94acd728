import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import * as THREE from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { painted } from '#core/annotate/paint.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import { Arch } from '#viewer/Arch.tsx';
import { asUnit, checkWords, MASTERS, PART_WORDS } from '#words/masters.ts';
import { Checklist } from './Checklist.tsx';
import { Finish } from './Finish.tsx';
import { curvesOf, pointsOf } from './state.ts';
import { useDraft } from './useDraft.ts';

const LOOKS = ['occlusal', 'facial', 'lingual', 'mesial', 'distal'] as const;
/** mm that an arrow key moves the point in hand; with Shift a fifth of it. */
const STEP = 0.1;

interface Props {
  readonly id: string;
  readonly exercises: readonly { readonly id: string; readonly title: string }[];
  readonly mayUse: boolean;
}

/** The page on which an arch becomes a master: one touch, then what was proposed is looked at and corrected. */
export function Annotate({ id, exercises, mayUse }: Props) {
  const { draft, mesh, state, act, error, busy, send, keep } = useDraft(id);
  const [look, setLook] = useState<{ from: (typeof LOOKS)[number] | null; id: number }>({ from: null, id: 0 });
  const [retouch, setRetouch] = useState(false);
  const [touched, setTouched] = useState<[number, number, number] | null>(null);
  const eye = useRef<[number, number, number]>([0, 0, 1]);
  const onLook = useCallback((d: [number, number, number]) => {
    eye.current = d;
  }, []);

  const tree = useMemo(() => {
    let made: MeshBVH | null = null;
    return () => {
      if (!made && mesh) {
        const g = new THREE.BufferGeometry();
        g.setAttribute('position', new THREE.BufferAttribute(mesh.positions, 3));
        g.setIndex(new THREE.BufferAttribute(mesh.indices.slice(), 1));
        made = new MeshBVH(g);
      }
      return made;
    };
  }, [mesh]);

  const parts = useMemo(
    () => (mesh ? painted(mesh.positions, mesh.surface ?? new Uint8Array(mesh.positions.length / 3), state?.drawn.strokes ?? []) : null),
    [mesh, state?.drawn.strokes],
  );
  const marks = state?.drawn.marks ?? null;
  const points = useMemo(() => (marks && state ? pointsOf(marks, state.item) : []), [marks, state]);
  const curves = useMemo(
    () => (marks && state ? curvesOf(marks).map((c) => ({ line: c.line, closed: c.closed, strong: c.item === state.item })) : []),
    [marks, state],
  );
  const frame = useMemo(() => {
    if (!marks?.gingivalMargin.length) return null;
    const l = marks.gingivalMargin;
    const at = [0, 1, 2].map((k) => l.reduce((s, p) => s + p[k], 0) / l.length) as [number, number, number];
    return { at, axis: marks.axis, mesial: marks.mesial, facial: marks.facial };
  }, [marks]);
  // A proposal is first looked at from above.
  const isMarked = marks !== null;
  useEffect(() => {
    if (isMarked) setLook((l) => ({ from: 'occlusal', id: l.id + 1 }));
  }, [isMarked]);

  const onDrag = useCallback(
    (key: string, at: [number, number, number], ended: boolean) => act({ type: 'move', key, at, live: !ended }),
    [act],
  );
  const onChoose = useCallback((key: string) => act({ type: 'point', key }), [act]);
  const askMesial = state?.drawn.trust.mesial === 'ask' && touched !== null;
  const onTouch = async (p: [number, number, number]) => {
    if (askMesial && touched) {
      await send('touch', { at: touched, mesialward: p });
      return;
    }
    setTouched(p);
    setRetouch(false);
    await send('touch', { at: p, mesialward: null });
  };
  const brush = state?.brush ?? null;
  const onPaint = useCallback(
    (at: [number, number, number]) => brush && act({ type: 'stroke', stroke: { at, radius: brush.radius, part: brush.part } }),
    [act, brush],
  );

  /** Moves the point in hand across the picture and back onto the surface. */
  const nudge = (right: number, up: number) => {
    const p = points.find((q) => q.key === state?.point);
    const t = tree();
    if (!p || !t) return;
    const e = new THREE.Vector3(...eye.current);
    const upright = frame && Math.abs(e.dot(new THREE.Vector3(...frame.axis))) < 0.8 ? frame.axis : (frame?.facial ?? [0, 1, 0]);
    const x = new THREE.Vector3(...upright).cross(e).normalize();
    const y = e.clone().cross(x);
    const q = new THREE.Vector3(...p.at).addScaledVector(x, right).addScaledVector(y, up);
    const hit = t.closestPointToPoint(q);
    if (hit) act({ type: 'move', key: p.key, at: [hit.point.x, hit.point.y, hit.point.z] });
  };
  const onKey = (e: React.KeyboardEvent) => {
    if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'z') {
      e.preventDefault();
      act({ type: e.shiftKey ? 'redo' : 'undo' });
      return;
    }
    const d = STEP * (e.shiftKey ? 0.2 : 1);
    const way = { ArrowLeft: [-d, 0], ArrowRight: [d, 0], ArrowUp: [0, d], ArrowDown: [0, -d] }[e.key];
    if (!way || !state?.point || (e.target as HTMLElement).matches('input, select')) return;
    e.preventDefault();
    nudge(way[0], way[1]);
  };

  if (!draft || !mesh || !parts)
    return error ? (
      <p role="alert" className="m-4 border-l-4 border-bad bg-panel p-2">
        {error}
      </p>
    ) : (
      <p className="grid h-60 place-items-center text-soft">{MASTERS.loading}</p>
    );
  const finished = draft.master_id !== null;
  const touching = !finished && (!state || retouch || askMesial) && !busy;
  const unit = draft.checks.find((c) => c.what === 'unit' && c.state === 'stop');
  const odd = draft.checks.filter((c) => c.state !== 'fine');
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: keys for whatever is in focus within it
    <div className="flex min-h-[calc(100vh-46px)] flex-col gap-2 p-2 min-[900px]:h-[calc(100vh-46px)]" onKeyDown={onKey}>
      <div className="flex flex-wrap items-baseline gap-3">
        <a className="text-accent underline" href="/masters">
          {MASTERS.title}
        </a>
        <h1 className="text-lg font-bold">{draft.name}</h1>
        <span className="figure">{draft.tooth}</span>
        <span className="figure text-soft">{[draft.arch_name, draft.opposing_name].filter(Boolean).join(', ')}</span>
        {state && !finished && (
          <span className="ml-auto text-soft" aria-live="polite">
            {state.drawn === state.saved ? MASTERS.kept : MASTERS.unkept}
          </span>
        )}
      </div>
      {error && (
        <p role="alert" className="border-l-4 border-bad bg-panel p-2">
          {error}
        </p>
      )}
      <div className="grid min-h-0 flex-1 gap-2 min-[900px]:grid-cols-[1fr_380px]">
        <section className="panel relative min-h-[420px]" aria-label="Arch" data-scene="arch">
          <Arch
            mesh={mesh}
            parts={parts}
            coloured={state !== null}
            label={`The arch in three dimensions; its marks are listed beside it`}
            points={points.map((p) => ({ key: p.key, at: p.at, chosen: p.key === state?.point }))}
            curves={curves}
            frame={frame}
            look={look}
            onTouch={touching && !unit ? (p) => void onTouch(p) : undefined}
            onPaint={brush && !finished ? onPaint : undefined}
            onDrag={onDrag}
            onChoose={onChoose}
            onLook={onLook}
          />
          <div className="absolute left-2 top-2 flex max-w-[calc(100%-1rem)] flex-wrap gap-1">
            {state &&
              LOOKS.map((from) => (
                <button
                  key={from}
                  type="button"
                  className="quiet !min-h-8"
                  aria-pressed={look.from === from}
                  onClick={() => setLook((l) => ({ from, id: l.id + 1 }))}
                >
                  {from}
                </button>
              ))}
          </div>
          {state && (
            <ul className="absolute bottom-2 left-2 flex flex-wrap gap-x-3 rounded-sm bg-panel/90 px-2 py-1" aria-label="Colours">
              {PART_WORDS.map((w, i) => (
                <li key={w} className="flex items-center gap-1">
                  <span className="inline-block size-3 border border-line" style={{ background: SWATCH[i] }} />
                  {w}
                </li>
              ))}
            </ul>
          )}
          {(touching || busy) && (
            <p
              className="absolute inset-x-0 bottom-12 mx-auto w-fit max-w-[90%] rounded-sm border border-accent bg-panel px-4 py-2 font-semibold"
              aria-live="polite"
            >
              {busy ? MASTERS.laying : unit ? checkWords(unit) : askMesial ? MASTERS.mesial : MASTERS.touch(draft.tooth)}
            </p>
          )}
        </section>
        <div className="flex min-h-0 flex-col gap-2">
          <div className="flex min-h-0 flex-1 flex-col gap-2 overflow-y-auto">
            {(odd.length > 0 || !state) && (
              <section className="panel p-3" aria-label="What was found in the file">
                <ul className="grid gap-1">
                  {(state ? odd : draft.checks).map((c) => (
                    <li
                      key={c.what}
                      className={
                        c.state === 'fine'
                          ? 'text-soft'
                          : c.state === 'stop'
                            ? 'border-l-4 border-bad pl-2'
                            : 'border-l-4 border-under pl-2'
                      }
                    >
                      {checkWords(c)}
                    </li>
                  ))}
                </ul>
                {unit?.factors?.map((f) => (
                  <button key={f} type="button" className="act mt-2 mr-2" disabled={busy} onClick={() => void send('unit', { factor: f })}>
                    {asUnit(f, unit.figure)}
                  </button>
                ))}
              </section>
            )}
            {state && (
              <Checklist
                draft={draft}
                state={state}
                act={act}
                points={points}
                parts={parts}
                finished={finished}
                onAxis={() => act({ type: 'axis', axis: eye.current as Vec3 })}
                onRetouch={() => setRetouch(true)}
              />
            )}
          </div>
          {state && (
            <Finish
              id={id}
              tooth={draft.tooth}
              finished={finished}
              asked={Object.values(state.drawn.trust).includes('ask')}
              busy={busy}
              exercises={exercises}
              mayUse={mayUse}
              onFinish={async () => {
                await keep();
                await send('finish', {});
              }}
              onUse={(exercise) => send('use', { exercise })}
            />
          )}
        </div>
      </div>
    </div>
  );
}

const SWATCH = ['#b8bdbd', '#f2e6c2', '#a8c9db', '#b3d6bd', '#e0bab3'];
