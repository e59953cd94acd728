import { useEffect, useState } from 'react';
import { CutterPicture } from '#charts/Cutter.tsx';
import { call } from '#components/call.ts';
import { Problem } from '#components/Problem.tsx';
import { Tabs } from '#components/Tabs.tsx';
import { useToasts } from '#components/toast/Toasts.tsx';
import { KIT_LISTS, type KitList, type KitView, type Kit as Lists } from '#contract/kit.ts';
import { findEntry } from '#core/catalogue/catalogue.ts';
import { cutterWords, KIT_WORDS } from '#words/kit.ts';
import { KitForm } from './KitForm.tsx';

type Item<L extends KitList = KitList> = Lists[L][number];

/** A name for an item that no other of its list has. */
const freshId = (list: readonly Item[], prefix: string): string => {
  let n = list.length + 1;
  while (list.some((i) => i.id === `${prefix}-${n}`)) n++;
  return `${prefix}-${n}`;
};

const textOf = (i: Item): string => ('name' in i ? i.name : 'title' in i ? i.title : i.body);

/** Cutters, gauges, phrases and drills of a course; each list is kept by versions, and a removal can be taken back. */
export function Kit({ course, mayKeep }: { readonly course: string; readonly mayKeep: boolean }) {
  const [view, setView] = useState<KitView | null>(null);
  const [list, setList] = useState<KitList>('cutters');
  const [open, setOpen] = useState<string | null>(null);
  const [asked, setAsked] = useState('');
  const [error, setError] = useState<string | null>(null);
  const { say, toasts } = useToasts();
  const address = `/api/courses/${course}/kit`;
  useEffect(() => {
    call<KitView>(address).then(setView, (e) => setError((e as Error).message));
  }, [address]);
  if (!view) return <p className="text-soft">{error ?? '…'}</p>;
  const items: readonly Item[] = view.kit[list];
  const shown = items.filter((i) => textOf(i).toLowerCase().includes(asked.trim().toLowerCase()));
  const current = open === null ? null : (items.find((i) => i.id === open) ?? null);

  /** Writes the list as its next version; resolves to what went wrong. */
  const write = async (next: readonly Item[], from: KitView): Promise<string | null> => {
    try {
      const { version } = await call<{ version: number }>(address, { list, version: from.versions[list], items: next });
      const after = { kit: { ...from.kit, [list]: next } as Lists, versions: { ...from.versions, [list]: version } };
      setView(after);
      setError(null);
      return null;
    } catch (e) {
      return (e as Error).message;
    }
  };
  const keep = async (item: Item): Promise<string | null> => {
    const isNew = !items.some((i) => i.id === item.id);
    const wrong = await write(isNew ? [...items, item] : items.map((i) => (i.id === item.id ? item : i)), view);
    if (!wrong) {
      setOpen(null);
      say(KIT_WORDS.kept(view.versions[list] + 1));
    }
    return wrong;
  };
  const remove = async (item: Item) => {
    const wrong = await write(
      items.filter((i) => i.id !== item.id),
      view,
    );
    if (wrong) return setError(wrong);
    setOpen(null);
    const before = items;
    say(KIT_WORDS.removed, {
      label: KIT_WORDS.takeBack,
      run: () => void call<KitView>(address).then((now) => write(before, now).then((w) => w && setError(w))),
    });
  };
  return (
    <div className="grid items-start gap-4 min-[1000px]:grid-cols-[1fr_400px]">
      <section className="panel p-4" aria-label={KIT_WORDS.lists[list]}>
        <div className="mb-3 flex flex-wrap items-end gap-2">
          <Tabs
            all={KIT_LISTS}
            open={list}
            words={(l) => (
              <>
                {KIT_WORDS.lists[l]} <span className="figure text-soft">{view.kit[l].length}</span>
              </>
            )}
            onOpen={(l) => {
              setList(l);
              setOpen(null);
              setAsked('');
            }}
          />
          <input
            className="field ml-auto !w-48"
            type="search"
            aria-label={`${KIT_WORDS.find}, ${KIT_WORDS.lists[list]}`}
            placeholder={KIT_WORDS.find}
            value={asked}
            onChange={(e) => setAsked(e.target.value)}
          />
        </div>
        <p className="mb-2 text-soft">
          {KIT_WORDS.leads[list]} ({KIT_WORDS.version(view.versions[list])})
        </p>
        <Problem text={error} />
        <ul className="grid">
          {shown.map((i) => (
            <li key={i.id} className="flex flex-wrap items-center gap-3 border-t border-line py-2">
              <Shown item={i} kit={view.kit} />
              {mayKeep && (
                <button
                  type="button"
                  className="quiet ml-auto !min-h-7"
                  aria-label={`${KIT_WORDS.change}, ${textOf(i)}`}
                  onClick={() => setOpen(i.id)}
                >
                  {KIT_WORDS.change}
                </button>
              )}
            </li>
          ))}
        </ul>
      </section>
      {mayKeep && (
        <KitForm
          key={`${list}|${open ?? 'new'}|${view.versions[list]}`}
          list={list}
          item={current}
          freshId={freshId(items, KIT_WORDS.one[list])}
          cutters={view.kit.cutters}
          onKeep={keep}
          onCancel={() => setOpen(null)}
          onRemove={() => current && void remove(current)}
        />
      )}
      {toasts}
    </div>
  );
}

const speaksOf = (about: string): string => (about === '' ? KIT_WORDS.any : (findEntry(about)?.title ?? about));

function Shown({ item, kit }: { readonly item: Item; readonly kit: Lists }) {
  if ('form' in item)
    return (
      <>
        <span className="w-52">
          <CutterPicture cutter={item} label={`${item.name}: ${cutterWords(item)}`} />
        </span>
        <span className="min-w-52 flex-1">
          <span className="font-semibold">{item.name}</span>
          <br />
          {cutterWords(item)}
          <br />
          <span className="text-soft">{[item.grit, item.material, item.nominal].filter(Boolean).join('; ')}</span>
        </span>
      </>
    );
  if ('steps_mm' in item)
    return (
      <span className="flex-1">
        <span className="font-semibold">{item.name}</span> <span className="text-soft">{KIT_WORDS.methods[item.method]}</span>
        <br />
        <span className="figure">{item.steps_mm.join(', ')} mm</span>
      </span>
    );
  if ('times' in item)
    return (
      <span className="min-w-52 flex-1">
        <span className="font-semibold">{item.title}</span> <span className="text-soft">{speaksOf(item.about)}</span>
        <br />
        {item.body}
        <br />
        <span className="text-soft">
          {KIT_WORDS.times(item.times, item.minutes)}
          {item.cutter && `, ${kit.cutters.find((c) => c.id === item.cutter)?.name ?? item.cutter}`}. {item.check}
        </span>
      </span>
    );
  return (
    <span className="min-w-52 flex-1">
      {item.body}
      <br />
      <span className="text-soft">
        {speaksOf(item.about)}, {KIT_WORDS.sides[item.side]}
      </span>
    </span>
  );
}
