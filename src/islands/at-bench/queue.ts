import { useCallback, useEffect, useRef, useState } from 'react';
import { call } from '#components/call.ts';
import type { AtBench, BenchEvent, EventsTaken } from '#contract/at-bench.ts';

/** ms between two tries to send what is kept, and between two looks at what instructors said. */
const RETRY = 4000;
const LOOK = 7000;

const kept = (store: string): BenchEvent[] => {
  try {
    return JSON.parse(window.localStorage.getItem(store) ?? '[]') as BenchEvent[];
  } catch {
    return [];
  }
};

/** What happened here, kept on the device until the server has taken it: a lost connection or a closed page loses nothing, and nothing is taken twice. */
export function useBench(first: AtBench) {
  const { id } = first.attempt;
  const store = `veritor-bench-${id}`;
  const address = `/api/attempts/${id}/bench`;
  const [now, setNow] = useState(first);
  const [waiting, setWaiting] = useState<BenchEvent[]>(() => kept(store));
  const [refused, setRefused] = useState<EventsTaken['refused']>([]);
  const [isOffline, setOffline] = useState(false);
  const busy = useRef(false);

  const send = useCallback(async (): Promise<void> => {
    const events = kept(store);
    if (busy.current || events.length === 0) return;
    busy.current = true;
    try {
      const answer = await call<EventsTaken>(address, { events });
      const gone = new Set([...answer.taken, ...answer.refused.map((r) => r.key)]);
      // What was added while this was under way stays.
      const left = kept(store).filter((e) => !gone.has(e.key));
      window.localStorage.setItem(store, JSON.stringify(left));
      setWaiting(left);
      setNow(answer.now);
      setOffline(false);
      if (answer.refused.length) setRefused(answer.refused);
    } catch {
      setOffline(true);
    }
    busy.current = false;
  }, [address, store]);

  const add = useCallback(
    (e: Omit<BenchEvent, 'key' | 'at'>): void => {
      const all = [...kept(store), { ...e, key: crypto.randomUUID(), at: new Date().toISOString() }];
      window.localStorage.setItem(store, JSON.stringify(all));
      setWaiting(all);
      setRefused([]);
      void send();
    },
    [send, store],
  );

  const look = useCallback(
    (): Promise<void> =>
      call<AtBench>(address).then(
        (n) => {
          setNow(n);
          setOffline(false);
        },
        () => setOffline(true),
      ),
    [address],
  );

  useEffect(() => {
    void send();
    const tries = setInterval(() => void send(), RETRY);
    const looks = setInterval(() => {
      if (kept(store).length === 0 && document.visibilityState === 'visible') void look();
    }, LOOK);
    const back = (): void => void send();
    window.addEventListener('online', back);
    return () => {
      clearInterval(tries);
      clearInterval(looks);
      window.removeEventListener('online', back);
    };
  }, [send, look, store]);
  return { now, waiting, refused, isOffline, add, look };
}
