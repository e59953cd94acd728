import { useState } from 'react';
import { Strip } from '#charts/Strip.tsx';
import { writeAsOwn } from '#components/writing.ts';
import type { CohortView, HeatCell } from '#contract/cohort-view.ts';
import { COHORT, driftWords, intervalWords } from '#words/cohort.ts';
import { bandWords } from '#words/readings.ts';
import { Concerns } from './Concerns.tsx';
import { fromAddress, rowOf, type Shown, toAddress } from './filters.ts';
import { LimitsForm } from './LimitsForm.tsx';

writeAsOwn();

interface Props {
  readonly course: string;
  readonly view: CohortView;
  readonly mayKeep: boolean;
}

/** Pale to dark, each with its figure in it, so that colour alone says nothing. */
const LOOK = ['bg-[#f3d9d4]', 'bg-[#f5e6d3]', 'bg-[#dfe9ee]', 'bg-[#d3e6da]'];

/** Skills by students, who needs a word, what the criteria of an exercise tell. What is chosen stands in the address. */
export function Cohort({ course, view, mayKeep }: Props) {
  const [chosen, setChosen] = useState(() => fromAddress(window.location.search));
  const set = (next: Partial<typeof chosen>): void => {
    const all = { ...chosen, ...next };
    const search = toAddress(all);
    // Another exercise or grader is another question to the server.
    if (next.exercise !== undefined || next.grader !== undefined) window.location.assign(`/courses/${course}/cohort${search}`);
    else window.history.replaceState(null, '', `/courses/${course}/cohort${search}`);
    setChosen(all);
  };
  // Of one exercise only those who did it are shown.
  const rows = view.rows.filter(
    (r) =>
      (chosen.group === '' || r.group === chosen.group) &&
      (chosen.bench === '' || rowOf(r.bench) === chosen.bench) &&
      ((chosen.exercise === '' && chosen.grader === '') || r.cells.length > 0),
  );
  const benches = [...new Set(view.rows.map((r) => rowOf(r.bench)).filter(Boolean))].sort();
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-end gap-3">
        <Choice
          label={COHORT.exercise}
          all={COHORT.all}
          value={chosen.exercise}
          options={view.exercises.map((e) => [e.id, `${e.title} (${e.attempts})`])}
          onPick={(exercise) => set({ exercise })}
        />
        {view.groups.length > 0 && (
          <Choice
            label={COHORT.group}
            all={COHORT.everyone}
            value={chosen.group}
            options={view.groups.map((g) => [g, g])}
            onPick={(group) => set({ group })}
          />
        )}
        {benches.length > 1 && (
          <Choice
            label={COHORT.bench}
            all={COHORT.everyone}
            value={chosen.bench}
            options={benches.map((b) => [b, b])}
            onPick={(bench) => set({ bench })}
          />
        )}
        {view.graders.length > 1 && (
          <Choice
            label={COHORT.grader}
            all={COHORT.anyGrader}
            value={chosen.grader}
            options={view.graders.map((g) => [g.id, g.name])}
            onPick={(grader) => set({ grader })}
          />
        )}
        <label className="grid gap-1">
          {COHORT.shows}
          <select className="field !w-auto" value={chosen.show} onChange={(e) => set({ show: e.target.value as Shown })}>
            {(['last', 'mean', 'mastered'] as const).map((s) => (
              <option key={s} value={s}>
                {COHORT.show[s]}
              </option>
            ))}
          </select>
        </label>
      </div>
      <div className="grid items-start gap-3 min-[1100px]:grid-cols-[1fr_300px]">
        <section className="panel relative overflow-x-auto p-2" aria-label={COHORT.title}>
          {view.skills.length === 0 && <p className="text-soft">{COHORT.none}</p>}
          <table className="text-[13px]">
            <thead>
              <tr className="align-bottom text-left text-soft">
                <th className="sticky left-0 bg-panel pr-2 font-normal">{COHORT.student}</th>
                {view.skills.map((s) => (
                  <th key={s.key} className="h-36 w-9 min-w-9 p-0 font-normal" scope="col">
                    <span className="block max-h-64 overflow-hidden whitespace-nowrap [writing-mode:sideways-lr]" title={s.title}>
                      {s.title}
                    </span>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((r) => (
                <tr key={r.student}>
                  <th className="sticky left-0 whitespace-nowrap bg-panel pr-2 text-left font-normal" scope="row">
                    <a className="text-accent underline" href={`/trail/${r.student}`}>
                      {r.name}
                    </a>{' '}
                    <span className="figure text-soft">{r.bench}</span>
                  </th>
                  {view.skills.map((s) => (
                    <Heat key={s.key} cell={r.cells.find((c) => c.skill === s.key)} show={chosen.show} title={s.title} />
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </section>
        <div className="grid gap-3">
          <Concerns course={course} all={view.concerns} />
          <section className="panel p-3" aria-label={COHORT.drift}>
            <h2 className="mb-1 font-semibold">{COHORT.drift}</h2>
            {view.drift.map((d) => (
              <p key={d.tool} className={d.chart?.since != null ? 'border-l-4 border-bad pl-2' : 'text-soft'}>
                {driftWords(d)}
              </p>
            ))}
          </section>
        </div>
      </div>
      {view.spread.length > 0 && (
        <section className="panel p-3" aria-label={COHORT.spread}>
          <h2 className="font-semibold">{COHORT.spread}</h2>
          <p className="mb-2 text-soft">{COHORT.spreadLead}</p>
          <ul className="grid gap-x-6 min-[900px]:grid-cols-2">
            {view.spread.map((s) => (
              <li key={s.line} className="flex items-center justify-between gap-3 border-t border-line py-1">
                <span>
                  {s.title} <span className="figure text-soft">{bandWords(s.lo, s.hi, s.unit ?? 'none')}</span>
                </span>
                <Strip values={s.values} bands={[{ lo: s.lo, hi: s.hi }]} label={`${s.title}: ${s.values.length}`} />
              </li>
            ))}
          </ul>
        </section>
      )}
      <section className="panel p-3" aria-label={COHORT.items}>
        <h2 className="font-semibold">{COHORT.items}</h2>
        {view.items === null ? (
          <p className="text-soft">{COHORT.fewItems}</p>
        ) : (
          <>
            <p className="mb-2 text-soft">
              {COHORT.itemsLead} {view.alpha && COHORT.alpha(view.alpha)}
            </p>
            <table className="w-full">
              <thead>
                <tr className="text-left text-soft">
                  {COHORT.columns.map((c) => (
                    <th key={c} className="font-normal">
                      {c}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {view.items.map((i) => (
                  <tr key={i.id} className="border-t border-line">
                    <td className="py-1">{i.title}</td>
                    <td className="figure py-1">{intervalWords(i.difficulty)}</td>
                    <td className="figure py-1">
                      {i.discrimination ? intervalWords(i.discrimination) : i.never ? COHORT.never : COHORT.cannot}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
      </section>
      {mayKeep && <LimitsForm course={course} now={view.limits} />}
    </div>
  );
}

function Heat({ cell, show, title }: { readonly cell: HeatCell | undefined; readonly show: Shown; readonly title: string }) {
  if (!cell || cell.last === null) return <td className="h-8 w-9" />;
  const level = show === 'mastered' ? (cell.isMastered ? 3 : 1) : show === 'mean' ? Math.round(cell.mean ?? 0) : cell.last;
  const text = show === 'mastered' ? (cell.isMastered ? '●' : '·') : show === 'mean' ? (cell.mean ?? 0).toFixed(1) : String(cell.last);
  const words = show === 'mastered' ? (cell.isMastered ? COHORT.mastered : COHORT.notMastered) : COHORT.levels[level];
  return (
    <td className="p-0">
      <a
        className={`figure grid h-8 w-9 place-items-center border border-panel hover:outline-2 hover:outline-accent ${LOOK[level]}`}
        href={`/bench/${cell.attempt}`}
        title={`${title}: ${words}, ${cell.attempts}`}
      >
        {text}
        <span className="sr-only"> {words}</span>
      </a>
    </td>
  );
}

interface ChoiceProps {
  readonly label: string;
  /** Word for no choice. */
  readonly all: string;
  readonly value: string;
  readonly options: readonly (readonly [value: string, word: string])[];
  readonly onPick: (value: string) => void;
}

function Choice({ label, all, value, options, onPick }: ChoiceProps) {
  return (
    <label className="grid gap-1">
      {label}
      <select className="field !w-auto max-w-72" value={value} onChange={(e) => onPick(e.target.value)}>
        <option value="">{all}</option>
        {options.map(([v, word]) => (
          <option key={v} value={v}>
            {word}
          </option>
        ))}
      </select>
    </label>
  );
}
