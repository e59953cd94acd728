import { valibotResolver } from '@hookform/resolvers/valibot';
import { useState } from 'react';
import { type FieldValues, type UseFormReturn, useForm } from 'react-hook-form';
import type * as v from 'valibot';
import { CutterPicture } from '#charts/Cutter.tsx';
import { Choice, Field } from '#components/form/Field.tsx';
import { Problem } from '#components/Problem.tsx';
import { CutterItem, DrillItem, GaugeItem, type Kit, type KitList, PhraseItem } from '#contract/kit.ts';
import { CATALOGUE } from '#core/catalogue/catalogue.ts';
import { CUTTER_FORMS, CUTTER_TIPS } from '#core/plan/cutter.ts';
import { cutterWords, KIT_WORDS } from '#words/kit.ts';

type Item = Kit[KitList][number];
interface Props {
  readonly list: KitList;
  readonly item: Item | null;
  readonly freshId: string;
  readonly cutters: Kit['cutters'];
  readonly onKeep: (i: Item) => Promise<string | null>;
  readonly onCancel: () => void;
  readonly onRemove: () => void;
}

const SCHEMA: Readonly<Record<KitList, v.GenericSchema>> = {
  cutters: CutterItem,
  gauges: GaugeItem,
  phrases: PhraseItem,
  drills: DrillItem,
};
const EMPTY: Readonly<Record<KitList, FieldValues>> = {
  cutters: {
    name: '',
    form: 'taper',
    tip: 'round',
    cutsAtEnd: true,
    shank_mm: null,
    tip_mm: null,
    length_mm: null,
    grit: '',
    material: '',
    nominal: '',
    ring: '',
  },
  gauges: { name: '', method: 'gauge', steps_mm: [] },
  phrases: { about: '', side: '', body: '' },
  drills: { about: '', title: '', body: '', cutter: '', times: 4, check: '', minutes: 15 },
};
/** Beginnings of readings' names that something can be said of: whole families first. */
const ABOUT = [...new Set(CATALOGUE.filter((e) => !e.sized).flatMap((e) => [e.name.split('.')[0], e.name]))].sort();

/** The form of one item of a course's lists. */
export function KitForm({ list, item, freshId, cutters, onKeep, onCancel, onRemove }: Props) {
  const form = useForm<FieldValues>({
    resolver: valibotResolver(SCHEMA[list] as never) as never,
    defaultValues: item ?? { id: freshId, ...EMPTY[list] },
  });
  const [error, setError] = useState<string | null>(null);
  const keep = form.handleSubmit(async (f) => setError(await onKeep(f as Item)));
  const title = item
    ? `${KIT_WORDS.change}: ${'name' in item ? item.name : 'title' in item ? item.title : KIT_WORDS.one[list]}`
    : KIT_WORDS.add(KIT_WORDS.one[list]);
  return (
    <form
      className="panel grid gap-3 p-4 min-[1000px]:sticky min-[1000px]:top-2"
      onSubmit={(e) => void keep(e)}
      noValidate
      aria-label={title}
    >
      <h2 className="text-base font-bold">{title}</h2>
      {list === 'cutters' && <CutterFields form={form} />}
      {list === 'gauges' && <GaugeFields form={form} />}
      {list === 'phrases' && <PhraseFields form={form} />}
      {list === 'drills' && <DrillFields form={form} cutters={cutters} />}
      <Problem text={error} />
      <div className="flex gap-2">
        <button type="submit" className="act" disabled={form.formState.isSubmitting}>
          {KIT_WORDS.keep}
        </button>
        {item && (
          <>
            <button type="button" className="quiet" onClick={onCancel}>
              {KIT_WORDS.cancel}
            </button>
            <button type="button" className="quiet ml-auto" onClick={onRemove}>
              {KIT_WORDS.remove}
            </button>
          </>
        )}
      </div>
    </form>
  );
}

type Fields = { readonly form: UseFormReturn<FieldValues> };
const same = (values: readonly string[]) => values.map((value) => ({ value, text: value }));

