import { useCallback, useEffect, useReducer, useRef, useState } from 'react';
import { call } from '#components/call.ts';
import { type DisplayMesh, unpackDisplay } from '#contract/display.ts';
import type { DraftView } from '#contract/master-draft.ts';
import { type Act, begin, reduce, type State } from './state.ts';

/** ms without a change after which what was drawn is kept. */
const KEEP_AFTER = 900;

type Loaded = { readonly type: 'loaded'; readonly state: State | null };
const step = (s: State | null, a: Act | Loaded): State | null => (a.type === 'loaded' ? a.state : s && reduce(s, a));

/** A master in the making, its arch, and its marks; what is drawn is kept by itself. */
export function useDraft(id: string) {
  const [draft, setDraft] = useState<DraftView | null>(null);
  const [mesh, setMesh] = useState<DisplayMesh | null>(null);
  const [opposing, setOpposing] = useState<DisplayMesh | null>(null);
  const [state, act] = useReducer(step, null);
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const sending = useRef(false);

  /** The arch itself changes only by what is proposed on it; otherwise the picture stays as it was turned. */
  const load = useCallback(
    async (withArch: boolean) => {
      const display = async (which: string): Promise<DisplayMesh> => {
        const r = await fetch(`/api/masters/${id}/${which}`);
        if (!r.ok) throw new Error(`answer ${r.status}`);
        return unpackDisplay(await r.arrayBuffer()).meshes[0];
      };
      try {
        const [d, arch] = await Promise.all([call<DraftView>(`/api/masters/${id}`), withArch ? display('arch') : null]);
        const placed = d.occlusion ? await display('opposing') : null;
        if (arch) setMesh(arch);
        setOpposing(placed);
        setDraft(d);
        act({ type: 'loaded', state: d.marks && d.trust ? begin({ ...d, marks: d.marks, trust: d.trust }) : null });
      } catch (e) {
        setError((e as Error).message);
      }
    },
    [id],
  );
  useEffect(() => {
    void load(true);
  }, [load]);

  /** Sends something that changes the draft on the server and shows what came of it. */
  const send = useCallback(
    async (what: string, payload: unknown): Promise<boolean> => {
      setBusy(true);
      setError(null);
      try {
        await call(`/api/masters/${id}/${what}`, payload);
        await load(what === 'touch' || what === 'unit');
        return true;
      } catch (e) {
        setError((e as Error).message);
        return false;
      } finally {
        setBusy(false);
      }
    },
    [id, load],
  );

  const keep = useCallback(async () => {
    if (!state || !draft || sending.current || state.drawn === state.saved) return;
    sending.current = true;
    const { drawn, version } = state;
    try {
      const r = await call<{ version: number }>(`/api/masters/${id}`, { version, name: draft.name, ...drawn });
      act({ type: 'kept', drawn, version: r.version });
      setError(null);
    } catch (e) {
      setError((e as Error).message);
    } finally {
      sending.current = false;
    }
  }, [draft, id, state]);
  useEffect(() => {
    if (!state || state.drawn === state.saved || draft?.master_id) return;
    const t = setTimeout(() => void keep(), KEEP_AFTER);
    return () => clearTimeout(t);
  }, [draft, keep, state]);

  return { draft, mesh, opposing, state, act: act as (a: Act) => void, error, busy, send, keep };
}
