import { useCallback, useEffect, useRef, useState } from 'react';
import type { Vec3 } from '#core/linalg/vec.ts';
import type { Probed } from '#core/measure/probe.ts';
import type { Cut, ProbeAnswer, ProbeAsk } from './probe.worker.ts';
import type { Across } from './tools.ts';

const NOTHING = { probed: null, cut: null };

/** Asks the core, in a worker, what stands at a place of the picture; only the newest answer counts. */
export function useProbe(
  display: ArrayBuffer | null,
  pointError: number,
  across: Across,
): { probed: Probed | null; cut: Cut | null; ask: (p: Vec3) => void; clear: () => void } {
  const worker = useRef<Worker | null>(null);
  const last = useRef(0);
  const [answer, setAnswer] = useState<{ probed: Probed | null; cut: Cut | null }>(NOTHING);
  const asked = useRef<Vec3 | null>(null);
  useEffect(() => () => worker.current?.terminate(), []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another picture wants another worker
  useEffect(() => {
    worker.current?.terminate();
    worker.current = null;
    asked.current = null;
    setAnswer(NOTHING);
  }, [display]);
  const ask = useCallback(
    (point: Vec3) => {
      if (!display) return;
      if (!worker.current) {
        // Created at first use, since most attempts are graded without it.
        worker.current = new Worker(new URL('./probe.worker.ts', import.meta.url), { type: 'module' });
        worker.current.onmessage = ({ data }: MessageEvent<ProbeAnswer>) => {
          if (data.id === last.current) setAnswer(data);
        };
        worker.current.postMessage({ kind: 'load', display } satisfies ProbeAsk);
      }
      asked.current = point;
      last.current++;
      worker.current.postMessage({ kind: 'probe', id: last.current, point, pointError, across } satisfies ProbeAsk);
    },
    [display, pointError, across],
  );
  // A change of direction cuts the same place again.
  useEffect(() => {
    if (asked.current) ask(asked.current);
  }, [ask]);
  const clear = useCallback(() => {
    asked.current = null;
    last.current++;
    setAnswer(NOTHING);
  }, []);
  return { probed: answer.probed, cut: answer.cut, ask, clear };
}
