import { EvidenceChart, SkillChart } from '#charts/SkillChart.tsx';
import type { ProgressView, SkillView } from '#contract/progress-view.ts';
import { distanceWords, lawWords, levelWords, neededWords, PROGRESS } from '#words/progress.ts';
import { bandWords, digitsOf, unitWords, valueWords } from '#words/readings.ts';

interface Props {
  readonly skill: SkillView;
  readonly limits: ProgressView['limits'];
  readonly own: boolean;
  readonly onClose: () => void;
}

/** One skill in full: its curve, what can be said of it and what cannot yet, the evidence of mastery, and the attempts as a table. */
export function Full({ skill: s, limits, onClose }: Props) {
  const unit = s.unit ?? '';
  const said = [levelWords(s), distanceWords(s), lawWords(s), neededWords(s)].filter((t): t is string => t !== null && t !== '');
  return (
    <section className="mb-3 grid gap-3 border border-accent p-3 min-[900px]:grid-cols-[3fr_2fr]" aria-label={s.title} data-full>
      <div>
        <div className="flex items-baseline justify-between">
          <h3 className="font-semibold">
            {s.title} <span className="text-soft">{unitWords(unit)}</span>
          </h3>
          <button type="button" className="quiet !min-h-7" onClick={onClose}>
            {PROGRESS.close}
          </button>
        </div>
        <SkillChart
          points={s.points}
          width={720}
          height={240}
          label={`${s.title}: ${said.join(' ')}`}
          digits={s.unit ? digitsOf(s.unit) : 0}
        />
        <ul className="mt-1 grid gap-0.5">
          {said.map((t) => (
            <li key={t}>{t}</li>
          ))}
        </ul>
      </div>
      <div className="grid content-start gap-2">
        <h3 className="font-semibold">{PROGRESS.evidence}</h3>
        <EvidenceChart heights={s.skill.competence.heights} limit={limits.h} label={neededWords(s)} />
        <p className="text-[13px] text-soft">{PROGRESS.evidenceLead(limits)}</p>
        <div className="max-h-60 overflow-auto">
          <table className="w-full text-[13px]">
            <thead>
              <tr className="text-left text-soft">
                {PROGRESS.table.map((t) => (
                  <th key={t} className="pr-2 font-normal">
                    {t}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {s.points.map((p, i) => (
                <tr key={p.attempt} className="border-t border-line">
                  <td className="figure py-0.5 pr-2">{i + 1}</td>
                  <td className="py-0.5 pr-2">
                    <a className="text-accent underline" href={`/bench/${p.attempt}`}>
                      {p.exercise}
                    </a>
                    {p.isRepeat && <span className="text-soft"> {PROGRESS.repeat}</span>}
                  </td>
                  <td className="figure whitespace-nowrap py-0.5 pr-2">{p.value === null ? '' : valueWords(p.value, p.U, unit)}</td>
                  <td className="figure whitespace-nowrap py-0.5 pr-2 text-soft">
                    {p.lo === null && p.hi === null ? '' : bandWords(p.lo, p.hi, 'none')}
                  </td>
                  <td className="py-0.5">{p.level === null ? '' : PROGRESS.levels[p.level]}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </div>
    </section>
  );
}
