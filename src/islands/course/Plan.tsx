import { valibotResolver } from '@hookform/resolvers/valibot';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { call } from '#components/call.ts';
import { Choice, Field } from '#components/form/Field.tsx';
import { Problem } from '#components/Problem.tsx';
import { type CourseView, ExerciseForm, type ExerciseView, SittingForm, type SittingView } from '#contract/course.ts';
import { COURSE_WORDS } from '#words/course.ts';
import { dayWords, toothWords } from '#words/writing.ts';
import { ExerciseEditor } from './ExerciseEditor.tsx';
import { SittingWho } from './SittingWho.tsx';

interface Props {
  readonly view: CourseView;
  readonly mayKeep: boolean;
  readonly onChange: (said: string) => void;
}

/** Exercises and the sittings in which they are done, in the order of days. */
export function Plan({ view, mayKeep, onChange }: Props) {
  const [changing, setChanging] = useState<SittingView | null>(null);
  const [who, setWho] = useState<SittingView | null>(null);
  const [doing, setDoing] = useState<ExerciseView | null>(null);
  return (
    <div className="grid items-start gap-4 min-[1000px]:grid-cols-[1fr_400px]">
      <div className="grid min-w-0 gap-4">
        <section className="panel p-4" aria-label={COURSE_WORDS.sittings}>
          <div className="mb-2 flex items-baseline justify-between">
            <h2 className="text-base font-bold">{COURSE_WORDS.sittings}</h2>
            <a className="text-accent underline" href="/api/calendar">
              {COURSE_WORDS.calendar}
            </a>
          </div>
          {view.sittings.length === 0 && <p className="text-soft">{COURSE_WORDS.nothing}</p>}
          <ul className="grid">
            {view.sittings.map((s) => (
              <li key={s.id} className="flex flex-wrap items-baseline gap-x-3 border-t border-line py-1">
                <span className="w-36">{dayWords(s.held_on, 'long')}</span>
                {s.starts_at && <span className="figure text-soft">{`${s.starts_at}${s.ends_at ? ` to ${s.ends_at}` : ''}`}</span>}
                <span className="min-w-40 flex-1">
                  {s.exercise_title}: {s.title}
                  {s.is_resit && `, ${COURSE_WORDS.resit.toLowerCase()}`}
                  {s.room && <span className="text-soft">, {s.room}</span>}
                  {(s.graders.length > 0 || s.absent > 0) && (
                    <span className="text-soft">{` (${[...s.graders, ...(s.absent ? [COURSE_WORDS.absentCount(s.absent)] : [])].join(', ')})`}</span>
                  )}
                </span>
                <span className="text-soft">{COURSE_WORDS.counts(s.attempts, s.signed)}</span>
                <a className="text-accent underline" href={`/tray/${s.id}`}>
                  {COURSE_WORDS.toTray}
                </a>
                {mayKeep && (
                  <button
                    type="button"
                    className="quiet !min-h-7"
                    aria-label={`${COURSE_WORDS.change}, ${s.title}`}
                    onClick={() => {
                      setDoing(null);
                      setChanging(s);
                    }}
                  >
                    {COURSE_WORDS.change}
                  </button>
                )}
                {mayKeep && (
                  <button type="button" className="quiet !min-h-7" aria-label={`${COURSE_WORDS.who}, ${s.title}`} onClick={() => setWho(s)}>
                    {COURSE_WORDS.who}
                  </button>
                )}
              </li>
            ))}
          </ul>
        </section>
        <section className="panel relative overflow-x-auto p-4" aria-label={COURSE_WORDS.exercises}>
          <h2 className="mb-2 text-base font-bold">{COURSE_WORDS.exercises}</h2>
          {view.exercises.length === 0 && <p className="text-soft">{COURSE_WORDS.nothing}</p>}
          <table className="w-full">
            <tbody>
              {view.exercises.map((e) => (
                <tr key={e.id} className="border-t border-line">
                  <td className="py-1 pr-2">{e.title}</td>
                  <td className="figure py-1 pr-2">{toothWords(e.tooth)}</td>
                  <td className="py-1 pr-2">{e.kind}</td>
                  <td className="py-1 pr-2">
                    <a className="text-accent underline" href={`/courses/${view.id}/rubrics/${e.rubric_id}`}>
                      {e.rubric}
                    </a>{' '}
                    <span className="text-soft">version {e.rubric_version}</span>
                  </td>
                  <td className="py-1 pr-2 text-soft">{e.master}</td>
                  <td className="whitespace-nowrap py-1 pr-2">
                    <a className="text-accent underline" href={`/plan/${encodeURIComponent(e.id)}`}>
                      {COURSE_WORDS.stepsOf(e.steps.length)}
                    </a>
                  </td>
                  <td className="figure whitespace-nowrap py-1 pr-2 text-right">{e.minutes ? `${e.minutes} min` : ''}</td>
                  {mayKeep && (
                    <td className="py-1 text-right">
                      <button
                        type="button"
                        className="quiet !min-h-7"
                        aria-label={`${COURSE_WORDS.change}, ${e.title}`}
                        onClick={() => setDoing(e)}
                      >
                        {COURSE_WORDS.change}
                      </button>
                    </td>
                  )}
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      </div>
      {mayKeep && (
        <div className="grid gap-4 min-[1000px]:sticky min-[1000px]:top-2 min-[1000px]:max-h-[97vh] min-[1000px]:overflow-y-auto">
          {doing ? (
            <ExerciseEditor
              key={doing.id}
              course={view.id}
              old={doing}
              exercises={view.exercises}
              onDone={onChange}
              onCancel={() => setDoing(null)}
            />
          ) : (
            <SittingEditor key={changing?.id ?? 'new'} view={view} old={changing} onDone={onChange} onCancel={() => setChanging(null)} />
          )}
          {!doing && !changing && <NewExercise view={view} onDone={onChange} />}
        </div>
      )}
      {who && <SittingWho key={who.id} view={view} sitting={who} onDone={onChange} onClose={() => setWho(null)} />}
    </div>
  );
}

function SittingEditor({
  view,
  old,
  onDone,
  onCancel,
}: {
  view: CourseView;
  old: SittingView | null;
  onDone: (said: string) => void;
  onCancel: () => void;
}) {
  const form = useForm<SittingForm>({
    resolver: valibotResolver(SittingForm) as never,
    defaultValues: old
      ? {
          exercise: old.exercise_id,
          title: old.title,
          heldOn: old.held_on,
          startsAt: old.starts_at ?? '',
          endsAt: old.ends_at ?? '',
          room: old.room ?? '',
          isResit: old.is_resit,
        }
      : { exercise: view.exercises[0]?.id ?? '', title: '', heldOn: '', startsAt: '', endsAt: '', room: '', isResit: false },
  });
  const [error, setError] = useState<string | null>(null);
  const keep = form.handleSubmit(async (f) => {
    setError(null);
    try {
      await call(old ? `/api/sittings/${old.id}` : `/api/courses/${view.id}/sittings`, f);
      form.reset();
      onDone(COURSE_WORDS.done);
      onCancel();
    } catch (e) {
      setError((e as Error).message);
    }
  });
  return (
    <form
      className="panel grid gap-3 p-4"
      onSubmit={(e) => void keep(e)}
      noValidate
      aria-label={old ? COURSE_WORDS.change : COURSE_WORDS.addSitting}
    >
      <h2 className="text-base font-bold">{old ? `${COURSE_WORDS.change}: ${old.title}` : COURSE_WORDS.addSitting}</h2>
      <Choice
        form={form}
        name="exercise"
        label={COURSE_WORDS.exercise}
        options={view.exercises.map((e) => ({ value: e.id, text: e.title }))}
      />
      <Field form={form} name="title" label={COURSE_WORDS.sittingTitle} />
      <Field form={form} name="heldOn" label={COURSE_WORDS.heldOn} type="date" />
      <div className="grid grid-cols-2 gap-2">
        <Field form={form} name="startsAt" label={COURSE_WORDS.startsAt} type="time" />
        <Field form={form} name="endsAt" label={COURSE_WORDS.endsAt} type="time" />
      </div>
      <div className="flex items-end gap-3">
        <div className="flex-1">
          <Field form={form} name="room" label={COURSE_WORDS.room} />
        </div>
        <label className="flex min-h-9 items-center gap-2">
          <input type="checkbox" className="size-4" {...form.register('isResit')} />
          {COURSE_WORDS.resit}
        </label>
      </div>
      <Problem text={error} />
      <div className="flex gap-2">
        <button type="submit" className="act" disabled={form.formState.isSubmitting || view.exercises.length === 0}>
          {old ? COURSE_WORDS.save : COURSE_WORDS.addSitting}
        </button>
        {old && (
          <button type="button" className="quiet" onClick={onCancel}>
            {COURSE_WORDS.cancel}
          </button>
        )}
      </div>
    </form>
  );
}

function NewExercise({ view, onDone }: { view: CourseView; onDone: (said: string) => void }) {
  const form = useForm<ExerciseForm>({
    resolver: valibotResolver(ExerciseForm) as never,
    defaultValues: { title: '', master: '', rubric: '', minutes: null },
  });
  const [error, setError] = useState<string | null>(null);
  const keep = form.handleSubmit(async (f) => {
    setError(null);
    try {
      await call(`/api/courses/${view.id}/exercises`, f);
      form.reset();
      onDone(COURSE_WORDS.done);
    } catch (e) {
      setError((e as Error).message);
    }
  });
  if (view.masters.length === 0)
    return (
      <section className="panel p-4">
        <p>
          {COURSE_WORDS.noMaster}{' '}
          <a className="text-accent underline" href="/masters">
            {COURSE_WORDS.toMasters}
          </a>
        </p>
      </section>
    );
  return (
    <form className="panel grid gap-3 p-4" onSubmit={(e) => void keep(e)} noValidate aria-label={COURSE_WORDS.addExercise}>
      <h2 className="text-base font-bold">{COURSE_WORDS.addExercise}</h2>
      <Field form={form} name="title" label={COURSE_WORDS.exerciseTitle} />
      <Choice
        form={form}
        name="master"
        label={COURSE_WORDS.master}
        options={view.masters.map((m) => ({ value: m.id, text: `${toothWords(m.tooth)}: ${m.name}` }))}
      />
      <Choice
        form={form}
        name="rubric"
        label={COURSE_WORDS.rubric}
        options={view.rubrics.map((r) => ({ value: r.id, text: `${r.name} (${r.kind})` }))}
      />
      <Field form={form} name="minutes" label={COURSE_WORDS.minutes} type="number" min={5} max={600} />
      <Problem text={error} />
      <button type="submit" className="act w-fit" disabled={form.formState.isSubmitting}>
        {COURSE_WORDS.addExercise}
      </button>
    </form>
  );
}
