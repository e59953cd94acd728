import { valibotResolver } from '@hookform/resolvers/valibot';
import { useCallback, useState } from 'react';
import { useForm } from 'react-hook-form';
import { call } from '#components/call.ts';
import { Field } from '#components/form/Field.tsx';
import { Problem } from '#components/Problem.tsx';
import { Tabs } from '#components/Tabs.tsx';
import { writeAsOwn } from '#components/writing.ts';
import { CopyForm, type CourseView } from '#contract/course.ts';
import { COURSE_WORDS } from '#words/course.ts';
import { Kit } from './Kit.tsx';
import { People } from './People.tsx';
import { Plan } from './Plan.tsx';

writeAsOwn();

const TABS = ['people', 'plan', 'kit', 'term'] as const;
type Tab = (typeof TABS)[number];
const TAB_WORDS: Readonly<Record<Tab, string>> = {
  people: COURSE_WORDS.people,
  plan: `${COURSE_WORDS.exercises} and ${COURSE_WORDS.sittings.toLowerCase()}`,
  kit: COURSE_WORDS.kit,
  term: COURSE_WORDS.term,
};
const tabOf = (): Tab => TABS.find((t) => window.location.hash === `#${t}`) ?? 'people';

/** A course and what it is made of. What is open stands in the address. */
export function Course({ first, mayKeep }: { readonly first: CourseView; readonly mayKeep: boolean }) {
  const [view, setView] = useState(first);
  const [tab, setTab] = useState<Tab>(tabOf);
  const [said, setSaid] = useState('');
  const reload = useCallback(
    async (what: string) => {
      setView(await call<CourseView>(`/api/courses/${first.id}`));
      setSaid(what);
    },
    [first.id],
  );
  return (
    <>
      <div className="mb-3 flex flex-wrap items-baseline gap-3">
        <h1 className="text-xl font-bold">{view.name}</h1>
        <span className="text-soft">{view.term}</span>
        <a className="text-accent underline" href={`/courses/${view.id}/gradebook`}>
          {COURSE_WORDS.gradebook}
        </a>
        <a className="text-accent underline" href={`/courses/${view.id}/cohort`}>
          {COURSE_WORDS.cohort}
        </a>
        <a className="text-accent underline" href={`/courses/${view.id}/standards`}>
          {COURSE_WORDS.standards}
        </a>
        <span className="ml-auto text-good" role="status">
          {said}
        </span>
      </div>
      <div className="mb-3 flex flex-wrap gap-1">
        <Tabs
          all={TABS.filter((t) => mayKeep || t !== 'term')}
          open={tab}
          words={(t) => TAB_WORDS[t]}
          onOpen={(t) => {
            setTab(t);
            window.history.replaceState(null, '', `#${t}`);
          }}
        />
      </div>
      {tab === 'people' && <People view={view} mayKeep={mayKeep} onChange={(s) => void reload(s)} />}
      {tab === 'plan' && <Plan view={view} mayKeep={mayKeep} onChange={(s) => void reload(s)} />}
      {tab === 'kit' && <Kit course={view.id} mayKeep={mayKeep} />}
      {tab === 'term' && <Copy view={view} />}
    </>
  );
}

function Copy({ view }: { view: CourseView }) {
  const form = useForm<CopyForm>({
    resolver: valibotResolver(CopyForm) as never,
    defaultValues: { name: view.name, term: '', startsOn: '', endsOn: '' },
  });
  const [done, setDone] = useState<{ id: string; exercises: number; sittings: number } | null>(null);
  const [error, setError] = useState<string | null>(null);
  const copy = form.handleSubmit(async (f) => {
    setError(null);
    try {
      setDone(await call(`/api/courses/${view.id}/copy`, f));
    } catch (e) {
      setError((e as Error).message);
    }
  });
  return (
    <form className="panel grid max-w-xl gap-3 p-4" onSubmit={(e) => void copy(e)} noValidate aria-label={COURSE_WORDS.copy}>
      <h2 className="text-base font-bold">{COURSE_WORDS.copy}</h2>
      <p className="text-soft">{COURSE_WORDS.copyLead}</p>
      <div className="grid gap-3 min-[500px]:grid-cols-2">
        <Field form={form} name="name" label={COURSE_WORDS.name} />
        <Field form={form} name="term" label={COURSE_WORDS.termField} />
        <Field form={form} name="startsOn" label={COURSE_WORDS.startsOn} type="date" />
        <Field form={form} name="endsOn" label={COURSE_WORDS.endsOn} type="date" />
      </div>
      <Problem text={error} />
      <button type="submit" className="act w-fit" disabled={form.formState.isSubmitting || done !== null}>
        {COURSE_WORDS.copy}
      </button>
      {done && (
        <p role="status">
          {COURSE_WORDS.copied(done.exercises, done.sittings)}{' '}
          <a className="text-accent underline" href={`/courses/${done.id}#plan`}>
            {form.getValues('term')}
          </a>
        </p>
      )}
    </form>
  );
}
