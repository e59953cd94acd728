import { HabitRing } from '#charts/HabitRing.tsx';
import type { ProgressView } from '#contract/progress-view.ts';
import type { TrailAttempt } from '#contract/trail-view.ts';
import { allRoundWords, chanceWords, habitWords, PROGRESS, sideAt } from '#words/progress.ts';
import { OnTooth } from './OnTooth.tsx';

/** Where round the tooth the same error returns; with its chance, and apart from what everyone does. */
export function Habits({ progress, attempts }: { readonly progress: ProgressView; readonly attempts: readonly TrailAttempt[] }) {
  /** The last preparation on which it was read. */
  const shownOn = (reading: string): TrailAttempt | null =>
    attempts.filter((a) => a.isScanned && a.record.criteria.some((c) => c.reading === reading)).at(-1) ?? null;
  const told = progress.habits.filter((h) => h.isTold).slice(0, 2);
  const everyones = progress.habits.flatMap((h) => (h.everyones === null ? [] : [`${h.title.toLowerCase()}, ${sideAt(h.everyones)}`]));
  return (
    <section className="panel p-3" aria-label={PROGRESS.habits}>
      <h2 className="mb-2 font-semibold">{PROGRESS.habits}</h2>
      {progress.habits.length === 0 ? (
        <p className="text-soft">{PROGRESS.fewForHabits}</p>
      ) : (
        told.length + progress.allRound.length === 0 && <p className="text-soft">{PROGRESS.noHabits}</p>
      )}
      {progress.allRound.map((a) => (
        <p key={a.reading} className="border-b border-line py-1 last:border-0">
          {allRoundWords(a)} <span className="text-soft">{chanceWords(a)}</span>
        </p>
      ))}
      {told.map((h) => (
        <figure key={h.reading} className="flex flex-wrap items-center gap-2 border-b border-line py-1 last:border-0">
          <HabitRing mean={h.own.mean} limit={h.own.limit} from={h.own.from} to={h.own.to} label={habitWords(h)} />
          <figcaption className="min-w-40 flex-1">
            {habitWords(h)} <span className="text-soft">{chanceWords(h)}</span>
          </figcaption>
          <OnTooth habit={h} attempt={shownOn(h.reading)} />
        </figure>
      ))}
      {everyones.length > 0 && <p className="mt-1 text-soft">{PROGRESS.everyones(everyones)}</p>}
    </section>
  );
}
