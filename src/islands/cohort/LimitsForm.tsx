import { useState } from 'react';
import { call } from '#components/call.ts';
import { weights } from '#core/progress/competence.ts';
import { type Limits, limitsFor } from '#core/progress/limits.ts';
import { COHORT } from '#words/cohort.ts';

/** The two failure rates by which mastery is told; what they would do is shown before they are kept. */
export function LimitsForm({ course, now }: { readonly course: string; readonly now: Limits }) {
  const [rates, setRates] = useState({ acceptable: Math.round(100 * now.p0), unacceptable: Math.round(100 * now.p1) });
  const [said, setSaid] = useState('');
  const { acceptable, unacceptable } = rates;
  const isRight = acceptable >= 1 && unacceptable <= 90 && unacceptable >= acceptable + 5;
  const would = isRight ? limitsFor(acceptable / 100, unacceptable / 100) : null;
  const keep = async () => {
    try {
      await call(`/api/courses/${course}/limits`, { acceptable: acceptable / 100, unacceptable: unacceptable / 100 });
      setSaid(COHORT.kept);
    } catch (e) {
      setSaid((e as Error).message);
    }
  };
  return (
    <section className="panel grid gap-2 p-3" aria-label={COHORT.limits}>
      <h2 className="font-semibold">{COHORT.limits}</h2>
      <p className="max-w-[90ch] text-soft">{COHORT.limitsLead}</p>
      <div className="flex flex-wrap items-end gap-3">
        {(['acceptable', 'unacceptable'] as const).map((k) => (
          <label key={k} className="grid gap-1">
            {COHORT[k]}
            <input
              className="field figure !w-28"
              type="number"
              min={1}
              max={90}
              value={Number.isFinite(rates[k]) ? rates[k] : ''}
              onChange={(e) => {
                setSaid('');
                setRates({ ...rates, [k]: e.target.valueAsNumber });
              }}
            />
          </label>
        ))}
        <button type="button" className="act" disabled={!isRight} onClick={() => void keep()}>
          {COHORT.keep}
        </button>
        <span role="status" className="text-good">
          {said}
        </span>
      </div>
      <p aria-live="polite">
        {would
          ? COHORT.chances(Math.round(would.h / weights(would.p0, would.p1).success), would.within, would.chanceFailing, would.chanceSound)
          : COHORT.wrong}
      </p>
    </section>
  );
}
