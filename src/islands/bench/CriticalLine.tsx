import { VerdictMark } from '#components/Verdict.tsx';
import type { CriticalView } from '#contract/views.ts';
import { HAND_METHODS } from '#core/catalogue/terms.ts';
import { BENCH } from '#words/bench.ts';
import { foundWords, handWords } from '#words/readings.ts';
import { placeWords } from '#words/sides.ts';
import { VERDICT_WORDS } from '#words/states.ts';
import { HandForm } from './HandForm.tsx';
import { type LineProps, placeKey } from './lines.ts';
import { Reason } from './Reason.tsx';

export function CriticalLine({ c, index, ...p }: LineProps & { c: CriticalView; index: number }) {
  const open = p.focus === index;
  return (
    <div data-line={index} data-criterion={c.id} data-critical className={`border-b border-line ${open ? 'bg-white' : ''}`}>
      <button
        type="button"
        className={`flex w-full items-center gap-2 border-l-4 px-2 py-1.5 text-left ${open ? 'border-accent' : 'border-transparent hover:bg-wash/60'}`}
        data-line-head
        aria-expanded={open}
        onClick={() => p.onFocus(index)}
      >
        <span className="flex-1">
          <span className="block font-semibold">{c.title}</span>
          <span className="text-[13px]">
            {c.made ? (
              <VerdictMark verdict="critical" />
            ) : c.made === null ? (
              <span className="text-bad">
                {BENCH.toCheckLine}: {c.reopened ? 'the reading has changed' : VERDICT_WORDS[c.verdict]}
              </span>
            ) : c.waived ? (
              BENCH.waived
            ) : c.verdict === 'skipped' ? (
              VERDICT_WORDS.skipped
            ) : c.decidedBy === 'person' ? (
              BENCH.notFoundByPerson
            ) : (
              BENCH.notFound
            )}
          </span>
        </span>
        <span className="figure text-right text-[13px]" data-reading={c.id}>
          {c.hand
            ? handWords(c.hand.lo, c.hand.hi, c.unit)
            : c.value === null
              ? c.verdict === 'skipped'
                ? ''
                : BENCH.noReading
              : foundWords(c)}
          {c.hand && <span className="block font-sans text-[12px] leading-3 text-soft">{HAND_METHODS[c.hand.method].word}</span>}
        </span>
      </button>
      {open && (
        <div className="px-3 pb-3">
          <p className="mb-2 text-[13px] text-soft">
            {BENCH.whenMade(c.effect)}
            {c.azimuth !== null && c.made && BENCH.here(placeWords(c.azimuth))}
          </p>
          {p.canGrade && <HandOf c={c} {...p} />}
          {p.canGrade && c.verdict !== 'skipped' && (
            <fieldset className="flex flex-wrap gap-1">
              <legend className="sr-only">{c.title}</legend>
              <button type="button" className="quiet" aria-pressed={c.made === false} onClick={() => p.onMade(false)}>
                {c.verdict === 'outside' ? BENCH.dontCount : BENCH.notMade} <span className="figure text-soft">x</span>
              </button>
              <button type="button" className="quiet" aria-pressed={c.made === true} onClick={() => p.onMade(true)}>
                {BENCH.made} <span className="figure text-soft">y</span>
              </button>
              {c.decidedBy === 'person' && (
                <button type="button" className="quiet" onClick={() => p.onMade(null)}>
                  {BENCH.asMeasured}
                </button>
              )}
            </fieldset>
          )}
          {c.reason && <p className="mt-2 border-l-2 border-accent pl-2">{c.reason}</p>}
          {p.asking && <Reason label={p.asking.made ? BENCH.whyCounts : BENCH.whyNot} {...p} />}
        </div>
      )}
    </div>
  );
}

/** A critical error can be read by hand as well: a scratch that no scan shows is felt. */
function HandOf({ c, byHand, onByHand, onHand }: Pick<LineProps, 'byHand' | 'onByHand' | 'onHand'> & { c: CriticalView }) {
  if (byHand !== placeKey(c))
    return (
      <>
        {c.methods.length > 0 && c.verdict !== 'skipped' && (
          <button type="button" className="quiet mb-1 mr-1" onClick={() => onByHand(placeKey(c))}>
            {c.hand ? BENCH.changeByHand : BENCH.readByHand}
          </button>
        )}
      </>
    );
  return (
    <HandForm
      target={c}
      onKeep={(method, lo, hi) => onHand(c, method, lo, hi)}
      onTakeBack={() => onHand(c, c.hand?.method ?? 'eye', null, null)}
      onGiveUp={() => onByHand(null)}
    />
  );
}
