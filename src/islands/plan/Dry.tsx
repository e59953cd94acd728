import { lazy, Suspense, useState } from 'react';
import * as v from 'valibot';
import { Section } from '#charts/Section.tsx';
import { call } from '#components/call.ts';
import { Problem } from '#components/Problem.tsx';
import { VerdictMark } from '#components/Verdict.tsx';
import { type DisplayHeader, type DisplayMesh, unpackDisplay } from '#contract/display.ts';
import type { DryForm, DryLine, DryView, PlanView } from '#contract/plan.ts';
import { ProfilesFile, type ProfileView } from '#contract/profiles.ts';
import type { View, ViewName } from '#viewer/Camera.tsx';
import { PLAN } from '#words/plan.ts';
import { bandWords, capital, readingWords, valueWords } from '#words/readings.ts';
import { placeWords, profileIndex } from '#words/sides.ts';
import { STEP_WORDS } from '#words/steps.ts';

const Scene = lazy(() => import('#viewer/Scene.tsx').then((m) => ({ default: m.Scene })));
const SHOWN = { depth: true, parts: false, master: false, opposing: false } as const;
const VIEWS: readonly ViewName[] = ['occlusal', 'facial', 'mesial', 'lingual', 'distal'];

interface Run {
  readonly form: DryForm;
  readonly lines: readonly DryLine[];
  readonly tooth: { header: DisplayHeader; meshes: DisplayMesh[] };
  readonly profiles: readonly ProfileView[];
  readonly seconds: number;
}

const bytesOf = (base64: string): ArrayBuffer => Uint8Array.from(atob(base64), (c) => c.charCodeAt(0)).buffer as ArrayBuffer;

