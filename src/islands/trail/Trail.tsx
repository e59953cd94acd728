import { useMemo, useState } from 'react';
import { CartesianGrid, ComposedChart, ErrorBar, Line, ReferenceArea, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { VerdictMark, type VerdictName } from '#components/Verdict.tsx';
import { useOwnWriting } from '#components/writing.ts';
import type { TrailView } from '#contract/trail-view.ts';
import { digitsOf, unitWords, valueWords } from '#words/readings.ts';
import { TRAIL } from '#words/trail.ts';
import { dayWords } from '#words/writing.ts';
import { bandOf, choices, curveOf, exercises, mostTold, practiseNext, repeated, trendWords } from './state.ts';

interface Props {
  readonly view: TrailView;
  readonly own: boolean;
}

export function Trail(props: Props) {
  return <Written key={useOwnWriting()} {...props} />;
}

function Written({ view: whole, own }: Props) {
  const [chosen, setChosen] = useState('total');
  const [exercise, setExercise] = useState(() => mostTold(whole.attempts));
  const view = useMemo(() => ({ ...whole, attempts: whole.attempts.filter((a) => a.exercise_id === exercise) }), [whole, exercise]);
  const all = useMemo(() => choices(view.attempts), [view]);
  const points = useMemo(
    () => curveOf(view.attempts, chosen).map((p) => ({ ...p, error: [p.value - p.low, p.high - p.value] as [number, number] })),
    [view, chosen],
  );
  const choice = all.find((c) => c.id === chosen) ?? all[0];
  const again = repeated(view.attempts);
  const next = practiseNext(view.attempts);
  const band = bandOf(view.attempts, chosen);
  const values = points.flatMap((p) => [p.low, p.high]);
  const reach = [band?.lo, band?.hi, ...values].filter((q): q is number => typeof q === 'number');
  const pad = 0.1 * (Math.max(...reach) - Math.min(...reach) || 1);
  const domain: [number, number] = chosen === 'total' ? [0, 100] : [Math.min(...reach) - pad, Math.max(...reach) + pad];
  return (
    <div>
      <div className="mb-3 flex flex-wrap items-baseline gap-3">
        <h1 className="text-xl font-bold">{own ? TRAIL.own : view.student.name}</h1>
        <span className="figure text-soft">
          {view.student.id} {view.student.bench}
        </span>
        <span className="text-soft">{trendWords(curveOf(view.attempts, 'total'))}</span>
      </div>
      {whole.attempts.length === 0 ? (
        <p className="panel p-6 text-center text-soft">{own ? TRAIL.nothingOwn : TRAIL.nothing}</p>
      ) : (
        <div className="grid gap-3 lg:grid-cols-[minmax(0,1fr)_320px]">
          <section className="panel p-3" aria-label={TRAIL.curve}>
            <div className="mb-2 flex flex-wrap items-center gap-2">
              <h2 className="font-semibold">{TRAIL.curve}</h2>
              <label className="ml-auto flex items-center gap-2 text-soft">
                <span className="sr-only">{TRAIL.exercise}</span>
                <select
                  className="field !w-auto"
                  value={exercise}
                  onChange={(e) => {
                    setExercise(e.target.value);
                    setChosen('total');
                  }}
                >
                  {exercises(whole.attempts).map((e) => (
                    <option key={e.id} value={e.id}>
                      {e.title} ({e.count})
                    </option>
                  ))}
                </select>
              </label>
              <label className="flex items-center gap-2 text-soft">
                {TRAIL.of}
                <select className="field !w-auto" value={chosen} aria-label={TRAIL.quantity} onChange={(e) => setChosen(e.target.value)}>
                  {all.map((c) => (
                    <option key={c.id} value={c.id}>
                      {c.title}
                    </option>
                  ))}
                </select>
              </label>
            </div>
            <div
              className="h-64"
              role="img"
              aria-label={`${choice.title}: ${points.map((p) => `attempt ${p.attempt}, ${p.value.toFixed(choice.unit === 'mm' ? 2 : 1)}`).join('; ')}`}
            >
              <ResponsiveContainer initialDimension={{ width: 760, height: 256 }}>
                <ComposedChart data={points} margin={{ top: 10, right: 20, bottom: 22, left: 6 }}>
                  <CartesianGrid stroke="#c3ccc8" vertical={false} />
                  <XAxis
                    dataKey="attempt"
                    type="number"
                    domain={[0.5, Math.max(view.attempts.length, 3) + 0.5]}
                    allowDecimals={false}
                    ticks={view.attempts.map((_, i) => i + 1)}
                    label={{ value: TRAIL.attempt, position: 'bottom', offset: 4 }}
                  />
                  <YAxis
                    width={58}
                    domain={domain}
                    tickFormatter={(t: number) => (chosen === 'total' ? String(t) : t.toFixed(choice.unit === 'mm' ? 2 : 1))}
                    label={{ value: choice.unit, angle: -90, position: 'insideLeft' }}
                  />
                  {band && (
                    <ReferenceArea y1={band.lo ?? domain[0]} y2={band.hi ?? domain[1]} fill="#d9e6e4" fillOpacity={1} ifOverflow="hidden" />
                  )}
                  <Line dataKey="value" stroke="#0b5563" strokeWidth={2} dot={{ r: 5, fill: '#0b5563' }} isAnimationActive={false}>
                    {chosen !== 'total' && <ErrorBar dataKey="error" width={5} stroke="#16202b" direction="y" />}
                  </Line>
                </ComposedChart>
              </ResponsiveContainer>
            </div>
          </section>
          <div className="grid content-start gap-3">
            <section className="panel p-3" aria-label={TRAIL.next}>
              <h2 className="mb-2 font-semibold">{TRAIL.next}</h2>
              {next.length === 0 ? (
                <p className="text-soft">{TRAIL.nothingNext}</p>
              ) : (
                <ol>
                  {next.map((p) => (
                    <li key={p.title} className="border-b border-line py-1.5 last:border-0">
                      {p.title} <span className="figure text-soft">{TRAIL.cost(p.lost)}</span>
                      {p.miss !== null && (
                        <div className="text-soft">
                          {TRAIL.lastTime} <span className="figure">{Math.abs(p.miss).toFixed(digitsOf(p.unit ?? 'mm'))}</span>{' '}
                          {unitWords(p.unit ?? 'mm')} {TRAIL.beside(p.miss > 0, p.zone)}
                        </div>
                      )}
                    </li>
                  ))}
                </ol>
              )}
            </section>
            <section className="panel p-3" aria-label={TRAIL.repeated}>
              <h2 className="mb-2 font-semibold">{TRAIL.repeated}</h2>
              {again.length === 0 ? (
                <p className="text-soft">{TRAIL.nothingRepeated}</p>
              ) : (
                <ul>
                  {again.map((r) => (
                    <li key={r.title} className="border-b border-line py-1.5 last:border-0">
                      {r.title} <span className="figure text-soft">{TRAIL.times(r.times)}</span>
                      {r.zone && <div className="text-soft">{TRAIL.lastAt(r.zone)}</div>}
                    </li>
                  ))}
                </ul>
              )}
            </section>
          </div>
          <section className="panel overflow-x-auto lg:col-span-2" aria-label={TRAIL.attempts}>
            <table className="w-full text-left" data-trail>
              <thead>
                <tr className="border-b border-line text-soft">
                  {TRAIL.columns.map((c, i) => (
                    <th key={c} className={`px-3 py-2 font-normal ${i === TRAIL.columns.length - 1 ? 'text-right' : ''}`}>
                      {c}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {view.attempts.map((a, i) => (
                  <tr key={a.attempt_id} className="border-b border-line align-top last:border-0">
                    <td className="px-3 py-2">
                      <span className="figure">{i + 1}</span>, <span className="figure text-soft">{dayWords(a.held_on)}</span>
                      <div className="text-soft">{a.sitting_title}</div>
                    </td>
                    <td className="px-3 py-2">
                      <a className="text-accent underline" href={`/bench/${a.attempt_id}`}>
                        {a.exercise_title}
                      </a>
                      <div className="text-soft">{TRAIL.gradedBy(a.grader_name)}</div>
                    </td>
                    <td className="px-3 py-2">
                      {a.record.critical
                        .filter((c) => c.made)
                        .map((c) => (
                          <div key={c.title}>
                            <VerdictMark verdict="critical" word={false} /> <span className="font-semibold">{c.title}</span>
                          </div>
                        ))}
                      {a.record.criteria
                        .filter((c) => (c.level !== null && c.level < 3) || c.comment)
                        .map((c) => (
                          <div key={c.id} className="flex flex-wrap gap-x-2">
                            <VerdictMark verdict={c.verdict as VerdictName} word={false} />
                            {c.title}
                            <span className="figure text-soft">{valueWords(c.value, c.U, c.unit ?? 'mm')}</span>
                            {c.reason && <em className="text-soft">{c.reason}</em>}
                            {c.comment && <span className="w-full border-l-2 border-accent pl-2">{c.comment}</span>}
                          </div>
                        ))}
                    </td>
                    <td className="px-3 py-2 text-right">
                      <span className="figure text-lg">{a.total}</span>
                      <div className={a.passed ? 'text-good' : 'text-bad'}>{a.passed ? TRAIL.passed : TRAIL.notPassed}</div>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        </div>
      )}
    </div>
  );
}
