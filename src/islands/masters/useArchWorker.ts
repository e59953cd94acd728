import { useCallback, useEffect, useRef, useState } from 'react';
import type { DisplayMesh } from '#contract/display.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import type { Across, ArchAnswer, ArchAsk, Frame, SectionLines } from './arch.worker.ts';

/** Distances between the jaws and sections through them, computed beside the page; late answers are dropped. */
export function useArchWorker(arch: DisplayMesh | null, opposing: DisplayMesh | null) {
  const worker = useRef<Worker | null>(null);
  const last = useRef({ gaps: 0, cut: 0 });
  const [gaps, setGaps] = useState<Float32Array | null>(null);
  const [section, setSection] = useState<SectionLines | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: other meshes want another worker
  useEffect(() => {
    worker.current?.terminate();
    worker.current = null;
    setGaps(null);
    setSection(null);
    return () => worker.current?.terminate();
  }, [arch, opposing]);
  const post = useCallback(
    (ask: ArchAsk) => {
      if (!arch) return;
      if (!worker.current) {
        const light = ({ positions, indices }: DisplayMesh) => ({ positions, indices });
        worker.current = new Worker(new URL('./arch.worker.ts', import.meta.url), { type: 'module' });
        worker.current.onmessage = ({ data }: MessageEvent<ArchAnswer>) => {
          if (data.id !== last.current[data.kind]) return;
          if (data.kind === 'gaps') setGaps(data.gaps);
          else setSection(data.section);
        };
        worker.current.postMessage({ kind: 'load', arch: light(arch), opposing: opposing && light(opposing) } satisfies ArchAsk);
      }
      worker.current.postMessage(ask);
    },
    [arch, opposing],
  );
  const askGaps = useCallback((shift: Vec3) => post({ kind: 'gaps', id: ++last.current.gaps, shift }), [post]);
  const askCut = useCallback(
    (at: Vec3, frame: Frame, across: Across, shift: Vec3) => post({ kind: 'cut', id: ++last.current.cut, at, frame, across, shift }),
    [post],
  );
  const clear = useCallback(() => {
    last.current.gaps++;
    last.current.cut++;
    setGaps(null);
    setSection(null);
  }, []);
  return { gaps, section, askGaps, askCut, clear };
}
