import { useMemo, useState } from 'react';
import type { Vec3 } from '#core/linalg/vec.ts';
import { type Across, passing, type Tool } from './tools.ts';
import type { Loaded } from './useLoaded.ts';
import { useProbe } from './useProbe.ts';

export type Tools = ReturnType<typeof useTools>;

/** Probe and gauge: which of them is in the hand, where it was set down and what it says there. */
export function useTools(loaded: Loaded | null, pointError: number, first: Across, onOpposing: (shown: boolean) => void) {
  const [tool, setTool] = useState<Tool | null>(null);
  const [thickness, setThickness] = useState<number>(1.5);
  const [from, setFrom] = useState<Vec3 | null>(null);
  const [across, setAcross] = useState<Across>(first);
  const { probed, cut, ask, clear } = useProbe(loaded?.display ?? null, pointError, across);
  const hasOpposing = loaded?.meshes.some((m) => m.name === 'opposing') ?? false;
  const put = (): void => {
    setTool(null);
    setFrom(null);
    clear();
  };
  /** Takes an instrument up, or puts it down when it is the one in the hand. */
  const take = (t: Tool): void => {
    if (!loaded || (t === 'gauge' && !hasOpposing)) return;
    put();
    setTool(tool === t ? null : t);
    if (t === 'gauge') onOpposing(tool !== 'gauge');
  };
  const slab = useMemo(() => {
    if (tool !== 'gauge' || !probed?.gap) return null;
    const word = passing(probed.gap, thickness);
    return { at: probed.at, to: probed.gap.to, thickness, passes: word === 'too close to call' ? null : word === 'passes' };
  }, [tool, probed, thickness]);
  return { tool, take, put, hasOpposing, probed, cut, across, setAcross, ask, from, setFrom, thickness, setThickness, slab };
}
