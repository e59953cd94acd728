import type { InputHTMLAttributes } from 'react';
import { type FieldValues, get, type Path, type UseFormReturn } from 'react-hook-form';

interface Props<T extends FieldValues> extends Omit<InputHTMLAttributes<HTMLInputElement>, 'name' | 'form'> {
  readonly form: UseFormReturn<T>;
  readonly name: Path<T>;
  readonly label: string;
  readonly hint?: string;
}

/** A labelled field; what is wrong with it stands under it and is read out. */
export function Field<T extends FieldValues>({ form, name, label, hint, className, ...input }: Props<T>) {
  const fault = (get(form.formState.errors, name) as { message?: string } | undefined)?.message;
  const about = fault || hint ? `${name}-about` : undefined;
  return (
    <label className="grid content-start gap-1">
      {label}
      <input
        className={`field ${className ?? ''}`}
        aria-invalid={fault ? true : undefined}
        aria-describedby={about}
        {...input}
        {...form.register(name, input.type === 'number' ? { setValueAs: (v) => (v === '' || v === null ? null : Number(v)) } : {})}
      />
      {(fault || hint) && (
        <span id={about} className={fault ? 'text-bad' : 'text-soft'}>
          {fault ?? hint}
        </span>
      )}
    </label>
  );
}

interface ChoiceProps<T extends FieldValues> {
  readonly form: UseFormReturn<T>;
  readonly name: Path<T>;
  readonly label: string;
  readonly options: readonly { readonly value: string; readonly text: string }[];
}

/** A labelled choice of one. */
export function Choice<T extends FieldValues>({ form, name, label, options }: ChoiceProps<T>) {
  const fault = (get(form.formState.errors, name) as { message?: string } | undefined)?.message;
  return (
    <label className="grid content-start gap-1">
      {label}
      <select className="field" aria-invalid={fault ? true : undefined} {...form.register(name)}>
        <option value="">…</option>
        {options.map((o) => (
          <option key={o.value} value={o.value}>
            {o.text}
          </option>
        ))}
      </select>
      {fault && <span className="text-bad">{fault}</span>}
    </label>
  );
}