function CutterFields({ form }: Fields) {
  const now = form.watch();
  const drawn =
    now.shank_mm > 0 && now.length_mm > 0 && now.tip_mm >= 0 && now.tip_mm !== null && CUTTER_FORMS.includes(now.form)
      ? (now as CutterItem)
      : null;
  return (
    <>
      <Field form={form} name="name" label={KIT_WORDS.name} />
      <div className="grid grid-cols-2 gap-2">
        <Choice form={form} name="form" label={KIT_WORDS.form} options={same(CUTTER_FORMS)} />
        <Choice form={form} name="tip" label={KIT_WORDS.tip} options={same(CUTTER_TIPS)} />
        <Field form={form} name="tip_mm" label={KIT_WORDS.tipWidth} type="number" step="any" />
        <Field form={form} name="shank_mm" label={KIT_WORDS.shank} type="number" step="any" />
        <Field form={form} name="length_mm" label={KIT_WORDS.length} type="number" step="any" />
        <label className="flex min-h-9 items-end gap-2 pb-2">
          <input type="checkbox" className="size-4" {...form.register('cutsAtEnd')} />
          {KIT_WORDS.cutsAtEnd}
        </label>
        <Field form={form} name="grit" label={KIT_WORDS.grit} />
        <Field form={form} name="material" label={KIT_WORDS.material} />
        <Field form={form} name="nominal" label={KIT_WORDS.nominal} />
        <Field form={form} name="ring" label={KIT_WORDS.ring} placeholder="#3a6ea5" />
      </div>
      {drawn && (
        <figure className="grid gap-1">
          <CutterPicture cutter={drawn} label={cutterWords(drawn)} />
          <figcaption className="text-soft">{cutterWords(drawn)}</figcaption>
        </figure>
      )}
    </>
  );
}

function GaugeFields({ form }: Fields) {
  const [steps, setSteps] = useState<string>(() => (form.getValues('steps_mm') as number[]).join(', '));
  const wrong = form.formState.errors.steps_mm;
  return (
    <>
      <Field form={form} name="name" label={KIT_WORDS.name} />
      <Choice
        form={form}
        name="method"
        label={KIT_WORDS.method}
        options={(['gauge', 'probe', 'wax'] as const).map((value) => ({ value, text: KIT_WORDS.methods[value] }))}
      />
      <label className="grid gap-1" htmlFor="gauge-steps">
        {KIT_WORDS.steps}
      </label>
      <input
        id="gauge-steps"
        className="field figure"
        value={steps}
        aria-invalid={wrong ? true : undefined}
        onChange={(e) => {
          setSteps(e.target.value);
          const parts = e.target.value.split(/[,;\s]+/).filter(Boolean);
          form.setValue('steps_mm', parts.map(Number));
        }}
      />
      {wrong && (
        <span className="text-bad">{String((wrong as { message?: string }).message ?? 'Give numbers, for example 1, 1.5, 2.')}</span>
      )}
    </>
  );
}

const About = ({ form }: Fields) => (
  <>
    <Field form={form} name="about" label={KIT_WORDS.about} list="kit-about" placeholder={KIT_WORDS.any} />
    <datalist id="kit-about">
      {ABOUT.map((a) => (
        <option key={a} value={a} />
      ))}
    </datalist>
  </>
);

function PhraseFields({ form }: Fields) {
  return (
    <>
      <Field form={form} name="body" label={KIT_WORDS.sentence} />
      <About form={form} />
      <div className="grid gap-1">
        <label htmlFor="phrase-side">{KIT_WORDS.side}</label>
        <select id="phrase-side" className="field" {...form.register('side')}>
          {(['', 'under', 'over'] as const).map((s) => (
            <option key={s} value={s}>
              {KIT_WORDS.sides[s]}
            </option>
          ))}
        </select>
      </div>
    </>
  );
}

function DrillFields({ form, cutters }: Fields & { readonly cutters: Kit['cutters'] }) {
  return (
    <>
      <Field form={form} name="title" label={KIT_WORDS.drillTitle} />
      <About form={form} />
      <div className="grid gap-1">
        <label htmlFor="drill-body">{KIT_WORDS.what}</label>
        <textarea id="drill-body" className="field !h-24" {...form.register('body')} />
        {form.formState.errors.body && <span className="text-bad">{String(form.formState.errors.body.message)}</span>}
      </div>
      <div className="grid gap-1">
        <label htmlFor="drill-cutter">{KIT_WORDS.cutter}</label>
        <select id="drill-cutter" className="field" {...form.register('cutter')}>
          <option value="">{KIT_WORDS.noCutter}</option>
          {cutters.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
        </select>
      </div>
      <div className="grid grid-cols-2 gap-2">
        <Field form={form} name="times" label={KIT_WORDS.repeat} type="number" min={1} max={50} />
        <Field form={form} name="minutes" label={KIT_WORDS.minutes} type="number" min={1} max={240} />
      </div>
      <Field form={form} name="check" label={KIT_WORDS.check} />
    </>
  );
}
