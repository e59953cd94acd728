import { useCallback, useEffect, useRef, useState } from 'react';
import type { Vec3 } from '#core/linalg/vec.ts';
import type { Probed } from '#core/measure/probe.ts';
import type { ProbeAsk, ProbeTold } from './probe.worker.ts';

/** Asks the core, in a worker, what stands at a place of the picture; only the newest answer counts. */
export function useProbe(
  display: ArrayBuffer | null,
  pointError: number,
): { probed: Probed | null; ask: (p: Vec3) => void; clear: () => void } {
  const worker = useRef<Worker | null>(null);
  const last = useRef(0);
  const [probed, setProbed] = useState<Probed | null>(null);
  useEffect(() => () => worker.current?.terminate(), []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another picture wants another worker
  useEffect(() => {
    worker.current?.terminate();
    worker.current = null;
    setProbed(null);
  }, [display]);
  const ask = useCallback(
    (point: Vec3) => {
      if (!display) return;
      if (!worker.current) {
        // Made when it is first wanted: most attempts are graded without it.
        worker.current = new Worker(new URL('./probe.worker.ts', import.meta.url), { type: 'module' });
        worker.current.onmessage = ({ data }: MessageEvent<ProbeTold>) => {
          if (data.id === last.current) setProbed(data.probed);
        };
        worker.current.postMessage({ kind: 'load', display } satisfies ProbeAsk);
      }
      last.current++;
      worker.current.postMessage({ kind: 'probe', id: last.current, point, pointError } satisfies ProbeAsk);
    },
    [display, pointError],
  );
  const clear = useCallback(() => setProbed(null), []);
  return { probed, ask, clear };
}
