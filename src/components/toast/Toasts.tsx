import { Toast } from 'radix-ui';
import { useCallback, useRef, useState } from 'react';

interface Said {
  readonly id: number;
  readonly text: string;
  readonly ms: number;
  readonly undo: { readonly label: string; readonly run: () => void } | null;
}

/** ms that a notice stays without anything to take back. */
const STAY = 4000;

export type Say = ReturnType<typeof useToasts>['say'];

/** Short notices of what was done, also read out by screen readers; one may offer to take it back. */
export function useToasts() {
  const [list, setList] = useState<readonly Said[]>([]);
  const next = useRef(1);
  const say = useCallback((text: string, undo: Said['undo'] = null, ms = STAY) => {
    const id = next.current++;
    setList((l) => [...l, { id, text, ms, undo }]);
  }, []);
  const toasts = (
    <Toast.Provider label="Notice">
      {list.map((t) => (
        <Toast.Root
          key={t.id}
          duration={t.ms}
          onOpenChange={(open) => !open && setList((l) => l.filter((q) => q.id !== t.id))}
          className="panel flex items-center gap-4 !border-accent px-4 py-3 shadow-lg"
        >
          <Toast.Title>{t.text}</Toast.Title>
          {t.undo && (
            <Toast.Action altText={t.undo.label} asChild>
              <button type="button" className="quiet" onClick={t.undo.run}>
                {t.undo.label}
              </button>
            </Toast.Action>
          )}
        </Toast.Root>
      ))}
      <Toast.Viewport className="fixed bottom-20 left-1/2 z-30 flex w-max max-w-[94vw] -translate-x-1/2 flex-col gap-2" />
    </Toast.Provider>
  );
  return { say, toasts };
}
