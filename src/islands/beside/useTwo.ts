import { useEffect, useState } from 'react';
import * as v from 'valibot';
import { type DisplayHeader, type DisplayMesh, unpackDisplay } from '#contract/display.ts';
import { ProfilesFile, type ProfileView } from '#contract/profiles.ts';
import type { DifferenceAsk } from './difference.worker.ts';

export interface Tooth {
  readonly header: DisplayHeader;
  readonly meshes: DisplayMesh[];
  readonly profiles: readonly ProfileView[];
}
export interface Two {
  readonly teeth: readonly [Tooth, Tooth];
  readonly difference: readonly (number | null)[] | null;
}

async function fetched(path: string): Promise<Response> {
  const r = await fetch(path);
  if (!r.ok) throw new Error(`answer ${r.status}`);
  return r;
}

/** Both attempts' pictures and sections, and, once a worker has found it, how far the later lies from the earlier. */
export function useTwo(earlier: number, later: number, tell: (problem: string) => void): Two | null {
  const [two, setTwo] = useState<Two | null>(null);
  useEffect(() => {
    let gone = false;
    let worker: Worker | null = null;
    setTwo(null);
    const load = async (attempt: number): Promise<[ArrayBuffer, Tooth]> => {
      // One after the other: a scan that is drawn at its first look draws both.
      const display = await (await fetched(`/api/attempts/${attempt}/display`)).arrayBuffer();
      const profiles = v.parse(ProfilesFile, await (await fetched(`/api/attempts/${attempt}/profiles`)).json()).profiles;
      return [display, { ...unpackDisplay(display), profiles }];
    };
    Promise.all([load(earlier), load(later)])
      .then(([[a, first], [b, second]]) => {
        if (gone) return;
        setTwo({ teeth: [first, second], difference: null });
        worker = new Worker(new URL('./difference.worker.ts', import.meta.url), { type: 'module' });
        worker.onmessage = ({ data }: MessageEvent<(number | null)[] | null>) => setTwo({ teeth: [first, second], difference: data });
        worker.onerror = (e) => tell(e.message);
        worker.postMessage({ earlier: a, later: b } satisfies DifferenceAsk);
      })
      .catch((e) => !gone && tell((e as Error).message));
    return () => {
      gone = true;
      worker?.terminate();
    };
  }, [earlier, later, tell]);
  return two;
}
