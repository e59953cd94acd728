import type { DraftView, Trial } from '#contract/master-draft.ts';
import { agrees } from '#contract/trial.ts';
import { MASTERS, trialWords } from '#words/masters.ts';
import { digitsOf, readingWords, valueWords } from '#words/readings.ts';

interface Props {
  readonly draft: DraftView;
  readonly busy: boolean;
  readonly isOpen: boolean;
  readonly onTry: () => void;
}

/** A trial preparation in this master: what was cut beside what was read, what does not agree first. */
export function Proof({ draft, busy, isOpen, onTry }: Props) {
  const t = draft.trial;
  return (
    <section className="panel grid gap-2 p-3" aria-label={MASTERS.proof}>
      <p>{MASTERS.proofLead}</p>
      <button type="button" className="act w-fit" disabled={busy || isOpen} onClick={onTry}>
        {busy ? MASTERS.trying : MASTERS.try}
      </button>
      {isOpen && <p className="text-soft">{MASTERS.proofAsks}</p>}
      {t && <Lines trial={t} isOld={t.of_version !== draft.version} />}
    </section>
  );
}

function Lines({ trial, isOld }: { readonly trial: Trial; readonly isOld: boolean }) {
  const rank = (l: Trial['lines'][number]): number => (agrees(l) === false ? 0 : agrees(l) === null ? 1 : 2);
  const lines = [...trial.lines].sort((a, b) => rank(a) - rank(b));
  return (
    <>
      <p className="font-semibold" role="status">
        {trialWords(trial)}
      </p>
      {isOld && <p className="border-l-4 border-under pl-2">{MASTERS.proofOld}</p>}
      <table className="w-full">
        <thead>
          <tr className="text-left text-soft">
            <th className="font-normal">{MASTERS.reading_}</th>
            <th className="text-right font-normal">{MASTERS.cut}</th>
            <th className="text-right font-normal">{MASTERS.read}</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((l) => (
            <tr
              key={`${l.name}|${l.zone}|${l.stat}`}
              className={`border-t border-line align-top ${agrees(l) === false ? 'font-semibold text-bad' : agrees(l) === null ? 'text-under' : ''}`}
            >
              <td className="py-0.5 pr-2">{readingWords(l.name, l.zone, l.stat)}</td>
              <td className="figure whitespace-nowrap py-0.5 text-right">{l.cut.toFixed(digitsOf(l.unit))}</td>
              <td className="figure whitespace-nowrap py-0.5 pl-2 text-right">{valueWords(l.value, l.U, l.unit, l.reason)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
