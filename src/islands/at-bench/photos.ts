import { createStore, del, entries, set } from 'idb-keyval';
import { useCallback, useEffect, useRef, useState } from 'react';
import { AT_BENCH } from '#words/at-bench.ts';

/** Pixels of the longer side that is kept: an edge of a margin is still seen, and a phone sends it within seconds. */
const LONGEST = 2000;
const QUALITY = 0.85;
/** ms between two tries to send what is kept. */
const RETRY = 4000;

/** A photograph that waits on the device; `why` says why the server did not take it. */
export interface WaitingPhoto {
  readonly key: string;
  readonly step: string;
  readonly at: string;
  readonly picture: Blob;
  readonly why: string | null;
}

const store = createStore('veritor-photographs', 'waiting');
/** Keys carry the attempt, so that a device which serves several keeps them apart. */
const placeOf = (attempt: number, key: string): string => `${attempt} ${key}`;

/** Where a browser keeps nothing (a private window), nothing waits. */
const waitingOf = async (attempt: number): Promise<WaitingPhoto[]> =>
  (await entries<string, WaitingPhoto>(store).catch(() => []))
    .filter(([place]) => place.startsWith(placeOf(attempt, '')))
    .map(([, photo]) => photo)
    .sort((a, b) => a.at.localeCompare(b.at));

/** A picture as it is sent: turned upright, no larger than needed, and without the place and the device that a camera writes into its files. */
async function smaller(file: Blob): Promise<Blob> {
  const picture = await createImageBitmap(file);
  const scale = Math.min(1, LONGEST / Math.max(picture.width, picture.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(picture.width * scale);
  canvas.height = Math.round(picture.height * scale);
  canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
  return new Promise((done, fail) => canvas.toBlob((b) => (b ? done(b) : fail(new Error('no picture'))), 'image/jpeg', QUALITY));
}

/** Photographs of an attempt's steps, kept on the device until the server has taken them: a lost connection or a closed page loses none. */
export function usePhotos(attempt: number, onSent: () => Promise<void>) {
  const [waiting, setWaiting] = useState<readonly WaitingPhoto[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const busy = useRef(false);
  const look = useCallback(async () => setWaiting(await waitingOf(attempt)), [attempt]);

  const send = useCallback(async (): Promise<void> => {
    if (busy.current) return;
    busy.current = true;
    try {
      for (const photo of await waitingOf(attempt)) {
        if (photo.why !== null) continue;
        const form = new FormData();
        form.append('photo', photo.picture, `${photo.step}.jpg`);
        for (const name of ['key', 'step', 'at'] as const) form.append(name, photo[name]);
        const answer = await fetch(`/api/attempts/${attempt}/step-photos`, { method: 'POST', body: form });
        // Signed out, asked to wait, or the server is not well: it is tried again. Everything else that is refused is told and stays until its student takes it away.
        if (answer.status === 401 || answer.status === 429 || answer.status >= 500) break;
        const place = placeOf(attempt, photo.key);
        if (answer.ok) {
          await onSent();
          await del(place, store);
        } else {
          const { message } = (await answer.json()) as { message: string };
          await set(place, { ...photo, why: message }, store);
        }
        await look();
      }
    } catch {
      // No connection: what waits is sent later.
    } finally {
      busy.current = false;
    }
  }, [attempt, look, onSent]);

  const add = useCallback(
    async (step: string, file: Blob): Promise<void> => {
      setProblem(null);
      let picture: Blob;
      try {
        picture = await smaller(file);
      } catch {
        return setProblem(AT_BENCH.photoUnread);
      }
      const photo = { key: crypto.randomUUID(), step, at: new Date().toISOString(), picture, why: null };
      try {
        await set(placeOf(attempt, photo.key), photo, store);
      } catch {
        return setProblem(AT_BENCH.photoUnkept);
      }
      await look();
      void send();
    },
    [attempt, look, send],
  );

  /** Takes away one that waits. */
  const drop = useCallback(async (key: string) => del(placeOf(attempt, key), store).then(look), [attempt, look]);
  /** Takes away one that the server has. */
  const remove = useCallback(
    async (id: number): Promise<void> => {
      setProblem(null);
      try {
        const answer = await fetch(`/api/attempts/${attempt}/step-photos/${id}`, { method: 'DELETE' });
        if (!answer.ok) throw new Error(((await answer.json()) as { message: string }).message);
        await onSent();
      } catch (e) {
        setProblem((e as Error).message);
      }
    },
    [attempt, onSent],
  );

  useEffect(() => {
    void look().then(send);
    const tries = setInterval(() => void send(), RETRY);
    const back = (): void => void send();
    window.addEventListener('online', back);
    return () => {
      clearInterval(tries);
      window.removeEventListener('online', back);
    };
  }, [look, send]);
  return { waiting, problem, add, drop, remove };
}
