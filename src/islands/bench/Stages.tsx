import { useState } from 'react';
import type { AllowanceView, StageView } from '#contract/views.ts';
import { STEPS } from '#core/catalogue/terms.ts';
import { BENCH } from '#words/bench.ts';
import { DECISION } from '#words/plan.ts';
import { bandWords, foundWords, readingWords } from '#words/readings.ts';
import { repairWords } from './repair.ts';

const STANDS: Readonly<Record<AllowanceView['stands'], string>> = {
  enough: 'enough',
  'cut-more': 'cut more',
  'too-much': 'too deep, cannot be corrected',
  'to-check': 'too close to call',
  'not-read': 'not read',
};
/** Order of the list: first what can no longer be corrected, then what is still to be cut. */
const ORDER: readonly AllowanceView['stands'][] = ['too-much', 'cut-more', 'to-check', 'not-read', 'enough'];

const counted = (s: StageView): string =>
  ORDER.map((k) => [k, s.lines.filter((l) => l.stands === k).length] as const)
    .filter(([, n]) => n > 0)
    .map(([k, n]) => `${n} ${STANDS[k]}`)
    .join(', ');

/** Scans of intermediate steps: what remains to be cut and where, and what can no longer be corrected. */
export function Stages({
  stages,
  finished,
  onPlace,
}: {
  stages: readonly StageView[];
  /** Whether the finished work has been scanned: only that is graded. */
  finished: boolean;
  onPlace: (azimuth: number) => void;
}) {
  const [open, setOpen] = useState<number | null>(stages.at(-1)?.scan ?? null);
  return (
    <section aria-label={BENCH.steps}>
      <h2 className="border-b border-line bg-ground px-3 py-1 font-semibold">{BENCH.steps}</h2>
      {stages.map((s) => (
        <div key={s.scan} className="border-b border-line" data-stage={s.step}>
          <button
            type="button"
            className="flex w-full flex-wrap items-baseline gap-2 px-3 py-1.5 text-left hover:bg-wash/60"
            aria-expanded={open === s.scan}
            onClick={() => setOpen(open === s.scan ? null : s.scan)}
          >
            <span className="font-semibold">{STEPS[s.step]}</span>
            {s.version > 1 && <span className="figure text-soft">scan {s.version}</span>}
            <span className="text-[13px]">{DECISION[s.decision].title}</span>
            <span className="ml-auto text-[13px] text-soft">{counted(s)}</span>
          </button>
          {open === s.scan && s.check && (
            <p className="px-3 pb-1 text-[13px] text-soft">
              {BENCH.stepCheck}: {s.check}
              {s.needsWord && ` ${BENCH.needsWord}`}
            </p>
          )}
          {open === s.scan && (
            <ul className="px-3 pb-2 text-[13px]">
              {[...s.lines]
                .sort((a, b) => ORDER.indexOf(a.stands) - ORDER.indexOf(b.stands))
                .map((l) => (
                  <li key={`${l.reading}${l.zone}${l.stat}`} className="flex items-baseline gap-2 border-t border-line py-1 first:border-0">
                    <span className="min-w-0 flex-1">
                      <span className={l.stands === 'too-much' ? 'font-semibold text-bad' : l.stands === 'cut-more' ? 'font-semibold' : ''}>
                        {STANDS[l.stands]}:
                      </span>{' '}
                      {readingWords(l.reading, l.zone, l.stat)}
                      {l.repair && l.stands === 'cut-more' && <span className="block text-soft">{repairWords(l.repair, l.unit)}</span>}
                    </span>
                    <span className="figure whitespace-nowrap">
                      {foundWords(l)}
                      <span className="block text-right text-soft">{bandWords(l.lo, l.hi, l.unit)}</span>
                    </span>
                    {l.azimuth !== null && (
                      <button type="button" className="quiet !min-h-0 !px-2 !py-0.5" onClick={() => onPlace(l.azimuth as number)}>
                        {BENCH.where}
                      </button>
                    )}
                  </li>
                ))}
            </ul>
          )}
        </div>
      ))}
      {!finished && <p className="border-b border-line px-3 py-1.5 text-[13px] text-soft">{BENCH.notFinished}</p>}
    </section>
  );
}
