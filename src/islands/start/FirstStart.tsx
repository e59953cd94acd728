import { valibotResolver } from '@hookform/resolvers/valibot';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { call } from '#components/call.ts';
import { Field } from '#components/form/Field.tsx';
import { FirstForm } from '#contract/course.ts';
import { COURSE_WORDS, START_WORDS } from '#words/course.ts';
import { signIn } from './sign-in.ts';

/** The first page of an empty installation: school, course and the director’s own account. */
export function FirstStart({ token }: { readonly token: string }) {
  const form = useForm<FirstForm>({ resolver: valibotResolver(FirstForm) });
  const [error, setError] = useState<string | null>(null);
  const begin = form.handleSubmit(async (f) => {
    setError(null);
    try {
      const { signIn: name } = await call<{ signIn: string }>('/api/first-start', { token, ...f });
      await signIn(name, f.password);
    } catch (e) {
      setError((e as Error).message);
    }
  });
  return (
    <form className="panel grid w-full max-w-lg gap-3 p-6" onSubmit={(e) => void begin(e)} noValidate>
      <h1 className="text-2xl font-bold text-accent">Veritor</h1>
      <p>{START_WORDS.lead}</p>
      <Field form={form} name="school" label={START_WORDS.school} autoFocus />
      <div className="grid gap-3 min-[500px]:grid-cols-2">
        <Field form={form} name="course" label={COURSE_WORDS.name} />
        <Field form={form} name="term" label={COURSE_WORDS.termField} />
        <Field form={form} name="name" label={START_WORDS.you} autoComplete="name" />
        <Field form={form} name="signIn" label={START_WORDS.signIn} autoComplete="username" autoCapitalize="none" />
      </div>
      <Field
        form={form}
        name="password"
        label={START_WORDS.password}
        type="password"
        autoComplete="new-password"
        hint={START_WORDS.passwordHint}
      />
      {error && (
        <p role="alert" className="border-l-4 border-bad pl-2">
          {error}
        </p>
      )}
      <button type="submit" className="act" disabled={form.formState.isSubmitting}>
        {START_WORDS.go}
      </button>
    </form>
  );
}
