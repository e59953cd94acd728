import { Pencil } from 'lucide-react';
import { VerdictMark } from '#components/Verdict.tsx';
import type { CriterionView } from '#contract/views.ts';
import { HAND_METHODS } from '#core/catalogue/terms.ts';
import { BENCH } from '#words/bench.ts';
import { alongWords, foundWords, handWords, readingWords, valueWords, wantedWords } from '#words/readings.ts';
import { HandForm } from './HandForm.tsx';
import { type LineProps, placeKey } from './lines.ts';
import { repairWords } from './repair.ts';

/** The readings of a criterion with their bands, the form for one by hand, and what it would take to put them right. */
export function Readings({
  c,
  ...p
}: Pick<LineProps, 'canGrade' | 'byHand' | 'onByHand' | 'onHand' | 'onHover' | 'numbered'> & { c: CriterionView }) {
  return (
    <>
      <table className="mb-2 w-full text-[13px]" aria-label={`Readings of ${c.title}`}>
        <tbody>
          {c.targets.map((t, i) => (
            <tr
              key={placeKey(t)}
              className={`${t.deciding ? 'font-semibold' : ''} hover:bg-wash/60`}
              onPointerEnter={() => (t.azimuth !== null || t.point) && p.onHover({ azimuth: t.azimuth, point: t.point })}
              onPointerLeave={() => p.onHover(null)}
            >
              <td className="w-5">
                <VerdictMark verdict={t.verdict} word={false} />
              </td>
              <td className="py-0.5">
                {p.numbered && t.point && <span className="figure mr-1 rounded-full border border-line px-1 text-soft">{i + 1}</span>}
                {readingWords(t.reading, t.zone, t.stat)}
              </td>
              <td className="figure text-right" data-reading={placeKey(t)}>
                {t.hand
                  ? handWords(t.hand.lo, t.hand.hi, t.unit)
                  : t.verdict === 'skipped'
                    ? BENCH.doesNotApply
                    : t.onlyByHand
                      ? BENCH.onlyByHand(t.value === null ? null : valueWords(t.value, t.U, t.unit))
                      : foundWords(t)}
                {t.along && (
                  <span className="block font-sans text-[12px] leading-4">{alongWords(t.along.inside, t.along.worst, t.unit)}</span>
                )}
                {(t.lo !== null || t.hi !== null) && (
                  <span className="block font-sans text-[12px] font-normal leading-3 text-soft">{wantedWords(t)}</span>
                )}
                {t.hand && (
                  <span className="block font-sans text-[12px] font-normal leading-3 text-soft">
                    {HAND_METHODS[t.hand.method].word}
                    {t.scanned && `, scan ${valueWords(t.scanned.value, t.scanned.U, t.unit)}`}
                  </span>
                )}
              </td>
              {p.canGrade && t.methods.length > 0 && t.verdict !== 'skipped' && (
                <td className="w-9 pl-1">
                  <button
                    type="button"
                    className="quiet !min-h-0 !px-1.5 py-0.5"
                    title="Read it by hand: probe, gauge, wax, explorer, eye"
                    aria-label={`Read by hand: ${readingWords(t.reading, t.zone, t.stat)}`}
                    aria-expanded={p.byHand === placeKey(t)}
                    onClick={() => p.onByHand(p.byHand === placeKey(t) ? null : placeKey(t))}
                  >
                    <Pencil size={13} aria-hidden />
                  </button>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {c.targets
        .filter((t) => p.byHand === placeKey(t))
        .map((t) => (
          <HandForm
            key={placeKey(t)}
            target={t}
            onKeep={(method, lo, hi) => p.onHand(t, method, lo, hi)}
            onTakeBack={() => p.onHand(t, t.hand?.method ?? 'eye', null, null)}
            onGiveUp={() => p.onByHand(null)}
          />
        ))}
      {c.targets.some((t) => t.repair) && (
        <ul className="mb-2 border-l-2 border-line pl-2 text-[13px]" aria-label={`What it would take: ${c.title}`}>
          {c.targets.flatMap((t) =>
            t.repair
              ? [
                  <li key={placeKey(t)}>
                    <span className="text-soft">{t.zone ?? BENCH.allRound}:</span> {repairWords(t.repair, t.unit)}
                  </li>,
                ]
              : [],
          )}
        </ul>
      )}
    </>
  );
}
