import { MapPin, Pencil } from 'lucide-react';
import { type ReactNode, type RefObject, useEffect, useRef, useState } from 'react';
import { ToleranceBar } from '#components/ToleranceBar.tsx';
import { VerdictMark } from '#components/Verdict.tsx';
import type { CriterionView, CriticalView, PhraseView, ScoreView, TargetView } from '#contract/views.ts';
import { HAND_METHODS, type HandMethod } from '#core/catalogue/terms.ts';
import { wrapDegrees } from '#core/linalg/vec.ts';
import { alongWords, bandWords, handWords, readingWords, signWords, valueWords } from '#words/readings.ts';
import { VERDICT_WORDS } from '#words/states.ts';
import { Comment } from './Comment.tsx';
import { HandForm } from './HandForm.tsx';
import { sideOf } from './hand.ts';
import { repairWords } from './repair.ts';
import { placeWords } from './state.ts';

interface Props {
  /** What stands above the lines. */
  readonly children?: ReactNode;
  readonly score: ScoreView;
  readonly focus: number;
  readonly asking: { index: number; level: number | null; made: boolean | null } | null;
  readonly canGrade: boolean;
  readonly onFocus: (index: number) => void;
  readonly onLevel: (level: number) => void;
  /** A critical error was made, was not, or stands as measured. */
  readonly onMade: (made: boolean | null) => void;
  readonly onAnswer: (reason: string) => void;
  readonly onGiveUp: () => void;
  readonly note: RefObject<HTMLInputElement | null>;
  readonly phrases: readonly PhraseView[];
  /** Place (reading|zone|stat) at which a reading by hand is being entered. */
  readonly byHand: string | null;
  readonly onByHand: (place: string | null) => void;
  /** Null limits take the reading back. */
  readonly onHand: (t: Pick<TargetView, 'reading' | 'zone' | 'stat'>, method: HandMethod, lo: number | null, hi: number | null) => void;
  readonly commenting: boolean;
  readonly onCommenting: (open: boolean) => void;
  readonly onComment: (criterion: string, text: string) => void;
  /** What the pointer is over: picture, section and ring show it before what is in focus. */
  readonly onHover: (at: { azimuth: number | null; point: readonly number[] | null } | null) => void;
  readonly onUnpin: (id: number) => void;
  /** Azimuth at which the tooth is cut: lines that have something to say there are marked. */
  readonly at: number | null;
}

/** degrees beside the cut within which a finding lies at it. */
const HERE = 8;

export const placeKey = (t: Pick<TargetView, 'reading' | 'zone' | 'stat'>): string => `${t.reading}|${t.zone ?? ''}|${t.stat}`;

