import { useCallback, useEffect, useRef, useState } from 'react';
import type { TrayRow } from '#contract/tray-view.ts';
import { running } from './state.ts';

/** ms between two looks at the sitting while something is measured, and otherwise: another scanner may be sending. */
const WATCHED = 1000;
const QUIET = 8000;

const isUnderWay = (r: TrayRow | undefined): boolean => r?.state === 'arrived' || r?.state === 'measuring';

/** The sitting's rows as the server has them, asked for again and again; `arrived` holds those that were done at the last look. */
export function useTray(sitting: string, first: TrayRow[]) {
  const [rows, setRows] = useState(first);
  const [coming, setComing] = useState(0);
  const [arrived, setArrived] = useState<readonly TrayRow[]>([]);
  const tag = useRef<string | null>(null);
  const before = useRef(new Map(first.map((r) => [r.scan_id, r])));
  const refresh = useCallback(async () => {
    const answer = await fetch(`/api/sittings/${sitting}/tray`, { headers: tag.current ? { 'If-None-Match': tag.current } : {} });
    // Nothing has changed since the last answer.
    if (answer.status === 304) return;
    const json = (await answer.json()) as { rows: TrayRow[]; coming: number; message?: string };
    if (!answer.ok) throw new Error(json.message);
    tag.current = answer.headers.get('etag');
    const done = json.rows.filter((r) => !isUnderWay(r) && isUnderWay(before.current.get(r.scan_id)));
    before.current = new Map(json.rows.map((r) => [r.scan_id, r]));
    setRows(json.rows);
    setComing(json.coming);
    if (done.length) setArrived(done);
  }, [sitting]);
  const busy = running(rows) > 0 || coming > 0;
  useEffect(() => {
    const timer = setInterval(() => refresh().catch(() => undefined), busy ? WATCHED : QUIET);
    return () => clearInterval(timer);
  }, [busy, refresh]);
  return { rows, coming, setComing, refresh, arrived };
}
