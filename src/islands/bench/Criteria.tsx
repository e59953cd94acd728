import { type RefObject, useEffect, useRef, useState } from 'react';
import { ToleranceBar } from '#components/ToleranceBar.tsx';
import { VerdictMark } from '#components/Verdict.tsx';
import type { CriterionView, CriticalView, ScoreView, TargetView } from '#contract/views.ts';
import { readingWords, UNIT_WORDS, VERDICT_WORDS, valueWords } from '#words/words.ts';
import { placeWords } from './state.ts';

interface Props {
  readonly score: ScoreView;
  readonly focus: number;
  readonly asking: { index: number; level: number | null } | null;
  readonly canGrade: boolean;
  readonly onFocus: (index: number) => void;
  readonly onLevel: (level: number) => void;
  readonly onStrike: () => void;
  readonly onAnswer: (reason: string) => void;
  readonly onGiveUp: () => void;
  readonly note: RefObject<HTMLInputElement | null>;
}

export function Criteria(p: Props) {
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    list.current?.querySelector(`[data-line="${p.focus}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [p.focus]);
  return (
    <section className="panel min-h-0 overflow-y-auto" aria-label="Criteria" ref={list} tabIndex={-1}>
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

const bandWords = (t: Pick<TargetView, 'lo' | 'hi' | 'unit'>): string =>
  `${t.lo === null ? 'up to' : t.lo}${t.lo !== null && t.hi !== null ? ' to ' : ' '}${t.hi === null ? 'or more' : t.hi} ${UNIT_WORDS[t.unit] ?? ''}`;

function Line({ c, index, ...p }: Props & { c: CriterionView; index: number }) {
  const open = p.focus === index;
  const decisive = c.targets.find((t) => t.deciding) ?? c.targets[0];
  const word = (level: number | null): string => p.score.levels.find((l) => l.level === level)?.word ?? '–';
  return (
    <div data-line={index} data-criterion={c.id} className={`border-b border-line ${open ? 'bg-white' : ''}`}>
      <button
        type="button"
        className={`flex w-full items-center gap-2 border-l-4 px-2 py-1.5 text-left ${open ? 'border-accent' : 'border-transparent hover:bg-wash/60'}`}
        aria-expanded={open}
        onClick={() => p.onFocus(index)}
      >
        <span className="min-w-0 flex-1">
          <span className="block font-semibold leading-tight">{c.title}</span>
          <span className="flex items-center gap-2 text-[13px]">
            <VerdictMark verdict={c.verdict} />
            {c.overridden && <span className="text-soft">your level</span>}
            {!c.overridden && c.confirmed && <span className="text-soft">confirmed</span>}
          </span>
        </span>
        {decisive && (
          <ToleranceBar
            value={decisive.value}
            U={decisive.U}
            lo={decisive.lo}
            hi={decisive.hi}
            label={`${valueWords(decisive.value, decisive.U, decisive.unit, decisive.reason)}, target ${bandWords(decisive)}`}
          />
        )}
        <span className="w-24 text-right">
          <span className="block font-semibold">{word(c.level)}</span>
          <span className="figure text-soft">
            {c.points === null ? '–' : c.points.toFixed(1)}/{c.of.toFixed(1)}
          </span>
        </span>
      </button>
      {open && (
        <div className="px-3 pb-3">
          <table className="mb-2 w-full text-[13px]" aria-label={`Readings of ${c.title}`}>
            <tbody>
              {c.targets.map((t) => (
                <tr key={`${t.reading}${t.zone}`} className={t.deciding ? 'font-semibold' : ''}>
                  <td className="w-5">
                    <VerdictMark verdict={t.verdict} word={false} />
                  </td>
                  <td className="py-0.5">{readingWords(t.reading, t.zone, t.stat)}</td>
                  <td className="figure text-right" data-reading={`${t.reading}|${t.zone ?? ''}|${t.stat}`}>
                    {valueWords(t.value, t.U, t.unit, t.reason)}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mb-2 text-[13px] text-soft">
            Target <span className="figure">{decisive ? bandWords(decisive) : ''}</span>. {c.why}
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
          {c.reason && <p className="mt-2 border-l-2 border-accent pl-2">{c.reason}</p>}
          {p.asking?.index === index && <Reason label={`Why “${word(p.asking.level)}” and not “${word(c.computed)}”?`} {...p} />}
        </div>
      )}
    </div>
  );
}

function CriticalLine({ c, index, ...p }: Props & { c: CriticalView; index: number }) {
  const open = p.focus === index;
  return (
    <div data-line={index} data-criterion={c.id} className={`border-b border-line ${open ? 'bg-white' : ''}`}>
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
            ) : c.waived ? (
              'struck out by the instructor'
            ) : c.verdict === 'inside' ? (
              'not found'
            ) : (
              VERDICT_WORDS[c.verdict]
            )}
          </span>
        </span>
        <span className="figure text-right text-[13px]" data-reading={c.id}>
          {valueWords(c.value, c.U, c.unit, 'no reading')}
        </span>
      </button>
      {open && (
        <div className="px-3 pb-3">
          <p className="mb-2 text-[13px] text-soft">
            When it is made: {c.effect}.{c.azimuth !== null && c.made && ` Here: ${placeWords(c.azimuth)}.`}
          </p>
          {p.canGrade && (c.made || c.waived || c.verdict !== 'inside') && (
            <button type="button" className="quiet" onClick={p.onStrike}>
              {c.waived ? 'Count it after all' : 'Strike it out'} <span className="figure text-soft">x</span>
            </button>
          )}
          {c.reason && <p className="mt-2 border-l-2 border-accent pl-2">{c.reason}</p>}
          {p.asking?.index === index && <Reason label="Why does it not count?" {...p} />}
        </div>
      )}
    </div>
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