export function Criteria(p: Props) {
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    list.current?.querySelector(`[data-line="${p.focus}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [p.focus]);
  return (
    <section className="panel min-h-0 overflow-y-auto" aria-label="Criteria" ref={list} tabIndex={-1}>
      {p.children}
      {p.score.criteria.map((c, i) => (
        <Line key={c.id} c={c} index={i} {...p} />
      ))}
      <h2 className="border-y border-line bg-ground px-3 py-1 font-semibold">Critical errors</h2>
      {p.score.critical.map((c, i) => (
        <CriticalLine key={c.id} c={c} index={p.score.criteria.length + i} {...p} />
      ))}
    </section>
  );
}

function Line({ c, index, ...p }: Props & { c: CriterionView; index: number }) {
  const open = p.focus === index;
  const decisive = c.targets.find((t) => t.deciding) ?? c.targets[0];
  // What lies beside the cut and is not inside: ring and section show the same place.
  const here = c.targets.some(
    (t) =>
      p.at !== null &&
      t.azimuth !== null &&
      t.verdict !== 'inside' &&
      t.verdict !== 'none' &&
      Math.abs(wrapDegrees(t.azimuth - p.at)) <= HERE,
  );
  const word = (level: number | null): string => p.score.levels.find((l) => l.level === level)?.word ?? '–';
  return (
    <div data-line={index} data-criterion={c.id} className={`border-b border-line ${open ? 'bg-white' : ''}`}>
      <button
        type="button"
        className={`flex w-full items-center gap-2 border-l-4 px-2 py-1.5 text-left ${open ? 'border-accent' : here ? 'border-under/60 hover:bg-wash/60' : 'border-transparent hover:bg-wash/60'}`}
        aria-expanded={open}
        onClick={() => p.onFocus(index)}
      >
        <span className="min-w-0 flex-1">
          <span className="block font-semibold leading-tight">{c.title}</span>
          <span className="flex items-center gap-2 text-[13px]">
            <VerdictMark verdict={c.verdict} />
            {c.pins.length > 0 && <MapPin size={13} aria-label={`${c.pins.length} pinned`} className="text-bad" />}
            {c.overridden && <span className="text-soft">your level</span>}
            {!c.overridden && c.decidedBy === 'person' && <span className="text-soft">decided by you</span>}
            {c.reopened && <span className="text-bad">reopened: the reading has changed</span>}
          </span>
        </span>
        {decisive && (
          <ToleranceBar
            value={decisive.along?.worst ?? decisive.value}
            U={decisive.U}
            lo={decisive.lo}
            hi={decisive.hi}
            label={`${valueWords(decisive.value, decisive.U, decisive.unit, decisive.reason)}, target ${bandWords(decisive.lo, decisive.hi, decisive.unit)}`}
          />
        )}
        <span className="w-24 text-right">
          <span className="block font-semibold">{c.verdict === 'skipped' ? '' : word(c.level ?? c.computed)}</span>
          <span className={`figure text-soft ${c.points === null ? 'italic' : ''}`}>
            {c.verdict === 'skipped' ? '' : `${(c.points ?? c.provisional)?.toFixed(1) ?? '–'}/${c.of.toFixed(1)}`}
          </span>
          {c.points === null && c.verdict !== 'skipped' && (
            <span className="block text-[11px] leading-3 text-bad">{c.provisional === null ? 'to check' : 'provisional'}</span>
          )}
        </span>
      </button>
      {open && (
        <div className="px-3 pb-3">
          <table className="mb-2 w-full text-[13px]" aria-label={`Readings of ${c.title}`}>
            <tbody>
              {c.targets.map((t) => (
                <tr
                  key={placeKey(t)}
                  className={`${t.deciding ? 'font-semibold' : ''} hover:bg-wash/60`}
                  onPointerEnter={() => (t.azimuth !== null || t.point) && p.onHover({ azimuth: t.azimuth, point: t.point })}
                  onPointerLeave={() => p.onHover(null)}
                >
                  <td className="w-5">
                    <VerdictMark verdict={t.verdict} word={false} />
                  </td>
                  <td className="py-0.5">{readingWords(t.reading, t.zone, t.stat)}</td>
                  <td className="figure text-right" data-reading={placeKey(t)}>
                    {t.hand
                      ? handWords(t.hand.lo, t.hand.hi, t.unit)
                      : t.verdict === 'skipped'
                        ? 'does not apply'
                        : valueWords(t.value, t.U, t.unit, t.reason)}
                    {t.along && (
                      <span className="block font-sans text-[12px] leading-4">{alongWords(t.along.inside, t.along.worst, t.unit)}</span>
                    )}
                    {(t.lo !== null || t.hi !== null) && (
                      <span className="block font-sans text-[11px] font-normal leading-3 text-soft">{bandWords(t.lo, t.hi, t.unit)}</span>
                    )}
                    {t.hand && (
                      <span className="block font-sans text-[11px] font-normal leading-3 text-soft">
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
                        <span className="text-soft">{t.zone ?? 'all round'}:</span> {repairWords(t.repair, t.unit)}
                      </li>,
                    ]
                  : [],
              )}
            </ul>
          )}
          <p className="mb-2 text-[13px] text-soft">
            Target <span className="figure">{decisive ? bandWords(decisive.lo, decisive.hi, decisive.unit) : ''}</span>
            {decisive && signWords(decisive.reading) ? ` (${signWords(decisive.reading)})` : ''}. {c.why}
            {decisive?.azimuth !== null &&
              decisive?.azimuth !== undefined &&
              decisive.value !== null &&
              ` Here: ${placeWords(decisive.azimuth)}.`}
          </p>
          {p.canGrade && (
            <fieldset className="grid grid-cols-4 gap-1">
              <legend className="sr-only">Level of {c.title}</legend>
              {[...p.score.levels]
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
                    {c.computed === l.level && <span className="block text-[11px] leading-3 text-soft">measured</span>}
                  </button>
                ))}
            </fieldset>
          )}
          {c.pins.length > 0 && (
            <ul className="mt-2 text-[13px]" aria-label={`Pins: ${c.title}`}>
              {c.pins.map((q) => (
                <li
                  key={q.id}
                  className="flex items-center gap-2 hover:bg-wash/60"
                  onPointerEnter={() => p.onHover({ azimuth: q.azimuth, point: q.point })}
                  onPointerLeave={() => p.onHover(null)}
                >
                  <MapPin size={14} aria-hidden className="shrink-0 text-bad" />
                  <span className="min-w-0 flex-1">
                    {placeWords(q.azimuth)}
                    {q.note && `: ${q.note}`}
                  </span>
                  {p.canGrade && (
                    <button
                      type="button"
                      className="quiet !min-h-[32px] !px-2"
                      aria-label={`Take out the pin ${placeWords(q.azimuth)}`}
                      onClick={() => p.onUnpin(q.id)}
                    >
                      take out
                    </button>
                  )}
                </li>
              ))}
            </ul>
          )}
          {c.reason && <p className="mt-2 border-l-2 border-accent pl-2">{c.reason}</p>}
          {p.asking?.index === index && <Reason label={`Why “${word(p.asking.level)}” and not “${word(c.computed)}”?`} {...p} />}
          {p.canGrade ? (
            <Comment
              comment={c.comment}
              title={c.title}
              reading={decisive?.reading ?? ''}
              place={decisive?.zone ?? (decisive?.azimuth != null ? placeWords(decisive.azimuth) : null)}
              value={decisive && decisive.value !== null ? valueWords(decisive.value, decisive.U, decisive.unit) : null}
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

function CriticalLine({ c, index, ...p }: Props & { c: CriticalView; index: number }) {
  const open = p.focus === index;
  return (
    <div data-line={index} data-criterion={c.id} data-critical className={`border-b border-line ${open ? 'bg-white' : ''}`}>
      <button
        type="button"
        className={`flex w-full items-center gap-2 border-l-4 px-2 py-1.5 text-left ${open ? 'border-accent' : 'border-transparent hover:bg-wash/60'}`}
        aria-expanded={open}
        onClick={() => p.onFocus(index)}
      >
        <span className="flex-1">
          <span className="block font-semibold">{c.title}</span>
          <span className="text-[13px]">
            {c.made ? (
              <VerdictMark verdict="critical" />
            ) : c.made === null ? (
              <span className="text-bad">to check: {c.reopened ? 'the reading has changed' : VERDICT_WORDS[c.verdict]}</span>
            ) : c.waived ? (
              'does not count, by the instructor'
            ) : c.verdict === 'skipped' ? (
              VERDICT_WORDS.skipped
            ) : c.decidedBy === 'person' ? (
              'not found, by the instructor'
            ) : (
              'not found'
            )}
          </span>
        </span>
        <span className="figure text-right text-[13px]" data-reading={c.id}>
          {c.hand
            ? handWords(c.hand.lo, c.hand.hi, c.unit)
            : c.value === null
              ? c.verdict === 'skipped'
                ? ''
                : 'no reading'
              : valueWords(c.value, c.U, c.unit)}
          {c.hand && <span className="block font-sans text-[11px] leading-3 text-soft">{HAND_METHODS[c.hand.method].word}</span>}
        </span>
      </button>
      {open && (
        <div className="px-3 pb-3">
          <p className="mb-2 text-[13px] text-soft">
            When it is made: {c.effect}.{c.azimuth !== null && c.made && ` Here: ${placeWords(c.azimuth)}.`}
          </p>
          {p.canGrade && <HandOf c={c} {...p} />}
          {p.canGrade && c.verdict !== 'skipped' && (
            <fieldset className="flex flex-wrap gap-1">
              <legend className="sr-only">{c.title}</legend>
              <button type="button" className="quiet" aria-pressed={c.made === false} onClick={() => p.onMade(false)}>
                {c.verdict === 'outside' ? 'Don’t count' : 'Not made'} <span className="figure text-soft">x</span>
              </button>
              <button type="button" className="quiet" aria-pressed={c.made === true} onClick={() => p.onMade(true)}>
                Made <span className="figure text-soft">y</span>
              </button>
              {c.decidedBy === 'person' && (
                <button type="button" className="quiet" onClick={() => p.onMade(null)}>
                  As measured
                </button>
              )}
            </fieldset>
          )}
          {c.reason && <p className="mt-2 border-l-2 border-accent pl-2">{c.reason}</p>}
          {p.asking?.index === index && <Reason label={p.asking.made ? 'Why does it count?' : 'Why does it not count?'} {...p} />}
        </div>
      )}
    </div>
  );
}

/** A critical error can be read by hand as well: a scratch that no scan shows is felt. */
function HandOf({ c, byHand, onByHand, onHand }: Pick<Props, 'byHand' | 'onByHand' | 'onHand'> & { c: CriticalView }) {
  if (byHand !== placeKey(c))
    return (
      <>
        {c.methods.length > 0 && c.verdict !== 'skipped' && (
          <button type="button" className="quiet mb-1 mr-1" onClick={() => onByHand(placeKey(c))}>
            {c.hand ? 'Change what was read by hand' : 'Read it by hand'}
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

function Reason({ label, note, onAnswer, onGiveUp }: Pick<Props, 'note' | 'onAnswer' | 'onGiveUp'> & { label: string }) {
  const [text, setText] = useState('');
  return (
    <form
      className="mt-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (text.trim()) onAnswer(text);
      }}
    >
      <label className="mb-1 block font-semibold" htmlFor="reason">
        {label}
      </label>
      <div className="flex gap-1">
        <input
          id="reason"
          ref={note}
          className="field"
          value={text}
          maxLength={500}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => e.key === 'Escape' && onGiveUp()}
          required
        />
        <button type="submit" className="act" disabled={!text.trim()}>
          Keep
        </button>
      </div>
    </form>
  );
}