/** The plan cut into the tooth and measured, with sliders for what a hand does differently; one way can be kept beside another. */
export function Dry({ view }: { readonly view: PlanView }) {
  const { stops } = view;
  const numbered = view.plan.steps.filter((t) => stops.includes(t.id));
  const [form, setForm] = useState<DryForm>({ tilt_deg: 0, sunk_mm: 0, onePass: false, cutter: null, step: stops[stops.length - 1] ?? '' });
  const [run, setRun] = useState<Run | null>(null);
  const [kept, setKept] = useState<Run | null>(null);
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState<string | null>(null);
  const [camera, setCamera] = useState<View>({ name: 'occlusal' });
  const [at, setAt] = useState(0);
  const cut = async (next: DryForm): Promise<void> => {
    setForm(next);
    setBusy(true);
    setError(null);
    try {
      const d = await call<DryView>(`/api/exercises/${encodeURIComponent(view.exercise.id)}/dry`, next);
      setRun({
        form: next,
        lines: d.lines,
        tooth: unpackDisplay(bytesOf(d.display)),
        profiles: v.parse(ProfilesFile, JSON.parse(d.profiles)).profiles,
        seconds: d.seconds,
      });
    } catch (e) {
      setError(PLAN.failed((e as Error).message));
    }
    setBusy(false);
  };
  const nameOf = (id: string | null): string | null => view.cutters.find((c) => c.id === id)?.name ?? null;
  const place = stops.indexOf(form.step as (typeof stops)[number]);
  const change = (c: Partial<DryForm>): void => setForm({ ...form, ...c });
  const half =
    run && ([run.profiles[profileIndex(at, run.profiles.length)], run.profiles[profileIndex(at + 180, run.profiles.length)]] as const);
  const before =
    kept &&
    run &&
    ([kept.profiles[profileIndex(at, kept.profiles.length)], kept.profiles[profileIndex(at + 180, kept.profiles.length)]] as const);
  return (
    <section className="panel grid gap-3 p-3" aria-label={PLAN.dry} data-dry={run ? run.form.step : 'none'}>
      <div>
        <h2 className="font-bold">{PLAN.dry}</h2>
        <p className="text-soft">{PLAN.dryLead}</p>
      </div>
      <fieldset className="flex flex-wrap items-center gap-1" aria-label={PLAN.stops}>
        {numbered.map((t) => (
          <button
            key={t.id}
            type="button"
            className="quiet"
            aria-pressed={form.step === t.id}
            disabled={busy}
            onClick={() => void cut({ ...form, step: t.id })}
          >
            <span className="figure text-soft">{t.number}</span> {STEP_WORDS[t.id].title}
          </button>
        ))}
      </fieldset>
      <form
        className="flex flex-wrap items-end gap-x-4 gap-y-2"
        onSubmit={(e) => {
          e.preventDefault();
          void cut(form);
        }}
      >
        <Slider
          label={PLAN.tiltSlider}
          value={form.tilt_deg}
          min={-5}
          max={10}
          step={1}
          words={(n) => `${n}°`}
          onChange={(tilt_deg) => change({ tilt_deg })}
        />
        <Slider
          label={PLAN.sunkSlider}
          value={form.sunk_mm}
          min={-0.4}
          max={0.8}
          step={0.1}
          words={(n) => `${n.toFixed(1)} mm`}
          onChange={(sunk_mm) => change({ sunk_mm })}
        />
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={form.onePass} onChange={(e) => change({ onePass: e.target.checked })} /> {PLAN.onePass}
        </label>
        <label className="flex items-center gap-2">
          <span className="text-soft">{PLAN.swap}</span>
          <select className="field !w-auto" value={form.cutter ?? ''} onChange={(e) => change({ cutter: e.target.value || null })}>
            <option value="">{PLAN.asPlanned}</option>
            {view.cutters
              .filter((c) => c.form === 'taper' && c.tip !== 'pointed')
              .map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
          </select>
        </label>
        <button type="submit" className="act" disabled={busy}>
          {busy ? PLAN.cutting : PLAN.cut}
        </button>
        {run && place >= 0 && place < stops.length - 1 && (
          <button type="button" className="quiet" disabled={busy} onClick={() => void cut({ ...form, step: stops[place + 1] })}>
            {PLAN.nextStop}
          </button>
        )}
        {run && (
          <button type="button" className="quiet" onClick={() => setKept(run)}>
            {PLAN.keep}
          </button>
        )}
        {run && <span className="text-[13px] text-soft">{PLAN.took(run.seconds)}</span>}
      </form>
      <Problem text={error} />
      {run && half && (
        <div className="grid items-start gap-3 min-[900px]:grid-cols-[1.2fr_0.7fr_1.5fr]">
          <div className="grid gap-2">
            <div className="h-[380px]" data-scene>
              <Suspense>
                <Scene {...run.tooth} bands={view.bands} shown={SHOWN} view={camera} azimuth={at} pin={null} />
              </Suspense>
            </div>
            <div className="flex flex-wrap gap-1">
              {VIEWS.map((name) => (
                <button key={name} type="button" className="quiet" onClick={() => setCamera({ name })}>
                  {name}
                </button>
              ))}
            </div>
          </div>
          <div className="h-[380px]">
            <Section
              near={half[0]}
              far={half[1]}
              names={[placeWords(at), placeWords(at + 180)]}
              dimensions
              earlier={before}
              onTurn={(d) => setAt((a) => (a + d + 360) % 360)}
            />
          </div>
          <Lines run={run} kept={kept} nameOf={nameOf} />
        </div>
      )}
    </section>
  );
}

interface SliderProps {
  readonly label: string;
  readonly value: number;
  readonly min: number;
  readonly max: number;
  readonly step: number;
  readonly words: (n: number) => string;
  readonly onChange: (n: number) => void;
}
function Slider({ label, value, min, max, step, words, onChange }: SliderProps) {
  return (
    <label className="grid">
      <span className="text-soft">
        {label}: <span className="figure text-ink">{words(value)}</span>
      </span>
      <input type="range" min={min} max={max} step={step} value={value} onChange={(e) => onChange(Number(e.target.value))} />
    </label>
  );
}

const keyOf = (l: DryLine): string => `${l.reading} ${l.zone} ${l.stat}`;

/** What was read on the tooth that was cut dry, the lines outside first; beside it the way that was kept. */
function Lines({
  run,
  kept,
  nameOf,
}: {
  readonly run: Run;
  readonly kept: Run | null;
  readonly nameOf: (id: string | null) => string | null;
}) {
  const other = new Map(kept?.lines.map((l) => [keyOf(l), l]));
  const order = ['outside', 'close', 'inside', 'none', 'skipped'];
  // What is not due has no verdict yet, but for what is gone already.
  const isOpen = (l: DryLine): boolean => !l.isDue && l.verdict !== 'outside';
  const place = (l: DryLine): number => (isOpen(l) ? order.length : order.indexOf(l.verdict));
  const lines = [...run.lines].filter((l) => l.verdict !== 'none').sort((a, b) => place(a) - place(b));
  const read = (l: DryLine | undefined): React.ReactNode =>
    l ? (
      <>
        {isOpen(l) ? <span className="text-soft">{PLAN.soFar}</span> : <VerdictMark verdict={l.verdict} word={false} />}{' '}
        {valueWords(l.value, l.U, l.unit, l.reason)}
      </>
    ) : (
      '–'
    );
  return (
    <div className="max-h-[430px] overflow-auto">
      <table className="w-full text-left text-[13px] [&_td]:pr-2 [&_th]:pr-2">
        <thead className="sticky top-0 bg-panel text-soft">
          <tr>
            {PLAN.columns.map((c) => (
              <th key={c} className="font-normal">
                {c}
              </th>
            ))}
            <th className="font-normal">
              {PLAN.thisWay}: {PLAN.what(run.form, nameOf(run.form.cutter))}
            </th>
            {kept && (
              <th className="font-normal">
                {PLAN.kept}: {PLAN.what(kept.form, nameOf(kept.form.cutter))}
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {lines.map((l) => (
            <tr key={keyOf(l)} className="border-t border-line align-top">
              <th scope="row" className="font-normal">
                {capital(readingWords(l.reading, l.zone, l.stat))}
              </th>
              <td className="figure whitespace-nowrap text-soft">{bandWords(l.lo, l.hi, l.unit)}</td>
              <td className="figure whitespace-nowrap text-soft">
                {l.expected === null ? '' : l.expected.toFixed(l.unit === 'deg' ? 1 : 2)}
              </td>
              <td className="figure whitespace-nowrap">{read(l)}</td>
              {kept && <td className="figure whitespace-nowrap">{read(other.get(keyOf(l)))}</td>}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
