import { ImagePlus, X } from 'lucide-react';
import { useRef, useState } from 'react';
import { HAND } from '#words/hand.ts';

/** A photograph beside the master, for an attempt that is read by hand. */
export function Photo({ attempt, photo: first, onProblem }: { attempt: number; photo: number | null; onProblem: (text: string) => void }) {
  const [photo, setPhoto] = useState(first);
  const [busy, setBusy] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const address = `/api/attempts/${attempt}/photo`;
  const send = async (request: RequestInit): Promise<void> => {
    setBusy(true);
    try {
      const answer = await fetch(address, request);
      const said = (await answer.json()) as { photo?: number | null; message?: string };
      if (answer.ok) setPhoto(said.photo ?? null);
      else onProblem(said.message ?? HAND.photoFailed);
    } catch {
      onProblem(HAND.photoFailed);
    } finally {
      setBusy(false);
    }
  };
  const choose = (file: File | undefined): void => {
    if (!file) return;
    const form = new FormData();
    form.append('photo', file);
    void send({ method: 'POST', body: form });
  };
  return (
    <section className="panel flex min-h-0 flex-col max-[899px]:order-3" aria-label={HAND.photo}>
      <div className="flex min-h-[40px] items-center border-b border-line px-2">
        <h2 className="font-semibold">{HAND.photo}</h2>
        {photo !== null && (
          <button
            type="button"
            className="quiet ml-auto inline-flex items-center gap-1 !px-2"
            disabled={busy}
            onClick={() => void send({ method: 'DELETE' })}
          >
            <X size={14} aria-hidden /> {HAND.photoAway}
          </button>
        )}
      </div>
      <div className="grid min-h-0 flex-1 place-items-center p-2">
        {photo === null ? (
          <button type="button" className="quiet inline-flex items-center gap-2" disabled={busy} onClick={() => input.current?.click()}>
            <ImagePlus size={16} aria-hidden /> {HAND.photoAdd}
          </button>
        ) : (
          <a href={address} target="_blank" rel="noreferrer" className="min-h-0 max-h-full">
            <img src={`${address}?n=${photo}`} alt={HAND.photoAbout} className="max-h-full max-w-full object-contain" />
          </a>
        )}
        <input
          ref={input}
          type="file"
          accept="image/jpeg,image/png"
          className="sr-only"
          tabIndex={-1}
          aria-hidden
          onChange={(e) => choose(e.target.files?.[0])}
        />
      </div>
      <p className="px-2 pb-1 text-[12px] text-soft">{HAND.photoFor}</p>
    </section>
  );
}
