import { useState } from 'react';
import { FromAbove } from '#charts/FromAbove.tsx';
import { GuideSectionPicture } from '#charts/GuideSection.tsx';
import { writeAsOwn } from '#components/writing.ts';
import type { PlanView } from '#contract/plan.ts';
import { placesOf } from '#core/plan/places.ts';
import { CAUTIONS, PLAN } from '#words/plan.ts';
import { Choices } from './Choices.tsx';
import { Dry } from './Dry.tsx';
import { StepCard } from './StepCard.tsx';

writeAsOwn();

/** The plan of an exercise: its steps with cutter and depth, where they cut, what may go wrong; sections of its guide; the dry run. */
export function Plan({ view }: { readonly view: PlanView }) {
  const { plan, guide, exercise } = view;
  const [open, setOpen] = useState<number | null>(plan.steps[0]?.number ?? null);
  const [section, setSection] = useState(0);
  const numbers = plan.steps.flatMap((s) => placesOf(s, guide, plan).map((at) => ({ number: s.number, at })));
  const cut = guide.sections[section];
  const link = (what: string): string => `/api/exercises/${encodeURIComponent(exercise.id)}/${what}`;
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <h1 className="text-xl font-bold">
          {PLAN.title}: {exercise.title}
        </h1>
        <span className="ml-auto flex gap-3">
          <a className="text-accent underline" href={link('plan?as=pdf')}>
            {PLAN.card}
          </a>
          <a className="text-accent underline" href={link('plan?as=pdf&paper=letter')}>
            {PLAN.letter}
          </a>
        </span>
        <p className="w-full text-soft">{PLAN.lead(view.standard)}</p>
      </div>
      <div className="grid items-start gap-3 min-[900px]:grid-cols-[1.25fr_1fr]">
        <ol className="panel">
          {plan.steps.map((s) => (
            <StepCard
              key={s.number}
              step={s}
              cutter={view.cutters.find((c) => c.id === s.cutter) ?? null}
              check={view.checks.find((c) => c.step === s.scan) ?? null}
              open={open === s.number}
              onOpen={() => setOpen(open === s.number ? null : s.number)}
            />
          ))}
        </ol>
        <div className="grid gap-3 min-[900px]:sticky min-[900px]:top-2">
          <section className="panel p-3">
            <div className="mx-auto max-w-80">
              <FromAbove guide={guide} numbers={numbers} current={open} label={PLAN.legend} />
            </div>
            <p className="text-center text-[13px] text-soft">{PLAN.legend}</p>
          </section>
          {cut && (
            <section className="panel p-3" aria-label={PLAN.guide}>
              <div className="flex flex-wrap items-center gap-2">
                <h2 className="font-bold">{PLAN.guide}</h2>
                <select
                  className="field !w-auto"
                  aria-label={PLAN.guide}
                  value={section}
                  onChange={(e) => setSection(Number(e.target.value))}
                >
                  {guide.sections.map((g, i) => (
                    <option key={g.plane.name} value={i}>
                      {g.plane.name}
                    </option>
                  ))}
                </select>
                <span className="ml-auto flex flex-wrap gap-3">
                  <a className="text-accent underline" href={link('guide?as=pdf')}>
                    {PLAN.guidePdf}
                  </a>
                  {(['svg', 'dxf'] as const).map((k) => (
                    <a key={k} className="text-accent underline" href={link(`guide?as=${k}&plane=${section}`)}>
                      {k.toUpperCase()}
                    </a>
                  ))}
                  <a className="text-accent underline" href={link(`guide?as=stl&plane=${section}`)}>
                    {PLAN.guideBody}
                  </a>
                </span>
              </div>
              <GuideSectionPicture section={cut} label={`${PLAN.guide}, ${cut.plane.name}`} />
              <p className="text-[13px] text-soft">{PLAN.guideNote}</p>
            </section>
          )}
          {plan.tilt.length > 0 && (
            <section className="panel p-3">
              <h2 className="font-bold">{PLAN.room}</h2>
              <table className="w-full text-left">
                <thead>
                  <tr className="text-soft">
                    {PLAN.roomColumns.map((c) => (
                      <th key={c} className="font-normal">
                        {c}
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody className="figure">
                  {plan.tilt.map((t) => (
                    <tr key={t.side} className="border-t border-line">
                      <th scope="row" className="font-normal">
                        {t.side}
                      </th>
                      <td>{PLAN.degrees(t.byTooth.toUndercut)}</td>
                      <td>{t.byTooth.toOver === null ? '–' : PLAN.degrees(t.byTooth.toOver)}</td>
                      <td className={t.byArch.toUndercut < 0 ? 'font-semibold text-bad' : ''}>{PLAN.degrees(t.byArch.toUndercut)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </section>
          )}
        </div>
      </div>
      {view.stops.length > 0 && <Dry view={view} />}
      {view.mayChoose && <Choices exercise={exercise.id} choices={plan.choices} />}
      <section className="panel p-3 text-[13px] text-soft">
        <p>{PLAN.hand(plan.hand)}</p>
        <ul className="list-disc pl-5">
          {CAUTIONS.map((c) => (
            <li key={c}>{c}</li>
          ))}
        </ul>
      </section>
    </div>
  );
}
