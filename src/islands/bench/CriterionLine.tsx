import { MapPin } from 'lucide-react';
import { ToleranceBar } from '#components/ToleranceBar.tsx';
import { VerdictMark } from '#components/Verdict.tsx';
import type { CriterionView } from '#contract/views.ts';
import { wrapDegrees } from '#core/linalg/vec.ts';
import { BENCH } from '#words/bench.ts';
import { foundWords, handWords, sentence, signWords, valueWords, wantedWords } from '#words/readings.ts';
import { placeWords } from '#words/sides.ts';
import { Comment } from './Comment.tsx';
import { sideOf } from './hand.ts';
import type { LineProps } from './lines.ts';
import { Pins } from './Pins.tsx';
import { Readings } from './Readings.tsx';
import { Reason } from './Reason.tsx';

/** degrees beside the cut within which a finding lies at it. */
const HERE = 8;

export function CriterionLine({ c, index, ...p }: LineProps & { c: CriterionView; index: number }) {
  const open = p.focus === index;
  const decisive = c.targets.find((t) => t.deciding) ?? c.targets[0];
  // Findings near the cut that are not inside, so that ring and section show the same place.
  const here = c.targets.some(
    (t) =>
      p.at !== null &&
      t.azimuth !== null &&
      t.verdict !== 'inside' &&
      t.verdict !== 'none' &&
      Math.abs(wrapDegrees(t.azimuth - p.at)) <= HERE,
  );
  // A question has words of its own for its levels.
  const levels = c.asks?.words ?? p.score.levels;
  const word = (level: number | null): string => levels.find((l) => l.level === level)?.word ?? '–';
  return (
    <div data-line={index} data-criterion={c.id} className={`border-b border-line ${open ? 'bg-white' : ''}`}>
      <button
        type="button"
        className={`flex w-full items-center gap-2 border-l-4 px-2 py-1.5 text-left ${open ? 'border-accent' : here ? 'border-under/60 hover:bg-wash/60' : 'border-transparent hover:bg-wash/60'}`}
        data-line-head
        aria-expanded={open}
        onClick={() => p.onFocus(index)}
      >
        <span className="min-w-0 flex-1">
          <span className="block font-semibold leading-tight">{c.title}</span>
          <span className="flex flex-wrap items-center gap-x-2 text-[13px]">
            {c.asks ? <span className="text-soft">{c.asks.question}</span> : <VerdictMark verdict={c.verdict} />}
            {!open && decisive && c.verdict !== 'skipped' && (
              <span className="text-soft">
                <span className="figure">
                  {decisive.hand
                    ? handWords(decisive.hand.lo, decisive.hand.hi, decisive.unit)
                    : foundWords({ ...decisive, value: decisive.along?.worst ?? decisive.value })}
                </span>
                , target <span className="figure">{wantedWords(decisive, false)}</span>
              </span>
            )}
            {c.pins.length > 0 && <MapPin size={13} aria-label={`${c.pins.length} pinned`} className="text-bad" />}
            {c.overridden && <span className="text-soft">{BENCH.yourLevel}</span>}
            {!c.overridden && c.decidedBy === 'person' && <span className="text-soft">{BENCH.byYou}</span>}
            {c.reopened && <span className="text-bad">{BENCH.reopened}</span>}
          </span>
        </span>
        {decisive && (
          <ToleranceBar
            value={decisive.along?.worst ?? decisive.value}
            U={decisive.U}
            lo={decisive.lo}
            hi={decisive.hi}
            label={`${valueWords(decisive.along?.worst ?? decisive.value, decisive.U, decisive.unit, decisive.reason)}, target ${wantedWords(decisive)}`}
          />
        )}
        <span className="w-24 text-right">
          <span className="block font-semibold">{c.verdict === 'skipped' ? '' : word(c.level ?? c.computed)}</span>
          <span className={`figure text-soft ${c.points === null ? 'italic' : ''}`}>
            {c.verdict === 'skipped' ? '' : `${(c.points ?? c.provisional)?.toFixed(1) ?? '–'}/${c.of.toFixed(1)}`}
          </span>
          {c.points === null && c.verdict !== 'skipped' && (
            <span className="block text-[12px] leading-3 text-bad">{c.provisional === null ? BENCH.toCheckLine : BENCH.provisional}</span>
          )}
        </span>
      </button>
      {open && (
        <div className="px-3 pb-3">
          {!c.asks && <Readings c={c} {...p} />}
          <p className="mb-2 text-[13px] text-soft">
            {decisive && (
              <>
                {BENCH.target} <span className="figure">{wantedWords(decisive)}</span>
                {signWords(decisive.reading) ? ` (${signWords(decisive.reading)})` : ''}.{' '}
              </>
            )}
            {sentence(c.why)}
            {decisive?.azimuth !== null &&
              decisive?.azimuth !== undefined &&
              decisive.value !== null &&
              BENCH.here(placeWords(decisive.azimuth))}
          </p>
          {p.canGrade && (
            <fieldset className="grid grid-cols-4 gap-1">
              <legend className="sr-only">{c.asks?.question ?? `Level of ${c.title}`}</legend>
              {[...levels]
                .sort((a, b) => b.level - a.level)
                .map((l) => (
                  <button
                    key={l.level}
                    type="button"
                    className="quiet !px-1"
                    aria-pressed={c.level === l.level}
                    onClick={() => p.onLevel(l.level)}
                  >
                    <span className="figure text-soft">{l.level}</span> {l.word}
                    {c.computed === l.level && <span className="block text-[12px] leading-3 text-soft">{BENCH.measured}</span>}
                  </button>
                ))}
            </fieldset>
          )}
          <Pins c={c} {...p} />
          {c.reason && <p className="mt-2 border-l-2 border-accent pl-2">{c.reason}</p>}
          {p.asking && <Reason label={BENCH.whyLevel(word(p.asking.level), word(c.computed))} {...p} />}
          {p.canGrade ? (
            <Comment
              comment={c.comment}
              title={c.title}
              reading={decisive?.reading ?? ''}
              place={decisive?.zone ?? (decisive?.azimuth != null ? placeWords(decisive.azimuth) : null)}
              value={
                decisive && decisive.value !== null ? valueWords(decisive.along?.worst ?? decisive.value, decisive.U, decisive.unit) : null
              }
              side={decisive ? sideOf(decisive) : ''}
              phrases={p.phrases}
              open={p.commenting}
              onOpen={p.onCommenting}
              onKeep={(text) => p.onComment(c.id, text)}
            />
          ) : (
            c.comment && <p className="mt-2 border-l-2 border-soft pl-2 italic">{c.comment}</p>
          )}
        </div>
      )}
    </div>
  );
}
