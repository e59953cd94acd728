import { useEffect, useState } from 'react';
import { Problem } from '#components/Problem.tsx';
import { writeAsOwn } from '#components/writing.ts';
import type { AtBench as View } from '#contract/at-bench.ts';
import { type StepState, stepStates } from '#core/plan/bench-clock.ts';
import { AT_BENCH } from '#words/at-bench.ts';
import { CAUTIONS } from '#words/plan.ts';
import { Card } from './Card.tsx';
import { OwnReading } from './OwnReading.tsx';
import { Photos } from './Photos.tsx';
import { useBench } from './queue.ts';
import { StepScan } from './StepScan.tsx';

writeAsOwn();

const MINUTE = 60_000;
/** Minutes of a step up to now, the running turn included. */
const running = (s: StepState): number => s.minutes + (s.since ? Math.max(0, Date.now() - Date.parse(s.since)) / MINUTE : 0);

/** One step at a time, big enough for a phone in one hand and for a screen at arm's length: what to do, the clock, own readings, the check. */
export function AtBench({ first }: { readonly first: View }) {
  const { now, waiting, refused, isOffline, add, look } = useBench(first);
  const events = [...now.events, ...waiting.map((e) => ({ ...e, entry: e.entry ?? null, why: e.why ?? '' }))];
  const steps = stepStates(now.steps, events, now.words);
  const open = steps.findIndex((s) => !s.isDone);
  const [chosen, setChosen] = useState<number | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const [, tick] = useState(0);
  useEffect(() => {
    const t = setInterval(() => tick((n) => n + 1), 10_000);
    return () => clearInterval(t);
  }, []);
  const at = chosen ?? (open < 0 ? steps.length - 1 : open);
  const state = steps[at];
  const step = now.plan[at];
  const blocked = steps.slice(0, at).find((s) => s.needsWord && !s.words.some((w) => w.word === 'go-on'));
  const act = (kind: 'begin' | 'pause' | 'done' | 'ask'): void => {
    add({ kind, step: state.id, entry: null, why: '' });
    if (kind === 'done') setChosen(null);
  };
  return (
    <div className="mx-auto grid max-w-3xl gap-3 text-[17px]" data-at-step={state.id}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <a className="text-accent underline" href={now.isOwn ? '/work' : '/looks'}>
          {now.isOwn ? AT_BENCH.back : AT_BENCH.looks}
        </a>
        <h1 className="text-lg font-bold">{now.attempt.exercise}</h1>
        {!now.isOwn && <span className="text-soft">{now.attempt.name}</span>}
        <a className="ml-auto text-accent underline" href={`/plan/${encodeURIComponent(now.attempt.exerciseId)}`}>
          {AT_BENCH.plan}
        </a>
      </div>
      {(waiting.length > 0 || isOffline) && (
        <p role="status" className="border-l-4 border-over bg-panel p-2" data-waiting={waiting.length}>
          {isOffline ? AT_BENCH.waiting(waiting.length) : AT_BENCH.sending}
        </p>
      )}
      {refused.map((r) => (
        <Problem key={r.key} text={`${AT_BENCH.refused}: ${r.why}`} />
      ))}
      <section className="panel grid gap-2 p-4">
        <Card
          step={step}
          state={state}
          of={steps.length}
          teeth={events.filter((e) => e.kind === 'tooth').length}
          cutter={now.cutters.find((c) => c.id === step.cutter) ?? null}
          blockedBy={blocked?.number ?? null}
          minutes={AT_BENCH.minutes(
            running(state),
            steps.reduce((sum, s) => sum + running(s), 0),
          )}
        />
        {now.isOwn && (
          <div className="grid grid-cols-2 gap-2">
            {state.since ? (
              <button type="button" className="quiet !min-h-14 text-lg" onClick={() => act('pause')}>
                {AT_BENCH.pause}
              </button>
            ) : (
              <button type="button" className="act !min-h-14 text-lg" disabled={blocked !== undefined} onClick={() => act('begin')}>
                {state.turns === 0 ? AT_BENCH.begin : AT_BENCH.goOn}
              </button>
            )}
            <button
              type="button"
              className={`${state.since ? 'act' : 'quiet'} !min-h-14 text-lg`}
              disabled={state.turns === 0 || state.isDone}
              onClick={() => act('done')}
            >
              {AT_BENCH.done}
            </button>
            <button type="button" className="quiet !min-h-14" disabled={state.isAsked} onClick={() => act('ask')}>
              {AT_BENCH.ask}
            </button>
            <button type="button" className="quiet !min-h-14" onClick={() => setWhy(why === null ? '' : null)}>
              {AT_BENCH.tooth}
            </button>
          </div>
        )}
        {why !== null && (
          <form
            className="flex flex-wrap gap-2"
            onSubmit={(e) => {
              e.preventDefault();
              add({ kind: 'tooth', step: state.id, entry: null, why });
              setWhy(null);
              setChosen(0);
            }}
          >
            <input
              className="field flex-1"
              aria-label={AT_BENCH.toothWhy}
              placeholder={AT_BENCH.toothWhy}
              required
              maxLength={200}
              value={why}
              onChange={(e) => setWhy(e.target.value)}
            />
            <button type="submit" className="act">
              {AT_BENCH.takeTooth}
            </button>
          </form>
        )}
        <div className="flex justify-between">
          <button type="button" className="quiet !min-h-11" disabled={at === 0} onClick={() => setChosen(at - 1)}>
            {AT_BENCH.previous}
          </button>
          <button type="button" className="quiet !min-h-11" disabled={at === steps.length - 1} onClick={() => setChosen(at + 1)}>
            {AT_BENCH.next}
          </button>
        </div>
      </section>
      <OwnReading
        entries={events.flatMap((e) => (e.kind === 'entry' && e.step === state.id && e.entry ? [e.entry] : []))}
        onAdd={now.isOwn ? (entry) => add({ kind: 'entry', step: state.id, entry, why: '' }) : null}
      />
      <Photos attempt={now.attempt.id} step={state.id} photos={now.photos} isOwn={now.isOwn} onSent={look} />
      {step.scan && step.scan !== 'final' && <StepScan view={now} step={step.scan} onSent={() => void look()} />}
      <ul className="list-disc pl-5 text-[13px] text-soft">
        {CAUTIONS.map((c) => (
          <li key={c}>{c}</li>
        ))}
      </ul>
    </div>
  );
}
