import { valibotResolver } from '@hookform/resolvers/valibot';
import { useEffect, useState } from 'react';
import { useForm } from 'react-hook-form';
import { call } from '#components/call.ts';
import { Field } from '#components/form/Field.tsx';
import { Problem } from '#components/Problem.tsx';
import { ExerciseChange, type ExerciseView } from '#contract/course.ts';
import type { KitView } from '#contract/kit.ts';
import { isUpper } from '#core/anatomy/anatomy.ts';
import { STEPS, type Step } from '#core/catalogue/terms.ts';
import { KINDS_WITH_PATH } from '#core/kinds/path.ts';
import { COURSE_WORDS } from '#words/course.ts';
import { toothWords } from '#words/writing.ts';

interface Props {
  readonly course: string;
  readonly old: ExerciseView;
  /** The course's exercises, one of which may be the other abutment. */
  readonly exercises: readonly ExerciseView[];
  readonly onDone: (said: string) => void;
  readonly onCancel: () => void;
}
const ORDER = Object.keys(STEPS) as Step[];

const hasPath = (e: ExerciseView): boolean => (KINDS_WITH_PATH as readonly string[]).includes(e.kind);

/** Exercises from before steps were kept have none; the finished work is always shown. */
const withFinal = (steps: ExerciseView['steps']): ExerciseView['steps'] =>
  steps.some((s) => s.step === 'final') ? [...steps] : [...steps, { step: 'final', check: '', needsWord: false }];

/** How an exercise is done: its time, the steps at which the work is shown with what is looked at there, and its cutters. */
export function ExerciseEditor({ course, old, exercises, onDone, onCancel }: Props) {
  const form = useForm<ExerciseChange>({
    resolver: valibotResolver(ExerciseChange) as never,
    defaultValues: {
      title: old.title,
      minutes: old.minutes,
      steps: withFinal(old.steps),
      cutters: [...old.cutters],
      abutment: old.abutment,
    },
  });
  const [cutters, setCutters] = useState<KitView['kit']['cutters']>([]);
  const [error, setError] = useState<string | null>(null);
  useEffect(() => {
    call<KitView>(`/api/courses/${course}/kit`).then(
      (k) => setCutters(k.kit.cutters),
      (e) => setError((e as Error).message),
    );
  }, [course]);
  const { steps, cutters: chosen } = form.watch();
  const wrong = form.formState.errors.steps;
  const keep = form.handleSubmit(async (f) => {
    setError(null);
    try {
      await call(`/api/exercises/${old.id}`, f);
      onDone(COURSE_WORDS.done);
      onCancel();
    } catch (e) {
      setError((e as Error).message);
    }
  });
  const change = (step: Step, next: Partial<ExerciseChange['steps'][number]> | null): void => {
    const rest = steps.filter((s) => s.step !== step);
    const own = steps.find((s) => s.step === step) ?? { step, check: '', needsWord: false };
    const list = next === null ? rest : [...rest, { ...own, ...next }];
    form.setValue(
      'steps',
      list.sort((a, b) => ORDER.indexOf(a.step) - ORDER.indexOf(b.step)),
      { shouldDirty: true },
    );
  };
  return (
    <form className="panel grid gap-3 p-4" onSubmit={(e) => void keep(e)} noValidate aria-label={`${COURSE_WORDS.change}: ${old.title}`}>
      <h2 className="text-base font-bold">{`${COURSE_WORDS.change}: ${old.title}`}</h2>
      <Field form={form} name="title" label={COURSE_WORDS.exerciseTitle} />
      <Field form={form} name="minutes" label={COURSE_WORDS.minutes} type="number" min={5} max={600} />
      <fieldset className="grid gap-2">
        <legend className="font-semibold">{COURSE_WORDS.stepsTitle}</legend>
        {ORDER.map((step) => {
          const own = steps.find((s) => s.step === step);
          return (
            <div key={step} className="grid gap-1 border-t border-line pt-1">
              <label className="flex min-h-8 items-center gap-2">
                <input
                  type="checkbox"
                  className="size-4"
                  checked={own !== undefined}
                  disabled={step === 'final'}
                  onChange={(e) => change(step, e.target.checked ? {} : null)}
                />
                {STEPS[step]}
              </label>
              {own && (
                <div className="grid gap-1 pl-6">
                  <input
                    className="field !min-h-8"
                    aria-label={`${COURSE_WORDS.stepCheck}, ${STEPS[step]}`}
                    placeholder={COURSE_WORDS.stepCheck}
                    maxLength={200}
                    value={own.check}
                    onChange={(e) => change(step, { check: e.target.value })}
                  />
                  {step !== 'final' && (
                    <label className="flex items-center gap-2 text-soft">
                      <input
                        type="checkbox"
                        className="size-4"
                        checked={own.needsWord}
                        onChange={(e) => change(step, { needsWord: e.target.checked })}
                      />
                      {COURSE_WORDS.needsWord}
                    </label>
                  )}
                </div>
              )}
            </div>
          );
        })}
        {wrong && <span className="text-bad">{String(wrong.message ?? wrong.root?.message)}</span>}
      </fieldset>
      <fieldset className="grid gap-1">
        <legend className="font-semibold">{COURSE_WORDS.cutters}</legend>
        {cutters.map((c) => (
          <label key={c.id} className="flex items-center gap-2">
            <input
              type="checkbox"
              className="size-4"
              checked={chosen.includes(c.id)}
              onChange={(e) => form.setValue('cutters', e.target.checked ? [...chosen, c.id] : chosen.filter((k) => k !== c.id))}
            />
            {c.name}
          </label>
        ))}
      </fieldset>
      {hasPath(old) && (
        <label className="grid gap-1">
          <span className="font-semibold">{COURSE_WORDS.abutment}</span>
          <select className="field" {...form.register('abutment', { setValueAs: (v: string) => v || null })}>
            <option value="">{COURSE_WORDS.noAbutment}</option>
            {exercises
              .filter((e) => hasPath(e) && e.tooth !== old.tooth && isUpper(e.tooth) === isUpper(old.tooth))
              .map((e) => (
                <option key={e.id} value={e.id}>
                  {`${e.title}, ${toothWords(e.tooth)}`}
                </option>
              ))}
          </select>
          <span className="text-soft">{COURSE_WORDS.abutmentNote}</span>
        </label>
      )}
      <Problem text={error} />
      <div className="flex gap-2">
        <button type="submit" className="act" disabled={form.formState.isSubmitting}>
          {COURSE_WORDS.save}
        </button>
        <button type="button" className="quiet" onClick={onCancel}>
          {COURSE_WORDS.cancel}
        </button>
      </div>
    </form>
  );
}
