import { CutterPicture } from '#charts/Cutter.tsx';
import type { StepCheck } from '#contract/course.ts';
import type { CutterItem } from '#contract/kit.ts';
import { titleOf, unitOf } from '#core/catalogue/catalogue.ts';
import { STEPS } from '#core/catalogue/terms.ts';
import type { PlannedStep } from '#core/plan/plan.ts';
import { cutterWords } from '#words/kit.ts';
import { expectedWords, howWords, PLAN, warningWords } from '#words/plan.ts';
import { bandWords, readingWords, sentence } from '#words/readings.ts';
import { STEP_WORDS } from '#words/steps.ts';

interface Props {
  readonly step: PlannedStep;
  readonly cutter: CutterItem | null;
  readonly check: StepCheck | null;
  readonly open: boolean;
  readonly onOpen: () => void;
}

/** One step of the plan: how it is cut at a glance, the rest when it is opened. */
export function StepCard({ step: s, cutter, check, open, onOpen }: Props) {
  const words = STEP_WORDS[s.id];
  const final = [...new Set(s.readings.filter((r) => r.isFinal).map((r) => titleOf(r.reading)))];
  return (
    <li className="border-b border-line last:border-0" data-step={s.id}>
      <button type="button" className="flex w-full items-start gap-3 p-2 text-left hover:bg-wash/60" aria-expanded={open} onClick={onOpen}>
        <span className="figure grid h-6 w-6 shrink-0 place-items-center rounded-full bg-[#4d5b63] text-white">{s.number}</span>
        <span className="flex-1">
          <span className="font-semibold">{words.title}</span>
          <span className="block text-soft">{howWords(s, cutter)}</span>
        </span>
        {s.warnings.length > 0 && <span className="rounded-sm bg-wash px-1.5 text-[13px] font-semibold">{PLAN.warn}</span>}
      </button>
      {open && (
        <div className="grid gap-2 px-3 pb-3 pl-11">
          <p>{words.what}</p>
          {cutter && (
            <div className="flex flex-wrap items-center gap-3">
              <CutterPicture cutter={cutter} label={cutterWords(cutter)} />
              <span className="flex-1 text-[13px] text-soft">{cutterWords(cutter)}</span>
            </div>
          )}
          {s.warnings.map((w) => (
            <p key={w.kind} className="border-l-4 border-over pl-2">
              {warningWords(w)}
            </p>
          ))}
          {s.readings.length > 0 && (
            <div>
              <h2 className="font-semibold">{PLAN.expected}</h2>
              <ul>
                {s.readings.map((r) => (
                  <li key={`${r.reading}${r.zone}${r.stat}`} className="flex flex-wrap justify-between gap-x-3 border-t border-line py-0.5">
                    <span>{expectedWords(r)}</span>
                    <span className="text-[13px] text-soft">
                      {bandWords(r.band.lo, r.band.hi, r.unit)}; {PLAN.inside(r.inside)}
                    </span>
                  </li>
                ))}
              </ul>
            </div>
          )}
          {s.left > 0 && <p className="text-soft">{PLAN.left(s.left)}.</p>}
          {s.gauge && <p>{sentence(PLAN.gauge(s.gauge.passes, s.gauge.stops))}</p>}
          {s.watches.length > 0 && (
            <p className="text-soft">
              {PLAN.watch}:{' '}
              {s.watches
                .map((w) => `${readingWords(w.reading, w.zone, w.stat)} (${bandWords(w.band.lo, w.band.hi, unitOf(w.reading, w.stat))})`)
                .join('; ')}
              .
            </p>
          )}
          {check?.check && <p className="text-soft">{check.check}</p>}
          <p>
            <strong>{PLAN.stop}:</strong> {words.stop}
          </p>
          {final.length > 0 && (
            <p className="text-soft">
              {PLAN.final}: {final.join(', ')}.
            </p>
          )}
          {s.canDamage.length > 0 && (
            <p className="text-soft">
              {PLAN.damage}: {s.canDamage.join(', ')}.
            </p>
          )}
          {s.scan && (
            <p className="text-soft">
              {PLAN.scanAfter}: {STEPS[s.scan]}.
            </p>
          )}
        </div>
      )}
    </li>
  );
}
