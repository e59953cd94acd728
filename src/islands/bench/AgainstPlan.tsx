import { useEffect, useState } from 'react';
import { call } from '#components/call.ts';
import { Problem } from '#components/Problem.tsx';
import type { PlannedBeside } from '#contract/at-bench.ts';
import { AT_BENCH } from '#words/at-bench.ts';
import { causeWords } from '#words/plan.ts';
import { photoAddress } from '../at-bench/photo-address.ts';

/** What the plan expected beside what was read, what it likely came from, the guide's gaps, and how the work went; fetched when it is opened. */
export function AgainstPlan({ attempt }: { readonly attempt: number }) {
  const [open, setOpen] = useState(false);
  const [view, setView] = useState<PlannedBeside | null>(null);
  const [error, setError] = useState<string | null>(null);
  useEffect(() => {
    if (!open || view) return;
    call<PlannedBeside>(`/api/attempts/${attempt}/planned`).then(setView, (e) => setError((e as Error).message));
  }, [open, view, attempt]);
  return (
    <section aria-label={AT_BENCH.beside} data-planned={view ? 'there' : 'closed'}>
      <button
        type="button"
        className="flex w-full border-b border-line bg-ground px-3 py-1 text-left font-semibold"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        {AT_BENCH.beside}
      </button>
      {open && (
        <div className="grid gap-2 border-b border-line px-3 py-2 text-[13px]">
          <Problem text={error} />
          {view && <Told attempt={attempt} view={view} />}
        </div>
      )}
    </section>
  );
}

function Told({ attempt, view }: { readonly attempt: number; readonly view: PlannedBeside }) {
  return (
    <>
      {view.causes.length > 0 && (
        <div>
          <h3 className="font-semibold">{AT_BENCH.causes}</h3>
          <ul>
            {view.causes.map((c) => (
              <li key={`${c.kind}${c.reading}${c.zone}`}>{causeWords(c)}</li>
            ))}
          </ul>
          <p className="text-soft">{AT_BENCH.causesNote}</p>
        </div>
      )}
      <table className="w-full text-left">
        <thead>
          <tr className="text-soft">
            <th className="font-normal">{AT_BENCH.reading}</th>
            <th className="font-normal">{AT_BENCH.planned}</th>
            <th className="font-normal">{AT_BENCH.read}</th>
          </tr>
        </thead>
        <tbody>
          {view.lines.map((l) => (
            <tr key={l.words} className="border-t border-line align-top">
              <th scope="row" className="pr-2 font-normal">
                {l.words}
                {l.how && <span className="block text-soft">{l.how}</span>}
              </th>
              <td className="figure whitespace-nowrap pr-2">{l.expected}</td>
              <td className="figure whitespace-nowrap">{l.read}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {view.sites.length > 0 && (
        <div>
          <h3 className="font-semibold">{AT_BENCH.guide}</h3>
          <ul className="grid grid-cols-2 gap-x-4">
            {view.sites.map((s) => (
              <li key={s.zone} className="flex justify-between border-t border-line">
                <span>{s.zone}</span>
                <span className="figure">
                  {AT_BENCH.guideGap(s.from, s.to)} <span className="text-soft">({s.depth.toFixed(2)})</span>
                </span>
              </li>
            ))}
          </ul>
        </div>
      )}
      {(view.steps.length > 0 || view.teeth.length > 0) && (
        <div>
          <h3 className="font-semibold">{AT_BENCH.work}</h3>
          <ul>
            {view.steps.map((s) => (
              <li key={s.id}>
                {s.id}: <span className="figure">{AT_BENCH.stepMinutes(s.minutes, s.turns)}</span> {s.words.join('; ')}
                {s.photos.length > 0 && (
                  <span className="flex flex-wrap gap-1 py-1">
                    {s.photos.map((p, i) => (
                      <a key={p} href={photoAddress(attempt, p)} target="_blank" rel="noreferrer">
                        <img
                          src={photoAddress(attempt, p)}
                          alt={`${s.id}: ${AT_BENCH.photoOf(i + 1)}`}
                          className="h-16 w-20 border border-line object-cover"
                        />
                      </a>
                    ))}
                  </span>
                )}
              </li>
            ))}
            {view.teeth.map((why) => (
              <li key={why}>
                {AT_BENCH.tooth}: {why}
              </li>
            ))}
          </ul>
        </div>
      )}
    </>
  );
}
