import { Command } from 'cmdk';
import { useEffect, useState } from 'react';
import { Modal } from '#components/dialog/Modal.tsx';
import { PALETTE_WORDS } from '#words/course.ts';

interface Hit {
  readonly kind: 'student' | 'sitting' | 'attempt';
  readonly id: string;
  readonly text: string;
  readonly more: string;
}
const KINDS = ['student', 'sitting', 'attempt'] as const;
const PATH: Readonly<Record<Hit['kind'], string>> = { student: '/trail/', sitting: '/tray/', attempt: '/bench/' };
/** ms without a key after which is searched. */
const AFTER = 150;

/** One box that leads to any student, sitting, attempt or page: Ctrl or Cmd with K, from anywhere. */
export function Palette({ pages }: { readonly pages: readonly { readonly path: string; readonly name: string }[] }) {
  const [open, setOpen] = useState(false);
  const [asked, setAsked] = useState('');
  const [hits, setHits] = useState<readonly Hit[]>([]);
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'k') {
        e.preventDefault();
        setOpen(true);
      }
    };
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  }, []);
  useEffect(() => {
    if (asked.trim().length < 2) {
      setHits([]);
      return;
    }
    const stop = new AbortController();
    const t = setTimeout(() => {
      fetch(`/api/search?q=${encodeURIComponent(asked)}`, { signal: stop.signal })
        .then((r) => (r.ok ? r.json() : []))
        .then(setHits)
        .catch(() => undefined);
    }, AFTER);
    return () => {
      clearTimeout(t);
      stop.abort();
    };
  }, [asked]);
  const go = (path: string) => window.location.assign(path);
  const fitting = pages.filter((p) => p.name.toLowerCase().includes(asked.trim().toLowerCase()));
  const item = 'flex min-h-9 cursor-pointer items-baseline justify-between gap-3 rounded-sm px-2 py-1 data-[selected=true]:bg-wash';
  return (
    <>
      <button
        type="button"
        className="h-8 rounded-sm border border-line px-3 hover:border-accent"
        onClick={() => setOpen(true)}
        aria-keyshortcuts="Control+K"
      >
        {PALETTE_WORDS.open} <kbd className="figure text-soft">Ctrl K</kbd>
      </button>
      {open && (
        <Modal label={PALETTE_WORDS.open} onClose={() => setOpen(false)}>
          <Command shouldFilter={false} loop label={PALETTE_WORDS.open}>
            <Command.Input className="field" autoFocus placeholder={PALETTE_WORDS.placeholder} value={asked} onValueChange={setAsked} />
            <Command.List className="mt-2 max-h-[60vh] overflow-y-auto">
              <Command.Empty className="p-2 text-soft">{asked.trim().length < 2 ? PALETTE_WORDS.short : PALETTE_WORDS.none}</Command.Empty>
              {KINDS.map((k) => {
                const own = hits.filter((h) => h.kind === k);
                return own.length === 0 ? null : (
                  <Command.Group key={k} heading={PALETTE_WORDS[k]} className="text-soft">
                    {own.map((h) => (
                      <Command.Item key={h.id} value={`${k} ${h.id}`} className={item} onSelect={() => go(PATH[k] + h.id)}>
                        <span className="text-ink">{h.text}</span>
                        <span className="figure">{h.more}</span>
                      </Command.Item>
                    ))}
                  </Command.Group>
                );
              })}
              {fitting.length > 0 && (
                <Command.Group heading={PALETTE_WORDS.pages} className="text-soft">
                  {fitting.map((p) => (
                    <Command.Item key={p.path} value={p.path} className={item} onSelect={() => go(p.path)}>
                      <span className="text-ink">{p.name}</span>
                    </Command.Item>
                  ))}
                </Command.Group>
              )}
            </Command.List>
          </Command>
        </Modal>
      )}
    </>
  );
}
