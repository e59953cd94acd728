import { useState } from 'react';
import { SkillChart } from '#charts/SkillChart.tsx';
import { useOwnWriting } from '#components/writing.ts';
import type { ProgressView } from '#contract/progress-view.ts';
import type { TrailView } from '#contract/trail-view.ts';
import type { SelfView } from '#contract/work.ts';
import { PROGRESS, stateWords } from '#words/progress.ts';
import { minutesWords, TRAIL } from '#words/trail.ts';
import { selfWords } from '#words/work.ts';
import { Attempts } from './Attempts.tsx';
import { First } from './First.tsx';
import { Full } from './Full.tsx';
import { Habits } from './Habits.tsx';
import { Practice } from './Practice.tsx';
import { trendWords } from './state.ts';

interface Props {
  readonly view: TrailView;
  readonly progress: ProgressView;
  readonly self: SelfView;
  readonly own: boolean;
}

export function Trail(props: Props) {
  return <Written key={useOwnWriting()} {...props} />;
}

const STATE_LOOK = { mastered: 'text-good', 'lost again': 'text-bad', 'not yet': 'text-soft' } as const;

/** Attempts from which a skill has a card of its own at once. */
const OFTEN = 3;

/** A student's history: what to look at first, what to practise, what returns where, every skill, every attempt. */
function Written({ view, progress, self, own }: Props) {
  const [open, setOpen] = useState<string | null>(null);
  const often = progress.skills.filter((s) => s.points.length >= OFTEN);
  const rare = progress.skills.filter((s) => s.points.length < OFTEN);
  const skill = progress.skills.find((s) => s.key === open) ?? null;
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-baseline gap-3">
        <h1 className="text-xl font-bold">{own ? TRAIL.own : view.student.name}</h1>
        <span className="figure text-soft">
          {view.student.id} {view.student.bench}
        </span>
        <span className="text-soft">{trendWords(view.attempts.map((a) => a.total))}</span>
        {view.attempts.length > 0 && (
          <a className="text-accent underline" href={`/api/students/${view.student.id}/report`}>
            {TRAIL.term}
          </a>
        )}
      </div>
      {view.attempts.length === 0 ? (
        <p className="panel p-6 text-center text-soft">{own ? TRAIL.nothingOwn : TRAIL.nothing}</p>
      ) : (
        <>
          <div className="grid gap-3 min-[900px]:grid-cols-3">
            <First progress={progress} own={own} />
            <Practice progress={progress} />
            <Habits progress={progress} attempts={view.attempts} />
          </div>
          <section className="panel p-3" aria-label={TRAIL.self}>
            <h2 className="font-semibold">{TRAIL.self}</h2>
            {selfWords(self, own).map((s) => (
              <p key={s} className={self.levels ? '' : 'text-soft'}>
                {s}
              </p>
            ))}
            <p className="text-soft">{minutesWords(view.attempts.map((a) => a.minutes))}</p>
          </section>
          <section className="panel p-3" aria-label={PROGRESS.skills}>
            <h2 className="font-semibold">{PROGRESS.skills}</h2>
            <p className="mb-2 text-soft">{PROGRESS.skillsLead}</p>
            {skill && <Full skill={skill} limits={progress.limits} own={own} onClose={() => setOpen(null)} />}
            <Cards skills={often} open={open} onOpen={setOpen} />
            {rare.length > 0 && (
              <details className="mt-2" open={often.length === 0}>
                <summary className="cursor-pointer text-soft">{PROGRESS.rare(rare.length)}</summary>
                <Cards skills={rare} open={open} onOpen={setOpen} />
              </details>
            )}
          </section>
          <Attempts view={view} />
        </>
      )}
    </div>
  );
}

interface CardsProps {
  readonly skills: ProgressView['skills'];
  readonly open: string | null;
  readonly onOpen: (key: string | null) => void;
}

/** Small multiples: a card a skill, each opening it in full. */
function Cards({ skills, open, onOpen }: CardsProps) {
  return (
    <ul className="grid gap-2 min-[520px]:grid-cols-2 min-[900px]:grid-cols-4">
      {skills.map((s) => {
        const state = stateWords(s);
        return (
          <li key={s.key}>
            <button
              type="button"
              className="grid w-full gap-1 rounded-sm border border-line p-2 text-left hover:border-accent aria-expanded:border-accent aria-expanded:bg-wash/40"
              aria-expanded={open === s.key}
              onClick={() => onOpen(open === s.key ? null : s.key)}
              data-skill={s.key}
            >
              <span className="truncate font-semibold">{s.title}</span>
              <SkillChart points={s.points} width={250} height={64} label={`${s.title}: ${s.points.length}`} />
              <span className="flex justify-between text-[13px]">
                <span className={STATE_LOOK[state as keyof typeof STATE_LOOK]}>{state}</span>
                <span className="figure text-soft">{s.points.length}</span>
              </span>
            </button>
          </li>
        );
      })}
    </ul>
  );
}
