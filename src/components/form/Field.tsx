import { type InputHTMLAttributes, type ReactNode, useId } from 'react';
import { type FieldValues, get, type Path, type UseFormReturn, useFormState } from 'react-hook-form';

interface Labelled<T extends FieldValues> {
  readonly form: UseFormReturn<T>;
  readonly name: Path<T>;
  readonly label: string;
}
interface Props<T extends FieldValues> extends Omit<InputHTMLAttributes<HTMLInputElement>, 'name' | 'form'>, Labelled<T> {
  readonly hint?: string;
}

interface Described {
  readonly id: string;
  readonly 'aria-invalid': true | undefined;
  readonly 'aria-describedby': string | undefined;
}

/** A label over its control, and under it what is wrong with it or worth knowing. */
function Frame<T extends FieldValues>({
  form,
  name,
  label,
  hint,
  children,
}: Labelled<T> & { hint?: string | undefined; children: (d: Described) => ReactNode }) {
  const id = useId();
  const { errors } = useFormState({ control: form.control, name });
  const fault = (get(errors, name) as { message?: string } | undefined)?.message;
  const about = fault || hint ? `${id}-about` : undefined;
  return (
    <div className="grid content-start gap-1">
      <label htmlFor={id}>{label}</label>
      {children({ id, 'aria-invalid': fault ? true : undefined, 'aria-describedby': about })}
      {about && (
        <span id={about} className={fault ? 'text-bad' : 'text-soft'}>
          {fault ?? hint}
        </span>
      )}
    </div>
  );
}

/** A labelled field; what is wrong with it stands under it and is read out. */
export function Field<T extends FieldValues>({ form, name, label, hint, className, ...input }: Props<T>) {
  const options = input.type === 'number' ? { setValueAs: (v: unknown) => (v === '' || v === null ? null : Number(v)) } : {};
  return (
    <Frame form={form} name={name} label={label} hint={hint}>
      {(d) => <input className={`field ${className ?? ''}`} {...input} {...d} {...form.register(name, options)} />}
    </Frame>
  );
}

/** A labelled choice of one. */
export function Choice<T extends FieldValues>({
  options,
  ...labelled
}: Labelled<T> & { readonly options: readonly { readonly value: string; readonly text: string }[] }) {
  return (
    <Frame {...labelled}>
      {(d) => (
        <select className="field" {...d} {...labelled.form.register(labelled.name)}>
          <option value="">…</option>
          {options.map((o) => (
            <option key={o.value} value={o.value}>
              {o.text}
            </option>
          ))}
        </select>
      )}
    </Frame>
  );
}
