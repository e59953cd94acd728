import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Tabs } from '#components/Tabs.tsx';
import { writeAsOwn } from '#components/writing.ts';
import { painted } from '#core/annotate/paint.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import type { Glided } from '#core/occlusion/excursion.ts';
import { Arch } from '#viewer/Arch.tsx';
import { checkWords, MASTERS } from '#words/masters.ts';
import { toothWords } from '#words/writing.ts';
import type { Across } from './arch.worker.ts';
import { Bite } from './Bite.tsx';
import { Checklist } from './Checklist.tsx';
import { Finish } from './Finish.tsx';
import { Found } from './Found.tsx';
import { frameOf, shiftOf } from './frame.ts';
import { Head } from './Head.tsx';
import { Colours, type Look, Looks } from './Looks.tsx';
import { Proof } from './Proof.tsx';
import { SectionView } from './SectionView.tsx';
import { curvesOf, pointsOf } from './state.ts';
import { ThreePlaces } from './ThreePlaces.tsx';
import { useArchWorker } from './useArchWorker.ts';
import { useDraft } from './useDraft.ts';
import { useNudge } from './useNudge.ts';

writeAsOwn();

const TABS = ['marks', 'bite', 'proof'] as const;
type Tab = (typeof TABS)[number];
const WORKING: Readonly<Record<Tab, string>> = { marks: MASTERS.working, bite: MASTERS.placing, proof: MASTERS.trying };
/** mm that an arrow key moves the point in hand; with Shift a fifth of it. */
const STEP = 0.1;
/** What a click on the surface does, where it does not turn the picture. */
type Tool = null | 'section' | 'cej';

interface Props {
  readonly id: string;
  readonly exercises: readonly { readonly id: string; readonly title: string }[];
  /** Finished masters of this tooth, or of that of the other side, whose marks can be taken over. */
  readonly others: readonly { readonly id: string; readonly name: string; readonly tooth: string }[];
  readonly mayUse: boolean;
}

/** The page on which an arch becomes a master: one touch, then what was proposed is looked at, corrected and proved. */
export function Annotate({ id, exercises, others, mayUse }: Props) {
  const { draft, mesh, opposing, state, act, error, busy, send, keep } = useDraft(id);
  const [tab, setTab] = useState<Tab>('marks');
  const [tool, setTool] = useState<Tool>(null);
  const [across, setAcross] = useState<Across>('faciolingual');
  const [cutAt, setCutAt] = useState<Vec3 | null>(null);
  const [moved, setMoved] = useState<Glided>({ which: 'working', share: 0 });
  const [three, setThree] = useState(false);
  const [look, setLook] = useState<{ from: Look | null; id: number }>({ from: null, id: 0 });
  const [retouch, setRetouch] = useState(false);
  const [touched, setTouched] = useState<[number, number, number] | null>(null);
  const eye = useRef<[number, number, number]>([0, 0, 1]);
  const onLook = useCallback((d: [number, number, number]) => {
    eye.current = d;
  }, []);
  const nudge = useNudge(mesh);
  const { gaps, section, askGaps, askCut, clear } = useArchWorker(mesh, opposing);

  const parts = useMemo(
    () => (mesh ? painted(mesh.positions, mesh.surface ?? new Uint8Array(mesh.positions.length / 3), state?.drawn.strokes ?? []) : null),
    [mesh, state?.drawn.strokes],
  );
  const marks = state?.drawn.marks ?? null;
  const points = useMemo(() => (marks && state && tab === 'marks' ? pointsOf(marks, state.item) : []), [marks, state, tab]);
  const curves = useMemo(
    () => (marks && state ? curvesOf(marks).map((c) => ({ line: c.line, closed: c.closed, strong: c.item === state.item })) : []),
    [marks, state],
  );
  const frame = useMemo(() => marks && frameOf(marks), [marks]);
  const shift = useMemo(
    (): Vec3 => (frame && draft && tab === 'bite' ? shiftOf(draft.tooth, frame, moved, marks?.conditions) : [0, 0, 0]),
    [frame, draft, tab, moved, marks?.conditions],
  );
  // A proposal is first looked at from above.
  const isMarked = marks !== null;
  useEffect(() => {
    if (isMarked) setLook((l) => ({ from: 'occlusal', id: l.id + 1 }));
  }, [isMarked]);
  const isBite = tab === 'bite' && opposing !== null;
  useEffect(() => {
    if (isBite) askGaps(shift);
  }, [isBite, shift, askGaps]);
  useEffect(() => {
    if (cutAt && frame) askCut(cutAt, frame, across, shift);
  }, [cutAt, frame, across, shift, askCut]);

  const onDrag = useCallback(
    (key: string, at: [number, number, number], ended: boolean) => act({ type: 'move', key, at, live: !ended }),
    [act],
  );
  const onChoose = useCallback((key: string) => act({ type: 'point', key }), [act]);
  const brush = state?.brush ?? null;
  const onPaint = useCallback(
    (at: [number, number, number]) => brush && act({ type: 'stroke', stroke: { at, radius: brush.radius, part: brush.part } }),
    [act, brush],
  );
  const overlap = useMemo(() => gaps?.reduce((m, g) => Math.max(m, -g), 0) ?? null, [gaps]);

  if (!draft || !mesh || !parts)
    return error ? (
      <p role="alert" className="m-4 border-l-4 border-bad bg-panel p-2">
        {error}
      </p>
    ) : (
      <p className="grid h-60 place-items-center text-soft">{MASTERS.loading}</p>
    );
  const finished = draft.master_id !== null;
  const askMesial = state?.drawn.trust.mesial === 'ask' && touched !== null;
  const touching = !finished && (!state || retouch || askMesial) && !busy;
  const unit = draft.checks.find((c) => c.what === 'unit' && c.state === 'stop');
  const odd = draft.checks.filter((c) => c.state !== 'fine');
  const asked = Object.values(state?.drawn.trust ?? {}).includes('ask');

  /** What was drawn is kept before the server works on it. */
  const sendKept = async (what: string, payload: unknown): Promise<boolean> => {
    await keep();
    return send(what, payload);
  };
  const onTouch = async (p: [number, number, number]) => {
    if (tool === 'section') return setCutAt(p);
    if (tool === 'cej') return act({ type: 'cej', line: [...(marks?.cej ?? []), p] });
    if (askMesial && touched) {
      await send('touch', { at: touched, mesialward: p });
      return;
    }
    setTouched(p);
    setRetouch(false);
    await send('touch', { at: p, mesialward: null });
  };
  const place = (by: 'file' | 'bite' | 'points', settle: boolean, pairs: { scan: Vec3; master: Vec3 }[] | null = null) =>
    sendKept('occlude', { by, settle, pairs });
  const openTab = (to: Tab) => {
    setTab(to);
    setThree(false);
    if (to === 'bite' && draft.opposing_name && !draft.occlusion && !finished && !busy)
      void place(draft.bite_name ? 'bite' : 'file', false);
  };
  const onKey = (e: React.KeyboardEvent) => {
    if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'z') {
      e.preventDefault();
      act({ type: e.shiftKey ? 'redo' : 'undo' });
      return;
    }
    const d = STEP * (e.shiftKey ? 0.2 : 1);
    const way = { ArrowLeft: [-d, 0], ArrowRight: [d, 0], ArrowUp: [0, d], ArrowDown: [0, -d] }[e.key];
    const p = points.find((q) => q.key === state?.point);
    if (!way || !p || (e.target as HTMLElement).matches('input, select')) return;
    e.preventDefault();
    const at = nudge(p.at, eye.current, frame, way[0], way[1]);
    if (at) act({ type: 'move', key: p.key, at });
  };
  const word = (): string | null => {
    if (busy) return state ? WORKING[tab] : MASTERS.laying;
    if (unit) return checkWords(unit);
    if (askMesial) return MASTERS.mesial;
    if (touching) return MASTERS.touch(toothWords(draft.tooth));
    if (tool === 'section' && !cutAt) return MASTERS.sectionAsk;
    return tool === 'cej' ? MASTERS.cejDraw : null;
  };
  const told = word();
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: keys for whatever is in focus within it
    <div className="flex min-h-[calc(100vh-46px)] flex-col gap-2 p-2 min-[900px]:h-[calc(100vh-46px)]" onKeyDown={onKey}>
      <Head draft={draft} isKept={state && !finished ? state.drawn === state.saved : null} />
      {error && (
        <p role="alert" className="border-l-4 border-bad bg-panel p-2">
          {error}
        </p>
      )}
      <div className="grid min-h-0 flex-1 gap-2 min-[900px]:grid-cols-[1fr_380px]">
        {three && opposing ? (
          <ThreePlaces
            arch={mesh}
            opposing={opposing}
            busy={busy}
            onCancel={() => setThree(false)}
            placed={draft.occlusion?.matrix ?? null}
            onDone={(pairs) => void place('points', true, pairs).then((done) => done && setThree(false))}
          />
        ) : (
          <section className="panel relative min-h-[420px]" aria-label="Arch" data-scene="arch">
            <Arch
              mesh={mesh}
              parts={parts}
              coloured={state !== null}
              gaps={isBite ? gaps : null}
              opposing={isBite && opposing ? { mesh: opposing, shift } : null}
              label="The arch in three dimensions; its marks are listed beside it"
              points={points.map((p) => ({ key: p.key, at: p.at, chosen: p.key === state?.point }))}
              curves={curves}
              frame={frame}
              look={look}
              onTouch={tool !== null || (touching && !unit) ? (p) => void onTouch(p) : undefined}
              onPaint={brush && !finished && tab === 'marks' ? onPaint : undefined}
              onDrag={onDrag}
              onChoose={onChoose}
              onLook={onLook}
            />
            {state && (
              <Looks
                look={look.from}
                isCutting={tool === 'section'}
                across={across}
                onLook={(from) => setLook((l) => ({ from, id: l.id + 1 }))}
                onCut={() => setTool(tool === 'section' ? null : 'section')}
                onAcross={setAcross}
              />
            )}
            {section && cutAt && (
              <SectionView
                section={section}
                onClose={() => {
                  setCutAt(null);
                  setTool(null);
                  clear();
                  if (isBite) askGaps(shift);
                }}
              />
            )}
            {state && <Colours isBite={isBite} />}
            {told && (
              <p
                className="absolute inset-x-0 bottom-12 mx-auto w-fit max-w-[90%] rounded-sm border border-accent bg-panel px-4 py-2 font-semibold"
                aria-live="polite"
              >
                {told}
              </p>
            )}
          </section>
        )}
        <div className="flex min-h-0 flex-col gap-2">
          {state && (
            <div className="flex gap-1">
              <Tabs all={TABS} open={tab} onOpen={openTab} words={(t) => MASTERS.tabs[t]} spread />
            </div>
          )}
          <section className="flex min-h-0 flex-1 flex-col gap-2 overflow-y-auto" aria-label={MASTERS.tabs[tab]}>
            {tab === 'marks' && (odd.length > 0 || !state) && (
              <Found checks={state ? odd : draft.checks} busy={busy} onUnit={(factor) => void send('unit', { factor })} />
            )}
            {state && tab === 'marks' && (
              <Checklist
                draft={draft}
                state={state}
                act={act}
                points={points}
                parts={parts}
                finished={finished}
                others={others}
                busy={busy}
                isDrawingCej={tool === 'cej'}
                onAxis={() => act({ type: 'axis', axis: eye.current as Vec3 })}
                onRetouch={() => setRetouch(true)}
                onCarry={(from) => void sendKept('carry', { from })}
                onCej={() => setTool(tool === 'cej' ? null : 'cej')}
              />
            )}
            {state && tab === 'bite' && (
              <Bite
                draft={draft}
                finished={finished}
                busy={busy}
                moved={moved}
                conditions={state.drawn.marks.conditions ?? null}
                overlap={overlap}
                onMove={setMoved}
                onConditions={(conditions) => act({ type: 'conditions', conditions })}
                onPlace={(by, settle) => void place(by, settle)}
                onPoints={() => setThree(true)}
              />
            )}
            {state && tab === 'proof' && <Proof draft={draft} busy={busy} isOpen={asked} onTry={() => void sendKept('trial', {})} />}
          </section>
          {state && (
            <Finish
              draft={draft}
              asked={asked}
              busy={busy}
              exercises={exercises}
              mayUse={mayUse}
              onFinish={() => sendKept('finish', {})}
              onCompare={(exercise) => send('compare', { exercise })}
              onUse={(exercise) => send('use', { exercise })}
            />
          )}
        </div>
      </div>
    </div>
  );
}
